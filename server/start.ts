import type { Server } from "node:http";
import { createServer as createSecureServer } from "node:https";
import { isIPv6 } from "node:net";
import { join } from "node:path";
import { serve } from "@hono/node-server";
import { createApp } from "./app.ts";
import { contentsIn } from "./attachments/contents.ts";
import { backupStream } from "./backup/writeBackup.ts";
import { claimFolder, FolderUnclaimable } from "./database/claim.ts";
import { damagedAdvice, isDamaged } from "./database/damaged.ts";
import { type Database, databaseOn, type Engine, EngineLost, NoRoom } from "./database/database.ts";
import { closeToOthers, databaseIn, FolderUnusable, findDatabase } from "./database/dataFolder.ts";
import { migrate } from "./database/migrate.ts";
import { isFull, releaseSpare, requireRoom } from "./database/room.ts";
import { makeFolder } from "./database/syncing.ts";
import { openThreadedEngine, reopening } from "./database/threadedEngine.ts";
import { startUpkeep } from "./database/upkeep.ts";
import { summaries, summariseInThread } from "./documents/summaries.ts";
import { logIn } from "./log.ts";
import { type Identity, ownIdentity } from "./network/certificate.ts";
import {
  addressesOf,
  isLoopback,
  isOpen,
  isOwnName,
  type Listening,
  ownNames,
} from "./network/ownNames.ts";
import { gateOf } from "./network/passPhrase.ts";
import { resetDemo } from "./routes/library.ts";

export interface StartOptions {
  folder: string;
  port: number;
  /** loopback unless told otherwise */
  host: string;
  /** names it goes by besides */
  names?: readonly string[];
  /** PEM; without one an open server is given a certificate of its own authority */
  identity?: Identity;
  /** HTTPS on the loopback too */
  https?: boolean;
  /** a proxy of the firm's own stands in front: who asks is whom it names */
  behindProxy?: boolean;
  /** set from now on, where others can reach it */
  passPhrase?: string;
  demo: boolean;
  /** throw the demo's data away and write it anew */
  reset?: boolean;
  version: string;
  webFolder?: string;
}

export interface Running {
  /** where it is reached, the plainest first */
  addresses: string[];
  /** the file devices have to trust, where an authority of its own vouches for it; and whether it is a new one */
  authority?: { path: string; renewed: boolean };
  stop(): Promise<void>;
}

/** Others could reach the server and nothing keeps them out. */
export class PhraseMissing extends Error {}

/** The port asked for is in use. */
export class PortTaken extends Error {}

/** ms that requests under way are given to end when the server stops */
const LAST_REQUESTS = 1500;

/**
 * Claims the data folder, opens the database and listens. Throws `FolderTaken`, `FolderUnusable`, `NoRoom` or
 * `PortTaken` with a sentence for the person who starts it, the claim released.
 */
export async function start(options: StartOptions): Promise<Running> {
  const { folder, port, host, demo, version, webFolder } = options;
  const claim = await reaching(folder, async () => {
    makeFolder(folder);
    // Not even a claim is put into a folder that is someone else's.
    findDatabase(folder);
    const held = await claimFolder(folder);
    closeToOthers(folder);
    return held;
  });
  let db: Database | undefined;
  try {
    const listening = { host, names: options.names ?? [] };
    const gate = await gateOf(folder, options.passPhrase);
    if (isOpen(listening) && !gate) {
      throw new PhraseMissing(
        "Others could reach this server, and there is no pass phrase yet to keep them out.",
      );
    }
    const identity = await identityOf(options, listening);
    db = await reaching(folder, () => openDatabase(folder));
    const opened = db;
    await migrate(opened);
    if (demo) {
      const [row] = await opened.query<{ empty: boolean }>(
        "SELECT NOT EXISTS (SELECT 1 FROM jobs) AND NOT EXISTS (SELECT 1 FROM pumps) AS empty",
      );
      if (options.reset || row?.empty) await opened.transaction(resetDemo);
    }
    const log = logIn(folder);
    const program = new URL("./summary.mjs", import.meta.url);
    const { look } = summaries(opened, summariseInThread(program), (error) => {
      // One that was saved while the disk is full, or as it stops, is worked out next time.
      if (!(error instanceof NoRoom || error instanceof EngineLost)) log.write(error);
    });
    let actual = port;
    const app = createApp(opened, {
      folder,
      isOwnName: (header, arrivedAt) => isOwnName(header, actual, arrivedAt, listening),
      ...{ version, demo, log, jobsSaved: look },
      ...(webFolder && { webFolder }),
      ...(isOpen(listening) &&
        gate && {
          open: {
            ...{ gate, secure: identity !== undefined, behindProxy: options.behindProxy ?? false },
            ...(identity?.authority && { authority: identity.authority }),
          },
        }),
    });
    const server = await listen(app.fetch, host, port, identity);
    const bound = server.address();
    if (typeof bound === "object" && bound) actual = bound.port;
    const addresses = addressesOf(listening).map(
      (name) => `${identity ? "https" : "http"}://${isIPv6(name) ? `[${name}]` : name}:${actual}`,
    );
    const [address = ""] = addresses;
    claim.say(address);
    claim.offerBackup(() => backupStream(opened, contentsIn(folder), version));
    look();
    const stopUpkeep = startUpkeep(opened, folder, version, log);
    return {
      addresses,
      ...(identity?.authority && {
        authority: {
          path: join(folder, "authority", "authority.crt"),
          renewed: identity.renewed === true,
        },
      }),
      async stop() {
        stopUpkeep();
        const cut = setTimeout(() => server.closeAllConnections(), LAST_REQUESTS);
        await new Promise<void>((done) => {
          server.close(() => done());
          server.closeIdleConnections();
        });
        clearTimeout(cut);
        await opened.close();
        await claim.release();
      },
    };
  } catch (error) {
    await db?.close();
    await claim.release();
    throw isDamaged(error) ? new FolderUnusable(damagedAdvice(folder), { cause: error }) : error;
  }
}

/** The database of a data folder, its engine in a thread of its own and started again should it break. */
async function openDatabase(folder: string): Promise<Database> {
  const program = new URL("./engine.mjs", import.meta.url);
  const place = await databaseIn(folder, (empty) => openThreadedEngine(empty, program));
  const open = async (): Promise<Engine> => {
    try {
      return await openThreadedEngine(place, program);
    } catch (error) {
      // After breaking off on a full disk it needs room to begin again; that much was kept back.
      if (!releaseSpare(folder)) throw error;
      return openThreadedEngine(place, program);
    }
  };
  const engine = await reopening(open).catch((error: unknown) => {
    if (!(error instanceof EngineLost)) throw error;
    throw new FolderUnusable(
      `The data in ${folder} cannot be opened; nothing in it was changed by hand. Copy the folder away first. Then restore the newest of ${join(folder, "backups")} into a new folder: npm run restore -- FILE --data FOLDER`,
      { cause: error },
    );
  });
  return databaseOn(engine, () => requireRoom(folder));
}

/** What keeps a folder from being used, in a sentence. */
async function reaching<T>(folder: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const { code = "" } = (error instanceof FolderUnclaimable ? error.cause : error) as {
      code?: string;
    };
    const why = REASONS[code];
    if (why === undefined) throw error;
    if (isFull({ code })) throw new NoRoom(why(folder), { cause: error });
    throw new FolderUnusable(why(folder), { cause: error });
  }
}

const full = (folder: string) =>
  `There is no room on the disk of ${folder}. Free some, or choose a folder on another disk: --data FOLDER`;
const closed = (folder: string) =>
  `${folder} may not be written to by this user, so nothing could be kept there. Give this user the right to, or choose another folder: --data FOLDER`;
const REASONS: Record<string, (folder: string) => string> = {
  ENOSPC: full,
  EDQUOT: full,
  EACCES: closed,
  EPERM: closed,
  EROFS: (folder) =>
    `${folder} is on a disk that is mounted for reading only, so nothing could be kept there. Choose another folder: --data FOLDER`,
  ENOTDIR: (folder) =>
    `${folder} is a file, or lies under one. Choose a folder for the data: --data FOLDER`,
  EEXIST: (folder) => `${folder} is a file. Choose a folder for the data: --data FOLDER`,
};

/** What the server proves its name with: what it was given, or what an authority of its own vouches for. */
async function identityOf(
  { folder, identity, https }: StartOptions,
  listening: Listening,
): Promise<(Identity & { authority?: string; renewed?: boolean }) | undefined> {
  if (identity) return identity;
  if (!https && isLoopback(listening.host)) return undefined;
  return ownIdentity(folder, ownNames(listening));
}

function listen(
  fetch: FetchCallback,
  host: string,
  port: number,
  identity: Identity | undefined,
): Promise<Server> {
  return new Promise((resolve, reject) => {
    const secure = identity && {
      createServer: createSecureServer,
      serverOptions: { cert: identity.cert, key: identity.key },
    };
    const server = serve({ fetch, hostname: host, port, ...secure }, () =>
      resolve(server),
    ) as Server;
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(
        error.code === "EADDRINUSE"
          ? new PortTaken(`Port ${port} is taken by another program.`)
          : error,
      ),
    );
  });
}

type FetchCallback = Parameters<typeof serve>[0]["fetch"];
