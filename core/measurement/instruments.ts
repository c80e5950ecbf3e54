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

/** Part of the variance of a hand on the watch that is taken to be a habit, whatever the fills say. Common practice, no source. */
export const LEAST_HABIT = 0.1;

/**
 * How good a filled bucket usually is: half-widths of its mark, as a part of its volume, and of a hand on the watch, s.
 * Common practice, no source.
 */
export const USUAL_FILL = { volumeTolerance: 0.02, timingTolerance: 0.3 } as const;

/**
 * Mean time of the fills with its standard uncertainty. What differs from fill to fill is the spread of the mean (GUM
 * 4.2.3), which shrinks with more fills. The rest of what the hand can do is taken for a habit, alike at every fill
 * (GUM 5.2, correlated): all of it where the fills agree, hardly any from half the scatter of a hand without one on.
 */
export function fillTime(times: readonly number[], timingTolerance: number): Estimate {
  const { value, habit, spread } = fillParts(times, timingTolerance);
  return { value, standardUncertainty: Math.hypot(habit, spread) };
}

/** The mean of fills, and its doubt in two parts: what the hand does alike at each, and what differs. s */
function fillParts(times: readonly number[], timingTolerance: number) {
  const n = times.length;
  const value = times.reduce((sum, t) => sum + t, 0) / n;
  const variance = n > 1 ? times.reduce((sum, t) => sum + (t - value) ** 2, 0) / (n - 1) : 0;
  const hand = rectangular(timingTolerance) ** 2;
  return {
    value,
    habit: Math.sqrt(Math.max(hand - 2 * variance, LEAST_HABIT * hand)),
    spread: Math.sqrt(variance / n),
  };
}

/** Flow in m³/s and its standard uncertainty to first order (GUM 5.1.2). */
export function measuredFlow(measurement: FlowMeasurement): Estimate {
  const parts = flowUncertainties(measurement);
  const doubts = parts.doubts.map(({ standardUncertainty }) => standardUncertainty);
  return { value: parts.value, standardUncertainty: Math.hypot(...doubts) };
}

/** What of a measurement of flow is in doubt. */
export type FlowUncertainty = "volume" | "timing" | "meter" | "area" | "fall" | "inflow";

export interface FlowUncertaintyOf {
  of: FlowUncertainty;
  /** m³/s it brings to the flow */
  standardUncertainty: number;
  /**
   * part of its variance that another reading with the same instrument has alike; absent where that is all of it unless
   * the readings show otherwise
   */
  common?: number;
}

/**
 * A measured flow with everything in doubt about it, the largest first. A mark on a bucket and a measured area are
 * wrong alike at every reading; a meter and a rule are taken to be, until the readings show that they are not.
 */
export function flowUncertainties(measurement: FlowMeasurement): {
  value: number;
  doubts: FlowUncertaintyOf[];
} {
  const doubt = (
    of: FlowUncertainty,
    standardUncertainty: number,
    common?: number,
  ): FlowUncertaintyOf => ({
    ...{ of, standardUncertainty },
    ...(common !== undefined && { common }),
  });
  const all = (value: number, ...doubts: FlowUncertaintyOf[]) => ({
    value,
    doubts: doubts.toSorted((a, b) => b.standardUncertainty - a.standardUncertainty),
  });
  switch (measurement.method) {
    case "shut":
      return all(0);
    case "meter": {
      const { flow, tolerance } = measurement;
      return all(flow, doubt("meter", flow * rectangular(tolerance)));
    }
    case "counter": {
      const { start, end, tolerance, timingTolerance } = measurement;
      const { time, common } = watched([measurement.time], timingTolerance);
      const value = (end - start) / time.value;
      return all(
        value,
        doubt("meter", value * rectangular(tolerance)),
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
        doubt("area", Math.abs(drawn) * rectangular(areaTolerance), 1),
        doubt("fall", (area * rectangular(fallTolerance)) / time.value),
        doubt("timing", (Math.abs(drawn) * time.standardUncertainty) / time.value, common),
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

/** Part of the variance of an instrument that is new at each reading where nothing of it repeats more. Common practice, no source. */
export const HALF = 0.5;

/** A time off the watch, and which part of its variance the hand brings to every reading alike. */
function watched(times: readonly number[], timingTolerance: number) {
  const { value, habit, spread } = fillParts(times, timingTolerance);
  const time = { value, standardUncertainty: Math.hypot(habit, spread) };
  const variance = time.standardUncertainty ** 2;
  // One person stops the watch at every reading; a single fill of each may differ in what is no habit.
  return { time, common: variance > 0 ? habit ** 2 / variance : 0 };
}
