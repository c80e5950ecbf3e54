import { createHash } from "node:crypto";
import { mkdir, realpath, rm } from "node:fs/promises";
import { connect, createServer, type Server } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Someone else is running on this data folder. */
export class FolderTaken extends Error {}

export interface FolderClaim {
  release(): Promise<void>;
}

/**
 * Claims a data folder for this process, so that two servers never write to one database. The claim is
 * a local socket named after the folder: the operating system drops it with the process, however that
 * ends, so no stale lock is ever left that a person would have to clear.
 */
export async function claimFolder(folder: string): Promise<FolderClaim> {
  await mkdir(folder, { recursive: true });
  const address = socketAddress(await realpath(folder));
  const server = await listen(address, folder);
  return { release: () => new Promise((done) => server.close(() => done())) };
}

async function listen(address: string, folder: string): Promise<Server> {
  try {
    return await tryListen(address);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
  }
  if (await answers(address)) {
    throw new FolderTaken(`Another Upright Gusher is already running on ${folder}.`);
  }
  // A killed process leaves its socket file behind, and nobody listening on it.
  await rm(address, { force: true });
  return tryListen(address);
}

function tryListen(address: string): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = createServer((socket) => socket.end());
    server.once("error", reject);
    server.listen(address, () => resolve(server));
    server.unref();
  });
}

function answers(address: string): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect(address);
    socket.once("connect", () => {
      socket.destroy();
      resolve(true);
    });
    socket.once("error", () => resolve(false));
  });
}

function socketAddress(folder: string): string {
  const name = `upright-gusher-${createHash("sha256").update(folder).digest("hex").slice(0, 16)}`;
  return process.platform === "win32" ? `\\\\.\\pipe\\${name}` : join(tmpdir(), `${name}.sock`);
}
