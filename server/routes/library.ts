import { Hono } from "hono";
import { bodyLimit } from "hono/body-limit";
import * as z from "zod";
import type { ApiError } from "#contract/api/api.ts";
import { COLLECTIONS } from "#contract/collections.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { DEMO_DOCUMENTS } from "#demo/documents.ts";
import { LIBRARY } from "#library/pumps.ts";
import type { Database, Queryable, Row } from "../database/database.ts";
import { getDocument, setDeleted, write } from "../documents/store.ts";
import { readBody } from "./body.ts";

/** Loading the pump library that ships with the application, and resetting a demo. */
export function libraryRoutes(db: Database, demo: boolean): Hono {
  const routes = new Hono();
  routes.post("/library", async (c) => c.json({ added: await db.transaction(loadLibrary) }));
  const limit = bodyLimit({
    maxSize: LARGEST_IMPORT,
    onError: (c) =>
      c.json<ApiError>(
        {
          error: "too-large",
          message: `At most ${LARGEST_IMPORT / 1e6} MB at once: read it in in parts.`,
        },
        413,
      ),
  });
  routes.post("/library/import", limit, async (c) => {
    const asked = await readBody(c, IMPORT);
    if (!asked.ok) return asked.refusal;
    const pumps = asked.value.pumps as PumpDocument[];
    return c.json(await db.transaction((tx) => importPumps(tx, pumps)));
  });
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

/** bytes of a file of pumps: thousands of curves have room in it */
const LARGEST_IMPORT = 40_000_000;
/** Pumps that are taken in at once. */
const MOST_AT_ONCE = 10_000;

const IMPORT = z.object({ pumps: z.array(pumpSchema).min(1).max(MOST_AT_ONCE) });

/** What an import did with its pumps. */
interface Imported {
  added: number;
  changed: number;
  same: number;
}

/** Takes in pumps, all of them or, where anything fails, none: new ones are added, those that differ are changed. */
async function importPumps(tx: Queryable, pumps: readonly PumpDocument[]): Promise<Imported> {
  const done: Imported = { added: 0, changed: 0, same: 0 };
  for (const pump of pumps) {
    const document = pump as unknown as Row;
    if (await write(tx, "pumps", pump.id, 0, document)) {
      done.added += 1;
      continue;
    }
    await setDeleted(tx, "pumps", pump.id, false);
    const current = await getDocument(tx, "pumps", pump.id);
    if (current && sameDocument(current.document, document)) done.same += 1;
    else if (current && (await write(tx, "pumps", pump.id, current.revision, document))) {
      done.changed += 1;
    } else throw new Error(`The pump ${pump.id} was changed somewhere else meanwhile.`);
  }
  return done;
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
    "TRUNCATE samples, streams, readings, field_tests, jobs, pumps, units, attachments, firms, revisions",
  );
  for (const { collection, id, document } of DEMO_DOCUMENTS) {
    await write(tx, collection, id, 0, COLLECTIONS[collection].schema.parse(document) as Row);
  }
  // What the firm has of them is there already, and stays.
  await loadLibrary(tx);
}
