import { Hono } from "hono";
import * as z from "zod";
import type { ApiError } from "#contract/api/api.ts";
import { LARGEST_IMPORT, PIECE } from "#contract/api/imports.ts";
import {
  COLLECTION_NAMES,
  COLLECTIONS,
  type Collection,
  type CollectionName,
} from "#contract/collections.ts";
import { idSchema, isId } from "#contract/documents/fields.ts";
import { fieldIssues } from "#contract/documents/issues.ts";
import type { Database } from "../database/database.ts";
import {
  cancelImport,
  finishImport,
  type Incoming,
  importState,
  keepPiece,
} from "../documents/imports.ts";
import { limitedTo } from "../security.ts";
import { readBody } from "./body.ts";
import type { Misfit } from "./documents.ts";

const piece = z.object({
  from: z.number().int().min(0).max(LARGEST_IMPORT),
  documents: z
    .array(
      z.object({
        collection: z.enum(COLLECTION_NAMES),
        id: idSchema,
        document: z.record(z.string(), z.unknown()),
      }),
    )
    .min(1)
    .max(PIECE.documents),
});
/** bytes of a request: a piece, or one document as large as any, with what stands around it */
const LARGEST_PIECE = PIECE.bytes + 500_000;
const finish = z.object({ count: z.number().int().min(1).max(LARGEST_IMPORT) });

/**
 * Taking in many documents at once: sent in pieces under an id that whoever sends them made up, then taken in all or
 * none. What became of it can be asked by that id; every request may be sent again.
 */
export function importRoutes(
  db: Database,
  misfits: Partial<Record<CollectionName, Misfit>> = {},
): Hono {
  const routes = new Hono();
  const refusal = (message: string, path = ""): ApiError => ({
    error: "invalid",
    message,
    issues: [{ path, message }],
  });
  routes.use("/imports/:id", limitedTo(LARGEST_PIECE, "Send fewer documents at once."));
  routes.use("/imports/:id", (c, next) =>
    isId(c.req.param("id"))
      ? next()
      : Promise.resolve(
          c.json<ApiError>({ error: "not-found", message: "There is no such import." }, 404),
        ),
  );
  routes.get("/imports/:id", async (c) => {
    const state = await importState(db, c.req.param("id"));
    const message = "There is no such import, or it was long ago.";
    return state ? c.json(state) : c.json<ApiError>({ error: "not-found", message }, 404);
  });
  routes.patch("/imports/:id", async (c) => {
    const asked = await readBody(c, piece);
    if (!asked.ok) return asked.refusal;
    const { from, documents } = asked.value;
    const read: Incoming[] = [];
    for (const [i, { collection, id, document }] of documents.entries()) {
      const { schema, noun, ownId }: Collection = COLLECTIONS[collection];
      const parsed = schema.safeParse(document);
      const at = `documents.${i}.document`;
      if (!parsed.success) {
        const issues = fieldIssues(parsed.error).map((issue) => ({
          ...issue,
          path: `${at}.${issue.path}`,
        }));
        const message = issues[0]?.message ?? "Not valid.";
        return c.json<ApiError>({ error: "invalid", message, issues }, 422);
      }
      const own = parsed.data as { id?: string };
      if (ownId && own.id !== id) {
        return c.json(refusal(`A ${noun} is kept under its own id.`, `${at}.id`), 422);
      }
      const wrong = misfits[collection]?.(own);
      if (wrong) return c.json(refusal(wrong.message, `${at}.${wrong.path}`), 422);
      read.push({ collection, id, document: own });
    }
    return c.json(await keepPiece(db, c.req.param("id"), from, read));
  });
  routes.post("/imports/:id/finish", async (c) => {
    const id = c.req.param("id");
    const asked = await readBody(c, finish);
    if (!asked.ok) return asked.refusal;
    const done = isId(id)
      ? await finishImport(db, id, asked.value.count)
      : { state: "short" as const, come: 0 };
    switch (done.state) {
      case "short": {
        const message = `Only ${done.come} of ${asked.value.count} have come.`;
        return c.json<ApiError>({ error: "conflict", message, current: null }, 409);
      }
      case "taken": {
        const message = `There is another ${COLLECTIONS[done.collection].noun} under the id ${done.id}.`;
        return c.json<ApiError>({ error: "conflict", message, current: null }, 409);
      }
      case "orphan":
        return c.json(
          refusal(
            `The ${COLLECTIONS[done.collection].noun} ${done.id} belongs to something that is not there.`,
          ),
          422,
        );
      default:
        return c.json(done);
    }
  });
  routes.delete("/imports/:id", async (c) => c.json(await cancelImport(db, c.req.param("id"))));
  return routes;
}
