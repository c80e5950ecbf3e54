import type { ImportOutcome, ImportState } from "#contract/api/imports.ts";
import {
  COLLECTION_NAMES,
  COLLECTIONS,
  type Collection,
  type CollectionName,
} from "#contract/collections.ts";
import type { Database, Queryable, Row } from "../database/database.ts";

/** A document of an import. */
export interface Incoming {
  collection: CollectionName;
  id: string;
  document: unknown;
}

/** Days an import that was never finished waits, and one that was is remembered. */
const DAYS = 7;

/** Keeps a piece of an import, its first document the `from`th. The same piece sent again changes nothing. */
export function keepPiece(
  db: Database,
  id: string,
  from: number,
  documents: readonly Incoming[],
): Promise<ImportState> {
  return db.transaction(async (tx) => {
    await tx.query("INSERT INTO imports (id) VALUES ($1) ON CONFLICT DO NOTHING", [id]);
    const now = await importState(tx, id);
    if (now?.state !== "open") return now ?? { state: "cancelled" };
    await tx.query(
      `INSERT INTO import_rows (import_id, n, collection, id, document)
       SELECT $1, $2::integer + place - 1, row ->> 'collection', row ->> 'id', row -> 'document'
         FROM jsonb_array_elements($3::jsonb) WITH ORDINALITY AS given(row, place)
       ON CONFLICT DO NOTHING`,
      [id, from, JSON.stringify(documents)],
    );
    return (await importState(tx, id)) ?? { state: "cancelled" };
  });
}

/** What is known of an import; nothing where there never was one, or long ago. */
export async function importState(db: Queryable, id: string): Promise<ImportState | undefined> {
  const [row] = await db.query<{
    state: ImportState["state"];
    outcome: ImportOutcome;
    come: number;
  }>(
    `SELECT state, outcome, (SELECT count(*)::int FROM import_rows WHERE import_id = $1) AS come
       FROM imports WHERE id = $1`,
    [id],
  );
  if (!row) return undefined;
  const { state, outcome, come } = row;
  if (state === "done") return { state, outcome };
  return state === "open" ? { state, come } : { state };
}

/** Forgets what came of an import that is not finished. One that was is told as it is. */
export function cancelImport(db: Database, id: string): Promise<ImportState> {
  return db.transaction(async (tx) => {
    const now = await importState(tx, id);
    if (now?.state === "done") return now;
    await tx.query(
      `INSERT INTO imports (id, state) VALUES ($1, 'cancelled')
       ON CONFLICT (id) DO UPDATE SET state = 'cancelled'`,
      [id],
    );
    await tx.query("DELETE FROM import_rows WHERE import_id = $1", [id]);
    return { state: "cancelled" };
  });
}

export type Finished =
  | Exclude<ImportState, { state: "open" }>
  /** not all of it came */
  | { state: "short"; come: number }
  /** something else is kept under the id of one of them */
  | { state: "taken"; collection: CollectionName; id: string }
  /** one names another that is not there */
  | { state: "orphan"; collection: CollectionName; id: string };

/** Takes in all of an import at once, or nothing of it. Asked again, it answers as it did. */
export function finishImport(db: Database, id: string, count: number): Promise<Finished> {
  return db.transaction(async (tx) => {
    const now = await importState(tx, id);
    if (!now) return { state: "short", come: 0 };
    if (now.state !== "open") return now;
    if (now.come !== count) return { state: "short", come: now.come };
    const wrong = await misplaced(tx, id);
    if (wrong) return wrong;
    const outcome: ImportOutcome = { added: 0, changed: 0, same: 0 };
    for (const name of COLLECTION_NAMES) {
      const { added, changed, all } = await take(tx, id, name);
      outcome.added += added;
      outcome.changed += changed;
      outcome.same += all - added - changed;
    }
    await tx.query("DELETE FROM import_rows WHERE import_id = $1", [id]);
    await tx.query("UPDATE imports SET state = 'done', outcome = $2 WHERE id = $1", [id, outcome]);
    return { state: "done", outcome };
  });
}

/** The documents of a kind in an import; of two with one id the later. */
const incoming = (name: CollectionName) =>
  `(SELECT DISTINCT ON (id) id, document FROM import_rows
     WHERE import_id = $1 AND collection = '${name}' ORDER BY id, n DESC)`;

/** The first document that cannot be taken in, if there is one. */
async function misplaced(tx: Queryable, id: string): Promise<Finished | undefined> {
  for (const name of COLLECTION_NAMES) {
    const { table, parent, ownId }: Collection = COLLECTIONS[name];
    // What comes from elsewhere replaces only what is known everywhere by that id.
    if (!ownId) {
      const [row] = await tx.query<{ id: string }>(
        `SELECT i.id FROM ${incoming(name)} i JOIN ${table} d ON d.id = i.id AND d.document <> i.document LIMIT 1`,
        [id],
      );
      if (row) return { state: "taken", collection: name, id: row.id };
    }
    if (!parent) continue;
    const of = parent.of as CollectionName;
    const [row] = await tx.query<{ id: string }>(
      `SELECT i.id FROM ${incoming(name)} i
        WHERE i.document ->> '${parent.field}' IS NOT NULL
          AND NOT EXISTS (SELECT 1 FROM ${COLLECTIONS[of].table} d
                           WHERE d.id = i.document ->> '${parent.field}' AND d.deleted_at IS NULL)
          AND NOT EXISTS (SELECT 1 FROM import_rows o WHERE o.import_id = $1 AND o.collection = '${of}'
                           AND o.id = i.document ->> '${parent.field}') LIMIT 1`,
      [id],
    );
    if (row) return { state: "orphan", collection: name, id: row.id };
  }
  return undefined;
}

/** Takes in the documents of a kind: new ones are added, those that differ changed, deleted ones come back. */
async function take(tx: Queryable, id: string, name: CollectionName) {
  const { table, parent }: Collection = COLLECTIONS[name];
  const [column, value] = parent
    ? [`, ${parent.column}`, `, i.document ->> '${parent.field}'`]
    : ["", ""];
  const [row] = await tx.query<{ added: number; changed: number; all: number } & Row>(
    `WITH incoming AS MATERIALIZED ${incoming(name)},
     changed AS (
       UPDATE ${table} d SET revision = d.revision + 1, updated_at = now(), deleted_at = NULL, document = i.document
         FROM incoming i WHERE d.id = i.id AND d.document <> i.document
       RETURNING d.id, d.revision, d.document),
     back AS (
       UPDATE ${table} d SET deleted_at = NULL
         FROM incoming i WHERE d.id = i.id AND d.document = i.document AND d.deleted_at IS NOT NULL),
     added AS (
       INSERT INTO ${table} (id, revision, document${column})
       SELECT i.id, 1, i.document${value} FROM incoming i
        WHERE NOT EXISTS (SELECT 1 FROM ${table} d WHERE d.id = i.id)
       RETURNING id, revision, document),
     kept AS (
       INSERT INTO revisions (collection, id, revision, document)
       SELECT '${name}', id, revision, document FROM added
       UNION ALL SELECT '${name}', id, revision, document FROM changed)
     SELECT (SELECT count(*)::int FROM added) AS added, (SELECT count(*)::int FROM changed) AS changed,
            (SELECT count(*)::int FROM incoming) AS all`,
    [id],
  );
  return row ?? { added: 0, changed: 0, all: 0 };
}

/** Forgets imports that were begun long ago. */
export async function forgetImports(db: Database): Promise<void> {
  await db.transaction((tx) =>
    tx.query(`DELETE FROM imports WHERE begun_at < now() - interval '${DAYS} days'`),
  );
}
