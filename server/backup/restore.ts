import { COLLECTION_NAMES, COLLECTIONS, type Collection } from "#contract/collections.ts";
import type { Contents } from "../attachments/contents.ts";
import type { Database } from "../database/database.ts";
import { migrate } from "../database/migrate.ts";
import type { Head, Line } from "./format.ts";
import { BackupRefused, readBackup } from "./readBackup.ts";

/** What came back. */
export interface Restored {
  madeAt: string;
  documents: number;
  revisions: number;
  attachments: number;
}

/** Bytes of documents written at once. */
const BATCH = 500_000;

/**
 * Fills an empty database, and a place for attachments, from a backup. Throws `BackupRefused` where the file is not
 * whole; what was written until then is to be thrown away.
 */
export async function restore(path: string, db: Database, contents: Contents): Promise<Restored> {
  await migrate(db);
  let head: Head | undefined;
  let batch: string[] = [];
  let size = 0;
  const restored = { documents: 0, revisions: 0, attachments: 0 };
  const deleted: Extract<Line, { deleted: unknown }>["deleted"][] = [];
  const flush = async () => {
    if (batch.length === 0) return;
    const rows = `[${batch.join(",")}]`;
    await db.transaction((tx) =>
      tx.query(
        `INSERT INTO revisions (collection, id, revision, saved_at, document)
         SELECT r.collection, r.id, r.revision, r."savedAt", r.document
           FROM jsonb_to_recordset($1::jsonb)
             AS r(collection text, id text, revision integer, "savedAt" timestamptz, document jsonb)`,
        [rows],
      ),
    );
    batch = [];
    size = 0;
  };
  for await (const line of readBackup(path)) {
    if ("format" in line) head = line;
    else if ("deleted" in line) deleted.push(line.deleted);
    else if ("attachment" in line) {
      const reason = contents.keep(line.attachment, Buffer.from(line.bytes, "base64"));
      if (reason !== undefined) throw new BackupRefused(`${path} was damaged: a picture in it.`);
      restored.attachments++;
    } else {
      const row = JSON.stringify(line);
      batch.push(row);
      size += row.length;
      restored.revisions++;
      if (size > BATCH) await flush();
    }
  }
  await flush();
  if (!head) throw new BackupRefused(`${path} is empty.`);
  await db.transaction(async (tx) => {
    for (const name of COLLECTION_NAMES) {
      const { table, parent }: Collection = COLLECTIONS[name];
      const [column, value] = parent
        ? [`, ${parent.column}`, `, document ->> '${parent.field}'`]
        : ["", ""];
      const rows = await tx.query<{ id: string }>(
        `INSERT INTO ${table} (id, revision, updated_at, document${column})
         SELECT DISTINCT ON (id) id, revision, saved_at, document${value} FROM revisions
          WHERE collection = $1 ORDER BY id, revision DESC RETURNING id`,
        [name],
      );
      restored.documents += rows.length;
    }
    for (const { collection, id, at } of deleted) {
      const { table } = COLLECTIONS[collection];
      await tx.query(`UPDATE ${table} SET deleted_at = $2 WHERE id = $1`, [id, at]);
    }
  });
  return { madeAt: head.madeAt, ...restored };
}
