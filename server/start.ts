import type { Server } from "node:http";
import { serve } from "@hono/node-server";
import { createApp } from "./app.ts";
import { openDatabase } from "./database/database.ts";
import { claimFolder } from "./database/dataFolder.ts";
import { migrate } from "./database/migrate.ts";
import { fillSummaries } from "./documents/store.ts";
import { resetDemo } from "./routes/library.ts";

export interface StartOptions {
  folder: string;
  port: number;
  /** loopback unless told otherwise */
  host: string;
  demo: boolean;
  /** throw the demo's data away and write it anew */
  reset?: boolean;
  version: string;
  webFolder?: string;
}

export interface Running {
  address: string;
  stop(): Promise<void>;
}

/** The port asked for is in use. */
export class PortTaken extends Error {}

/**
 * Claims the data folder, opens the database and listens. Throws `FolderTaken` or `PortTaken`, with the
 * claim released, when either belongs to someone else.
 */
export async function start(options: StartOptions): Promise<Running> {
  const { folder, port, host, demo, version, webFolder } = options;
  const claim = await claimFolder(folder);
  try {
    const db = await openDatabase(folder);
    await migrate(db);
    await fillSummaries(db);
    if (demo) {
      const [row] = await db.query<{ empty: boolean }>(
        "SELECT NOT EXISTS (SELECT 1 FROM jobs) AND NOT EXISTS (SELECT 1 FROM pumps) AS empty",
      );
      if (options.reset || row?.empty) await db.transaction(resetDemo);
    }
    const hosts = new Set<string>();
    const app = createApp(db, { hosts, version, demo, ...(webFolder && { webFolder }) });
    const server = await listen(app.fetch, host, port);
    const bound = server.address();
    const actual = typeof bound === "object" && bound ? bound.port : port;
    for (const name of ["127.0.0.1", "localhost", "[::1]", host]) hosts.add(`${name}:${actual}`);
    return {
      address: `http://${host}:${actual}`,
      async stop() {
        // Requests under way are answered; one that hangs is cut off after a while.
        const cut = setTimeout(() => server.closeAllConnections(), 3000);
        await new Promise<void>((done) => {
          server.close(() => done());
          server.closeIdleConnections();
        });
        clearTimeout(cut);
        await db.close();
        await claim.release();
      },
    };
  } catch (error) {
    await claim.release();
    throw error;
  }
}

function listen(
  fetch: (request: Request) => Response | Promise<Response>,
  host: string,
  port: number,
) {
  return new Promise<Server>((resolve, reject) => {
    const server = serve({ fetch, hostname: host, port }, () => resolve(server)) as Server;
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(
        error.code === "EADDRINUSE"
          ? new PortTaken(`Port ${port} is taken by another program.`)
          : error,
      ),
    );
  });
}
