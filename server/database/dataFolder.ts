import fs from "node:fs";
import { join } from "node:path";
import type { Engine } from "./database.ts";
import { requireRoomToBegin } from "./room.ts";
import { syncPath, syncTree, writeWhole } from "./syncing.ts";

/** A data folder that is not used as it is, in a sentence with what to do. Nothing in it was changed. */
export class FolderUnusable extends Error {}

/** Says that a folder is one of ours, and that all its files were once put on the disk. */
const MARK = "upright-gusher.json";
const MARKED = { format: "upright-gusher/data-folder", version: 1 };
const DATABASE = "database";
/** A database that was being made when the server stopped: nothing was ever saved in it. */
const UNFINISHED = "database.new";
/** What may stand in a folder before there is a database in it. */
const OWN = [
  ...[MARK, UNFINISHED, "spare-room", "spare-room.new", "server.log", "server.log.old"],
  ...["backups", "attachments", "authority", "pass-phrase.json", "devices.json"],
];

/** Without one of these a database cannot be read, and a new one would be laid over what is left of it. */
const VITAL = [
  "PG_VERSION",
  "global/pg_control",
  "global/pg_filenode.map",
  "pg_wal",
  "base",
  "pg_xact",
];

/**
 * Where the database of a data folder is, made first where there is none. A folder that is not empty and not ours,
 * or not whole, is never written to: throws `FolderUnusable`, or `NoRoom` where a new one would not fit.
 * @param make makes an empty database in a folder, ready to be filled
 */
export async function databaseIn(
  folder: string,
  make: (folder: string) => Promise<Engine>,
): Promise<string> {
  const found = findDatabase(folder);
  if (found === undefined) {
    return beside(folder, async (place) => {
      if (!unpack(place)) await (await make(place)).close();
    });
  }
  if (!fs.existsSync(join(folder, MARK))) {
    // Earlier versions put nothing on the disk by themselves.
    syncTree(found);
    mark(folder);
  }
  return found;
}

/** Makes a database and what `fill` puts in it. */
export function create(folder: string, fill: (folder: string) => Promise<Engine>): Promise<string> {
  return beside(folder, async (place) => {
    unpack(place);
    await (await fill(place)).close();
  });
}

/** An empty database as the build laid it out; where nothing was built the engine lays out its own, which takes longer. */
const PREPARED = join(import.meta.dirname, "empty-database");

function unpack(place: string): boolean {
  if (!fs.existsSync(PREPARED)) return false;
  fs.cpSync(PREPARED, place, { recursive: true });
  closeToOthers(place);
  return true;
}

/** Makes a database beside and renames it in: a cut at any moment leaves all of it or nothing. */
async function beside(folder: string, make: (place: string) => Promise<void>): Promise<string> {
  requireRoomToBegin(folder);
  const unfinished = join(folder, UNFINISHED);
  fs.rmSync(unfinished, { recursive: true, force: true });
  await make(unfinished);
  syncTree(unfinished);
  const place = join(folder, DATABASE);
  fs.renameSync(unfinished, place);
  syncPath(folder);
  mark(folder);
  return place;
}

/**
 * The database of a folder; nothing where one may be made. Looks only.
 * Throws `FolderUnusable` where it may not be written to.
 */
export function findDatabase(folder: string): string | undefined {
  const names = fs.readdirSync(folder);
  const own = join(folder, DATABASE);
  if (names.includes(DATABASE)) return whole(own, folder);
  // The first versions kept the database in the folder itself; `postmaster.opts` is a PostgreSQL server's.
  const bare = VITAL.filter((name) => fs.existsSync(join(folder, name)));
  if (bare.length > 1 && !names.includes("postmaster.opts")) return whole(folder, folder);
  const foreign = names.filter((name) => !OWN.includes(name) && !name.startsWith("claim-"));
  if (foreign.length > 0) {
    throw new FolderUnusable(
      `${folder} holds something else (${foreign.slice(0, 3).join(", ")}${foreign.length > 3 ? " …" : ""}), so nothing was written there. Choose an empty folder, or one this application made: --data FOLDER`,
    );
  }
  if (names.includes(MARK)) {
    throw new FolderUnusable(
      `The database that was in ${folder} is gone, so nothing was written there. Put the folder “${DATABASE}” back, or restore a backup into a new folder: npm run restore -- FILE --data FOLDER`,
    );
  }
  return undefined;
}

function whole(database: string, folder: string): string {
  const missing = VITAL.filter((name) => !fs.existsSync(join(database, name)));
  if (missing.length === 0) return database;
  throw new FolderUnusable(
    `The data in ${folder} is not whole: ${missing.join(", ")} ${missing.length === 1 ? "is" : "are"} missing from ${database}. Nothing was written there. Put it back from a copy of the folder, or restore a backup into a new folder: npm run restore -- FILE --data FOLDER`,
  );
}

/**
 * Takes from everyone else what an earlier version, or whoever copied the folder, let them read or write: folders 0700,
 * files 0600. What is not this user's own stays as it is.
 */
export function closeToOthers(folder: string): void {
  const close = (path: string, mode: number) => {
    if ((fs.lstatSync(path).mode & 0o777) !== mode) fs.chmodSync(path, mode);
  };
  const within = (place: string) => {
    close(place, 0o700);
    for (const entry of fs.readdirSync(place, { withFileTypes: true })) {
      const path = join(place, entry.name);
      if (entry.isDirectory()) within(path);
      else if (entry.isFile()) close(path, 0o600);
    }
  };
  try {
    within(folder);
  } catch (error) {
    // Not this user's own, or a disk that knows no rights: it was used as it is, and still is.
    const { code = "" } = error as { code?: string };
    if (!["EPERM", "ENOTSUP", "EROFS", "ENOENT"].includes(code)) throw error;
  }
}

function mark(folder: string): void {
  writeWhole(join(folder, MARK), `${JSON.stringify(MARKED)}\n`);
}
