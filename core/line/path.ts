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
}

/** One or more equal fittings. They take the size of the pipe beside them unless `stock` names one. */
export interface FittingItem {
  kind: "fitting";
  id: string;
  /** id of a `FittingStock` row */
  fitting: string;
  count: number;
  stock?: string | undefined;
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

export type Outlet =
  | { type: "free" }
  | { type: "submerged"; level: Levels }
  /** a pressure in Pa (gauge) to be kept at the outlet */
  | { type: "pressure"; pressure: number }
  /** a nozzle or gun: q = Cd A √(2p/ρ), bore in m */
  | { type: "nozzle"; bore: number; dischargeCoefficient: number };

/** Branches that rejoin or end. Part of the document; not solved yet. */
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

/** Surface of a body of water at three states, m above datum, low ≤ normal ≤ high. */
export interface Levels {
  low: number;
  normal: number;
  high: number;
}

export type LevelCase = keyof Levels;
export const LEVEL_CASES = ["low", "normal", "high"] as const satisfies readonly LevelCase[];

/** Where the water is, and where the line takes it from. */
export interface Source {
  level: Levels;
  /** m above datum: where the path starts */
  intake: number;
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
}

/** What the core needs of a job. The full document of the contract is a superset. */
export interface Line {
  source: Source;
  path: PathItem[];
  site: Site;
  method: Method;
}
