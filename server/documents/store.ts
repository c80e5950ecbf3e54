import type { Deleted, Revision, Stored } from "#contract/api/api.ts";
import {
  COLLECTIONS,
  type Collection,
  type CollectionName,
  readStored,
} from "#contract/collections.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { outlineJob } from "#model/job/outline.ts";
import type { Database, Queryable, Row } from "../database/database.ts";

interface DocumentRow extends Row {
  id: string;
  revision: number;
  updated_at: Date;
  document: unknown;
}

export type SaveOutcome =
  | { kind: "saved"; stored: Stored<unknown> }
  /** someone else wrote in between, or the document is gone: `current` is what stands now */
  | { kind: "conflict"; current: Stored<unknown> | null }
  | { kind: "parent-missing" };

const COLUMNS = "id, revision, updated_at, document";
const declared = (name: CollectionName): Collection => COLLECTIONS[name];

export function getDocument(db: Queryable, name: CollectionName, id: string) {
  const sql = `SELECT ${COLUMNS} FROM ${declared(name).table} WHERE id = $1 AND deleted_at IS NULL`;
  return one(db, name, sql, [id]);
}

/** Every document of a collection that is not deleted, newest first. */
export async function listDocuments(db: Queryable, name: CollectionName) {
  const rows = await db.query<DocumentRow>(
    `SELECT ${COLUMNS} FROM ${declared(name).table} WHERE deleted_at IS NULL ORDER BY updated_at DESC, id`,
  );
  return rows.map((row) => stored(name, row));
}

/** The states a document was saved in, newest first; deleted ones keep theirs. */
export async function listRevisions(
  db: Queryable,
  name: CollectionName,
  id: string,
): Promise<Revision[]> {
  const rows = await db.query<{ revision: number; saved_at: Date }>(
    `SELECT revision, saved_at FROM revisions WHERE collection = $1 AND id = $2 ORDER BY revision DESC`,
    [name, id],
  );
  return rows.map(({ revision, saved_at }) => ({ revision, savedAt: saved_at.toISOString() }));
}

/** A document as it was saved at a revision. */
export async function getRevision(
  db: Queryable,
  name: CollectionName,
  id: string,
  revision: number,
) {
  return one(
    db,
    name,
    `SELECT id, revision, saved_at AS updated_at, document FROM revisions
      WHERE collection = $1 AND id = $2 AND revision = $3`,
    [name, id, revision],
  );
}

/** What is listed of a job that was saved by a version which kept no summary, until it has one. */
const UNWORKED = `jsonb_build_object('name', document ->> 'name', 'place', '', 'customer', '',
                                     'pumps', '[]'::jsonb, 'stops', 0)`;

/**
 * Every job as a `JobSummary`, the last changed first, as the text of a JSON array: the database writes it in its own
 * thread, and nothing here reads it.
 */
export async function listJobs(db: Queryable): Promise<string> {
  // Put together as text: objects of JSON, merged and written out, take more than twice as long.
  const [row] = await db.query<{ jobs: string | null }>(
    `SELECT '[' || string_agg(
              left(coalesce(summary, ${UNWORKED})::text, -1) || ', ' || substr(left(taken::text, -1), 2)
              || ', "id": "' || id || '", "revision": ' || revision
              || ', "updatedAt": "' || to_char(updated_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') || '"'
              || CASE WHEN summary_of IS DISTINCT FROM revision THEN ', "pending": true}' ELSE '}' END,
              ',' ORDER BY updated_at DESC, id) || ']' AS jobs
       FROM jobs WHERE deleted_at IS NULL`,
  );
  return row?.jobs ?? "[]";
}

/** The field tests of a job with their readings, oldest first. */
export async function listTestsOf(db: Queryable, of: "jobs" | "units", id: string) {
  const owned = of === "jobs" ? "t.job_id = $1" : "t.document ->> 'unitId' = $1";
  const tests = await db.query<DocumentRow>(
    `SELECT ${COLUMNS} FROM field_tests t WHERE ${owned} AND deleted_at IS NULL
      ORDER BY document ->> 'takenOn', id`,
    [id],
  );
  const readings = await db.query<DocumentRow & { test_id: string }>(
    `SELECT r.id, r.test_id, r.revision, r.updated_at, r.document FROM readings r
       JOIN field_tests t ON t.id = r.test_id
      WHERE ${owned} AND r.deleted_at IS NULL AND t.deleted_at IS NULL
      ORDER BY r.document ->> 'takenAt', r.id`,
    [id],
  );
  return tests.map((test) => ({
    ...stored("tests", test),
    readings: readings
      .filter((reading) => reading.test_id === test.id)
      .map((reading) => stored("readings", reading)),
  }));
}

/**
 * Writes a document that was edited at `revision` (0 creates it), and keeps that state for good. The same write
 * asked for again, because its answer was lost, is answered as the first one was.
 */
export function saveDocument(
  db: Database,
  name: CollectionName,
  id: string,
  revision: number,
  document: Record<string, unknown>,
): Promise<SaveOutcome> {
  const { parent } = declared(name);
  return db.transaction(async (tx) => {
    if (parent && document[parent.field] !== undefined) {
      const { table } = declared(parent.of as CollectionName);
      const found = await tx.query(`SELECT 1 FROM ${table} WHERE id = $1 AND deleted_at IS NULL`, [
        document[parent.field],
      ]);
      if (found.length === 0) return { kind: "parent-missing" };
    }
    const written = await write(tx, name, id, revision, document);
    if (written) return { kind: "saved", stored: written };
    const current = await getDocument(tx, name, id);
    if (current?.revision === revision + 1 && sameDocument(current.document, document)) {
      return { kind: "saved", stored: current };
    }
    return { kind: "conflict", current: current ?? null };
  });
}

/** One write, with what follows from it: parent, summary and revision. Nothing where the revision is not met. */
export async function write(
  tx: Queryable,
  name: CollectionName,
  id: string,
  revision: number,
  document: Record<string, unknown>,
): Promise<Stored<unknown> | undefined> {
  const { table, parent } = declared(name);
  // What follows from a job is worked out after it is kept; what it says of itself is listed at once.
  const columns: { name: string; value: unknown; changed?: (value: string) => string }[] = [
    { name: "document", value: document },
    ...(parent ? [{ name: parent.column, value: document[parent.field] ?? null }] : []),
    ...(name === "jobs"
      ? [
          {
            name: "summary",
            value: { stops: 0, ...outlineJob(document as unknown as JobDocument) },
            changed: (value: string) =>
              `(coalesce(${table}.summary, ${value}) - 'kind') || (${value}::jsonb - 'stops')`,
          },
        ]
      : []),
  ];
  const values = columns.map(({ value }) => value);
  const written =
    revision === 0
      ? await one(
          tx,
          name,
          `INSERT INTO ${table} (id, revision, ${columns.map((column) => column.name).join(", ")})
           VALUES ($1, 1, ${columns.map((_, i) => `$${i + 2}`).join(", ")})
           ON CONFLICT (id) DO NOTHING RETURNING ${COLUMNS}`,
          [id, ...values],
        )
      : await one(
          tx,
          name,
          `UPDATE ${table} SET revision = revision + 1, updated_at = now(),
                  ${columns.map(({ name: column, changed = same }, i) => `${column} = ${changed(`$${i + 3}`)}`).join(", ")}
            WHERE id = $1 AND revision = $2 AND deleted_at IS NULL RETURNING ${COLUMNS}`,
          [id, revision, ...values],
        );
  if (written) {
    await tx.query(
      "INSERT INTO revisions (collection, id, revision, document) VALUES ($1, $2, $3, $4)",
      [name, id, written.revision, document],
    );
  }
  return written;
}

const same = (value: string) => value;

/** Marks a document as deleted, or brings it back. True when something changed. */
export async function setDeleted(
  db: Queryable,
  name: CollectionName,
  id: string,
  deleted: boolean,
): Promise<boolean> {
  const { table } = declared(name);
  const rows = await db.query(
    deleted
      ? `UPDATE ${table} SET deleted_at = now() WHERE id = $1 AND deleted_at IS NULL RETURNING id`
      : `UPDATE ${table} SET deleted_at = NULL WHERE id = $1 AND deleted_at IS NOT NULL RETURNING id`,
    [id],
  );
  return rows.length > 0;
}

/** Days something deleted can be brought back from the bin, and how much of it is listed. */
const BIN_DAYS = 30;
const BIN_LISTED = 500;

/** What was deleted in the last thirty days, the newest first. What belongs to a deleted job comes back with it. */
export async function listDeleted(db: Queryable): Promise<Deleted[]> {
  const of = (collection: Deleted["collection"], table: string, name: string, more = "") =>
    `SELECT '${collection}' AS collection, d.id, ${name} AS name, d.deleted_at FROM ${table} d ${more}
      WHERE d.deleted_at > now() - interval '${BIN_DAYS} days'`;
  const test = "JOIN field_tests t ON t.id = d.test_id";
  const rows = await db.query<{ collection: string; id: string; name: string; deleted_at: Date }>(
    `SELECT * FROM (${[
      of("jobs", "jobs", "d.document ->> 'name'"),
      of("pumps", "pumps", "concat_ws(' ', d.document ->> 'maker', d.document ->> 'model')"),
      of(
        "tests",
        "field_tests",
        "concat_ws(', ', d.document ->> 'title', d.document ->> 'takenOn')",
      ),
      of(
        "readings",
        "readings",
        "concat_ws(', ', t.document ->> 'title', left(d.document ->> 'takenAt', 10))",
        test,
      ),
      of("units", "units", "coalesce(d.document ->> 'serial', d.id)"),
    ].join(" UNION ALL ")}) found ORDER BY deleted_at DESC, id LIMIT ${BIN_LISTED}`,
  );
  return rows.map(({ collection, id, name, deleted_at }) => ({
    ...{ collection: collection as Deleted["collection"], id, name },
    deletedAt: deleted_at.toISOString(),
  }));
}

async function one(db: Queryable, name: CollectionName, sql: string, parameters: unknown[]) {
  const [row] = await db.query<DocumentRow>(sql, parameters);
  return row && stored(name, row);
}

function stored(name: CollectionName, row: DocumentRow): Stored<unknown> {
  const { id, revision, updated_at, document } = row;
  return {
    id,
    revision,
    updatedAt: updated_at.toISOString(),
    document: readStored(name, document),
  };
}
