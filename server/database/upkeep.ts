import { contentsIn } from "../attachments/contents.ts";
import { keepDated } from "../backup/dated.ts";
import { forgetImports } from "../documents/imports.ts";
import { collectOrphans, thinRevisions } from "../documents/thinning.ts";
import type { Log } from "../log.ts";
import { daysOfSamples, thinSamples } from "../streams/thinning.ts";
import { type Database, NoRoom } from "./database.ts";
import { syncTree } from "./syncing.ts";

/** ms between two looks at what is due */
const OFTEN = 10 * 60 * 1000;
/** ms after a start: whoever waits for the first page comes first */
const FIRST = 20 * 1000;

/**
 * Does now and then what a PostgreSQL server's helpers do by themselves, so that the log stays short and is soon gone
 * through after a crash, and keeps the dated backups. Returns a function that stops.
 */
export function startUpkeep(
  db: Database,
  folder: string,
  application: string,
  log: Log,
): () => void {
  const look = async () => {
    try {
      await checkpoint(db, folder);
      // Places of changed rows are used again once they were swept. What goes is in the backup that was made before.
      if (await keepDated(db, folder, application)) {
        await thinRevisions(db);
        await collectOrphans(db, contentsIn(folder));
        const days = await daysOfSamples(db);
        if (days !== undefined) await thinSamples(db, days);
        await sweep(db);
      }
      await forgetImports(db);
    } catch (error) {
      if (!(error instanceof NoRoom)) log.write(error);
    }
  };
  const first = setTimeout(look, FIRST).unref();
  const timer = setInterval(look, OFTEN).unref();
  return () => {
    clearTimeout(first);
    clearInterval(timer);
  };
}

/** Table by table: others have their turn in between. */
async function sweep(db: Database): Promise<void> {
  const tables = await db.query<{ name: string }>(
    "SELECT quote_ident(tablename) AS name FROM pg_tables WHERE schemaname = 'public'",
  );
  for (const { name } of tables) await db.upkeep(`VACUUM ANALYZE ${name}`);
}

/** Puts every table on the disk, after which the log before it is not needed any more. */
export async function checkpoint(db: Database, folder: string): Promise<void> {
  // The names of new tables have to be there before the log that could make them again may go.
  syncTree(folder, "folders");
  await db.upkeep("CHECKPOINT");
}
