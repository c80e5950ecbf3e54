import { Readable } from "node:stream";
import { Hono } from "hono";
import type { ApiError, Backups } from "#contract/api/api.ts";
import type { Contents } from "../attachments/contents.ts";
import { datedBackups, datedPath, wholeBackup } from "../backup/dated.ts";
import { backupStream } from "../backup/writeBackup.ts";
import type { Database } from "../database/database.ts";

/** The dated backups of a data folder, and one made now. */
export function backupRoutes(
  db: Database,
  contents: Contents,
  folder: string,
  version: string,
): Hono {
  const routes = new Hono();
  routes.get("/backups", (c) => c.json<Backups>({ place: folder, dated: datedBackups(folder) }));
  routes.get("/backups/now", () => {
    const day = new Date().toISOString().slice(0, 10);
    return download(backupStream(db, contents, version), `upright-gusher-${day}.jsonl.gz`);
  });
  routes.get("/backups/:name", (c) => {
    const name = c.req.param("name");
    const path = datedPath(folder, name);
    if (path) return download(wholeBackup(path), `upright-gusher-${name}`);
    const message = "There is no such backup.";
    return c.json<ApiError>({ error: "not-found", message }, 404);
  });
  return routes;
}

const download = (stream: Readable, name: string) =>
  new Response(Readable.toWeb(stream) as ReadableStream, {
    headers: {
      "content-type": "application/gzip",
      "content-disposition": `attachment; filename="${name}"`,
      "cache-control": "no-store",
    },
  });
