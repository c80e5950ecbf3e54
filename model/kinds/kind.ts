import type { JobInput } from "#contract/documents/job.ts";
import { type QuantityRange, RANGES } from "#contract/documents/ranges.ts";
import { type Quantity, SHOWN, toUnit, type UnitSystem, unitOf } from "#contract/units/units.ts";
import type { DecisionId } from "./decision.ts";

/** Heights and depths of a sketch, so that no two together leave what a job may have. */
const HEIGHT = { max: 900, what: "The height" };
const DEPTH = { max: 900, positive: true, what: "The depth" };
const STRETCH = { max: 3000, positive: true, what: "The measure" };
/** Pits are measured in these, whatever a length is shown in. */
const SMALL = { us: "in", metric: "cm" };
/** Rain is read in these. */
const RAIN = { us: "in", metric: "mm" };
const RUN = { max: 50_000, positive: true, what: "The length" };

/** Everything a sketch card may ask, as people measure it: down from the floor, up to, along. SI. */
export const MEASURES = {
  /** from the floor or rim down to the bottom of the pit */
  depth: { quantity: "length", range: DEPTH, bare: SMALL },
  across: { quantity: "length", range: STRETCH, bare: SMALL },
  /** how far the water rose while it was watched */
  rise: { quantity: "length", range: DEPTH, bare: SMALL },
  /** how long it took to */
  riseTime: { quantity: "time", range: RANGES.time },
  /** times the inflow that is wanted of the pump */
  inHand: { quantity: "ratio", range: { min: 1, max: 10, what: "The factor" } },
  /** water over the floor of a room, pool or tank */
  deep: { quantity: "length", range: DEPTH },
  long: { quantity: "length", range: STRETCH },
  wide: { quantity: "length", range: STRETCH },
  within: { quantity: "time", range: RANGES.longTime, bare: { us: "h", metric: "h" } },
  /** of roofs and ground that drain to the pit */
  area: { quantity: "area", range: RANGES.area },
  hardestHour: { quantity: "length", range: { ...RANGES.rain, positive: true }, bare: RAIN },
  volume: { quantity: "volume", range: RANGES.jobVolume },
  flow: { quantity: "flow", range: RANGES.flow },
  /** up to the outlet, from what the other heights are measured from */
  up: { quantity: "length", range: { min: -900, ...HEIGHT } },
  /** along the ground to the outlet */
  along: { quantity: "length", range: RUN },
  suction: { quantity: "length", range: RUN },
  /** from the pump down to the water */
  down: { quantity: "length", range: DEPTH },
  bottom: { quantity: "length", range: DEPTH },
  /** down to the water before the pump runs, and while it runs at the flow wanted */
  standing: { quantity: "length", range: DEPTH },
  pumped: { quantity: "length", range: DEPTH },
  /** down to standing water in a dry season */
  dry: { quantity: "length", range: DEPTH },
  casing: { quantity: "diameter", range: RANGES.bore },
  pressure: { quantity: "pressure", range: RANGES.outletPressure },
  nozzle: { quantity: "diameter", range: RANGES.bore },
} as const satisfies Record<string, MeasureSpec>;

export type Measure = keyof typeof MEASURES;

export interface MeasureSpec {
  quantity: Quantity;
  range: QuantityRange;
  /** the unit of a bare number, where it is another than the quantity's own */
  bare?: Record<UnitSystem, string>;
}

/** The unit a bare number is read in, as it stands beside the field. */
export function bareUnit(measure: Measure, units: UnitSystem): string {
  const { quantity, bare }: MeasureSpec = MEASURES[measure];
  return bare?.[units] ?? SHOWN[units][quantity];
}

/** A measure as it would be typed: "6 in". */
export function inBareUnit(measure: Measure, si: number, units: UnitSystem): string {
  const symbol = bareUnit(measure, units);
  const number = toUnit(si, unitOf(MEASURES[measure].quantity, symbol));
  return `${Number(number.toPrecision(3))} ${symbol}`.trim();
}

/** How the flow that is wanted is known. */
export type Demand = "rise-test" | "rain" | "deadline" | "flow" | "gun" | "none";

/** A measure that cannot be so beside another. */
export interface Clash {
  at: Measure;
  why:
    | "above-standing-water"
    | "wetter-when-dry"
    | "below-the-bottom"
    | "bottom-too-near"
    | "too-much-water";
}

export type Values = Partial<Record<Measure, number>>;

type Begun = Pick<
  JobInput,
  | "source"
  | "path"
  | "datum"
  | "wantedFlow"
  | "volume"
  | "need"
  | "well"
  | "pressureTank"
  | "bodies"
  | "overTime"
  | "yard"
> & { site?: Partial<JobInput["site"]> };

/**
 * What a kind of job brings: the sketch that starts it, the flow it is there for, and the line to begin with. `m` is a
 * round length near a metre (three feet in US units).
 */
export interface JobKind {
  /** ways to say how much, the first unless another is chosen */
  demands: readonly [Demand, ...Demand[]];
  /** what is decided on it, in the order it is */
  decisions: readonly DecisionId[];
  /** the dimensions of the sketch that only a tape or a watch can give */
  asks(demand: Demand): readonly Measure[];
  /** what is taken until it is measured: the first stands in for what is asked, the others are offered to be changed */
  usual(m: number): Values;
  /** of `usual`, what the card offers to be changed */
  offers(demand: Demand): readonly Measure[];
  clash?(typed: Values): Clash | undefined;
  /**
   * The job itself. `of` gives what was typed or is usual; `typed` says whether all of these were typed, without
   * which a flow is not known.
   */
  begin(
    of: (measure: Measure) => number,
    typed: (...measures: Measure[]) => boolean,
    demand: Demand,
    m: number,
  ): Begun;
  /**
   * Parts of the document with the measures they rest on: while one of those is not typed the part is assumed, and
   * with none it is assumed until somebody touches it.
   */
  restsOn: Readonly<Record<string, readonly Measure[]>>;
}

/** m: no run is shorter, nor shorter than it rises. */
const SHORTEST = 0.1;

export const runOf = (along: number, rise: number) => ({
  length: Math.max(along, Math.abs(rise), SHORTEST),
  rise,
});

/** The flow a job is there for, with the water and the time it comes from where it is so much within a time. */
export function wantedOf(
  flow: number | undefined,
  volume: number | undefined,
  time: number,
): Pick<Begun, "wantedFlow" | "volume" | "need"> {
  const need = volume
    ? { kind: "deadline" as const, volume, time, flow }
    : { kind: "typed" as const, flow };
  return {
    ...(volume && { volume }),
    ...(flow && { wantedFlow: flow, need: { ...need, flow } }),
  };
}
