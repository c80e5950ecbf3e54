/** What bare or cropped ground takes up, m/s, from the slowest to the quickest of its kind. Common practice, no source. */
const PER_HOUR = 1e-3 / 3600;
export const INTAKE = {
  sand: { low: 20 * PER_HOUR, high: 50 * PER_HOUR },
  loam: { low: 8 * PER_HOUR, high: 20 * PER_HOUR },
  clay: { low: 2 * PER_HOUR, high: 8 * PER_HOUR },
} as const;
export type Soil = keyof typeof INTAKE;

export interface Runoff {
  kind: "soaks-in" | "may-run-off" | "runs-off";
  low: number;
  high: number;
  /** part of the water that stays on top at least, and at most */
  least: number;
  most: number;
}

/** Whether water that comes down at a rate in m/s soaks into a soil, by what soils of its kind take up. */
export function runoffOn(soil: Soil, rate: number): Runoff {
  const { low, high } = INTAKE[soil];
  const over = (taken: number) => (rate > taken ? (rate - taken) / rate : 0);
  const kind = rate > high ? "runs-off" : rate > low ? "may-run-off" : "soaks-in";
  return { kind, low, high, least: over(high), most: over(low) };
}
