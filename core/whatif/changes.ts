import { findFitting } from "../catalogue/fittings.ts";
import { findPipeStock, nextSizeUp, type PipeStock } from "../catalogue/pipes.ts";
import { checkContext, judge } from "../check/registry.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { type SolveResult, solveLine } from "../hydraulics/solveLine.ts";
import {
  changeItems,
  everyItem,
  type FittingItem,
  type Line,
  type PathItem,
  type PumpItem,
} from "../line/path.ts";
import { finish, type Steps } from "../numeric/steps.ts";
import type { Pump } from "../pump/pump.ts";

/** One thing done to a job, and nothing else. */
export type Change =
  /** runs of one size laid in a larger: one of them, or all together */
  | { kind: "size"; itemIds: string[]; from: PipeStock; to: PipeStock }
  /** one bend taken out */
  | { kind: "bend"; itemId: string }
  | { kind: "pump"; itemId: string; pump: Pump }
  /** the same pump once more beside it, each with a check valve of its own */
  | { kind: "second-pump"; itemId: string; pump: Pump };

export interface Tried {
  change: Change;
  /** the path with the change in it, and the pumps on it */
  path: PathItem[];
  /** m³/s at the outlets, and how much more than now */
  flow: number;
  gain: number;
  /** in the money prices are in: nothing where a bend is left out, unknown where none is told */
  price?: number;
}

/** Runs of one line whose next size is tried each on its own: those of most length, the others give little. */
const MOST_RUNS = 12;

/**
 * Every single change tried on the line, each solved anew, that brings more water and nothing new to stop for: the
 * most for its price first, those whose price nobody tells last.
 * @param library pumps that may stand in place of the one there is
 */
export const singleChanges = (
  line: Line,
  pumps: readonly Pump[],
  library: readonly Pump[],
): Tried[] => finish(singleChangesInSteps(line, pumps, library));

/**
 * The same in its steps, one a change.
 * @param solved the line as it is, where it is solved already
 */
export function* singleChangesInSteps(
  line: Line,
  pumps: readonly Pump[],
  library: readonly Pump[],
  solved: SolveResult = solveLine(line, pumps),
): Steps<Tried[]> {
  const before = outcomeOf(line, solved);
  if (!before) return [];
  const { delivered: now } = before;
  const all = candidates(line, pumps, library);
  const found: Tried[] = [];
  for (const [i, { change, path, extra = [], price }] of all.entries()) {
    yield { done: i / all.length };
    const then = solvedOutcome({ ...line, path }, [...pumps, ...extra]);
    if (!then) continue;
    const { delivered: flow, stops } = then;
    const gain = flow - now;
    if (gain <= now * LEAST_GAIN || stops.some((code) => !before.stops.includes(code))) continue;
    found.push({ change, path, flow, gain, ...(price !== undefined && { price }) });
  }
  return found.sort(
    (a, b) =>
      Number(a.price === undefined) - Number(b.price === undefined) ||
      worth(b) - worth(a) ||
      b.gain - a.gain,
  );
}

/** share of the flow below which more is none */
const LEAST_GAIN = 1e-3;
/** what is done for nothing is weighed as if it cost this much */
const NOTHING = 0.01;

const worth = ({ gain, price = 0 }: Tried) => gain / Math.max(price, NOTHING);

/** What a line delivers, and what there is to stop for; nothing where the pump does not settle. */
function outcomeOf(line: Line, result: SolveResult) {
  if (result.kind === "refused") return undefined;
  const { outcome, running } = result.solution.cases.normal;
  if (!settledDuty(outcome) || !running) return undefined;
  const stops = judge(checkContext(result.solution, line)).flatMap(({ code, severity }) =>
    severity === "stop" ? [code] : [],
  );
  return { delivered: running.state.delivered, stops };
}

/** m³/s at the outlets at normal water; nothing where the pump does not settle. */
export function deliveredBy(line: Line, pumps: readonly Pump[]): number | undefined {
  return solvedOutcome(line, pumps)?.delivered;
}

const solvedOutcome = (line: Line, pumps: readonly Pump[]) =>
  outcomeOf(line, solveLine(line, pumps));

interface ToTry {
  change: Change;
  path: PathItem[];
  extra?: readonly Pump[];
  price?: number | undefined;
}

function candidates(line: Line, pumps: readonly Pump[], library: readonly Pump[]): ToTry[] {
  return [
    ...sizeChanges(line.path),
    ...bendChanges(line.path),
    ...pumpChanges(line, pumps, library),
  ];
}

/** Each long run one size larger, and all runs of a size together one and two sizes larger. */
function sizeChanges(path: PathItem[]): ToTry[] {
  const runs = everyItem(path).filter((item) => item.kind === "pipe");
  const laid = (ids: readonly string[], from: PipeStock, to: PipeStock): ToTry => {
    const these = new Set(ids);
    let length = 0;
    const changed = changeItems(path, (item) => {
      if (item.kind !== "pipe" || !these.has(item.id)) return item;
      length += item.length;
      return { ...item, stock: to.id };
    });
    const change: Change = { kind: "size", itemIds: [...ids], from, to };
    return { change, path: changed, price: length * to.price };
  };
  const alike = new Map<string, typeof runs>();
  for (const run of runs) alike.set(run.stock, [...(alike.get(run.stock) ?? []), run]);
  const together = [...alike].flatMap(([stock, items]): ToTry[] => {
    const from = findPipeStock(stock);
    const next = from && nextSizeUp(from);
    const after = next && nextSizeUp(next);
    const ids = items.map(({ id }) => id);
    return [next, after].flatMap((to) => (from && to ? [laid(ids, from, to)] : []));
  });
  const alone = runs
    .toSorted((a, b) => b.length - a.length)
    .slice(0, MOST_RUNS)
    .flatMap(({ id, stock }): ToTry[] => {
      const from = findPipeStock(stock);
      const to = from && nextSizeUp(from);
      return from && to && (alike.get(stock)?.length ?? 0) > 1 ? [laid([id], from, to)] : [];
    });
  return [...together, ...alone];
}

function bendChanges(path: PathItem[]): ToTry[] {
  const bends = everyItem(path).filter(
    (item): item is FittingItem =>
      item.kind === "fitting" && findFitting(item.fitting)?.group === "bend",
  );
  // Without its last bend a line does not turn to where it goes.
  if (bends.reduce((sum, { count }) => sum + count, 0) < 2) return [];
  return bends.map((item): ToTry => {
    const changed = changeItems(path, (other) => {
      if (other.id !== item.id) return other;
      return item.count > 1 ? { ...item, count: item.count - 1 } : [];
    });
    return { change: { kind: "bend", itemId: item.id }, path: changed, price: 0 };
  });
}

function pumpChanges(
  { path, source }: Line,
  pumps: readonly Pump[],
  library: readonly Pump[],
): ToTry[] {
  const places = everyItem(path).filter((item) => item.kind === "pump");
  const [place] = places;
  const own = pumps.find(({ id }) => id === place?.pump);
  if (!place || !own || places.length > 1) return [];
  const { id: itemId } = place;
  const others = library
    .filter(({ id }) => id !== own.id)
    .map((pump): ToTry => {
      const changed = changeItems(path, (item) =>
        item.id === itemId ? { ...place, pump: pump.id } : item,
      );
      return {
        change: { kind: "pump", itemId, pump },
        path: changed,
        extra: [pump],
        price: pump.price,
      };
    });
  const twice = hasRoomForTwo({ source }) ? besideItself(path, place) : undefined;
  const second: Change = { kind: "second-pump", itemId, pump: own };
  return [...others, ...(twice ? [{ change: second, path: twice, price: own.price }] : [])];
}

/** Whether two pumps can stand side by side: a well's casing takes one. */
export const hasRoomForTwo = ({ source }: { source: { kind: string } }): boolean =>
  source.kind !== "well";

/**
 * The path with a second pump like it beside the one there is, each with what stands at its port: its vent hole, and
 * a check valve of its own. Nothing where the pump stands in a branch already.
 */
export function besideItself(
  path: PathItem[],
  pump: PumpItem,
  name: (of: string) => string = (of) => `${of}-twin`,
): PathItem[] | undefined {
  const at = path.findIndex(({ id }) => id === pump.id);
  if (at < 0) return undefined;
  const after = path.slice(at + 1);
  const others = after.findIndex((item) => !goesWithPump(item));
  const own = others < 0 ? after : after.slice(0, others);
  const next = after.find((item) => item.kind === "pipe");
  const stock = next?.kind === "pipe" ? next.stock : undefined;
  const ofEach: PathItem[] = own.some(({ kind }) => kind === "fitting")
    ? own
    : [...own, { kind: "fitting", id: `${pump.id}-check`, fitting: "check-swing", count: 1 }];
  const branch = (first: PumpItem, rename: (of: string) => string): PathItem[] => [
    first,
    ...ofEach.map((item): PathItem => {
      const renamed = { ...item, id: rename(item.id) };
      return renamed.kind === "fitting" && stock
        ? { ...renamed, stock: renamed.stock ?? stock }
        : renamed;
    }),
  ];
  const split: PathItem = {
    kind: "split",
    id: name(`${pump.id}-pair`),
    branches: [branch(pump, (of) => of), branch({ ...pump, id: name(pump.id) }, name)],
  };
  return [...path.slice(0, at), split, ...after.slice(own.length)];
}

function goesWithPump(item: PathItem): boolean {
  if (item.kind === "orifice") return item.purpose === "vent-hole";
  return item.kind === "fitting" && findFitting(item.fitting)?.group === "check";
}
