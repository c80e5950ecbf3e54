import type { Context } from "hono";
import { Hono } from "hono";
import { type ApiError, saveSchemas } from "#contract/api/api.ts";
import { fieldIssues } from "#contract/documents/issues.ts";
import { idSchema } from "#contract/documents/pump.ts";
import type { Database } from "../database/database.ts";
import { COLLECTIONS, type CollectionName } from "../documents/collections.ts";
import { unstorable } from "../documents/storable.ts";
import {
  getDocument,
  listDocuments,
  listJobs,
  listTestsOfJob,
  saveDocument,
  setDeleted,
} from "../documents/store.ts";

/** Reading, saving, deleting and restoring the four kinds of document. */
export function documentRoutes(db: Database): Hono {
  const routes = new Hono();
  routes.get("/jobs", async (c) => c.json(await listJobs(db)));
  routes.get("/pumps", async (c) => c.json(await listDocuments(db, COLLECTIONS.pumps)));
  routes.get("/jobs/:id/tests", async (c) => {
    const id = c.req.param("id");
    return c.json(isId(id) ? await listTestsOfJob(db, id) : []);
  });
  for (const name of Object.keys(COLLECTIONS) as CollectionName[]) {
    routes.route(`/${name}`, collectionRoutes(db, name));
  }
  return routes;
}

function collectionRoutes(db: Database, name: CollectionName): Hono {
  const collection = COLLECTIONS[name];
  const { noun, parent } = collection;
  const routes = new Hono();
  const notFound = (c: Context) =>
    c.json<ApiError>({ error: "not-found", message: `There is no such ${noun}.` }, 404);

  // Whatever is no id names nothing, and never reaches the database.
  routes.on(["GET", "DELETE", "POST"], ["/:id", "/:id/restore"], async (c, next) =>
    isId(c.req.param("id")) ? next() : notFound(c),
  );

  routes.get("/:id", async (c) => {
    const found = await getDocument(db, collection, c.req.param("id"));
    return found ? c.json(found) : notFound(c);
  });

  routes.put("/:id", async (c) => {
    const id = c.req.param("id");
    const body = await jsonBody(c);
    if (!body.ok) return c.json<ApiError>({ error: "bad-request", message: body.message }, 400);
    const issues = idSchema.safeParse(id).error?.issues ?? [];
    const parsed = saveSchemas[name].safeParse(body.value);
    if (!parsed.success || issues.length > 0) {
      const found = [
        ...issues.map(({ message }) => ({ path: "id", message })),
        ...(parsed.error ? fieldIssues(parsed.error) : []),
      ];
      return c.json<ApiError>(
        { error: "invalid", message: found[0]?.message ?? "Not valid.", issues: found },
        422,
      );
    }
    const { revision, document } = parsed.data;
    if (name === "pumps" && document.id !== id) {
      const message = "A pump is kept under its own id.";
      const invalid = [{ path: "document.id", message }];
      return c.json<ApiError>({ error: "invalid", message, issues: invalid }, 422);
    }
    const outcome = await saveDocument(db, collection, id, revision, document);
    switch (outcome.kind) {
      case "saved":
        return c.json(outcome.stored);
      case "parent-missing": {
        const message = `There is no such ${parent?.noun}.`;
        const issue = { path: `document.${parent?.field}`, message };
        return c.json<ApiError>({ error: "invalid", message, issues: [issue] }, 422);
      }
      case "conflict":
        return c.json<ApiError>(
          {
            error: "conflict",
            message: outcome.current
              ? `This ${noun} was changed somewhere else since you opened it.`
              : `This ${noun} was deleted, or its id was used before.`,
            current: outcome.current,
          },
          409,
        );
    }
  });

  routes.delete("/:id", async (c) =>
    (await setDeleted(db, collection, c.req.param("id"), true)) ? c.body(null, 204) : notFound(c),
  );
  routes.post("/:id/restore", async (c) =>
    (await setDeleted(db, collection, c.req.param("id"), false)) ? c.body(null, 204) : notFound(c),
  );
  return routes;
}

const isId = (text: string): boolean => idSchema.safeParse(text).success;

async function jsonBody(
  c: Context,
): Promise<{ ok: true; value: unknown } | { ok: false; message: string }> {
  if (!/^application\/json\b/i.test(c.req.header("content-type") ?? "")) {
    return { ok: false, message: "Send JSON, with content type application/json." };
  }
  let value: unknown;
  try {
    value = JSON.parse(await c.req.text());
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return { ok: false, message: "The body is not valid JSON." };
  }
  const reason = unstorable(value);
  return reason ? { ok: false, message: reason } : { ok: true, value };
}
