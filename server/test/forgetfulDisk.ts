import fs from "node:fs";
import { syncBuiltinESMExports } from "node:module";
import { basename, dirname, join, relative, resolve } from "node:path";

/**
 * A disk that forgets what was not synced, to see what a power cut would leave. While it watches a folder, every
 * change made through Node.js's synchronous file functions is also kept as a disk would have it: contents are there
 * for certain once their file was synced, and names once their folder was. What was not synced may be there or not,
 * block by block and name by name, as chance has it.
 */
export interface ForgetfulDisk {
  /** told just before each change or sync */
  onOperation: () => void;
  /** paths synced since the last call, from the watched folder */
  takeSyncs(): string[];
  /** writes what a cut at this moment would leave */
  leave(image: string, chance: () => number): void;
  stop(): void;
}

interface File {
  kind: "file";
  kept: Buffer;
  pending: ({ at: number; data: Buffer } | { size: number })[];
}
interface Folder {
  kind: "folder";
  kept: Map<string, Node>;
  now: Map<string, Node>;
  pending: { name: string; node: Node | undefined }[];
}
type Node = File | Folder;

/** bytes a disk writes at once */
const BLOCK = 4096;

export function watchDisk(root: string): ForgetfulDisk {
  const real = { ...fs };
  const top = readIn(resolve(root)) as Folder;
  const open = new Map<number, { node: Node; path: string; position: number }>();
  let synced: string[] = [];

  function readIn(path: string): Node {
    if (!real.statSync(path).isDirectory()) {
      return { kind: "file", kept: real.readFileSync(path), pending: [] };
    }
    const entries = new Map(
      real.readdirSync(path).map((name) => [name, readIn(join(path, name))] as const),
    );
    return { kind: "folder", kept: entries, now: new Map(entries), pending: [] };
  }
  /** The node at a path; nothing where the path lies elsewhere or names nothing. */
  function nodeAt(path: fs.PathLike): Node | undefined {
    const inside = relative(resolve(root), resolve(String(path)));
    if (inside.startsWith("..")) return undefined;
    let node: Node | undefined = top;
    for (const name of inside.split("/").filter(Boolean)) {
      node = node?.kind === "folder" ? node.now.get(name) : undefined;
    }
    return node;
  }
  function name(path: fs.PathLike, node: Node | undefined): void {
    const parent = nodeAt(dirname(resolve(String(path))));
    if (parent?.kind !== "folder") return;
    const own = basename(String(path));
    if (node) parent.now.set(own, node);
    else parent.now.delete(own);
    parent.pending.push({ name: own, node });
  }
  function written(node: Node | undefined, data: Uint8Array, at: number): void {
    if (node?.kind === "file") node.pending.push({ at, data: Buffer.from(data) });
  }

  const patched = {
    openSync(path: fs.PathLike, flags: fs.OpenMode = "r", mode?: fs.Mode) {
      const before = nodeAt(path);
      const file = real.openSync(path, flags, mode);
      const inside = !relative(resolve(root), resolve(String(path))).startsWith("..");
      if (!inside) return file;
      const writes = typeof flags === "string" ? /[wa]/.test(flags) : (flags & 0o100) !== 0;
      const empties =
        typeof flags === "string" ? flags.includes("w") : (flags & fs.constants.O_TRUNC) !== 0;
      if (!before && writes) {
        disk.onOperation();
        name(path, { kind: "file", kept: Buffer.alloc(0), pending: [] });
      } else if (before?.kind === "file" && empties) {
        disk.onOperation();
        before.pending.push({ size: 0 });
      }
      const node = nodeAt(path);
      if (node) open.set(file, { node, path: String(path), position: 0 });
      return file;
    },
    closeSync(file: number) {
      open.delete(file);
      real.closeSync(file);
    },
    writeSync(file: number, data: NodeJS.ArrayBufferView | string, ...rest: unknown[]) {
      const known = open.get(file);
      const bytes = typeof data === "string" ? Buffer.from(data) : (data as Uint8Array);
      const [offset = 0, length = bytes.byteLength - Number(offset), position] = rest;
      if (known) disk.onOperation();
      const count = real.writeSync(
        file,
        bytes,
        Number(offset),
        Number(length),
        typeof position === "number" ? position : null,
      );
      if (known) {
        const at = typeof position === "number" ? position : known.position;
        written(known.node, bytes.subarray(Number(offset), Number(offset) + count), at);
        if (typeof position !== "number") known.position += count;
      }
      return count;
    },
    writeFileSync(
      to: fs.PathOrFileDescriptor,
      data: string | NodeJS.ArrayBufferView,
      how?: object,
    ) {
      const file =
        typeof to === "number"
          ? to
          : patched.openSync(to, "w", (how as { mode?: fs.Mode } | undefined)?.mode);
      const bytes = typeof data === "string" ? Buffer.from(data) : (data as Uint8Array);
      for (let at = 0; at < bytes.length; ) at += patched.writeSync(file, bytes.subarray(at));
      if (file !== to) patched.closeSync(file);
    },
    ftruncateSync(file: number, size = 0) {
      const known = open.get(file);
      if (known) disk.onOperation();
      real.ftruncateSync(file, size);
      if (known?.node.kind === "file") known.node.pending.push({ size });
    },
    truncateSync(path: fs.PathLike, size = 0) {
      const node = nodeAt(path);
      if (node) disk.onOperation();
      real.truncateSync(path, size);
      if (node?.kind === "file") node.pending.push({ size });
    },
    mkdirSync(path: fs.PathLike, how?: fs.Mode | fs.MakeDirectoryOptions) {
      if (typeof how === "object" && how?.recursive && nodeAt(path)) return undefined;
      disk.onOperation();
      const made = real.mkdirSync(path, how as fs.MakeDirectoryOptions);
      name(path, { kind: "folder", kept: new Map(), now: new Map(), pending: [] });
      return made;
    },
    renameSync(from: fs.PathLike, to: fs.PathLike) {
      const node = nodeAt(from);
      if (node) disk.onOperation();
      real.renameSync(from, to);
      if (!node) return;
      const folder = nodeAt(dirname(String(from)));
      if (folder?.kind !== "folder" || folder !== nodeAt(dirname(String(to)))) {
        throw new Error("Only renames within one folder are followed.");
      }
      folder.now.delete(basename(String(from)));
      folder.now.set(basename(String(to)), node);
      // Both names change at once, so that chance cannot part them.
      folder.pending.push({ name: basename(String(to)), node });
      folder.pending.push({ name: basename(String(from)), node: undefined });
    },
    unlinkSync(path: fs.PathLike) {
      const node = nodeAt(path);
      if (node) disk.onOperation();
      real.unlinkSync(path);
      if (node) name(path, undefined);
    },
    rmdirSync(path: fs.PathLike) {
      const node = nodeAt(path);
      if (node) disk.onOperation();
      real.rmdirSync(path);
      if (node) name(path, undefined);
    },
    rmSync(path: fs.PathLike, how?: fs.RmOptions) {
      const node = nodeAt(path);
      if (node) disk.onOperation();
      real.rmSync(path, how);
      if (node) name(path, undefined);
    },
    fsyncSync(file: number) {
      const known = open.get(file);
      if (known) disk.onOperation();
      real.fsyncSync(file);
      if (!known) return;
      synced.push(relative(resolve(root), resolve(known.path)));
      const { node } = known;
      if (node.kind === "folder") node.kept = new Map(node.now);
      else node.kept = applied(node, node.pending, () => 1);
      node.pending = [];
    },
  };
  Object.assign(fs, patched);
  syncBuiltinESMExports();

  /** What is on the disk of a file when each block not yet synced got there by chance. */
  function applied(file: File, pending: File["pending"], chance: () => number): Buffer {
    if (pending.length === 0) return file.kept;
    // Room for all of it at once: a file grows by many small writes.
    const ends = pending.map((change) =>
      "size" in change ? change.size : change.at + change.data.length,
    );
    const room = Buffer.alloc(ends.reduce((most, end) => Math.max(most, end), file.kept.length));
    file.kept.copy(room);
    let content = room.subarray(0, file.kept.length);
    const fit = (size: number) => {
      if (size > content.length) content = room.subarray(0, size);
    };
    for (const change of pending) {
      if ("size" in change) {
        if (chance() < 0.5) continue;
        if (change.size < content.length) {
          content.fill(0, change.size);
          content = room.subarray(0, change.size);
        } else fit(change.size);
        continue;
      }
      const { at, data } = change;
      for (let from = 0; from < data.length; ) {
        const until = Math.min(data.length, from + BLOCK - ((at + from) % BLOCK));
        if (chance() >= 0.5) {
          fit(at + until);
          data.copy(content, at + from, from, until);
        }
        from = until;
      }
    }
    return content;
  }
  function materialise(node: Node, path: string, chance: () => number): void {
    if (node.kind === "file") {
      real.writeFileSync(path, applied(node, node.pending, chance));
      return;
    }
    real.mkdirSync(path, { recursive: true });
    // Names reach the disk in their order, up to some moment.
    const entries = new Map(node.kept);
    const until = Math.floor(chance() * (node.pending.length + 1));
    for (const { name: own, node: named } of node.pending.slice(0, until)) {
      if (named) entries.set(own, named);
      else entries.delete(own);
    }
    for (const [own, child] of entries) materialise(child, join(path, own), chance);
  }

  const disk: ForgetfulDisk = {
    onOperation: () => undefined,
    takeSyncs: () => {
      const taken = synced;
      synced = [];
      return taken;
    },
    leave: (image, chance) => materialise(top, image, chance),
    stop: () => {
      for (const key of Object.keys(patched)) Object.assign(fs, { [key]: real[key as "rmSync"] });
      syncBuiltinESMExports();
    },
  };
  return disk;
}
