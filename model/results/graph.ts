import { finish, type Step, type Steps } from "#core/numeric/steps.ts";
import {
  DECLARED,
  type Inputs,
  isSameKey,
  keyOf,
  type NeedsOf,
  type Read,
  type ResultName,
  type Results,
  readOf,
  type Seen,
} from "./results.ts";

/** Gives a result by its name. */
export type Look<N extends ResultName = ResultName> = <K extends N>(name: K) => Results[K];

type Stepped<N extends ResultName> = Steps<Results[N], Results[N]>;

/** How results are worked out: of what they read, and of the results they need, which are worked out when looked at. */
export type Computations = {
  [N in ResultName]: (
    seen: Seen<N>,
    look: Look<NeedsOf<N>>,
  ) => Results[N] | Steps<Results[N], Results[N]> | Steps<Results[N]>;
};

interface Kept {
  key: readonly unknown[];
  value: unknown;
}

/** Of each result so many are kept: as it is, and as it was before the last change. */
const KEPT = 2;

/**
 * What follows from a job. A result is worked out when it is looked at, from what it declares and nothing else, and kept
 * for as long as that stays the very same; a line is compiled and solved once a change, whoever asks.
 * @example
 * const graph = new ResultGraph(COMPUTATIONS);
 * graph.look({ job })("solved"); // { kind: "solved", … }
 */
export class ResultGraph {
  #computations: Partial<Computations>;
  #kept = new Map<ResultName, Kept[]>();

  constructor(computations: Partial<Computations>) {
    this.#computations = { ...computations };
  }

  /** Has it able to work out more. */
  learn(computations: Partial<Computations>): void {
    Object.assign(this.#computations, computations);
  }

  look(inputs: Inputs): Look {
    return <K extends ResultName>(name: K) =>
      (this.known(name, inputs) ?? { value: finish<Results[K]>(this.inSteps(name, inputs)) }).value;
  }

  /** A result that was worked out of the very same before. */
  known<N extends ResultName>(name: N, inputs: Inputs): { value: Results[N] } | undefined {
    const key = keyOf(name, inputs);
    const kept = this.#kept.get(name)?.find((own) => isSameKey(own.key, key));
    return kept as { value: Results[N] } | undefined;
  }

  /** Works a result out in its steps; what it needs is worked out at once. */
  *inSteps<N extends ResultName>(name: N, inputs: Inputs): Stepped<N> {
    const compute = this.#computations[name];
    if (!compute) throw new Error(`Nothing here works out "${name}".`);
    const found = compute(seenBy(name, inputs) as never, this.look(inputs) as never);
    const value = isSteps(found) ? yield* found as Stepped<N> : (found as Results[N]);
    const kept = this.#kept.get(name) ?? [];
    this.#kept.set(name, [{ key: keyOf(name, inputs), value }, ...kept].slice(0, KEPT));
    return value;
  }
}

/** A result's own share of a job and of what stands beside it; what the job does not have is not there. */
function seenBy<N extends ResultName>(name: N, inputs: Inputs): Seen<N> {
  const seen: Record<string, unknown> = {};
  for (const read of DECLARED[name].reads as readonly Read[]) {
    const value = readOf(inputs, read);
    if (value === undefined) continue;
    if (read === "overTime.battery") seen.overTime ??= { battery: value };
    else seen[read] = value;
  }
  return seen as Seen<N>;
}

const isSteps = (value: unknown): value is Generator<Step<unknown>, unknown, void> =>
  typeof value === "object" && value !== null && Symbol.iterator in value && "next" in value;
