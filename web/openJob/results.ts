import { proxy, type Remote, releaseProxy, wrap } from "comlink";
import type { JobDocument } from "#contract/documents/job.ts";
import { ResultGraph } from "#model/results/graph.ts";
import { LINE_COMPUTATIONS } from "#model/results/ofLine.ts";
import {
  type Inputs,
  isOnPage,
  isSameKey,
  type Read,
  type ResultName,
  type Results,
  readOf,
  restsOn,
} from "#model/results/results.ts";
// Types alone: long computations are the worker's, and no page waits for them.
import type { Changed } from "./resultsDesk.ts";
import type { ResultsWorker } from "./resultsWorker.ts";

/** What is worked out on the page itself. A view that shows more of it has it learn that. */
export const onPage = new ResultGraph(LINE_COMPUTATIONS);

/** Works out what a job's page shows first, in steps that leave the page to whoever looks at it. */
export async function solveAhead(job: JobDocument): Promise<void> {
  const inputs = { job };
  for (const name of ["line", "solved", "tried"] as const) {
    if (!isOnPage(name, inputs) || onPage.known(name, inputs)) continue;
    const steps = onPage.inSteps(name, inputs);
    while (!steps.next().done) await breath();
    await breath();
  }
}

/** Lets everything else have its turn. */
const breath = () => new Promise((done) => setTimeout(done));

/** How a result stands that is worked out beside the page. */
export interface Standing<T> {
  kind: "working" | "done" | "failed" | "cancelled";
  value: T | undefined;
  /** 0 to 1 */
  progress: number;
  /** of one that failed */
  error: string | undefined;
}

export const WAITING = {
  kind: "working",
  value: undefined,
  progress: 0,
  error: undefined,
} as const;

/** ms after the last change before a result is worked out: longer than from key to key, for whoever types */
const PAUSE = 450;

/** A result of certain inputs: worked out beside the page from the first who looks at it, given up with the last. */
export class Asked<N extends ResultName = ResultName> {
  standing: Standing<Results[N]> = WAITING;
  readonly key: readonly unknown[];
  readonly #name: N;
  readonly #inputs: Inputs;
  readonly #listeners = new Set<() => void>();
  #giveUp: (() => void) | undefined;

  constructor(name: N, inputs: Inputs, key: readonly unknown[]) {
    this.#name = name;
    this.#inputs = inputs;
    this.key = key;
  }

  get isLookedAt(): boolean {
    return this.#listeners.size > 0;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    if (this.standing.kind === "working" && !this.#giveUp) {
      const timer = setTimeout(() => this.#begin(), PAUSE);
      this.#giveUp = () => clearTimeout(timer);
    }
    return () => {
      this.#listeners.delete(listener);
      if (!this.isLookedAt) this.#stop();
    };
  };

  readonly cancel = (): void => {
    this.#stop();
    this.#stand({ kind: "cancelled" });
  };

  readonly again = (): void => {
    this.#stop();
    this.#stand(WAITING);
    this.#begin();
  };

  #begin(): void {
    const asked = ask(this.#name, this.#inputs, (progress, soFar) =>
      this.#stand({ progress, ...(soFar !== undefined && { value: soFar as Results[N] }) }),
    );
    let wanted = true;
    this.#giveUp = () => {
      wanted = false;
      asked.drop();
    };
    const end = (standing: Partial<Standing<Results[N]>>) => {
      if (!wanted) return;
      this.#giveUp = undefined;
      this.#stand(standing);
    };
    asked.value.then(
      (value) => end({ kind: "done", value: value as Results[N], progress: 1 }),
      (error: Error) => end({ kind: "failed", error: error.message }),
    );
  }

  /** What nobody waits for any more is not heard out. */
  #stop(): void {
    this.#giveUp?.();
    this.#giveUp = undefined;
  }

  #stand(change: Partial<Standing<Results[N]>>): void {
    this.standing = { ...this.standing, ...change };
    for (const listener of this.#listeners) listener();
  }
}

/** Of each result so many are kept that nobody looks at any more. */
const KEPT = 2;
const asked = new Map<ResultName, Asked[]>();

/** The result of certain inputs, the same one for everybody who looks at it. */
export function askedFor<N extends ResultName>(
  name: N,
  inputs: Inputs,
  key: readonly unknown[],
): Asked<N> {
  const all = asked.get(name) ?? [];
  const found = all.find((own) => isSameKey(own.key, key));
  if (found) return found as unknown as Asked<N>;
  const own = new Asked(name, inputs, key);
  let kept = 0;
  const rest = all.filter(({ isLookedAt }) => isLookedAt || ++kept <= KEPT);
  asked.set(name, [own as unknown as Asked, ...rest]);
  return own;
}

/** The one worker, and what it was sent of what results are worked out from. */
interface Bench {
  remote: Remote<ResultsWorker>;
  /** never answers; fails when the worker itself does, as when its file cannot be loaded */
  broken: Promise<never>;
  sent: Map<Read, unknown>;
}

let bench: Bench | undefined;
let last = 0;

function ask(
  name: ResultName,
  inputs: Inputs,
  onProgress: (done: number, soFar?: unknown) => void,
): { value: Promise<unknown>; drop: () => void } {
  bench ??= openBench();
  const { remote, broken, sent } = bench;
  const id = ++last;
  const changed: Changed = {};
  for (const read of restsOn(name)) {
    const value = readOf(inputs, read);
    if (sent.has(read) ? sent.get(read) === value : value === undefined) continue;
    sent.set(read, value);
    changed[read] = value;
  }
  const progress = proxy(onProgress);
  return {
    value: Promise.race([remote.ask(id, name, changed, progress), broken]),
    drop: () => {
      if (bench?.remote === remote) void remote.drop(id);
    },
  };
}

function openBench(): Bench {
  const worker = new Worker(new URL("./resultsWorker.ts", import.meta.url), { type: "module" });
  const remote = wrap<ResultsWorker>(worker);
  const broken = new Promise<never>((_, reject) => {
    const fail = (event: Event) => {
      reject(new Error((event as ErrorEvent).message || "The computation could not be loaded."));
      // What broke once is not asked again.
      bench = undefined;
      remote[releaseProxy]();
      worker.terminate();
    };
    worker.addEventListener("error", fail);
    worker.addEventListener("messageerror", fail);
  });
  // Someone may no longer be listening when it breaks.
  broken.catch(() => undefined);
  return { remote, broken, sent: new Map() };
}
