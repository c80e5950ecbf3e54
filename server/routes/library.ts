import { Hono } from "hono";
import type { ApiError } from "#contract/api/api.ts";
import { COLLECTIONS } from "#contract/collections.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { DEMO_DOCUMENTS } from "#demo/documents.ts";
import { LIBRARY } from "#library/pumps.ts";
import type { Database, Queryable, Row } from "../database/database.ts";
import { setDeleted, write } from "../documents/store.ts";

/** Loading the pump library that ships with the application, and resetting a demo. */
export function libraryRoutes(db: Database, demo: boolean): Hono {
  const routes = new Hono();
  routes.post("/library", async (c) => c.json({ added: await db.transaction(loadLibrary) }));
  routes.post("/demo/reset", async (c) => {
    if (!demo) {
      const message = "Only a demo can be reset.";
      return c.json<ApiError>({ error: "forbidden", message }, 403);
    }
    await db.transaction(resetDemo);
    return c.body(null, 204);
  });
  return routes;
}

/** Adds the shipped pumps that are not there yet; deleted ones come back. Returns how many. */
export async function loadLibrary(tx: Queryable): Promise<number> {
  let added = 0;
  for (const input of LIBRARY) {
    const pump = pumpSchema.parse(input);
    const written = await write(tx, "pumps", pump.id, 0, pump);
    if (written || (await setDeleted(tx, "pumps", pump.id, false))) added += 1;
  }
  return added;
}

/** Throws everything away and writes the demo anew. */
export async function resetDemo(tx: Queryable): Promise<void> {
  await tx.execute(
    "TRUNCATE samples, streams, readings, field_tests, jobs, pumps, units, attachments, firms, revisions, pictures_named, imports, import_rows",
  );
  for (const { collection, id, document } of DEMO_DOCUMENTS) {
    await write(tx, collection, id, 0, COLLECTIONS[collection].schema.parse(document) as Row);
  }
  // What the firm has of them is there already, and stays.
  await loadLibrary(tx);
}
