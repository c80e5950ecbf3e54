import fs from "node:fs";
import { PGlite } from "@electric-sql/pglite";
import { NodeFS } from "@electric-sql/pglite/nodefs";
import { type Engine, EngineLost, type Row } from "./database.ts";

/**
 * PostgreSQL embedded in this thread, its files in `folder`. A write is in the write-ahead log and the log is
 * synced to the disk before its statement resolves, so that neither a killed process nor a power cut loses it.
 * @param broke told once when the engine has given up: it must not be asked again, and may never answer
 */
export async function openEngine(
  folder: string,
  broke: (why: string) => void = () => undefined,
): Promise<Engine> {
  let lost: string | undefined;
  const said: string[] = [];
  const hear = (line: string) => {
    said.push(line);
    if (said.length > 20) said.shift();
    // After either of these the engine has ended, though its shell still stands.
    if (lost === undefined && /\b(PANIC|FATAL): /.test(line)) {
      lost = line;
      broke(line);
    }
    return false;
  };
  const pglite = await PGlite.create({
    fs: new SyncedFiles(folder),
    relaxedDurability: false,
    startParams: START,
    onStderr: hear,
  }).catch((error: unknown) => {
    throw new EngineLost(said.join("\n") || String(error), { cause: error });
  });

  async function ask<T>(work: () => Promise<T>): Promise<T> {
    if (lost !== undefined) throw new EngineLost(lost);
    try {
      return await work();
    } catch (error) {
      if (lost !== undefined) throw new EngineLost(lost, { cause: error });
      throw error;
    }
  }
  const execute = (sql: string) =>
    ask(async () => {
      await pglite.exec(sql);
    });
  return {
    query: <T extends Row>(sql: string, parameters: unknown[] = []) =>
      ask(async () => (await pglite.query<T>(sql, parameters)).rows),
    execute,
    upkeep: execute,
    close: () => ask(() => pglite.close()),
  };
}

/**
 * The engine's own defaults without `-F`, which turns syncing off. Of the ways to sync the log only `fsync` ends in
 * the file layer below: the engine's `fdatasync` does nothing.
 */
const START = [
  ...PGlite.defaultStartParams.filter((parameter) => parameter !== "-F"),
  ...["-c", "wal_sync_method=fsync"],
];

interface NodeStream {
  /** file descriptor in Node.js */
  nfd: number;
}

/**
 * The engine's files as Node.js's, nobody else's to read, and with the syncing they lack: without an `fsync` of its own
 * the layer reports every sync as done and does none.
 */
class SyncedFiles extends NodeFS {
  override async init(...args: Parameters<NodeFS["init"]>): ReturnType<NodeFS["init"]> {
    const made = await super.init(...args);
    const { preRun = [] } = made.emscriptenOpts;
    preRun.push((module) => {
      const { FS, NODEFS } = module as unknown as {
        FS: { ErrnoError: new (errno: number) => Error };
        NODEFS: {
          convertNodeCode(error: unknown): number;
          stream_ops: { fsync?: (stream: NodeStream) => number };
          node_ops: { setattr: (node: unknown, attributes: { mode?: number }) => void };
        };
      };
      // The layer gives each file it makes the rights asked for, whatever this process keeps from others.
      const { setattr } = NODEFS.node_ops;
      NODEFS.node_ops.setattr = (node, { mode, ...rest }) =>
        setattr(node, { ...rest, ...(mode !== undefined && { mode: mode & ~0o077 }) });
      NODEFS.stream_ops.fsync = ({ nfd }) => {
        try {
          fs.fsyncSync(nfd);
          return 0;
        } catch (error) {
          throw new FS.ErrnoError(NODEFS.convertNodeCode(error));
        }
      };
    });
    made.emscriptenOpts.preRun = preRun;
    return made;
  }
}
