import type { Estimate } from "./instruments.ts";

/** A signal over a window of time. `window` in s. */
export type Steadiness =
  | { kind: "steady"; mean: Estimate; window: number }
  /** it moves on: by so much from one end of the window to the other, in its own unit */
  | { kind: "drifting"; by: number; mean: number }
  /** it jumps about: standard deviation over mean */
  | { kind: "noisy"; spread: number; mean: number }
  | { kind: "too-short"; have: number };

/** s a signal is watched for, the samples it takes, and how far it may move and jump, as parts of the mean. Common practice, no source. */
export const STEADY = { window: 10, samples: 6, drift: 0.02, spread: 0.05 };

/**
 * Whether a signal stands still over its last `STEADY.window` seconds: by the slope of the straight line through it
 * and the deviation from that line. The mean has the deviation of a mean of as many samples (GUM 4.2.3).
 * @param scale what counts as a large reading where the mean is near 0, in the unit of the values
 */
export function steadiness(
  samples: readonly { at: number; value: number }[],
  scale = 0,
): Steadiness {
  const end = samples.at(-1)?.at ?? 0;
  return steadinessOver(
    samples.filter(({ at }) => at > end - STEADY.window),
    scale,
  );
}

/** The same over all of the samples. */
export function steadinessOver(
  own: readonly { at: number; value: number }[],
  scale = 0,
): Steadiness {
  const have = own.length > 0 ? (own.at(-1)?.at as number) - (own[0]?.at as number) : 0;
  if (own.length < STEADY.samples || have < 0.7 * STEADY.window) return { kind: "too-short", have };
  const n = own.length;
  const mean = own.reduce((sum, { value }) => sum + value, 0) / n;
  const middle = own.reduce((sum, { at }) => sum + at, 0) / n;
  const sxx = own.reduce((sum, { at }) => sum + (at - middle) ** 2, 0);
  const slope = own.reduce((sum, { at, value }) => sum + (at - middle) * value, 0) / sxx;
  const left = own.reduce((sum, { at, value }) => {
    return sum + (value - mean - slope * (at - middle)) ** 2;
  }, 0);
  const deviation = Math.sqrt(left / (n - 2));
  const size = Math.max(Math.abs(mean), scale);
  const by = slope * have;
  // A slope no larger than the noise would make of a signal that stands is none.
  const slopeDoubt = (deviation / Math.sqrt(sxx)) * have;
  if (Math.abs(by) > STEADY.drift * size && Math.abs(by) > 3 * slopeDoubt) {
    return { kind: "drifting", by, mean };
  }
  if (deviation > STEADY.spread * size) return { kind: "noisy", spread: deviation / size, mean };
  return {
    kind: "steady",
    mean: { value: mean, standardUncertainty: deviation / Math.sqrt(n) },
    window: have,
  };
}
