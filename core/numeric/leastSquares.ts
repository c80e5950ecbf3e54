import { cholesky, inverse, solved } from "./symmetric.ts";

/** What was read, and how it hangs together with what is looked for. */
export interface Adjustment {
  /** where the search for the parameters sets out from */
  start: readonly number[];
  /** independent readings, each with its standard uncertainty, which must be more than 0 */
  readings: readonly { value: number; standardUncertainty: number }[];
  /**
   * What is 0 when parameters and readings are true; as many numbers at every call, and at least as many as there are
   * parameters. Undefined where the model has no value.
   */
  conditions: (
    parameters: readonly number[],
    readings: readonly number[],
  ) => readonly number[] | undefined;
}

export type Adjusted =
  | {
      kind: "adjusted";
      parameters: number[];
      /** of the parameters */
      covariance: number[][];
      /** how far each parameter moves with one deviation of each reading: squared, their sum is its variance */
      effects: number[][];
      /** sum of the squares of what had to be moved, each over its standard uncertainty */
      misfit: number;
      /** conditions less parameters */
      freedom: number;
      /** of each condition: how far it lies off the others, in standard deviations of that; 0 where nothing checks it */
      apart: number[];
    }
  /** what was read does not tell the parameters from one another */
  | { kind: "not-parted" }
  /** the model has no value on the way, or the search does not settle */
  | { kind: "no-value" };

/**
 * Least squares of conditions between doubtful readings and unknown parameters, readings and parameters moved until
 * every condition holds and Σ((x − x̂)/u)² is least: the Gauss–Helmert adjustment, iterated with the derivatives taken
 * at the adjusted readings. Of normal errors it gives the most likely parameters, and their covariance to first order.
 * Sources: F. R. Helmert, Die Ausgleichungsrechnung (1872), and the iteration of L. Pope (1972), both from memory.
 * Conditions that lie off are found by data snooping: W. Baarda, A testing procedure for use in geodetic networks
 * (1968), from memory.
 */
export function adjust({ start, readings, conditions }: Adjustment): Adjusted {
  const measured = readings.map(({ value }) => value);
  const u = readings.map(({ standardUncertainty }) => standardUncertainty);
  let parameters = [...start];
  let adjusted = measured;
  for (let round = 0; round < ROUNDS; round++) {
    const at = linearised(parameters, adjusted, u, conditions);
    if (!at) return { kind: "no-value" };
    const { value, byParameter, byReading } = at;
    // What is left of each condition at the measured readings, by the straight line through the adjusted ones.
    const left = value.map((own, i) =>
      (byReading[i] as number[]).reduce(
        (sum, slope, k) => sum + slope * ((measured[k] as number) - (adjusted[k] as number)),
        own,
      ),
    );
    const spread = cholesky(
      byReading.map((row) => byReading.map((other) => weighted(row, other, u))),
    );
    if (!spread) return { kind: "no-value" };
    const columns = start.map((_, p) => byParameter.map((row) => row[p] as number));
    const weightedColumns = columns.map((column) => solved(spread, column));
    const normal = weightedColumns.map((own) => columns.map((column) => dot(own, column)));
    const triangle = cholesky(normal, LEAST_PIVOT);
    if (!triangle) return { kind: "not-parted" };
    const step = solved(
      triangle,
      weightedColumns.map((own) => -dot(own, left)),
    );
    const stays = left.map((own, i) => own + dot(byParameter[i] as number[], step));
    const pull = solved(spread, stays);
    const before = parameters;
    parameters = parameters.map((own, p) => own + (step[p] as number));
    adjusted = measured.map(
      (own, k) =>
        own -
        (u[k] as number) ** 2 *
          dot(
            byReading.map((row) => row[k] as number),
            pull,
          ),
    );
    const covariance = inverse(triangle);
    const settled = parameters.every(
      (own, p) =>
        Math.abs(own - (before[p] as number)) <= SETTLED * Math.sqrt(covariance[p]?.[p] as number),
    );
    if (!settled || round < 2) continue;
    const weights = inverse(spread);
    return {
      kind: "adjusted",
      parameters,
      covariance,
      effects: covariance.map((row) => {
        const pulls = spread.map((_, i) =>
          dot(
            row,
            weightedColumns.map((column) => column[i] as number),
          ),
        );
        return u.map(
          (own, k) =>
            -own *
            dot(
              pulls,
              byReading.map((slopes) => slopes[k] as number),
            ),
        );
      }),
      misfit: dot(stays, pull),
      freedom: value.length - start.length,
      apart: pull.map((own, i) => {
        const taken = weightedColumns.map((column) => column[i] as number);
        const by = covariance.map((row) => dot(row, taken));
        const whole = weights[i]?.[i] as number;
        const free = whole - dot(taken, by);
        return free > UNCHECKED * whole ? own / Math.sqrt(free) : 0;
      }),
    };
  }
  return { kind: "no-value" };
}

const ROUNDS = 60;
/** Part of its standard deviation by which a parameter may still move. */
const SETTLED = 1e-5;
/** Part of its own weight that a parameter must keep beside the others, to be told from them. */
const LEAST_PIVOT = 1e-9;
/** Part of a condition's weight that must be left over by the fit for it to be checked by the others. */
const UNCHECKED = 1e-6;

function linearised(
  parameters: readonly number[],
  readings: readonly number[],
  u: readonly number[],
  conditions: Adjustment["conditions"],
) {
  const value = conditions(parameters, readings);
  if (!value) return undefined;
  const byParameter = value.map((): number[] => []);
  const byReading = value.map((): number[] => []);
  const slopes = (up: readonly number[] | undefined, down: typeof up, width: number) => {
    if (up && down) return value.map((_, i) => ((up[i] as number) - (down[i] as number)) / width);
    // At the edge of what the model tells of only one side may exist.
    const one = up ?? down;
    if (!one) return undefined;
    const half = (up ? width : -width) / 2;
    return value.map((own, i) => ((one[i] as number) - own) / half);
  };
  for (const [p, own] of parameters.entries()) {
    const h = 1e-5 * Math.max(Math.abs(own), 0.1);
    const at = (x: number) => conditions(parameters.with(p, x), readings);
    const found = slopes(at(own + h), at(own - h), 2 * h);
    if (!found) return undefined;
    for (const [i, slope] of found.entries()) (byParameter[i] as number[]).push(slope);
  }
  for (const [k, own] of readings.entries()) {
    const h = 0.01 * (u[k] as number);
    const at = (x: number) => conditions(parameters, readings.with(k, x));
    const found = slopes(at(own + h), at(own - h), 2 * h);
    if (!found) return undefined;
    for (const [i, slope] of found.entries()) (byReading[i] as number[]).push(slope);
  }
  return { value, byParameter, byReading };
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] as number) * (b[i] as number);
  return sum;
}

function weighted(a: readonly number[], b: readonly number[], u: readonly number[]): number {
  let sum = 0;
  for (let k = 0; k < a.length; k++) {
    sum += (a[k] as number) * (b[k] as number) * (u[k] as number) ** 2;
  }
  return sum;
}
