import type { Steps } from "#core/numeric/steps.ts";
import type { ResultGraph } from "#model/results/graph.ts";
import { type Inputs, isLast, type Read, type ResultName } from "#model/results/results.ts";

/** Hears how much of a result is done, 0 to 1, and what is known of it so far. */
export type Progress = (done: number, soFar?: unknown) => void;

/** What changed of what results are worked out from; undefined where it is gone. */
export type Changed = Partial<Record<Read, unknown>>;

interface Task {
  id: number;
  steps: Steps<unknown, unknown>;
  progress: Progress;
  end: (value: unknown) => void;
  fail: (error: unknown) => void;
  /** when it last said how far it is */
  said: number;
  last: boolean;
}

/** ms one task works before another, or whoever asks or drops, has its turn */
const TURN = 12;
/** ms between two words of how far it is */
const SAID = 100;

/**
 * Works results out beside the page, several side by side in turns. It keeps what they are worked out from: only what
 * changed is sent.
 */
export class Desk {
  #graph: ResultGraph;
  /** fields of the job and what stands beside it, by their names */
  #sent: Changed = {};
  #tasks: Task[] = [];
  #working = false;

  constructor(graph: ResultGraph) {
    this.#graph = graph;
  }

  /** The result by its name, of what was sent before with these changes in it; nothing once it is dropped. */
  ask(id: number, name: ResultName, changed: Changed, progress: Progress): Promise<unknown> {
    this.#sent = { ...this.#sent, ...changed };
    const inputs = { ...this.#sent, job: this.#sent } as unknown as Inputs;
    const known = this.#graph.known(name, inputs);
    if (known) return Promise.resolve(known.value);
    return new Promise((end, fail) => {
      const steps = this.#graph.inSteps(name, inputs);
      this.#tasks.push({ id, steps, progress, end, fail, said: 0, last: isLast(name) });
      void this.#work();
    });
  }

  /** Nobody waits for it any more. */
  drop(id: number): void {
    for (const task of this.#tasks) if (task.id === id) task.end(undefined);
    this.#tasks = this.#tasks.filter((task) => task.id !== id);
  }

  async #work(): Promise<void> {
    if (this.#working) return;
    this.#working = true;
    for (let turn = 0; this.#tasks.length > 0; turn++) {
      await breath();
      const first = this.#tasks.filter(({ last }) => !last);
      const all = first.length > 0 ? first : this.#tasks;
      const task = all[turn % all.length];
      if (task && worked(task)) this.drop(task.id);
    }
    this.#working = false;
  }
}

/** Takes a task a turn further; whether it came to its end. */
function worked(task: Task): boolean {
  const { steps, progress, end, fail } = task;
  const until = performance.now() + TURN;
  try {
    for (;;) {
      const step = steps.next();
      if (step.done) {
        end(step.value);
        return true;
      }
      const { done, soFar } = step.value;
      const now = performance.now();
      if (soFar !== undefined || now - task.said > SAID) {
        task.said = now;
        progress(done, soFar);
      }
      if (now >= until) return false;
    }
  } catch (error) {
    fail(error);
    return true;
  }
}

/** Lets everything else have its turn. */
function breath(): Promise<void> {
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      done();
    };
    port2.postMessage(undefined);
  });
}
