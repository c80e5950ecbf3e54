import fs from "node:fs";
import { resolve } from "node:path";
import type { Readable } from "node:stream";
import { parseArgs } from "node:util";
import { contentsIn } from "../attachments/contents.ts";
import { backupOfRunning, claimFolder, FolderTaken } from "../database/claim.ts";
import { damagedAdvice, isDamaged } from "../database/damaged.ts";
import { databaseOn, NoRoom } from "../database/database.ts";
import { create, databaseIn, FolderUnusable, findDatabase } from "../database/dataFolder.ts";
import { migrate } from "../database/migrate.ts";
import { makeFolder } from "../database/syncing.ts";
import { openThreadedEngine } from "../database/threadedEngine.ts";
import { writeBackup, writeStream } from "./dated.ts";
import { BackupRefused } from "./readBackup.ts";
import { restore, verify } from "./restore.ts";

// A backup holds everything, and is this user's alone as the data is.
process.umask(0o077);

/** Backing up and restoring as a program: `make FILE --data FOLDER`, `restore FILE --data FOLDER`. */
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { data: { type: "string" }, version: { type: "string", default: "0.0.0" } },
});
const [what, file] = positionals;
const program = new URL("./engine.mjs", import.meta.url);

try {
  if (!values.data || !file || (what !== "make" && what !== "restore")) {
    throw new BackupRefused("Name the backup's file and the data folder: FILE --data FOLDER");
  }
  const [folder, path] = [resolve(values.data), resolve(file)];
  await (what === "make" ? make(folder, path) : bringBack(path, folder));
} catch (error) {
  if (isDamaged(error)) {
    console.error(damagedAdvice(resolve(values.data ?? "")));
    process.exit(1);
  }
  const known = [BackupRefused, FolderUnusable, FolderTaken, NoRoom].some(
    (kind) => error instanceof kind,
  );
  console.error(known ? (error as Error).message : error);
  process.exit(1);
}

async function make(folder: string, path: string): Promise<void> {
  if (!fs.existsSync(folder) || findDatabase(folder) === undefined) {
    throw new BackupRefused(`There is no data in ${folder} to back up.`);
  }
  if (fs.existsSync(path)) throw new BackupRefused(`${path} is there already; name another file.`);
  const running: Readable | undefined = await backupOfRunning(folder);
  if (running) await writeStream(running, path);
  else {
    const claim = await claimFolder(folder);
    const place = await databaseIn(folder, never);
    const db = databaseOn(await openThreadedEngine(place, program));
    try {
      await migrate(db);
      await writeBackup(db, contentsIn(folder), values.version, path);
    } finally {
      await db.close();
      await claim.release();
    }
  }
  const { size } = fs.statSync(path);
  console.log(`Backed up to ${path} (${(size / 1e6).toFixed(1)} MB), and read back whole.`);
}

const never = () => {
  throw new Error("A folder with a database in it needs no new one.");
};

async function bringBack(path: string, folder: string): Promise<void> {
  makeFolder(folder);
  if (fs.readdirSync(folder).length > 0) {
    throw new BackupRefused(
      `${folder} is not empty. A backup is restored into a new folder; what you have stays as it is.`,
    );
  }
  const claim = await claimFolder(folder);
  try {
    await verify(path);
    let told = "";
    await create(folder, async (empty) => {
      const engine = await openThreadedEngine(empty, program);
      try {
        const restored = await restore(path, databaseOn(engine), contentsIn(folder));
        const { documents, revisions, attachments, samples, madeAt } = restored;
        told = `Restored into ${folder} as it was on ${madeAt}: ${documents} documents in ${revisions} revisions, ${attachments} pictures and pages, ${samples} samples of instruments.`;
      } catch (error) {
        await engine.close();
        for (const name of ["database.new", "attachments"]) {
          fs.rmSync(`${folder}/${name}`, { recursive: true, force: true });
        }
        throw error;
      }
      return engine;
    });
    console.log(told);
    console.log(`Open it with: npm start -- --data ${folder}`);
  } finally {
    await claim.release();
  }
}
