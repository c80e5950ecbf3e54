import { createHash } from "node:crypto";
import fs from "node:fs";
import { join } from "node:path";
import { gunzipSync, gzipSync } from "node:zlib";
import type { Contents } from "../attachments/contents.ts";
import { makeFolder, syncPath, writeWhole } from "../database/syncing.ts";

/**
 * What several backups of a folder share: pictures and runs of samples, each in a file named by the SHA-256 of what
 * is in it. A list beside each backup says what it needs, so that what none needs any more can go.
 */
export interface Parts {
  /** Sees to it that a picture is there. */
  picture(hash: string, contents: Contents): void;
  /** Sees to it that a text is there; its hash. */
  text(text: string): string;
  /** Keeps the list of what was seen to since the beginning, for the backup of a name. */
  list(name: string): void;
}

const PLACE = "parts";
const LIST = /\.parts$/;
const listOf = (name: string) => `${name}.parts`;
const sha256 = (bytes: Uint8Array | string) => createHash("sha256").update(bytes).digest("hex");

/** @param folder that of the backups */
export function partsIn(folder: string): Parts {
  const place = join(folder, PLACE);
  const seen = new Set<string>();
  const there = (name: string) => fs.existsSync(join(place, name));
  makeFolder(place);
  return {
    picture: (hash, contents) => {
      seen.add(hash);
      if (there(hash)) return;
      const beside = join(place, `${hash}.new`);
      fs.rmSync(beside, { force: true });
      try {
        // The same file under a second name takes no room; bytes under a hash are never written again.
        fs.linkSync(contents.path(hash), beside);
      } catch {
        fs.copyFileSync(contents.path(hash), beside);
      }
      syncPath(beside);
      fs.renameSync(beside, join(place, hash));
    },
    text: (text) => {
      const hash = sha256(text);
      seen.add(`${hash}.gz`);
      if (!there(`${hash}.gz`)) writeWhole(join(place, `${hash}.gz`), gzipSync(text));
      return hash;
    },
    list: (name) => {
      syncPath(place);
      writeWhole(join(folder, listOf(name)), Buffer.from(`${[...seen].join("\n")}\n`));
    },
  };
}

/** What is in a part; nothing where it is not there or was damaged. */
export function readPart(
  folder: string,
  hash: string,
  kind: "picture" | "text",
): Buffer | undefined {
  const path = join(folder, PLACE, kind === "picture" ? hash : `${hash}.gz`);
  try {
    const file = fs.readFileSync(path);
    const bytes = kind === "picture" ? file : gunzipSync(file, { maxOutputLength: LARGEST_TEXT });
    return sha256(bytes) === hash ? bytes : undefined;
  } catch {
    return undefined;
  }
}

/** Bytes of the longest text in a part: a run of samples takes a tenth of it. */
const LARGEST_TEXT = 10_000_000;

/**
 * Takes away the lists of backups that are gone, and parts that no list has. Where a backup that needs parts has no
 * list, nothing goes.
 * @param names of the backups that are there
 * @param needs whether one needs parts
 */
export function collectParts(
  folder: string,
  names: readonly string[],
  needs: (name: string) => boolean,
): void {
  const place = join(folder, PLACE);
  if (!fs.existsSync(place)) return;
  const used = new Set<string>();
  for (const name of names) {
    const list = join(folder, listOf(name));
    if (fs.existsSync(list)) {
      for (const part of fs.readFileSync(list, "utf8").split("\n")) used.add(part);
    } else if (needs(name)) return;
  }
  for (const file of fs.readdirSync(folder)) {
    if (LIST.test(file) && !names.includes(file.replace(LIST, ""))) fs.rmSync(join(folder, file));
  }
  for (const part of fs.readdirSync(place)) {
    if (!used.has(part)) fs.rmSync(join(place, part));
  }
}
