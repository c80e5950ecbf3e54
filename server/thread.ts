import { Worker } from "node:worker_threads";

/** What a thread is asked, and what it answers. */
export interface Asked<Question> {
  id: number;
  asked: Question;
}
export type Answered<Answer> = { id: number; answer: Answer } | { id: number; failed: string };

export interface ThreadLimits {
  /** ms an answer may take; a thread that takes longer is ended */
  longest: number;
  /** ms after the last answer that the thread is kept */
  kept: number;
  /** MB of memory it may fill */
  memory: number;
}

/**
 * Asks a program that runs in a thread of its own, one question after the other, so that nobody else waits for it. The
 * thread is there while there is something to ask. What is asked resolves to nothing where it took too long, and rejects
 * where it could not be answered.
 * @param program the built thread
 */
export function inThread<Question, Answer>(
  program: URL,
  { longest, kept, memory }: ThreadLimits,
): (asked: Question) => Promise<Answer | undefined> {
  let thread: Worker | undefined;
  let leaving: NodeJS.Timeout | undefined;
  let count = 0;
  let last: Promise<unknown> = Promise.resolve();
  const leave = () => {
    void thread?.terminate();
    thread = undefined;
  };
  function ask(asked: Question): Promise<Answer | undefined> {
    clearTimeout(leaving);
    const id = ++count;
    thread ??= new Worker(program, { resourceLimits: { maxOldGenerationSizeMb: memory } });
    const own = thread;
    own.ref();
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => end(leave, () => resolve(undefined)), longest);
      const hear = (said: Answered<Answer>) => {
        if (said.id !== id) return;
        end(
          () => {
            own.unref();
            leaving = setTimeout(leave, kept).unref();
          },
          () => ("answer" in said ? resolve(said.answer) : reject(new Error(said.failed))),
        );
      };
      const broke = (error: unknown) => end(leave, () => reject(error));
      function end(after: () => void, settle: () => void): void {
        clearTimeout(timer);
        own.off("message", hear).off("error", broke);
        after();
        settle();
      }
      own.on("message", hear).on("error", broke);
      own.postMessage({ id, asked } satisfies Asked<Question>);
    });
  }
  return (asked) => {
    const own = last.then(() => ask(asked));
    last = own.catch(() => undefined);
    return own;
  };
}
