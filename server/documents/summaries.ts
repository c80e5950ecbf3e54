import type { JobLine } from "#contract/api/api.ts";
import { readStored } from "#contract/collections.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { outlineJob } from "#model/job/outline.ts";
import type { Database } from "../database/database.ts";
import { inThread } from "../thread.ts";

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

/** What a job may take, and how long its thread is kept. */
const LIMITS = { longest: 20_000, kept: 60_000, memory: 512 };

/** @param program the built thread */
export const summariseInThread = (program: URL, longest = LIMITS.longest): Summarise =>
  inThread<unknown, JobLine>(program, { ...LIMITS, longest });
