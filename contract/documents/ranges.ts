import { format } from "../units/format.ts";
import type { Quantity } from "../units/units.ts";

export interface QuantityRange {
  min?: number;
  max?: number;
  /** the value must be greater than zero */
  positive?: boolean;
  what: string;
}

/** The sentence for a value outside its range, in both systems; undefined when it is inside. */
export function outOfRange(
  value: number,
  kind: Quantity,
  { min, max, positive, what }: QuantityRange,
): string | undefined {
  const both = (si: number) => {
    const metric = format(si, kind, "metric");
    const us = format(si, kind, "us");
    return metric === us ? metric : `${metric} (${us})`;
  };
  if (positive && value <= 0) return `${what} must be more than 0.`;
  if (min !== undefined && value < min) return `${what} cannot be less than ${both(min)}.`;
  if (max !== undefined && value > max) return `${what} cannot be more than ${both(max)}.`;
  return undefined;
}

/** Ranges of the documents, shared with the entry fields so that both say the same. SI. */
export const RANGES = {
  elevation: { min: -2000, max: 6000, what: "The level" },
  rise: { min: -2000, max: 2000, what: "The rise" },
  length: { min: 0, max: 100_000, positive: true, what: "The length" },
  lengthOrNone: { min: 0, max: 100_000, what: "The length" },
  bore: { max: 3, positive: true, what: "The size" },
  altitude: { min: -430, max: 5000, what: "The altitude" },
  airTemperature: { min: 233.15, max: 333.15, what: "The air temperature" },
  waterTemperature: { min: 273.16, max: 333.15, what: "The water temperature" },
  flow: { max: 10, positive: true, what: "The flow" },
  flowOrNone: { min: 0, max: 10, what: "The flow" },
  rain: { min: 0, max: 2, what: "The rain" },
  shellMass: { max: 1e7, positive: true, what: "The weight" },
  curveFlow: { min: 0, max: 10, what: "The flow" },
  head: { min: 0, max: 2000, what: "The head" },
  lift: { min: 0, max: 9.5, what: "The suction lift" },
  power: { max: 5e6, positive: true, what: "The power" },
  npsh: { min: 0, max: 50, what: "The NPSH" },
  pressure: { min: -101_325, max: 2e7, what: "The pressure" },
  outletPressure: { min: 0, max: 2e7, what: "The pressure" },
  doubtLevel: { min: 0, max: 20, what: "The doubt" },
  gasPressure: { min: -100_000, max: 2e6, what: "The pressure" },
  emitterPressure: { max: 2e7, positive: true, what: "The pressure" },
  emitterFlow: { max: 1, positive: true, what: "The flow" },
  fullScale: { max: 1e8, positive: true, what: "The gauge's full scale" },
  area: { max: 1e7, positive: true, what: "The area" },
  areaOrNone: { min: 0, max: 1e7, what: "The area" },
  volume: { max: 1000, positive: true, what: "The volume" },
  volumeOrNone: { min: 0, max: 1000, what: "The volume" },
  jobVolume: { max: 1e7, positive: true, what: "The volume" },
  counted: { min: 0, max: 1e9, what: "The meter" },
  time: { max: 86_400, positive: true, what: "The time" },
  timeOrNone: { min: 0, max: 86_400, what: "The time" },
  longTime: { max: 3.2e7, positive: true, what: "The time" },
  throw: { max: 200, positive: true, what: "The distance" },
  canDepth: { min: 0, max: 1, what: "The depth in the can" },
  canVolume: { min: 0, max: 0.1, what: "The volume in the can" },
  /** of water while it is pumped: less than nothing where it rose */
  fall: { min: -2000, max: 2000, what: "The fall" },
  depth: { max: 2000, positive: true, what: "The depth" },
  depthOrNone: { min: 0, max: 2000, what: "The depth" },
  drawdown: { min: 0, max: 1e6, what: "The drawdown" },
  mass: { max: 50_000, positive: true, what: "The weight" },
  solids: { min: 0, max: 0.5, what: "The solids size" },
  speed: { max: 30_000, positive: true, what: "The speed" },
  tolerance: { min: 0, max: 10, what: "The tolerance" },
} as const satisfies Record<string, QuantityRange>;
