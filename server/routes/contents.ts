import { Hono } from "hono";
import type { ApiError } from "#contract/api/api.ts";
import { LARGEST_ATTACHMENT } from "#contract/documents/attachment.ts";
import { isId } from "#contract/documents/fields.ts";
import { type Contents, isHash } from "../attachments/contents.ts";
import type { Database } from "../database/database.ts";
import { requireRoom } from "../database/room.ts";
import { getDocument } from "../documents/store.ts";
import { limitedTo } from "../security.ts";

/** The bytes of pictures and pages: sent under their hash before the document that names it, read by the document. */
export function contentRoutes(db: Database, contents: Contents, folder: string): Hono {
  const routes = new Hono();
  const notFound = { error: "not-found", message: "There is no such picture." } as const;
  routes.put(
    "/contents/:hash",
    limitedTo(LARGEST_ATTACHMENT, `At most ${LARGEST_ATTACHMENT / 1e6} MB.`),
    async (c) => {
      const hash = c.req.param("hash");
      if (!isHash(hash)) return c.json<ApiError>(notFound, 404);
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      requireRoom(folder);
      const reason = contents.keep(hash, bytes);
      return reason === undefined
        ? c.body(null, 204)
        : c.json<ApiError>({ error: "bad-request", message: reason }, 400);
    },
  );
  routes.get("/attachments/:id/content", async (c) => {
    const id = c.req.param("id");
    const stored = isId(id) ? await getDocument(db, "attachments", id) : undefined;
    const document = stored?.document as { hash: string; type: string } | undefined;
    const bytes = document && contents.read(document.hash);
    if (!document || !bytes) return c.json<ApiError>(notFound, 404);
    c.header("content-type", document.type);
    c.header("content-disposition", "inline");
    return c.body(new Uint8Array(bytes));
  });
  return routes;
}
