import type { PipeAge } from "../catalogue/pipes.ts";
import type { Levels } from "../fluid/levels.ts";
import type { Outlet } from "../outlet/outlets.ts";
import type { Casing } from "./casing.ts";

/**
 * The water's path: a list of what the water meets, in order, from the source to the outlet.
 * Heights are elevations in m above the job's datum; rises are positive upwards.
 */
export type PathItem =
  | PipeItem
  | FittingItem
  | RiseItem
  | PumpItem
  | OutletItem
  | SplitItem
  | OrificeItem;

/** A run of pipe or hose. */
export interface PipeItem {
  kind: "pipe";
  id: string;
  /** id of a `PipeStock` row */
  stock: string;
  /** m, along the pipe */
  length: number;
  /** m, end above start */
  rise: number;
  /** how its wall is taken; as its family is usually found when absent */
  age?: PipeAge | undefined;
}

/** One or more equal fittings. They take the size of the pipe beside them unless `stock` names one. */
export interface FittingItem {
  kind: "fitting";
  id: string;
  /** id of a `FittingStock` row */
  fitting: string;
  count: number;
  stock?: string | undefined;
  /** how far a valve is open, 0 (shut) to 1; open when absent */
  opening?: number | undefined;
  /** a check or foot valve fitted with its arrow against the water */
  reversed?: boolean | undefined;
}

/** A change of height with no pipe of its own, such as a pump standing on a plinth. */
export interface RiseItem {
  kind: "rise";
  id: string;
  rise: number;
}

/** Where the pump stands. `pump` names one of the pumps kept with the job. */
export interface PumpItem {
  kind: "pump";
  id: string;
  pump: string | null;
  /** running speed over rated speed; 1 when absent */
  speedRatio?: number | undefined;
}

/** Where the water leaves. */
export interface OutletItem {
  kind: "outlet";
  id: string;
  outlet: Outlet;
}

/**
 * Where the water parts, as often as it likes: a branch is a path and may part again. A branch that ends in
 * an outlet ends there; the others meet again where the path goes on. An empty branch is the straight way on past a tee. A split that starts the path gives each
 * branch an intake of its own; pumps side by side are branches with a pump each.
 */
export interface SplitItem {
  kind: "split";
  id: string;
  branches: PathItem[][];
}

/** A vent hole or a leak in the discharge, bore in m. */
export interface OrificeItem {
  kind: "orifice";
  id: string;
  purpose: "vent-hole" | "leak";
  bore: number;
}

/** Where the water is, and where the line takes it from: `intake` in m above datum is where the path starts. */
export type Source =
  | { kind: "open"; level: Levels; intake: number }
  /** a closed tank with `gasPressure` in Pa (gauge) on its surface */
  | { kind: "tank"; level: Levels; intake: number; gasPressure: number }
  /** a main or a house tap: Pa (gauge) at the intake with it shut, m³/s with it wide open into the air */
  | { kind: "mains"; intake: number; pressure: number; openFlow: number }
  /** a well: level standing before the pump runs, drawn down by s = B Q + C Q² (s in m, Q in m³/s) */
  | { kind: "well"; level: Levels; intake: number; drawdown: Drawdown };

/** B in m per m³/s, C in m per (m³/s)². Source: C. E. Jacob, Trans. ASCE 112 (1947) 1047–1064. */
export interface Drawdown {
  linear: number;
  quadratic: number;
}

/** Levels of the source before anything runs; a main stands at its tap. */
export function levelsOf(source: Source): Levels {
  if (source.kind !== "mains") return source.level;
  const { intake } = source;
  return { low: intake, normal: intake, high: intake };
}

export interface Method {
  friction: "darcy-weisbach" | "hazen-williams";
  fittings: "coefficient" | "equivalent-length";
}

/** The conditions a line is solved under. */
export interface Site {
  /** m above sea level */
  altitude: number;
  /** K */
  waterTemperature: number;
  specificGravity: number;
  /** where the pump stands; unknown when absent */
  standsAt?: Standing | undefined;
  /** what is in the water */
  water?: readonly WaterKind[] | undefined;
  /** what power there is; none where empty */
  supplies?: readonly Supply[] | undefined;
  /** what the pump has to pass on its way in, m */
  access?: { hatch?: number | undefined } | undefined;
}

export const WATER_KINDS = ["clear", "gritty", "stringy", "foul", "chlorinated"] as const;
export type WaterKind = (typeof WATER_KINDS)[number];

export interface Supply {
  volts?: number | undefined;
  phase?: 1 | 3 | undefined;
  /** direct current */
  direct?: boolean | undefined;
}

export const STANDINGS = [
  "open-ground",
  "bank",
  "indoors",
  "pit",
  "crawl-space",
  "casing",
] as const;
export type Standing = (typeof STANDINGS)[number];

/** What the core needs of a job. The full document of the contract is a superset. */
export interface Line {
  source: Source;
  path: PathItem[];
  site: Site;
  method: Method;
  well?: WellLine | undefined;
  /** Pa at which a switch starts and stops the pump */
  pressureTank?: { cutIn?: number | undefined; cutOut?: number | undefined } | undefined;
  /** a battery unit, as a supply beside the site's, and the levels floats stop a pump at */
  overTime?:
    | {
        battery?: { volts?: number | undefined; pumps?: readonly string[] | undefined } | undefined;
        controls?: readonly { kind: string; body?: string; off?: number }[] | undefined;
      }
    | undefined;
}

/** What of a well the checks need: depths in m down from the casing's top, which lies `top` m above datum, 0 when absent. */
export interface WellLine {
  top?: number | undefined;
  casings?: readonly Casing[] | undefined;
  bottom?: number | undefined;
  screen?: { from: number; to: number } | undefined;
  /** m³/s it was pumped at in a test */
  steps?: readonly { flow: number }[] | undefined;
  /** m, bore of a sleeve round the motor */
  sleeve?: number | undefined;
  /** m the motor reaches below the intake */
  motor?: number | undefined;
}

/** Every item of a path, those of branches after their split, in the order of the path. */
export function everyItem<T extends { kind: string; branches?: T[][] } = PathItem>(
  path: readonly T[],
): T[] {
  const all: T[] = [];
  for (const item of path) {
    all.push(item);
    for (const branch of item.branches ?? []) all.push(...everyItem(branch));
  }
  return all;
}

interface Located<T> {
  list: readonly T[];
  index: number;
}
/** Where the items of a path are. A path is never changed, only replaced, so this stays true while it lives. */
const LOCATIONS = new WeakMap<readonly unknown[], Map<string, Located<unknown>>>();

/** The list an item stands in, the path itself or a branch, and its place there. */
export function locate<T extends { kind: string; id: string; branches?: T[][] } = PathItem>(
  path: readonly T[],
  id: string,
): Located<T> | undefined {
  let places = LOCATIONS.get(path);
  if (!places) {
    places = new Map();
    noteAll(path, places);
    LOCATIONS.set(path, places);
  }
  return places.get(id) as Located<T> | undefined;
}

function noteAll<T extends { id: string; branches?: T[][] }>(
  list: readonly T[],
  places: Map<string, Located<unknown>>,
): void {
  for (const [index, item] of list.entries()) {
    if (!places.has(item.id)) places.set(item.id, { list, index });
  }
  for (const { branches = [] } of list) for (const branch of branches) noteAll(branch, places);
}

/** The path with every item replaced by what `change` makes of it; an empty list takes an item out. */
export function changeItems<T extends { kind: string; branches?: T[][] } = PathItem>(
  path: readonly T[],
  change: (item: T) => T | T[],
): T[] {
  const changed: T[] = [];
  for (const item of path) {
    const branches = item.branches?.map((branch) => changeItems(branch, change));
    const made = change(branches ? { ...item, branches } : item);
    if (Array.isArray(made)) changed.push(...made);
    else changed.push(made);
  }
  return changed;
}
