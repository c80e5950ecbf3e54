import type { FlowMeasurement } from "./reading.ts";

/** Estimate with its standard uncertainty, both in the same unit. */
export interface Estimate {
  value: number;
  standardUncertainty: number;
}

/** A half-width taken as a rectangular distribution. Source: GUM (JCGM 100:2008) 4.3.7. */
export function rectangular(halfWidth: number): number {
  return halfWidth / Math.sqrt(3);
}

/**
 * Mean time of the fills with its standard uncertainty: the larger of the spread of the mean (GUM
 * 4.2.3) and what the hand on the watch can do, since both describe the same start and stop.
 */
export function fillTime(times: readonly number[], timingTolerance: number): Estimate {
  const n = times.length;
  const mean = times.reduce((sum, t) => sum + t, 0) / n;
  const variance = n > 1 ? times.reduce((sum, t) => sum + (t - mean) ** 2, 0) / (n - 1) / n : 0;
  const hand = rectangular(timingTolerance) / Math.sqrt(n);
  return { value: mean, standardUncertainty: Math.max(Math.sqrt(variance), hand) };
}

/** Flow in m³/s from a bucket or a meter, uncertainty to first order (GUM 5.1.2). */
export function measuredFlow(measurement: FlowMeasurement): Estimate {
  if (measurement.method === "meter") {
    const { flow, tolerance } = measurement;
    return { value: flow, standardUncertainty: flow * rectangular(tolerance) };
  }
  const { volume, volumeTolerance, times, timingTolerance } = measurement;
  const time = fillTime(times, timingTolerance);
  const value = volume / time.value;
  const relative = Math.hypot(rectangular(volumeTolerance), time.standardUncertainty / time.value);
  return { value, standardUncertainty: value * relative };
}
