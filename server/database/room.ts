import fs from "node:fs";
import { join } from "node:path";
import { NoRoom } from "./database.ts";
import { writeWhole } from "./syncing.ts";

const MB = 1024 * 1024;
/** A write may begin a segment of the log (16 MB) and lengthen tables; two segments and as much again. */
const NEEDED_TO_WRITE = 48 * MB;
/** A new database takes about 60 MB, and must be able to write afterwards. */
const NEEDED_TO_BEGIN = 160 * MB;
/** Kept back for the engine: after it broke off it must write before it can read again. */
const SPARE = 32 * MB;
const SPARE_FILE = "spare-room";

/** Bytes that may still be written on the disk of a folder. */
export function roomIn(folder: string): number {
  const { bavail, bsize } = fs.statfsSync(folder);
  return bavail * bsize;
}

const inMb = (bytes: number) => `${Math.floor(bytes / MB)} MB`;

/** Throws `NoRoom` where a write might fill the disk. What is kept back is made again once there is room for it. */
export function requireRoom(folder: string): void {
  const room = roomIn(folder);
  const spare = fs.existsSync(join(folder, SPARE_FILE));
  const needed = NEEDED_TO_WRITE + (spare ? 0 : SPARE);
  if (room < needed) {
    throw new NoRoom(
      `The disk of the data folder is full: ${inMb(room)} are free, and ${inMb(needed)} are needed to write safely. Nothing is lost; free some room on the computer that runs the server.`,
    );
  }
  if (!spare) keepSpare(folder);
}

/** Throws `NoRoom` where a new data folder would not fit. */
export function requireRoomToBegin(folder: string): void {
  const room = roomIn(folder);
  if (room < NEEDED_TO_BEGIN) {
    throw new NoRoom(
      `There is no room for a data folder in ${folder}: ${inMb(room)} are free, and ${inMb(NEEDED_TO_BEGIN)} are needed. Free some, or choose a folder on another disk: --data FOLDER`,
    );
  }
}

function keepSpare(folder: string): void {
  try {
    writeWhole(join(folder, SPARE_FILE), new Uint8Array(SPARE));
  } catch (error) {
    fs.rmSync(join(folder, `${SPARE_FILE}.new`), { force: true });
    if (!isFull(error)) throw error;
    throw new NoRoom(
      "The disk of the data folder takes no more, or this user's share of it is used up. Nothing is lost; free some room on the computer that runs the server.",
      { cause: error },
    );
  }
}

/** Whether an error says that a disk, or a user's share of it, is used up. */
export function isFull(error: unknown): boolean {
  return ["ENOSPC", "EDQUOT"].includes((error as NodeJS.ErrnoException).code ?? "");
}

/** Gives up what was kept back. True when there was something. */
export function releaseSpare(folder: string): boolean {
  const path = join(folder, SPARE_FILE);
  if (!fs.existsSync(path)) return false;
  fs.rmSync(path);
  return true;
}
