/**
 * One step of Dormand and Prince's pair of orders 5 and 4 for y' = f(t, y). It writes the new state into
 * `result` and gives the error estimate, each component as a multiple of what `tolerance` allows; a step is good
 * up to 1. `slopes[0]` must hold f(t, y); after a good step `slopes[6]` holds f at its end.
 * Source: J. R. Dormand, P. J. Prince, J. Comput. Appl. Math. 6 (1980) 19–26.
 */
export function dormandPrinceStep(
  f: Derivative,
  t: number,
  y: Float64Array,
  h: number,
  slopes: readonly Float64Array[],
  result: Float64Array,
  tolerance: { relative: number; absolute: number },
): number {
  const n = y.length;
  for (let stage = 1; stage < 7; stage++) {
    const row = A[stage] as readonly number[];
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let j = 0; j < stage; j++) sum += (row[j] as number) * at(slopes[j], i);
      result[i] = at(y, i) + h * sum;
    }
    f(t + (C[stage] as number) * h, result, slopes[stage] as Float64Array);
  }
  // The last row of A is the fifth-order solution itself, so `result` is already it.
  let worst = 0;
  for (let i = 0; i < n; i++) {
    let error = 0;
    for (let j = 0; j < 7; j++) error += (E[j] as number) * at(slopes[j], i);
    const size = Math.max(Math.abs(at(y, i)), Math.abs(at(result, i)));
    const allowed = tolerance.absolute + tolerance.relative * size;
    worst = Math.max(worst, Math.abs(h * error) / allowed);
  }
  return worst;
}

/** Writes dy/dt at a time and state into `slope`. */
export type Derivative = (t: number, y: Float64Array, slope: Float64Array) => void;

/** Room for the slopes of one step of a system of `n` equations. */
export function stepSlopes(n: number): Float64Array[] {
  return Array.from({ length: 7 }, () => new Float64Array(n));
}

/** The next step after one of length `h` with that error: a fifth-order rule with a margin. */
export function nextStep(h: number, error: number): number {
  if (error <= 0) return h * MOST_GROWTH;
  return h * Math.min(MOST_GROWTH, Math.max(LEAST_GROWTH, MARGIN * error ** -0.2));
}

const MOST_GROWTH = 5;
const LEAST_GROWTH = 0.2;
const MARGIN = 0.9;

const C = [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1];
const A: readonly (readonly number[])[] = [
  [],
  [1 / 5],
  [3 / 40, 9 / 40],
  [44 / 45, -56 / 15, 32 / 9],
  [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
  [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
  [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
];
/** fifth-order weights less the fourth-order ones */
const E = [71 / 57600, 0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40];

function at(values: ArrayLike<number> | undefined, i: number): number {
  return (values as ArrayLike<number>)[i] as number;
}
