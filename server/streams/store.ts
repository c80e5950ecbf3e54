import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import type { Sample, StreamDocument, StreamLine } from "#contract/streams/stream.ts";
import type { Database, Queryable, Row } from "../database/database.ts";

/** A sample as it is kept: the order it came in, and its moment in ms since 1970. */
export interface KeptSample {
  arrival: number;
  n: number;
  at: number;
  values: (number | null)[];
}

interface StreamRow extends Row {
  id: string;
  created_at: Date;
  document: StreamDocument;
  count: number;
  first: number | null;
  last: number | null;
}

const COUNTED = `SELECT s.id, s.created_at, s.document,
    s.sample_count AS count,
    (SELECT min(at) FROM samples WHERE stream_id = s.id) AS first,
    (SELECT max(at) FROM samples WHERE stream_id = s.id) AS last
  FROM streams s WHERE s.deleted_at IS NULL`;

/** Begins a stream; its token is told once, and kept as a hash only. */
export async function createStream(
  db: Database,
  id: string,
  document: StreamDocument,
): Promise<{ token: string } | "no-job" | "taken"> {
  const token = randomBytes(24).toString("base64url");
  const { jobId } = document;
  return db.transaction(async (tx) => {
    if (jobId !== undefined) {
      const found = await tx.query("SELECT 1 FROM jobs WHERE id = $1 AND deleted_at IS NULL", [
        jobId,
      ]);
      if (found.length === 0) return "no-job";
    }
    const made = await tx.query(
      `INSERT INTO streams (id, job_id, token_hash, document) VALUES ($1, $2, $3, $4)
         ON CONFLICT (id) DO NOTHING RETURNING id`,
      [id, jobId ?? null, hashOf(token), JSON.stringify(document)],
    );
    return made.length > 0 ? { token } : "taken";
  });
}

export async function listStreams(db: Queryable, jobId: string): Promise<StreamLine[]> {
  const rows = await db.query<StreamRow>(
    `${COUNTED} AND s.job_id = $1 ORDER BY s.created_at DESC`,
    [jobId],
  );
  return rows.map(line);
}

export async function getStream(db: Queryable, id: string): Promise<StreamLine | undefined> {
  const [row] = await db.query<StreamRow>(`${COUNTED} AND s.id = $1`, [id]);
  return row && line(row);
}

function line({ id, created_at, document, count, first, last }: StreamRow): StreamLine {
  const moment = (ms: number | null) => (ms === null ? undefined : new Date(ms).toISOString());
  const [from, to] = [moment(first), moment(last)];
  return {
    id,
    createdAt: created_at.toISOString(),
    ...document,
    count,
    ...(from && { from }),
    ...(to && { to }),
  };
}

/** Marks a stream as deleted, or brings it back; its samples stay either way. False where it is not there. */
export async function setStreamDeleted(
  db: Database,
  id: string,
  deleted: boolean,
): Promise<boolean> {
  const rows = await db.transaction((tx) =>
    tx.query(
      `UPDATE streams SET deleted_at = ${deleted ? "now()" : "NULL"}
        WHERE id = $1 AND deleted_at IS ${deleted ? "" : "NOT "}NULL RETURNING id`,
      [id],
    ),
  );
  return rows.length > 0;
}

/** How many channels a stream has, for whoever has its token; nothing for anybody else. Its samples are not looked at. */
export async function mayStream(
  db: Queryable,
  id: string,
  token: string,
): Promise<number | undefined> {
  const [row] = await db.query<{ token_hash: string; channels: number }>(
    `SELECT token_hash, jsonb_array_length(document -> 'channels') AS channels
       FROM streams WHERE id = $1 AND deleted_at IS NULL`,
    [id],
  );
  if (!row) return undefined;
  const known = timingSafeEqual(Buffer.from(row.token_hash), Buffer.from(hashOf(token)));
  return known ? row.channels : undefined;
}

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/**
 * Keeps samples; of those that are there already nothing changes. Returns the new ones in the order they are kept in.
 * Once it resolves they survive the power going.
 */
export async function addSamples(
  db: Database,
  id: string,
  samples: readonly Sample[],
): Promise<KeptSample[]> {
  const rows = await db.transaction((tx) =>
    insertSamples(
      tx,
      id,
      samples.map(({ n, at, values }) => ({ n, at: Date.parse(at), values })),
    ),
  );
  return rows
    .map((row) => ({ ...row, arrival: Number(row.arrival), n: Number(row.n) }))
    .toSorted((a, b) => a.arrival - b.arrival);
}

/** Puts samples in the order they are given; those that are there already stay as they are. */
export const insertSamples = (
  tx: Queryable,
  id: string,
  samples: readonly { n: number; at: number; values: readonly (number | null)[] }[],
) =>
  tx.query<{ arrival: string; n: string; at: number; values: (number | null)[] }>(
    `INSERT INTO samples (stream_id, n, at, "values")
       SELECT $1, (s ->> 'n')::bigint, (s ->> 'at')::double precision,
              ARRAY(SELECT v::double precision FROM jsonb_array_elements_text(s -> 'values') AS v)
         FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS given(s, place) ORDER BY place
       ON CONFLICT (stream_id, n) DO NOTHING
       RETURNING arrival::text, n::text, at, "values"`,
    [id, JSON.stringify(samples)],
  );

/** Samples that came in after another, at most so many of the last. */
export async function samplesAfter(
  db: Queryable,
  id: string,
  arrival: number,
  most: number,
): Promise<KeptSample[]> {
  const rows = await db.query<{
    arrival: string;
    n: string;
    at: number;
    values: (number | null)[];
  }>(
    `SELECT arrival::text, n::text, at, "values" FROM samples
      WHERE stream_id = $1 AND arrival > $2 ORDER BY arrival DESC LIMIT ${most}`,
    [id, arrival],
  );
  return rows
    .map((row) => ({ ...row, arrival: Number(row.arrival), n: Number(row.n) }))
    .toReversed();
}

/**
 * The whole of a stream in time, as one run of little-endian numbers of 64 bits: how many samples, how many channels,
 * the moments in ms since 1970, then channel by channel, NaN where there was nothing. The database puts the columns
 * together itself: row by row it would take ten times as long.
 */
export async function wholeStream(
  db: Queryable,
  id: string,
  channels: number,
): Promise<Float64Array<ArrayBuffer>> {
  // As text of base64: the way every driver reads fast.
  const [row] = await db.query<{ moments: string | null; rows: string | null }>(
    `SELECT encode(string_agg(float8send(at), ''::bytea), 'base64') AS moments,
            encode(string_agg(array_send("values"), ''::bytea), 'base64') AS rows
       FROM (SELECT at, "values" FROM samples WHERE stream_id = $1 ORDER BY at, n) AS in_time`,
    [id],
  );
  const moments = Buffer.from(row?.moments ?? "", "base64");
  const rows = Buffer.from(row?.rows ?? "", "base64");
  const count = moments.length / 8;
  const whole = new Float64Array(2 + count * (1 + channels)).fill(Number.NaN);
  whole[0] = count;
  whole[1] = channels;
  let at = 0;
  for (let i = 0; i < count; i++) {
    whole[2 + i] = moments.readDoubleBE(8 * i);
    // An array as PostgreSQL sends it: five numbers of its shape, the fourth its length, then each value after its
    // length in bytes, −1 where there is none.
    const length = rows.readInt32BE(at + 12);
    at += 20;
    for (let c = 0; c < length; c++) {
      const bytes = rows.readInt32BE(at);
      at += 4;
      if (bytes !== 8) continue;
      whole[2 + count * (1 + c) + i] = rows.readDoubleBE(at);
      at += 8;
    }
  }
  return whole;
}
