import { Hono } from "hono";
import { except } from "hono/combine";
import { compress } from "hono/compress";
import { HTTPException } from "hono/http-exception";
import { timeout } from "hono/timeout";
import type { ApiError, Health } from "#contract/api/api.ts";
import type { AttachmentDocument } from "#contract/documents/attachment.ts";
import { contentsIn } from "./attachments/contents.ts";
import { damagedAdvice, isDamaged } from "./database/damaged.ts";
import { type Database, EngineLost, NoRoom } from "./database/database.ts";
import type { Log } from "./log.ts";
import type { Gate } from "./network/passPhrase.ts";
import { signIn } from "./network/signIn.ts";
import { drawing } from "./pages/drawing.ts";
import { serveInterface } from "./pages/interface.ts";
import { backupRoutes } from "./routes/backups.ts";
import { contentRoutes } from "./routes/contents.ts";
import { documentRoutes } from "./routes/documents.ts";
import { importRoutes } from "./routes/imports.ts";
import { libraryRoutes } from "./routes/library.ts";
import { roomRoutes } from "./routes/room.ts";
import { streamRoutes } from "./routes/streams.ts";
import {
  byHttpsAlone,
  headers,
  limitBody,
  type OwnName,
  ownNamesOnly,
  plainAddress,
} from "./security.ts";

/** ms after which a request is told to ask again; longer than the engine may take before it is started anew */
const ANSWER_WITHIN = 25_000;

/** Where jobs are saved. */
const SAVES_JOBS = /^\/api\/(?:jobs|imports|demo)\b/;

/** What makes a device offer to trust a certificate. */
const CERTIFICATE = "application/x-x509-ca-cert";

/** What draws pages before they are sent, built beside the server. */
const PAGE_THREAD = new URL("./drawn/pageThread.mjs", import.meta.url);

export interface AppOptions {
  /** the data folder, for what is kept beside the database */
  folder: string;
  isOwnName: OwnName;
  /** where others than this machine's users can reach it: who may come in, and what devices are told to trust */
  open?: { gate: Gate; secure: boolean; behindProxy?: boolean; authority?: string };
  version: string;
  demo: boolean;
  /** folder of the built interface; without it only the API is served */
  webFolder?: string;
  log: Pick<Log, "write">;
  /** told that jobs may have been saved, after they were acknowledged */
  jobsSaved?: () => void;
}

export function createApp(db: Database, options: AppOptions): Hono {
  const { folder, isOwnName, open, version, demo, webFolder, log, jobsSaved } = options;
  const contents = contentsIn(folder);
  const app = new Hono();
  app.use(headers);
  if (open?.secure) app.use(byHttpsAlone);
  app.use(plainAddress);
  app.use(ownNamesOnly(isOwnName));
  if (open) {
    const { authority, ...gated } = open;
    if (authority !== undefined) {
      app.get("/authority.crt", (c) => c.body(authority, 200, { "content-type": CERTIFICATE }));
    }
    app.route("/", signIn({ ...gated, note: (what) => log.write(what) }));
  }
  // Everyone gets an answer; a save asked for again is answered as it was the first time.
  app.use(
    "/api/*",
    except(
      // What is listened to is never over.
      ["/api/contents/*", "/api/streams/:id/live"],
      timeout(ANSWER_WITHIN, () => new HTTPException(503)),
    ),
  );
  app.use("/api/*", except(["/api/contents/*", "/api/imports/:id"], limitBody));
  app.use("/api/*", compress());
  app.use("/api/*", async (c, next) => {
    await next();
    c.header("cache-control", "no-store");
  });
  if (jobsSaved) {
    app.use("/api/*", async (c, next) => {
      await next();
      const { method, path } = c.req;
      if (method !== "GET" && SAVES_JOBS.test(path)) jobsSaved();
    });
  }
  app.get("/api/health", async (c) => {
    await db.query("SELECT 1");
    return c.json<Health>({
      ok: true,
      product: "upright-gusher",
      version,
      demo,
      open: open !== undefined,
    });
  });
  app.route("/api", contentRoutes(db, contents, folder));
  const misfits = {
    attachments: (document: unknown) => contents.misfit(document as AttachmentDocument),
  };
  app.route("/api", documentRoutes(db, misfits));
  app.route("/api", importRoutes(db, misfits));
  app.route("/api", backupRoutes(db, contents, folder, version));
  app.route("/api", roomRoutes(db, folder));
  app.route("/api", libraryRoutes(db, demo));
  app.route("/api", streamRoutes(db));
  app.all("/api/*", (c) =>
    c.json<ApiError>({ error: "not-found", message: "There is nothing here." }, 404),
  );
  if (webFolder) {
    serveInterface(
      app,
      webFolder,
      drawing(PAGE_THREAD, (error) => log.write(error)),
    );
  }
  app.onError((error, c) => {
    const answer = (status: 500 | 503 | 507, error: "failed" | "no-room", message: string) =>
      c.json<ApiError>({ error, message }, status);
    if (error instanceof NoRoom) return answer(507, "no-room", error.message);
    if (isUnkeepable(error)) {
      const message = "That holds something that cannot be kept.";
      return c.json<ApiError>({ error: "bad-request", message }, 400);
    }
    // Whoever asked has gone: nobody hears the answer, and nothing is wrong here.
    if (c.req.raw.signal.aborted) return answer(503, "failed", "The connection was closed.");
    log.write(error);
    if (isDamaged(error)) {
      return answer(503, "failed", damagedAdvice(folder));
    }
    if (error instanceof EngineLost || error instanceof HTTPException) {
      const message =
        "The database did not answer in time; nothing that was saved is lost. Ask again.";
      return answer(503, "failed", message);
    }
    return answer(500, "failed", "Something went wrong on the server; nothing was saved.");
  });
  return app;
}

/** What PostgreSQL says of values it cannot take, whatever asked it to: data exceptions, and nesting past its stack. */
function isUnkeepable(error: unknown): boolean {
  const { code } = error as { code?: unknown };
  return typeof code === "string" && /^(?:22...|54001)$/.test(code);
}
