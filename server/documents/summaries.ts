import { Worker } from "node:worker_threads";
import type { JobLine } from "#contract/api/api.ts";
import { readStored } from "#contract/collections.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { outlineJob } from "#model/summaries.ts";
import type { Database } from "../database/database.ts";

/** What a list shows of a job's document; nothing where that took too long. */
export type Summarise = (document: unknown) => Promise<JobLine | undefined>;

/** Works out what lists show of the jobs that were saved, one after the other, the last saved first. */
export interface Summaries {
  /** told that jobs were saved */
  look(): void;
  /** resolves once nothing is left to work out */
  settled(): Promise<void>;
}

/** @param complain told of what keeps it from going on; the next `look` tries again */
export function summaries(
  db: Database,
  summarise: Summarise,
  complain: (error: unknown) => void = () => undefined,
): Summaries {
  let running: Promise<void> | undefined;
  let again = false;

  async function one(): Promise<boolean> {
    const [job] = await db.query<{ id: string; revision: number; document: unknown }>(
      `SELECT id, revision, document FROM jobs WHERE summary_of IS DISTINCT FROM revision
        ORDER BY updated_at DESC LIMIT 1`,
    );
    if (!job) return false;
    const { id, revision, document } = job;
    const summary = await summarise(document).catch((error: unknown) => {
      complain(error);
      return undefined;
    });
    const line: JobLine = summary ?? { ...outlineOf(document), missing: "too-much", stops: 0 };
    // Where it was saved again meanwhile, its turn comes again.
    await db.transaction((tx) =>
      tx.query("UPDATE jobs SET summary = $3, summary_of = $2 WHERE id = $1 AND revision = $2", [
        ...[id, revision],
        line,
      ]),
    );
    return true;
  }
  async function run(): Promise<void> {
    try {
      do {
        again = false;
        while (await one());
      } while (again);
    } catch (error) {
      complain(error);
    } finally {
      running = undefined;
    }
  }
  return {
    look: () => {
      again = true;
      running ??= run();
    },
    settled: async () => {
      await running;
    },
  };
}

/** What a document says of itself, however little of it can be read. */
function outlineOf(document: unknown) {
  try {
    return outlineJob(readStored("jobs", document));
  } catch {
    const { name } = document as Partial<JobDocument>;
    return { name: name ?? "", place: "", customer: "", pumps: [] };
  }
}

/** What the thread is asked, and what it answers. */
export interface Asked {
  id: number;
  document: unknown;
}
export type Answered = { id: number; summary: JobLine } | { id: number; failed: string };

/** ms a job may take, and ms after the last one that the thread is kept */
const LONGEST = 20_000;
const KEPT = 60_000;

/**
 * Works in a thread of its own, so that nobody waits for a heavy job; it is there while there is something to do.
 * @param program the built thread
 */
export function summariseInThread(program: URL, longest = LONGEST): Summarise {
  let thread: Worker | undefined;
  let leaving: NodeJS.Timeout | undefined;
  let count = 0;
  const leave = () => {
    void thread?.terminate();
    thread = undefined;
  };
  return (document) => {
    clearTimeout(leaving);
    const id = ++count;
    thread ??= new Worker(program, { resourceLimits: { maxOldGenerationSizeMb: 512 } });
    const own = thread;
    own.ref();
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => end(leave, () => resolve(undefined)), longest);
      const hear = (answer: Answered) => {
        if (answer.id !== id) return;
        end(
          () => {
            own.unref();
            leaving = setTimeout(leave, KEPT).unref();
          },
          () => ("summary" in answer ? resolve(answer.summary) : reject(new Error(answer.failed))),
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
      own.postMessage({ id, document } satisfies Asked);
    });
  };
}
