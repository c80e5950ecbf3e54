import fs from "node:fs";
import { dirname, join } from "node:path";

// What is written is on the disk only after it was synced, and a name only after its folder was.

/** Puts one file or folder on the disk. Windows cannot sync folders: it keeps their names by itself. */
export function syncPath(path: string): void {
  const isFolder = fs.statSync(path).isDirectory();
  if (isFolder && process.platform === "win32") return;
  const file = fs.openSync(path, isFolder ? "r" : "r+");
  try {
    fs.fsyncSync(file);
  } finally {
    fs.closeSync(file);
  }
}

/** Puts a folder and all in it on the disk; `only` "folders" leaves the files' contents out. */
export function syncTree(folder: string, only?: "folders"): void {
  for (const entry of fs.readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) syncTree(path, only);
    else if (entry.isFile() && only !== "folders") syncPath(path);
  }
  syncPath(folder);
}

/** Makes a folder and what is missing above it, each name on the disk. */
export function makeFolder(folder: string): void {
  const first = fs.mkdirSync(folder, { recursive: true });
  if (first === undefined) return;
  for (let made = folder; made.length >= first.length; made = dirname(made))
    syncPath(dirname(made));
}

/** Puts a file in place whole or not at all, and on the disk. */
export function writeWhole(path: string, content: string | Uint8Array, mode = 0o644): void {
  const beside = `${path}.new`;
  const file = fs.openSync(beside, "w", mode);
  try {
    fs.writeFileSync(file, content);
    fs.fsyncSync(file);
  } finally {
    fs.closeSync(file);
  }
  fs.renameSync(beside, path);
  syncPath(dirname(path));
}
