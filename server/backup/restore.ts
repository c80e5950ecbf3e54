import { COLLECTION_NAMES, COLLECTIONS, type Collection } from "#contract/collections.ts";
import type { Contents } from "../attachments/contents.ts";
import type { Database } from "../database/database.ts";
import { migrate } from "../database/migrate.ts";
import { insertSamples } from "../streams/store.ts";
import type { Head, Line } from "./format.ts";
import { BackupRefused, readBackup } from "./readBackup.ts";

/** What came back. */
export interface Restored {
  madeAt: string;
  documents: number;
  revisions: number;
  attachments: number;
  samples: number;
}

/** Bytes of documents written at once. */
const BATCH = 500_000;

/** Reads a backup to its end. Throws `BackupRefused` where it is not whole, before anything was made of it. */
export async function verify(path: string): Promise<void> {
  for await (const _ of readBackup(path));
}

/**
 * Fills an empty database, and a place for attachments, from a backup that was verified. Throws `BackupRefused` where
 * the file is not whole any more; what was written until then is to be thrown away.
 */
export async function restore(path: string, db: Database, contents: Contents): Promise<Restored> {
  await migrate(db);
  let head: Head | undefined;
  let batch: string[] = [];
  let size = 0;
  const restored = { documents: 0, revisions: 0, attachments: 0, samples: 0 };
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
  let stands = false;
  const stand = async () => {
    if (stands) return;
    await flush();
    restored.documents = await documentsOf(db, deleted);
    stands = true;
  };
  for await (const line of readBackup(path)) {
    if ("format" in line) head = line;
    else if ("stream" in line) {
      // They come last, and belong to jobs.
      await stand();
      await addStream(db, line.stream);
    } else if ("samples" in line) {
      await addRows(db, line.samples, line.rows);
      restored.samples += line.rows.length;
    } else if ("deleted" in line) deleted.push(line.deleted);
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
  await stand();
  if (!head) throw new BackupRefused(`${path} is empty.`);
  return { madeAt: head.madeAt, ...restored };
}

/** Makes the documents out of their last revisions; how many. */
function documentsOf(
  db: Database,
  deleted: readonly Extract<Line, { deleted: unknown }>["deleted"][],
): Promise<number> {
  return db.transaction(async (tx) => {
    let documents = 0;
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
      documents += rows.length;
    }
    for (const { collection, id, at } of deleted) {
      const { table } = COLLECTIONS[collection];
      await tx.query(`UPDATE ${table} SET deleted_at = $2 WHERE id = $1`, [id, at]);
    }
    return documents;
  });
}

async function addStream(
  db: Database,
  { id, createdAt, deletedAt, tokenHash, document }: Extract<Line, { stream: unknown }>["stream"],
): Promise<void> {
  await db.transaction((tx) =>
    tx.query(
      `INSERT INTO streams (id, created_at, deleted_at, token_hash, document, job_id)
       VALUES ($1, $2, $3, $4, $5::jsonb, $5::jsonb ->> 'jobId')`,
      [id, createdAt, deletedAt, tokenHash, JSON.stringify(document)],
    ),
  );
}

async function addRows(
  db: Database,
  stream: string,
  rows: Extract<Line, { rows: unknown }>["rows"],
): Promise<void> {
  const samples = rows.map(([n, at, values]) => ({ n, at, values }));
  await db.transaction((tx) => insertSamples(tx, stream, samples));
}
