import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { adjust } from "../numeric/leastSquares.ts";
import { COVERAGE } from "./acceptance.ts";
import type { Estimate } from "./instruments.ts";

/** What a pump was found to be at a time. */
export interface Found extends Estimate {
  /** days */
  at: number;
}

/** How something went over time, and when it will be too little. */
export interface Trend {
  /** a day, and what the straight line gives on a day */
  slope: Estimate;
  on: (at: number) => Estimate;
  crossing: Crossing;
}

export type Crossing =
  /** it does not fall by more than the readings may be off */
  | { kind: "not-falling" }
  /** by the line it is too little already */
  | { kind: "below" }
  /** on that day, and between which with nineteen in twenty; the later is absent where it may never be */
  | { kind: "crosses"; on: number; earliest: number; latest?: number }
  /** further ahead than `AHEAD` times the time it was watched: nobody can say */
  | { kind: "too-far"; on: number };

/** Times the span of the readings that a straight line is drawn on. Common practice, no source. */
const AHEAD = 2;

/**
 * The straight line through what was found, each by its own doubt, and the day on which it falls to a limit.
 * Undefined with fewer than three findings, or all of one day.
 */
export function trendOf(found: readonly Found[], limit: number): Trend | undefined {
  if (found.length < 3) return undefined;
  const first = Math.min(...found.map(({ at }) => at));
  const last = Math.max(...found.map(({ at }) => at));
  if (last - first < 1) return undefined;
  // Taken from the middle, so that height and slope hardly depend on each other.
  const middle = (first + last) / 2;
  const fit = adjust({
    start: [1, 0],
    readings: found.map(({ value, standardUncertainty }) => ({ value, standardUncertainty })),
    conditions: found.map(({ at }, i) => ({
      on: [i],
      of: ([height = 0, slope = 0], values) =>
        (values[i] as number) - height - slope * (at - middle),
    })),
  });
  if (fit.kind !== "adjusted") return undefined;
  const [height = 0, slope = 0] = fit.parameters;
  // Pumps that differ from visit to visit by more than the instruments explain are in doubt by that.
  const scatter = Math.max(1, Math.sqrt(fit.misfit / Math.max(fit.freedom, 1)));
  const [[hh = 0, hs = 0] = [], [, ss = 0] = []] = fit.covariance;
  const on = (at: number): Estimate => {
    const days = at - middle;
    const variance = hh + 2 * days * hs + days * days * ss;
    return {
      value: height + slope * days,
      standardUncertainty: scatter * Math.sqrt(Math.max(variance, 0)),
    };
  };
  const slopeDoubt = scatter * Math.sqrt(ss);
  const crossing = (): Crossing => {
    const now = on(last);
    if (now.value <= limit) return { kind: "below" };
    if (slope + COVERAGE * slopeDoubt >= 0) return { kind: "not-falling" };
    const day = middle + (limit - height) / slope;
    const reach = last + AHEAD * (last - first);
    if (day > reach) return { kind: "too-far", on: day };
    const edge = (sign: 1 | -1) => (at: number) => {
      const { value, standardUncertainty } = on(at);
      return value + sign * COVERAGE * standardUncertainty - limit;
    };
    const [lower, upper] = [edge(-1), edge(1)];
    const earliest =
      lower(last) <= 0 ? last : bracketedRoot(lower, last, day, lower(last), lower(day), 0.01);
    const far = last + 20 * (last - first);
    return {
      kind: "crosses",
      on: day,
      earliest,
      ...(upper(far) < 0 && {
        latest: bracketedRoot(upper, day, far, upper(day), upper(far), 0.01),
      }),
    };
  };
  return { slope: { value: slope, standardUncertainty: slopeDoubt }, on, crossing: crossing() };
}
