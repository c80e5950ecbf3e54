import type { Context } from "hono";
import { Hono } from "hono";
import type { ApiError } from "#contract/api/api.ts";
import {
  COLLECTION_NAMES,
  COLLECTIONS,
  type Collection,
  type CollectionName,
  saveSchema,
} from "#contract/collections.ts";
import { idSchema, isId } from "#contract/documents/fields.ts";
import { fieldIssues } from "#contract/documents/issues.ts";
import type { Database } from "../database/database.ts";
import {
  getDocument,
  getRevision,
  listDeleted,
  listDocuments,
  listJobs,
  listRevisions,
  listTestsOf,
  saveDocument,
  setDeleted,
} from "../documents/store.ts";
import { jsonBody } from "./body.ts";
import { keptLists } from "./lists.ts";

/** Why a document does not fit what is kept beside it, if it does not. */
export type Misfit = (document: unknown) => { path: string; message: string } | undefined;

/** Reading, saving, deleting and restoring every kind of document. */
export function documentRoutes(
  db: Database,
  misfits: Partial<Record<CollectionName, Misfit>> = {},
): Hono {
  const routes = new Hono();
  const list = keptLists(db);
  routes.get("/jobs", (c) => list(c, "jobs", () => listJobs(db)));
  routes.get("/bin", async (c) => c.json(await listDeleted(db)));
  for (const of of ["jobs", "units"] as const) {
    routes.get(`/${of}/:id/tests`, async (c) => {
      const id = c.req.param("id");
      return c.json(isId(id) ? await listTestsOf(db, of, id) : []);
    });
  }
  for (const name of COLLECTION_NAMES) {
    if (COLLECTIONS[name].listed) {
      routes.get(`/${name}`, (c) =>
        list(c, COLLECTIONS[name].table, async () => JSON.stringify(await listDocuments(db, name))),
      );
    }
    routes.route(`/${name}`, collectionRoutes(db, name, misfits[name]));
  }
  return routes;
}

function collectionRoutes(db: Database, name: CollectionName, misfit?: Misfit): Hono {
  const { noun, parent, ownId }: Collection = COLLECTIONS[name];
  const schema = saveSchema(name);
  const routes = new Hono();
  const notFound = (c: Context) =>
    c.json<ApiError>({ error: "not-found", message: `There is no such ${noun}.` }, 404);

  // Whatever is no id names nothing, and never reaches the database.
  const named = ["/:id", "/:id/restore", "/:id/revisions", "/:id/revisions/:revision"];
  routes.on(["GET", "DELETE", "POST"], named, async (c, next) =>
    isId(c.req.param("id") ?? "") ? next() : notFound(c),
  );

  routes.get("/:id", async (c) => {
    const found = await getDocument(db, name, c.req.param("id"));
    return found ? c.json(found) : notFound(c);
  });

  routes.get("/:id/revisions", async (c) => {
    const found = await listRevisions(db, name, c.req.param("id"));
    return found.length > 0 ? c.json(found) : notFound(c);
  });
  routes.get("/:id/revisions/:revision", async (c) => {
    const revision = c.req.param("revision");
    if (!/^[1-9]\d{0,8}$/.test(revision)) return notFound(c);
    const found = await getRevision(db, name, c.req.param("id"), Number(revision));
    return found ? c.json(found) : notFound(c);
  });

  routes.put("/:id", async (c) => {
    const id = c.req.param("id");
    const body = await jsonBody(c);
    if (!body.ok) return c.json<ApiError>({ error: "bad-request", message: body.message }, 400);
    const issues = idSchema.safeParse(id).error?.issues ?? [];
    const parsed = schema.safeParse(body.value);
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
    const { revision } = parsed.data;
    const document = parsed.data.document as Record<string, unknown>;
    if (ownId && document.id !== id) {
      const message = `A ${noun} is kept under its own id.`;
      const invalid = [{ path: "document.id", message }];
      return c.json<ApiError>({ error: "invalid", message, issues: invalid }, 422);
    }
    const wrong = misfit?.(document);
    if (wrong) {
      const { message } = wrong;
      return c.json<ApiError>({ error: "invalid", message, issues: [wrong] }, 422);
    }
    const outcome = await saveDocument(db, name, id, revision, document);
    switch (outcome.kind) {
      case "saved":
        return c.json(outcome.stored);
      case "parent-missing": {
        const message = `There is no such ${parent && COLLECTIONS[parent.of as CollectionName].noun}.`;
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

  const marked = (id: string, deleted: boolean) =>
    db.transaction((tx) => setDeleted(tx, name, id, deleted));
  routes.delete("/:id", async (c) =>
    (await marked(c.req.param("id"), true)) ? c.body(null, 204) : notFound(c),
  );
  routes.post("/:id/restore", async (c) =>
    (await marked(c.req.param("id"), false)) ? c.body(null, 204) : notFound(c),
  );
  return routes;
}
