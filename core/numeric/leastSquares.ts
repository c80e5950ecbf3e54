import { cholesky, inverse, solved } from "./symmetric.ts";

/** What was read, and how it hangs together with what is looked for. */
export interface Adjustment {
  /** where the search for the parameters sets out from */
  start: readonly number[];
  /** independent readings, each with its standard uncertainty, which must be more than 0 */
  readings: readonly { value: number; standardUncertainty: number }[];
  /** what is 0 when parameters and readings are true; at least as many as there are parameters */
  conditions: readonly Condition[];
}

export interface Condition {
  /** numbers of the readings it depends on; on all of them where it does not say */
  on?: readonly number[];
  /** undefined where the model has no value */
  of: (parameters: readonly number[], readings: readonly number[]) => number | undefined;
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
    const left = value.map((own, i) => {
      let sum = own;
      for (const [k, slope] of byReading[i] as Slopes) {
        sum += slope * ((measured[k] as number) - (adjusted[k] as number));
      }
      return sum;
    });
    const spread = cholesky(spreadOf(byReading, u));
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
    const moved = [...measured];
    for (const [i, slopes] of byReading.entries()) {
      for (const [k, slope] of slopes) {
        moved[k] = (moved[k] as number) - (u[k] as number) ** 2 * slope * (pull[i] as number);
      }
    }
    adjusted = moved;
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
        const effects = u.map(() => 0);
        for (const [i, slopes] of byReading.entries()) {
          const pulled = dot(
            row,
            weightedColumns.map((column) => column[i] as number),
          );
          for (const [k, slope] of slopes) {
            effects[k] = (effects[k] as number) - (u[k] as number) * pulled * slope;
          }
        }
        return effects;
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

/** Derivatives of one condition by the readings it depends on: their numbers, each with its slope. */
type Slopes = readonly (readonly [reading: number, slope: number])[];

function linearised(
  parameters: readonly number[],
  readings: readonly number[],
  u: readonly number[],
  conditions: readonly Condition[],
) {
  const everything = readings.map((_, k) => k);
  const value: number[] = [];
  const byParameter: number[][] = [];
  const byReading: Slopes[] = [];
  for (const { on = everything, of } of conditions) {
    const centre = of(parameters, readings);
    if (centre === undefined) return undefined;
    const slope = (at: (x: number) => number | undefined, x: number, h: number) => {
      const [up, down] = [at(x + h), at(x - h)];
      if (up !== undefined && down !== undefined) return (up - down) / (2 * h);
      // At the edge of what the model tells of only one side may exist.
      if (up !== undefined) return (up - centre) / h;
      return down === undefined ? undefined : (centre - down) / h;
    };
    const ofParameters: number[] = [];
    for (const [p, own] of parameters.entries()) {
      const h = 1e-5 * Math.max(Math.abs(own), 0.1);
      const found = slope((x) => of(parameters.with(p, x), readings), own, h);
      if (found === undefined) return undefined;
      ofParameters.push(found);
    }
    const ofReadings: [number, number][] = [];
    const moved = [...readings];
    for (const k of on) {
      const own = readings[k] as number;
      const at = (x: number) => {
        moved[k] = x;
        const found = of(parameters, moved);
        moved[k] = own;
        return found;
      };
      const found = slope(at, own, 0.01 * (u[k] as number));
      if (found === undefined) return undefined;
      if (found !== 0) ofReadings.push([k, found]);
    }
    value.push(centre);
    byParameter.push(ofParameters);
    byReading.push(ofReadings);
  }
  return { value, byParameter, byReading };
}

/** Variances of the conditions and between them, by the readings they share. */
function spreadOf(byReading: readonly Slopes[], u: readonly number[]): number[][] {
  const spread = byReading.map(() => byReading.map(() => 0));
  const sharing: [condition: number, slope: number][][] = u.map(() => []);
  for (const [i, slopes] of byReading.entries()) {
    for (const [k, slope] of slopes) sharing[k]?.push([i, slope]);
  }
  for (const [k, all] of sharing.entries()) {
    const variance = (u[k] as number) ** 2;
    for (const [i, one] of all) {
      const row = spread[i] as number[];
      for (const [j, other] of all) row[j] = (row[j] as number) + one * other * variance;
    }
  }
  return spread;
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] as number) * (b[i] as number);
  return sum;
}
