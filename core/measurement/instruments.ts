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
 * Part of the hand's error on the watch that is the same at every fill: one person is early, or late, each
 * time. Common practice, no source.
 */
const COMMON_HAND = 0.5;

/**
 * Mean time of the fills with its standard uncertainty. What differs from fill to fill is the larger of the
 * spread of the mean (GUM 4.2.3) and what the hand on the watch can do, since both describe the same start and
 * stop; it shrinks with more fills. What the hand does alike at every fill does not (GUM 5.2, correlated).
 */
export function fillTime(times: readonly number[], timingTolerance: number): Estimate {
  const n = times.length;
  const mean = times.reduce((sum, t) => sum + t, 0) / n;
  const variance = n > 1 ? times.reduce((sum, t) => sum + (t - mean) ** 2, 0) / (n - 1) / n : 0;
  const hand = rectangular(timingTolerance);
  const common = COMMON_HAND * hand;
  const changing = Math.sqrt((hand ** 2 - common ** 2) / n);
  const random = Math.max(Math.sqrt(variance), changing);
  return { value: mean, standardUncertainty: Math.hypot(common, random) };
}

/** Flow in m³/s from a bucket, a set time or a meter, uncertainty to first order (GUM 5.1.2). */
export function measuredFlow(measurement: FlowMeasurement): Estimate {
  if (measurement.method === "meter") {
    const { flow, tolerance } = measurement;
    return { value: flow, standardUncertainty: flow * rectangular(tolerance) };
  }
  const { volume, volumeTolerance, timingTolerance } = measurement;
  const times = measurement.method === "timed" ? [measurement.time] : measurement.times;
  const time = fillTime(times, timingTolerance);
  const value = volume / time.value;
  const relative = Math.hypot(rectangular(volumeTolerance), time.standardUncertainty / time.value);
  return { value, standardUncertainty: value * relative };
}
