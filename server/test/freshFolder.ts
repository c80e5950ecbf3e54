import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { cp, mkdir, mkdtemp, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { readStored } from "#contract/collections.ts";
import { summariseJob } from "#model/results/summaries.ts";
import { type Database, databaseOn } from "../database/database.ts";
import { databaseIn } from "../database/dataFolder.ts";
import { openEngine } from "../database/engine.ts";
import { summaries } from "../documents/summaries.ts";

/** Where a folder with an empty database is kept from run to run, for as long as what makes it stays as it is. */
const TEMPLATE = join("node_modules", ".cache", `data-folder-${makersHash()}`);

function makersHash(): string {
  const hash = createHash("sha256");
  for (const file of ["engine.ts", "dataFolder.ts", "syncing.ts"]) {
    hash.update(readFileSync(join("server", "database", file)));
  }
  hash.update(readFileSync(join("node_modules", "@electric-sql", "pglite", "package.json")));
  return hash.digest("hex").slice(0, 16);
}

/** A data folder of its own with an empty database in it. */
export async function freshFolder(): Promise<string> {
  if (!existsSync(TEMPLATE)) {
    const made = `${TEMPLATE}-${process.pid}`;
    await mkdir(made, { recursive: true });
    await databaseIn(made, (empty) => openEngine(empty));
    // Another test may have been quicker.
    await rename(made, TEMPLATE).catch(() => dropFolder(made));
  }
  const folder = await mkdtemp(join(tmpdir(), "gusher-test-"));
  await cp(TEMPLATE, folder, { recursive: true });
  return folder;
}

/** The database of a data folder, its engine in this thread. */
export async function openHere(folder: string) {
  const place = await databaseIn(folder, (empty) => openEngine(empty));
  return databaseOn(await openEngine(place));
}

/** Works out what lists show of the jobs that were saved. */
export async function summarised(db: Database): Promise<void> {
  const failed: unknown[] = [];
  const { look, settled } = summaries(
    db,
    async (document) => summariseJob(readStored("jobs", document)),
    (error) => failed.push(error),
  );
  look();
  await settled();
  if (failed.length > 0) throw failed[0];
}

export const dropFolder = (folder: string) => rm(folder, { recursive: true, force: true });
