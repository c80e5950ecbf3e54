import type { Database, Queryable } from "../database/database.ts";

/** Days the firm keeps every sample for, where it said so. */
export async function daysOfSamples(db: Queryable): Promise<number | undefined> {
  const [row] = await db.query<{ days: number | null }>(
    "SELECT (document ->> 'sampleDays')::int AS days FROM firms WHERE deleted_at IS NULL ORDER BY id LIMIT 1",
  );
  return row?.days ?? undefined;
}

/** Minutes of samples that one transaction thins. */
const AT_ONCE = 500;
/** ms before and after a reading in which every sample stays: what it was judged steady by is among them. */
const AROUND = 30 * 60_000;
const DAY = 24 * 3600 * 1000;

/**
 * Thins samples older than so many days to one a minute, their mean, at the mean of their moments; those around a
 * reading of the stream's job stay as they are.
 * @returns how many samples went
 */
export async function thinSamples(db: Database, days: number, now = Date.now()): Promise<number> {
  const before = Math.floor((now - days * DAY) / 60_000) * 60_000;
  let gone = 0;
  const streams = await db.query<{ id: string; channels: number }>(
    "SELECT id, jsonb_array_length(document -> 'channels') AS channels FROM streams",
  );
  for (const { id, channels } of streams) {
    for (;;) {
      const rows = await db.transaction((tx) =>
        tx.query<{ gone: number; minutes: number }>(SQL(channels), [id, before]),
      );
      const [row] = rows;
      gone += row?.gone ?? 0;
      if ((row?.minutes ?? 0) < AT_ONCE) break;
    }
  }
  return gone;
}

/** The means of full minutes take the place of their first sample; what else is in them goes. */
const SQL = (channels: number) => `
  WITH kept AS (
    SELECT extract(epoch FROM (r.document ->> 'takenAt')::timestamptz) * 1000 AS at
      FROM streams s JOIN field_tests t ON t.job_id = s.job_id JOIN readings r ON r.test_id = t.id
     WHERE s.id = $1),
  minutes AS (
    SELECT floor(at / 60000) AS minute, min(n) AS first, avg(at) AS at,
           ARRAY[${Array.from({ length: channels }, (_, c) => `avg("values"[${c + 1}])`).join(", ")}] AS means
      FROM samples s
     WHERE stream_id = $1 AND at < $2
       AND NOT EXISTS (SELECT 1 FROM kept k WHERE abs(k.at - s.at) <= ${AROUND})
     GROUP BY 1 HAVING count(*) > 1 LIMIT ${AT_ONCE}),
  going AS (
    DELETE FROM samples s USING minutes m
     WHERE s.stream_id = $1 AND s.at < $2 AND floor(s.at / 60000) = m.minute AND s.n <> m.first
       AND NOT EXISTS (SELECT 1 FROM kept k WHERE abs(k.at - s.at) <= ${AROUND})
    RETURNING 1),
  thinned AS (
    UPDATE samples s SET at = m.at, "values" = m.means FROM minutes m
     WHERE s.stream_id = $1 AND s.n = m.first RETURNING 1)
  SELECT (SELECT count(*)::int FROM going) AS gone, (SELECT count(*)::int FROM minutes) AS minutes`;
