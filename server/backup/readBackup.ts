import { createHash } from "node:crypto";
import fs from "node:fs";
import { dirname, join } from "node:path";
import type { Readable } from "node:stream";
import { createGunzip } from "node:zlib";
import {
  FORMAT,
  type Head,
  headSchema,
  type Line,
  LONGEST_LINE,
  lineSchema,
  VERSION,
  type Written,
} from "./format.ts";
import { readPart } from "./parts.ts";

/** A file is no backup, or not all of one, in a sentence. */
export class BackupRefused extends Error {}

/**
 * The head of a backup, then its lines one by one, each checked; the reading ends well only where nothing is missing
 * or changed. Throws `BackupRefused`; so nothing that was read may be used before the last line came. What it shares
 * with others is read from beside it.
 */
export async function* readBackup(path: string): AsyncGenerator<Head | Line> {
  const file = fs.createReadStream(path);
  const unpacked = createGunzip();
  file.on("error", (error) => unpacked.destroy(error));
  file.pipe(unpacked);
  const hash = createHash("sha256");
  let count = 0;
  let ended = false;
  try {
    for await (const line of linesOf(path, unpacked)) {
      if (ended) throw new BackupRefused(`${path} goes on after its end: it was changed.`);
      if (count === 0) yield readHead(path, line);
      else {
        const read = readLine(path, line, count + 1);
        if ("end" in read) {
          if (read.end.lines !== count || read.end.sha256 !== hash.digest("hex")) {
            throw new BackupRefused(`${path} was changed or damaged: it does not add up.`);
          }
          ended = true;
          continue;
        }
        yield "part" in read ? withPart(path, read) : read;
      }
      hash.update(`${line}\n`);
      count++;
    }
  } catch (error) {
    throw told(path, error);
  } finally {
    file.destroy();
    unpacked.destroy();
  }
  if (!ended) throw new BackupRefused(`${path} is cut short: its end is missing.`);
}

async function* linesOf(path: string, stream: Readable): AsyncGenerator<string> {
  stream.setEncoding("utf8");
  // A picture is one line of millions of characters: its pieces are put together once.
  let pieces: string[] = [];
  let length = 0;
  for await (const chunk of stream as AsyncIterable<string>) {
    const [first = "", ...rest] = chunk.split("\n");
    pieces.push(first);
    length += first.length;
    for (const next of rest) {
      yield pieces.join("");
      pieces = [next];
      length = next.length;
    }
    // A small file may unpack to more than this machine has room for.
    if (length > LONGEST_LINE) {
      throw new BackupRefused(`${path} has a line longer than any of ours: it is no backup.`);
    }
  }
  const last = pieces.join("");
  if (last !== "") yield last;
}

function readHead(path: string, line: string): Head {
  const head = headSchema.safeParse(parsed(line));
  if (!head.success) throw new BackupRefused(`${path} is not a backup of this application.`);
  if (head.data.version > VERSION) {
    throw new BackupRefused(
      `${path} was made by a newer version (${head.data.application}) of the application. Restore it with that one.`,
    );
  }
  return head.data;
}

function readLine(path: string, line: string, number: number): Written {
  const read = lineSchema.safeParse(parsed(line));
  if (read.success) return read.data;
  throw new BackupRefused(`Line ${number} of ${path} is not what it should be: it was changed.`);
}

/** A line with what it names in the folder of parts beside the file. */
function withPart(path: string, line: Extract<Written, { part: string }>): Line {
  const folder = dirname(path);
  const kind = "attachment" in line ? "picture" : "text";
  const bytes = readPart(folder, line.part, kind);
  if (!bytes) {
    throw new BackupRefused(
      `${path} needs ${join(folder, "parts", line.part)}, which is not there or was damaged. Copy the folder “parts” with it, or download the backup in the application: that is one file.`,
    );
  }
  if ("attachment" in line) {
    return { attachment: line.attachment, bytes: bytes.toString("base64") };
  }
  const whole = lineSchema.safeParse({ samples: line.samples, rows: parsed(bytes.toString()) });
  if (whole.success && "rows" in whole.data) return whole.data;
  throw new BackupRefused(`${path} was damaged: samples of ${line.samples}.`);
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}

function told(path: string, error: unknown): unknown {
  const { code = "" } = error as NodeJS.ErrnoException;
  if (code === "ENOENT") return new BackupRefused(`There is no file ${path}.`);
  if (code === "EISDIR") return new BackupRefused(`${path} is a folder. Name the backup in it.`);
  if (code === "EACCES") return new BackupRefused(`${path} may not be read by this user.`);
  if (code === "Z_DATA_ERROR") {
    return new BackupRefused(`${path} is no ${FORMAT} file, or it was damaged.`);
  }
  if (code === "Z_BUF_ERROR") {
    return new BackupRefused(`${path} is cut short: its end is missing.`);
  }
  return error;
}
