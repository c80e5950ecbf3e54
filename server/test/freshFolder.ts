import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { databaseOn } from "../database/database.ts";
import { databaseIn } from "../database/dataFolder.ts";
import { openEngine } from "../database/engine.ts";

let template: Promise<string> | undefined;

/** A data folder of its own with an empty database in it, copied from one made once per process. */
export async function freshFolder(): Promise<string> {
  template ??= (async () => {
    const folder = await mkdtemp(join(tmpdir(), "gusher-template-"));
    await databaseIn(folder, (empty) => openEngine(empty));
    return folder;
  })();
  const folder = await mkdtemp(join(tmpdir(), "gusher-test-"));
  await cp(await template, folder, { recursive: true });
  return folder;
}

/** The database of a data folder, its engine in this thread. */
export async function openHere(folder: string) {
  const place = await databaseIn(folder, (empty) => openEngine(empty));
  return databaseOn(await openEngine(place));
}

export const dropFolder = (folder: string) => rm(folder, { recursive: true, force: true });
