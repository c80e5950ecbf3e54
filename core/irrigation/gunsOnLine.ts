import { pressureHeadBefore } from "../hydraulics/headLine.ts";
import type { LineModel, Running } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem, type PathItem } from "../line/path.ts";
import type { NozzleOutlet } from "../outlet/gun.ts";
import { gunOf } from "../outlet/outlets.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { type Calibration, type Gun, type ThrowResult, throwAt } from "./gun.ts";

/** An outlet of a path that is a gun, or any other single nozzle. */
export type GunItem = Extract<PathItem, { kind: "outlet" }> & { outlet: NozzleOutlet };

export function gunsOf(path: readonly PathItem[]): GunItem[] {
  return everyItem<PathItem>(path).filter(
    (item): item is GunItem => item.kind === "outlet" && gunOf(item.outlet) !== undefined,
  );
}

/** A gun while the line runs: Pa a gauge at its base reads, m³/s through it, and how far that throws. */
export interface GunAtWork {
  itemId: string;
  gun: Gun;
  pressure: number;
  flow: number;
  thrown: ThrowResult;
}

/** Every gun of a running line. `measured` calibrates guns by the item they are. */
export function gunsAtWork(
  { line, water }: LineModel,
  { state, headLine }: Pick<Running, "state" | "headLine">,
  measured: (gun: Gun) => Calibration | undefined = () => undefined,
): GunAtWork[] {
  return line.outlets.flatMap(({ item }, i): GunAtWork[] => {
    const own = gunOf(item.outlet);
    if (!own) return [];
    const { type: _, ...gun } = own;
    const head = pressureHeadBefore(headLine, item.id);
    if (head === undefined) return [];
    const pressure = Math.max(head * water.density * GRAVITY, 0);
    const flow = Math.max(state.byOutlet[i] as number, 0);
    return [
      { itemId: item.id, gun, pressure, flow, thrown: throwAt(gun, pressure, measured(gun)) },
    ];
  });
}

/** m of hose to a second gun. Common practice, no source. */
const APART = 20;

/**
 * The path with a second gun like its only one, on a tee where that stands and a length of the same hose to the other.
 * Nothing where the path has no gun, or has more already, or no hose before it.
 */
export function withSecondGun(path: readonly PathItem[]): PathItem[] | undefined {
  const [gun, ...others] = gunsOf(path);
  const hose = everyItem<PathItem>(path).findLast((item) => item.kind === "pipe");
  if (!gun || others.length > 0 || hose?.kind !== "pipe") return undefined;
  const id = `${gun.id}-2`;
  const second: PathItem[] = [
    { kind: "fitting", id: `${id}-tee`, fitting: "tee-branch", count: 1, stock: hose.stock },
    { ...hose, id: `${id}-hose`, length: APART, rise: 0 },
    { ...gun, id },
  ];
  const first: PathItem[] = [
    { kind: "fitting", id: `${id}-through`, fitting: "tee-run", count: 1, stock: hose.stock },
    gun,
  ];
  return changeItems<PathItem>(path, (item) =>
    item.id === gun.id ? { kind: "split", id: `${id}-split`, branches: [first, second] } : item,
  );
}

/** The path with one gun open, as `withGuns` has it. */
export function withOneGun(path: readonly PathItem[]): PathItem[] | undefined {
  return withGuns(path, 1);
}

/**
 * The path with its first so many guns open, the ways to all others left out; nothing where it has not so many. A way
 * that ends in another gun is gone with its fittings, and a fork that is left with one way is no fork any more.
 */
export function withGuns(path: readonly PathItem[], count: number): PathItem[] | undefined {
  const guns = gunsOf(path);
  return guns.length < count
    ? undefined
    : onlyTo(path, new Set(guns.slice(0, count).map(({ id }) => id)));
}

function onlyTo(path: readonly PathItem[], open: ReadonlySet<string>): PathItem[] {
  return path.flatMap((item): PathItem[] => {
    if (item.kind !== "split") return [item];
    const kept = item.branches.flatMap((branch) => {
      const guns = gunsOf(branch);
      return guns.length > 0 && !guns.some(({ id }) => open.has(id)) ? [] : [onlyTo(branch, open)];
    });
    if (kept.length === 0) return [];
    const [only] = kept;
    return kept.length === 1 && only ? only : [{ ...item, branches: kept }];
  });
}
