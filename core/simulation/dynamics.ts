import type { WaterStore } from "./waterStore.ts";

/**
 * Bodies of water that fill and are pumped: a system of ordinary differential equations in their volumes, with
 * floats, empty bottoms, full rims, a power cut and a flat battery as events. SI; levels in m above datum.
 */
export interface Dynamics {
  stores: readonly SimulatedStore[];
  pumps: readonly SimulatedPump[];
  controls: readonly Control[];
  guards?: readonly Guard[];
  /** writes the m³/s that runs into each store at a time in s */
  inflow: (time: number, into: Float64Array) => void;
  /** writes what the line does at these levels with these pumps running */
  line: (levels: Float64Array, running: readonly boolean[], flows: LineFlows) => void;
  /** what falls back out of the line when its last pump stops */
  fallBack?: DrainBack;
  /** s: the mains are off from one to the other */
  powerCut?: { from: number; to: number };
  battery?: Battery;
}

export interface SimulatedStore extends WaterStore {
  /** the store that takes what runs over the rim; lost where absent */
  overflowTo?: number | undefined;
  /** m: a level whose passing upwards is told, such as that of an alarm */
  alarm?: number | undefined;
  /** m: below it the line takes no more than runs in; the bottom where absent */
  dry?: number | undefined;
}

export interface SimulatedPump {
  supply: "mains" | "battery";
}

/** What a line does at one instant. */
export interface LineFlows {
  /** m³/s it takes out of each store; negative where it puts in */
  taken: Float64Array;
  /** W each pump draws; 0 where that is not known */
  power: Float64Array;
}

/**
 * A float: it calls for a pump when the level of a store passes `on`, and lets go when it passes `off` the other
 * way. `on` above `off` empties the store, below it fills it. It starts the first of its pumps that is not running
 * for another float; where they alternate, another is the first at each call.
 */
export interface Control {
  store: number;
  on: number;
  off: number;
  pumps: readonly number[];
  alternate?: boolean | undefined;
}

/** Stops pumps whatever calls for them, from `stop` until `release`: below where it is lower, else above. */
export interface Guard {
  store: number;
  stop: number;
  release: number;
  pumps: readonly number[];
}

/** m³ that runs back into a store within so many s, by the level in m above datum its water stands at when the last pump stops. */
export interface DrainBack {
  store: number;
  at: (level: number) => { volume: number; time: number };
}

export interface Battery {
  /** s until it is flat at a power in W */
  lasts: (power: number) => number;
}

export interface Start {
  levels: readonly number[];
  /** which controls call already; those the level calls for do in any case */
  called?: readonly boolean[];
}

export interface SimulationLimits {
  /** s: no step is longer, so that nothing short is stepped over */
  longestStep: number;
  /** times in s at which the inflow jumps or bends */
  breaks?: readonly number[];
  /** allowed error of each step, as a fraction of a store's volume; 1e-8 when absent */
  tolerance?: number;
  /** stops after so many events, 100 000 when absent */
  mostEvents?: number;
  /** stops when this comes true after an event */
  enough?: (event: TimelineEvent) => boolean;
}

export interface TimelineEvent {
  time: number;
  kind:
    | "pump-on"
    | "pump-off"
    | "empty"
    | "full"
    /** it was full, and falls again */
    | "below-rim"
    | "alarm"
    /** a guard of this store holds its pumps, or lets them go */
    | "held"
    | "freed"
    | "power-cut"
    | "power-back"
    | "battery-flat";
  /** which pump, or which store; 0 where it is of neither */
  index: number;
}

export interface Timeline {
  /** s, rising; the levels of every store, and what ran, at each (a bit a pump, from then on) */
  times: number[];
  levels: number[][];
  running: number[];
  events: TimelineEvent[];
  /** how it ended; `event-limit` where events followed one another without end */
  end: "until" | "enough" | "event-limit";
  final: { levels: number[] };
  totals: Totals;
}

/** m³ of the whole run, by store: what was there and came in is what went out and is still there. */
export interface Totals {
  start: number[];
  inflow: number[];
  /** that the line took, less what it put in or let fall back */
  taken: number[];
  /** over the rim */
  spilled: number[];
  /** that came over the rim of others */
  received: number[];
  /** of what the line took, what it put in or let fall back */
  returned: number[];
  final: number[];
  /** by pump: J drawn, s run, times started */
  energy: number[];
  runTime: number[];
  starts: number[];
  /** of the battery, 0 to 1 */
  batteryUsed: number;
}
