import fs from "node:fs";
import { join } from "node:path";
import { Hono } from "hono";
import type { Room } from "#contract/api/api.ts";
import type { Database } from "../database/database.ts";
import { roomIn } from "../database/room.ts";

/** What takes how much of the disk. */
export function roomRoutes(db: Database, folder: string): Hono {
  const routes = new Hono();
  routes.get("/room", async (c) => {
    const [tables] = await db.query<Record<"documents" | "revisions" | "samples", number>>(
      `SELECT pg_total_relation_size('revisions')::float8 AS revisions,
              pg_total_relation_size('samples')::float8 AS samples,
              (SELECT sum(pg_total_relation_size(format('%I', tablename)::regclass)) FROM pg_tables
                WHERE schemaname = 'public' AND tablename NOT IN ('revisions', 'samples'))::float8 AS documents`,
    );
    const { documents = 0, revisions = 0, samples = 0 } = tables ?? {};
    const [counts] = await db.query<Record<"revisions" | "samples", number>>(
      `SELECT ${countOf("revisions")} AS revisions, ${countOf("samples")} AS samples`,
    );
    const pictures = filesIn(join(folder, "attachments"));
    const backups = filesIn(join(folder, "backups"));
    const database = filesIn(join(folder, "database")).bytes;
    return c.json<Room>({
      free: roomIn(folder),
      parts: {
        documents: { bytes: documents },
        revisions: { bytes: revisions, count: counts?.revisions ?? 0 },
        samples: { bytes: samples, count: counts?.samples ?? 0 },
        // Its log and what it keeps for itself.
        engine: { bytes: Math.max(0, database - documents - revisions - samples) },
        pictures: { bytes: pictures.bytes, count: pictures.count },
        backups: { bytes: backups.bytes, count: backups.count },
      },
    });
  });
  return routes;
}

/** Rows of a table: as many as it was last found to have, and counted where that takes no time. */
const countOf = (table: string) =>
  `(SELECT CASE WHEN reltuples > 100000 THEN reltuples ELSE (SELECT count(*) FROM ${table}) END
      FROM pg_class WHERE oid = '${table}'::regclass)::float8`;

/** How many files lie under a folder, and what they take; one that another name outside shares is counted there. */
function filesIn(folder: string): { bytes: number; count: number } {
  const found = { bytes: 0, count: 0 };
  if (!fs.existsSync(folder)) return found;
  for (const entry of fs.readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const file = fs.statSync(join(entry.parentPath, entry.name), { throwIfNoEntry: false });
    if (!file) continue;
    found.count += 1;
    // A part of the backups that is a second name of a picture takes no room of its own.
    if (!(entry.parentPath.endsWith("parts") && file.nlink > 1)) found.bytes += file.size;
  }
  return found;
}
