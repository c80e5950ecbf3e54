import type { Log } from "../log.ts";
import type { Database } from "./database.ts";
import { syncTree } from "./syncing.ts";

/** ms between two looks at what is due */
const OFTEN = 10 * 60 * 1000;

/**
 * Does now and then what a PostgreSQL server's helpers do by themselves: ends the log that has grown, so that it
 * stays short and is soon gone through after a crash. Returns a function that stops.
 */
export function startUpkeep(db: Database, folder: string, log: Log): () => void {
  const timer = setInterval(() => {
    checkpoint(db, folder).catch((error: unknown) => log.write(error));
  }, OFTEN);
  timer.unref();
  return () => clearInterval(timer);
}

/** Puts every table on the disk, after which the log before it is not needed any more. */
export async function checkpoint(db: Database, folder: string): Promise<void> {
  // The names of new tables have to be there before the log that could make them again may go.
  syncTree(folder, "folders");
  await db.execute("CHECKPOINT");
}
