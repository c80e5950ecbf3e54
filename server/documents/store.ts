import type { JobSummary, Stored } from "#contract/api/api.ts";
import type { Database, Queryable, Row } from "../database/database.ts";
import type { Collection } from "./collections.ts";

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

export function getDocument(db: Queryable, { table }: Collection, id: string) {
  return one(db, `SELECT ${COLUMNS} FROM ${table} WHERE id = $1 AND deleted_at IS NULL`, [id]);
}

/** Every document of a collection that is not deleted, newest first. */
export async function listDocuments(db: Queryable, { table }: Collection) {
  const rows = await db.query<DocumentRow>(
    `SELECT ${COLUMNS} FROM ${table} WHERE deleted_at IS NULL ORDER BY updated_at DESC, id`,
  );
  return rows.map(stored);
}

export async function listJobs(db: Queryable): Promise<JobSummary[]> {
  const rows = await db.query<DocumentRow & Omit<JobSummary, "updatedAt">>(
    `SELECT j.id, j.revision, j.updated_at,
            j.document ->> 'name' AS name,
            coalesce(j.document ->> 'place', '') AS place,
            (SELECT coalesce(jsonb_agg((p ->> 'maker') || ' ' || (p ->> 'model')), '[]')
               FROM jsonb_array_elements(j.document -> 'pumps') AS p
              WHERE EXISTS (SELECT 1 FROM jsonb_array_elements(j.document -> 'path') AS i
                             WHERE i ->> 'pump' = p ->> 'id')) AS pumps,
            (SELECT count(*)::integer FROM readings r JOIN field_tests t ON t.id = r.test_id
              WHERE t.job_id = j.id AND r.deleted_at IS NULL AND t.deleted_at IS NULL) AS readings
       FROM jobs j WHERE j.deleted_at IS NULL ORDER BY j.updated_at DESC, j.id`,
  );
  return rows.map(({ updated_at, id, revision, name, place, pumps, readings }) => ({
    id,
    revision,
    updatedAt: updated_at.toISOString(),
    name,
    place,
    pumps,
    readings,
  }));
}

/** The field tests of a job with their readings, oldest first. */
export async function listTestsOfJob(db: Queryable, jobId: string) {
  const tests = await db.query<DocumentRow>(
    `SELECT ${COLUMNS} FROM field_tests WHERE job_id = $1 AND deleted_at IS NULL
      ORDER BY document ->> 'takenOn', id`,
    [jobId],
  );
  const readings = await db.query<DocumentRow & { test_id: string }>(
    `SELECT r.id, r.test_id, r.revision, r.updated_at, r.document FROM readings r
       JOIN field_tests t ON t.id = r.test_id
      WHERE t.job_id = $1 AND r.deleted_at IS NULL AND t.deleted_at IS NULL
      ORDER BY r.document ->> 'takenAt', r.id`,
    [jobId],
  );
  return tests.map((test) => ({
    ...stored(test),
    readings: readings.filter((reading) => reading.test_id === test.id).map(stored),
  }));
}

/** Writes a document that was edited at `revision` (0 creates it). */
export function saveDocument(
  db: Database,
  collection: Collection,
  id: string,
  revision: number,
  document: Record<string, unknown>,
): Promise<SaveOutcome> {
  const { table, parent } = collection;
  return db.transaction(async (tx) => {
    const parentId = parent ? document[parent.field] : undefined;
    if (parent) {
      const found = await tx.query(
        `SELECT 1 FROM ${parent.table} WHERE id = $1 AND deleted_at IS NULL`,
        [parentId],
      );
      if (found.length === 0) return { kind: "parent-missing" };
    }
    const written =
      revision === 0
        ? await one(
            tx,
            parent
              ? `INSERT INTO ${table} (id, revision, document, ${parent.column}) VALUES ($1, 1, $2, $3)
                 ON CONFLICT (id) DO NOTHING RETURNING ${COLUMNS}`
              : `INSERT INTO ${table} (id, revision, document) VALUES ($1, 1, $2)
                 ON CONFLICT (id) DO NOTHING RETURNING ${COLUMNS}`,
            parent ? [id, document, parentId] : [id, document],
          )
        : await one(
            tx,
            parent
              ? `UPDATE ${table} SET revision = revision + 1, updated_at = now(), document = $2, ${parent.column} = $4
                  WHERE id = $1 AND revision = $3 AND deleted_at IS NULL RETURNING ${COLUMNS}`
              : `UPDATE ${table} SET revision = revision + 1, updated_at = now(), document = $2
                  WHERE id = $1 AND revision = $3 AND deleted_at IS NULL RETURNING ${COLUMNS}`,
            parent ? [id, document, revision, parentId] : [id, document, revision],
          );
    if (written) return { kind: "saved", stored: written };
    return { kind: "conflict", current: (await getDocument(tx, collection, id)) ?? null };
  });
}

/** Marks a document as deleted, or brings it back. True when something changed. */
export async function setDeleted(
  db: Queryable,
  { table }: Collection,
  id: string,
  deleted: boolean,
): Promise<boolean> {
  const rows = await db.query(
    deleted
      ? `UPDATE ${table} SET deleted_at = now() WHERE id = $1 AND deleted_at IS NULL RETURNING id`
      : `UPDATE ${table} SET deleted_at = NULL WHERE id = $1 AND deleted_at IS NOT NULL RETURNING id`,
    [id],
  );
  return rows.length > 0;
}

async function one(db: Queryable, sql: string, parameters: unknown[]) {
  const [row] = await db.query<DocumentRow>(sql, parameters);
  return row && stored(row);
}

function stored({ id, revision, updated_at, document }: DocumentRow): Stored<unknown> {
  return { id, revision, updatedAt: updated_at.toISOString(), document };
}
