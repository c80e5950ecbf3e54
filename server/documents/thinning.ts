import type { Contents } from "../attachments/contents.ts";
import type { Database, Queryable } from "../database/database.ts";

/** Days for which every revision is kept, and for which a picture that nobody names is. */
const EVERY = 30;
/** Rows that one transaction takes away: others have their turn in between. */
const AT_ONCE = 2000;

/**
 * Lets revisions go that are older than a month: of each day the last of a document stays, and every one that a reading
 * was judged against. The state a document is in always stays.
 * @returns how many went
 */
export async function thinRevisions(db: Database): Promise<number> {
  let gone = 0;
  for (;;) {
    const rows = await db.transaction(async (tx) => {
      await thinning(tx);
      return tx.query(
        `WITH followed AS (
           SELECT collection, id, revision, saved_at,
                  lead(saved_at) OVER (PARTITION BY collection, id ORDER BY revision) AS next
             FROM revisions WHERE saved_at < now() - interval '${EVERY - 1} days'),
         going AS (
           SELECT collection, id, revision FROM followed f
            WHERE saved_at < now() - interval '${EVERY} days'
              AND (saved_at AT TIME ZONE 'UTC')::date = (next AT TIME ZONE 'UTC')::date
              AND NOT (collection = 'jobs' AND EXISTS (
                    SELECT 1 FROM field_tests t JOIN readings r ON r.test_id = t.id
                     WHERE t.job_id = f.id AND r.document -> 'jobRevision' = to_jsonb(f.revision)))
            LIMIT ${AT_ONCE})
         DELETE FROM revisions r USING going g
          WHERE r.collection = g.collection AND r.id = g.id AND r.revision = g.revision RETURNING 1 AS gone`,
      );
    });
    gone += rows.length;
    if (rows.length < AT_ONCE) return gone;
  }
}

/** Says that revisions may go in this transaction. */
const thinning = (tx: Queryable) => tx.execute("SET LOCAL upright_gusher.thinning = 'on'");

/**
 * Takes away pictures that no document names in any revision that is kept, a month after they came; with them the
 * bytes that no other picture has, and bytes that came without a picture.
 * @returns how many files went
 */
export async function collectOrphans(
  db: Database,
  contents: Contents,
  now = Date.now(),
): Promise<number> {
  await db.transaction(async (tx) => {
    await thinning(tx);
    const rows = await tx.query<{ id: string }>(
      `DELETE FROM attachments a
        WHERE updated_at < to_timestamp($1::double precision / 1000) - interval '${EVERY} days'
          AND NOT EXISTS (SELECT 1 FROM pictures_named n WHERE n.attachment = a.id) RETURNING id`,
      [now],
    );
    await tx.query("DELETE FROM revisions WHERE collection = 'attachments' AND id = ANY ($1)", [
      rows.map(({ id }) => id),
    ]);
  });
  const used = new Set(
    (
      await db.query<{ hash: string }>(
        "SELECT DISTINCT document ->> 'hash' AS hash FROM revisions WHERE collection = 'attachments'",
      )
    ).map(({ hash }) => hash),
  );
  let gone = 0;
  for (const hash of contents.hashes()) {
    if (!used.has(hash) && contents.forget(hash, now - EVERY * 24 * 3600 * 1000)) gone += 1;
  }
  return gone;
}
