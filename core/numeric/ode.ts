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
  /** `of`: only so many of the first components are judged, all when absent */
  tolerance: { relative: number; absolute: number; of?: number },
): number {
  const n = y.length;
  const [k1, k2, k3, k4, k5, k6, k7] = slopes as Seven;
  for (let i = 0; i < n; i++) result[i] = at(y, i) + h * A21 * at(k1, i);
  f(t + h / 5, result, k2);
  for (let i = 0; i < n; i++) result[i] = at(y, i) + h * (A31 * at(k1, i) + A32 * at(k2, i));
  f(t + (3 / 10) * h, result, k3);
  for (let i = 0; i < n; i++) {
    result[i] = at(y, i) + h * (A41 * at(k1, i) + A42 * at(k2, i) + A43 * at(k3, i));
  }
  f(t + (4 / 5) * h, result, k4);
  for (let i = 0; i < n; i++) {
    const sum = A51 * at(k1, i) + A52 * at(k2, i) + A53 * at(k3, i) + A54 * at(k4, i);
    result[i] = at(y, i) + h * sum;
  }
  f(t + (8 / 9) * h, result, k5);
  for (let i = 0; i < n; i++) {
    const sum =
      A61 * at(k1, i) + A62 * at(k2, i) + A63 * at(k3, i) + A64 * at(k4, i) + A65 * at(k5, i);
    result[i] = at(y, i) + h * sum;
  }
  f(t + h, result, k6);
  // The last row is the fifth-order solution itself, so `result` is already it.
  for (let i = 0; i < n; i++) {
    const sum =
      A71 * at(k1, i) + A73 * at(k3, i) + A74 * at(k4, i) + A75 * at(k5, i) + A76 * at(k6, i);
    result[i] = at(y, i) + h * sum;
  }
  f(t + h, result, k7);
  let worst = 0;
  const judged = tolerance.of ?? n;
  for (let i = 0; i < judged; i++) {
    const error =
      E1 * at(k1, i) +
      E3 * at(k3, i) +
      E4 * at(k4, i) +
      E5 * at(k5, i) +
      E6 * at(k6, i) +
      E7 * at(k7, i);
    const size = Math.max(Math.abs(at(y, i)), Math.abs(at(result, i)));
    const allowed = tolerance.absolute + tolerance.relative * size;
    worst = Math.max(worst, Math.abs(h * error) / allowed);
  }
  return worst;
}

/**
 * One component within a step that was made, at a part of it from 0 to 1, from the slopes the step left behind: of
 * order 4, and a sum of the same slopes for every component, so that what balances in them balances here too.
 * Source: E. Hairer, S. P. Nørsett, G. Wanner, Solving Ordinary Differential Equations I, 2nd ed. (1993), section II.6,
 * with the coefficients of their code DOPRI5, from memory.
 */
export function withinStep(
  y: Float64Array,
  result: Float64Array,
  h: number,
  slopes: readonly Float64Array[],
  i: number,
  part: number,
): number {
  const [k1, , k3, k4, k5, k6, k7] = slopes as Seven;
  const whole = at(result, i) - at(y, i);
  const bend = h * at(k1, i) - whole;
  const twist = whole - h * at(k7, i) - bend;
  const rest =
    h *
    (D1 * at(k1, i) +
      D3 * at(k3, i) +
      D4 * at(k4, i) +
      D5 * at(k5, i) +
      D6 * at(k6, i) +
      D7 * at(k7, i));
  const left = 1 - part;
  return at(y, i) + part * (whole + left * (bend + part * (twist + left * rest)));
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

type Seven = [
  Float64Array,
  Float64Array,
  Float64Array,
  Float64Array,
  Float64Array,
  Float64Array,
  Float64Array,
];

// Written out rather than kept in tables: this is where a simulation spends its time.
const A21 = 1 / 5;
const [A31, A32] = [3 / 40, 9 / 40];
const [A41, A42, A43] = [44 / 45, -56 / 15, 32 / 9];
const [A51, A52, A53, A54] = [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729];
const [A61, A62, A63, A64, A65] = [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656];
const [A71, A73, A74, A75, A76] = [35 / 384, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84];
/** fifth-order weights less the fourth-order ones */
const [E1, E3, E4, E5, E6, E7] = [
  71 / 57600,
  -71 / 16695,
  71 / 1920,
  -17253 / 339200,
  22 / 525,
  -1 / 40,
];

/** of the continuous extension */
const [D1, D3, D4, D5, D6, D7] = [
  -12715105075 / 11282082432,
  87487479700 / 32700410799,
  -10690763975 / 1880347072,
  701980252875 / 199316789632,
  -1453857185 / 822651844,
  69997945 / 29380423,
];

function at(values: Float64Array, i: number): number {
  return values[i] as number;
}
