import fs from "node:fs";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { type Contents, contentsIn } from "../attachments/contents.ts";
import type { Queryable } from "../database/database.ts";
import { requireRoom } from "../database/room.ts";
import { makeFolder, syncPath } from "../database/syncing.ts";
import { type Head, VERSION } from "./format.ts";
import { collectParts, partsIn } from "./parts.ts";
import { readBackup } from "./readBackup.ts";
import { backupStream, packed, stateOf } from "./writeBackup.ts";

/** Dated backups that are kept: two weeks of days on which something changed. */
const KEPT = 14;
const NAME = /^backup-\d{4}-\d\d-\d\d\.jsonl\.gz$/;

export interface Dated {
  name: string;
  /** bytes */
  size: number;
  madeAt: string;
}

/** The dated backups of a data folder, newest first. */
export function datedBackups(folder: string): Dated[] {
  const place = join(folder, "backups");
  if (!fs.existsSync(place)) return [];
  return fs
    .readdirSync(place)
    .filter((name) => NAME.test(name))
    .toSorted()
    .toReversed()
    .map((name) => {
      const { size, mtime } = fs.statSync(join(place, name));
      return { name, size, madeAt: mtime.toISOString() };
    });
}

/** The file of a dated backup, if there is one of that name. */
export function datedPath(folder: string, name: string): string | undefined {
  const path = join(folder, "backups", name);
  return NAME.test(name) && fs.existsSync(path) ? path : undefined;
}

/** Makes today's backup where there is none yet and something changed since the newest, and lets the oldest go. */
export async function keepDated(
  db: Queryable,
  folder: string,
  application: string,
  now = new Date(),
): Promise<boolean> {
  const name = `backup-${now.toISOString().slice(0, 10)}.jsonl.gz`;
  const place = join(folder, "backups");
  const [newest] = datedBackups(folder);
  if (newest && newest.name >= name) return false;
  const { state } = await stateOf(db);
  if (newest && (await headOf(join(place, newest.name)))?.state === state) return false;
  requireRoom(folder);
  makeFolder(place);
  const parts = partsIn(place);
  // Its list is there before it is: nothing that it needs may go.
  await writeStream(
    backupStream(db, contentsIn(folder), application, parts),
    join(place, name),
    () => parts.list(name),
  );
  for (const { name: old } of datedBackups(folder).slice(KEPT)) fs.rmSync(join(place, old));
  const kept = datedBackups(folder).map((own) => own.name);
  const whole = new Set<string>();
  for (const own of kept) {
    if ((await headOf(join(place, own)))?.version === 1) whole.add(own);
  }
  collectParts(place, kept, (own) => !whole.has(own));
  return true;
}

/** A dated backup as one file, whatever it shares with others in it. */
export function wholeBackup(path: string): Readable {
  return packed(
    (async function* () {
      for await (const line of readBackup(path)) {
        yield JSON.stringify("format" in line ? { ...line, version: VERSION } : line);
      }
    })(),
  );
}

/** Writes a backup to a file, whole or not at all, and reads it back before it counts. */
export async function writeBackup(
  db: Queryable,
  contents: Contents,
  application: string,
  path: string,
): Promise<void> {
  await writeStream(backupStream(db, contents, application), path);
}

/**
 * Writes the stream of a backup to a file; see `writeBackup`.
 * @param before what has to be there before it counts
 */
export async function writeStream(
  stream: NodeJS.ReadableStream,
  path: string,
  before: () => void = () => undefined,
): Promise<void> {
  const beside = `${path}.new`;
  try {
    await pipeline(stream, fs.createWriteStream(beside));
    for await (const _ of readBackup(beside));
    syncPath(beside);
    before();
    fs.renameSync(beside, path);
    syncPath(join(path, ".."));
  } catch (error) {
    fs.rmSync(beside, { force: true });
    throw error;
  }
}

/** The head of a backup; nothing where it cannot be read. */
async function headOf(path: string): Promise<Head | undefined> {
  try {
    for await (const line of readBackup(path)) return "format" in line ? line : undefined;
  } catch {
    return undefined;
  }
  return undefined;
}
