import { createHash, randomBytes } from "node:crypto";
import { once } from "node:events";
import fs from "node:fs";
import { connect, createServer, type Server } from "node:net";
import { join } from "node:path";
import { PassThrough, pipeline, type Readable } from "node:stream";

/** Someone else is running on this data folder. */
export class FolderTaken extends Error {}
/** The folder cannot hold a claim. */
export class FolderUnclaimable extends Error {}

export interface FolderClaim {
  /** what others are told who ask while the claim is held, such as an address */
  say(where: string): void;
  /** what is sent to whoever asks the holder for a backup over the claim itself */
  offerBackup(make: () => Readable): void;
  release(): Promise<void>;
}

/** ms to wait for the word of another that holds its claim open; a busy one is taken for running */
const PATIENCE = 3000;

/**
 * Claims a data folder for this process, so that two servers never write to one database. A claim is a socket in the
 * folder itself: whoever sees the folder sees it, in another container too, and the system closes it with the
 * process, however that ends. Each puts its own claim up first and looks at the others' afterwards, so of two at
 * least one sees the other; of two that are both just starting the one whose name comes first goes on. No claim of
 * a living process is ever removed, so stale ones cannot be confused with it.
 */
export async function claimFolder(folder: string): Promise<FolderClaim> {
  let state = "starting";
  let backup: (() => Readable) | undefined;
  const name = `claim-${randomBytes(6).toString("hex")}`;
  const own = await putUp(
    folder,
    name,
    () => state,
    () => backup?.(),
  );
  try {
    for (const other of await claimsIn(folder)) {
      if (other === name) continue;
      // One that is starting too and comes later gives way as soon as it sees this one.
      for (;;) {
        const said = await ask(folder, other);
        if (said === undefined) {
          fs.rmSync(join(folder, other), { force: true });
          break;
        }
        if (said !== "starting" || other < name) throw taken(folder, said);
        await new Promise((done) => setTimeout(done, 20));
      }
    }
  } catch (error) {
    await own.takeDown();
    throw error;
  }
  state = "running";
  return {
    say: (where) => {
      state = where;
    },
    offerBackup: (make) => {
      backup = make;
    },
    release: own.takeDown,
  };
}

function taken(folder: string, said: string): FolderTaken {
  const where = said.startsWith("http") ? `, at ${said}` : "";
  return new FolderTaken(`Another Upright Gusher is already running on ${folder}${where}.`);
}

/** The claims of a folder, dead ones too. */
async function claimsIn(folder: string): Promise<string[]> {
  return process.platform === "win32"
    ? []
    : fs.readdirSync(folder).filter((name) => /^claim-[0-9a-f]{12}$/.test(name));
}

/** A claim that answers; it is seen only once it does. */
async function putUp(
  folder: string,
  name: string,
  state: () => string,
  backup: () => Readable | undefined,
) {
  const server = createServer({ allowHalfOpen: true }, (socket) => {
    socket.on("error", () => undefined);
    socket.write(`${state()}\n`);
    // Whoever only wanted to know ends here; any word asks for a backup.
    const enough = () => socket.end();
    socket.once("end", enough);
    socket.once("data", () => {
      const made = backup();
      if (!made) return;
      socket.off("end", enough);
      pipeline(made, socket, () => undefined);
    });
  });
  server.unref();
  if (process.platform === "win32") {
    // A pipe is named for the whole machine, and has no stale ones.
    const key = createHash("sha256").update(fs.realpathSync(folder)).digest("hex").slice(0, 16);
    await listen(server, `\\\\.\\pipe\\upright-gusher-${key}`, folder);
    return { takeDown: () => close(server) };
  }
  const path = join(folder, name);
  await withShortPath(folder, (short) => listen(server, join(short, `${name}.new`), folder));
  fs.renameSync(`${path}.new`, path);
  return {
    takeDown: async () => {
      await close(server);
      fs.rmSync(path, { force: true });
    },
  };
}

const close = (server: Server) => new Promise<void>((done) => server.close(() => done()));

function listen(server: Server, address: string, folder: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(
        error.code === "EADDRINUSE"
          ? taken(folder, "running")
          : new FolderUnclaimable(
              `${folder} cannot be used: its disk does not take a claim (${error.code}). Keep the data on a disk of this computer that you may write to, not on a network share: --data FOLDER`,
              { cause: error },
            ),
      ),
    );
    server.listen(address, () => resolve());
  });
}

/** What the holder of a claim says; nothing when nobody holds it. */
function ask(folder: string, name: string): Promise<string | undefined> {
  return withShortPath(
    folder,
    (short) =>
      new Promise((resolve) => {
        const socket = connect(join(short, name));
        let said = "";
        socket.setEncoding("utf8");
        socket.setTimeout(PATIENCE, () => {
          socket.destroy();
          resolve("running");
        });
        socket.on("data", (chunk) => {
          said += chunk;
        });
        socket.on("data", () => said.includes("\n") && socket.end());
        socket.on("end", () => resolve(said.trim() || "running"));
        socket.on("error", (error: NodeJS.ErrnoException) =>
          resolve(["ECONNREFUSED", "ENOENT"].includes(error.code ?? "") ? undefined : "running"),
        );
      }),
  );
}

/**
 * The backup that the server running on a folder makes of itself; nothing where none runs. Who may read the folder's
 * files may ask for it.
 */
export async function backupOfRunning(folder: string): Promise<Readable | undefined> {
  for (const name of await claimsIn(folder)) {
    if ((await ask(folder, name)) === undefined) continue;
    return withShortPath(folder, async (short) => {
      const socket = connect({ path: join(short, name), allowHalfOpen: true });
      socket.end("backup\n");
      const backup = new PassThrough();
      let begun = false;
      // The first line tells where it runs; what follows is the backup.
      socket.on("data", (chunk: Buffer) => {
        const from = begun ? 0 : chunk.indexOf("\n") + 1;
        begun ||= from > 0;
        if (begun && from < chunk.length && !backup.write(chunk.subarray(from))) socket.pause();
      });
      backup.on("drain", () => socket.resume());
      socket.on("end", () => backup.end());
      socket.on("error", (error) => backup.destroy(error));
      await once(socket, "connect");
      return backup;
    });
  }
  return undefined;
}

/** A socket's path has room for about a hundred bytes; Linux has a shorter name for any open folder. */
async function withShortPath<T>(folder: string, work: (folder: string) => Promise<T>): Promise<T> {
  if (Buffer.byteLength(folder) < 80 || process.platform !== "linux") return work(folder);
  const open = fs.openSync(folder, "r");
  try {
    return await work(`/proc/self/fd/${open}`);
  } finally {
    fs.closeSync(open);
  }
}
