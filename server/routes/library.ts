import { Hono } from "hono";
import type { ApiError } from "#contract/api/api.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { seedDemo } from "#demo/seed.ts";
import { LIBRARY } from "#library/pumps.ts";
import type { Database, Queryable } from "../database/database.ts";

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
    const rows = await tx.query(
      `INSERT INTO pumps (id, revision, document) VALUES ($1, 1, $2)
       ON CONFLICT (id) DO UPDATE SET deleted_at = NULL WHERE pumps.deleted_at IS NOT NULL
       RETURNING id`,
      [pump.id, pump],
    );
    added += rows.length;
  }
  return added;
}

/** Throws everything away and writes the demo anew. */
export async function resetDemo(tx: Queryable): Promise<void> {
  await tx.execute("TRUNCATE readings, field_tests, jobs, pumps");
  await loadLibrary(tx);
  await seedDemo(tx);
}
