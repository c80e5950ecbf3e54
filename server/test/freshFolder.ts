import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";

let template: Promise<string> | undefined;

/** A data folder of its own with an empty database in it, copied from one made once per process. */
export async function freshFolder(): Promise<string> {
  template ??= (async () => {
    const folder = await mkdtemp(join(tmpdir(), "gusher-template-"));
    const database = await PGlite.create(folder);
    await database.close();
    return folder;
  })();
  const folder = await mkdtemp(join(tmpdir(), "gusher-test-"));
  await cp(await template, folder, { recursive: true });
  return folder;
}

export const dropFolder = (folder: string) => rm(folder, { recursive: true, force: true });
