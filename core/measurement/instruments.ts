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

/** Flow in m³/s and its standard uncertainty to first order (GUM 5.1.2). */
export function measuredFlow(measurement: FlowMeasurement): Estimate {
  const parts = flowDoubts(measurement);
  const doubts = parts.doubts.map(({ standardUncertainty }) => standardUncertainty);
  return { value: parts.value, standardUncertainty: Math.hypot(...doubts) };
}

/** What of a measurement of flow is in doubt. */
export type FlowDoubt = "volume" | "timing" | "meter" | "area" | "fall" | "inflow";

export interface DoubtOfFlow {
  of: FlowDoubt;
  /** m³/s it brings to the flow */
  standardUncertainty: number;
  /** part of its variance that another reading with the same instrument has alike */
  common: number;
}

/**
 * A measured flow with everything in doubt about it, the largest first. A mark on a bucket and a measured area are
 * wrong alike at every reading; of a meter and of a rule that half is (common practice, no source).
 */
export function flowDoubts(measurement: FlowMeasurement): { value: number; doubts: DoubtOfFlow[] } {
  const doubt = (of: FlowDoubt, standardUncertainty: number, common: number): DoubtOfFlow => ({
    ...{ of, standardUncertainty, common },
  });
  const all = (value: number, ...doubts: DoubtOfFlow[]) => ({
    value,
    doubts: doubts.toSorted((a, b) => b.standardUncertainty - a.standardUncertainty),
  });
  switch (measurement.method) {
    case "shut":
      return all(0);
    case "meter": {
      const { flow, tolerance } = measurement;
      return all(flow, doubt("meter", flow * rectangular(tolerance), HALF));
    }
    case "counter": {
      const { start, end, tolerance, timingTolerance } = measurement;
      const { time, common } = watched([measurement.time], timingTolerance);
      const value = (end - start) / time.value;
      return all(
        value,
        doubt("meter", value * rectangular(tolerance), HALF),
        doubt("timing", (value * time.standardUncertainty) / time.value, common),
      );
    }
    case "draw-down": {
      const { area, areaTolerance, fall, fallTolerance, timingTolerance } = measurement;
      const { inflow, inflowTolerance } = measurement;
      const { time, common } = watched([measurement.time], timingTolerance);
      const drawn = (area * fall) / time.value;
      return all(
        drawn + inflow,
        doubt("area", drawn * rectangular(areaTolerance), 1),
        doubt("fall", (area * rectangular(fallTolerance)) / time.value, HALF),
        doubt("timing", (drawn * time.standardUncertainty) / time.value, common),
        doubt("inflow", inflow * rectangular(inflowTolerance), 1),
      );
    }
    default: {
      const { volume, volumeTolerance, timingTolerance } = measurement;
      const times = measurement.method === "timed" ? [measurement.time] : measurement.times;
      const { time, common } = watched(times, timingTolerance);
      const value = volume / time.value;
      return all(
        value,
        doubt("volume", value * rectangular(volumeTolerance), 1),
        doubt("timing", (value * time.standardUncertainty) / time.value, common),
      );
    }
  }
}

/** Part of the variance of an instrument that repeats from reading to reading. Common practice, no source. */
export const HALF = 0.5;

/** A time off the watch, and which part of its variance the hand brings to every reading alike. */
function watched(times: readonly number[], timingTolerance: number) {
  const time = fillTime(times, timingTolerance);
  const hand = COMMON_HAND * rectangular(timingTolerance);
  const variance = time.standardUncertainty ** 2;
  return { time, common: variance > 0 ? hand ** 2 / variance : 0 };
}
