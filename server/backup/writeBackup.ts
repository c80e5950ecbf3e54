import { createHash } from "node:crypto";
import { Readable } from "node:stream";
import { createGzip } from "node:zlib";
import { COLLECTION_NAMES, COLLECTIONS } from "#contract/collections.ts";
import type { Contents } from "../attachments/contents.ts";
import type { Queryable } from "../database/database.ts";
import { FORMAT, type Head, type Line, SAMPLES, VERSION, type Written } from "./format.ts";
import type { Parts } from "./parts.ts";

/** Revisions read at once: saves have their turn in between. */
const BATCH = 100;

/**
 * Everything that is kept, as one gzip file that grows as it is read. Revisions and samples are only ever added, so
 * those up to the last ones at its beginning are one moment's state, however long the reading takes.
 * @param parts where pictures and samples go that it shares with others; without, all of it is in the file
 */
export function backupStream(
  db: Queryable,
  contents: Contents,
  application: string,
  parts?: Parts,
): Readable {
  return packed(lines(db, contents, application, parts));
}

/** Lines of a backup as the file. */
export function packed(of: AsyncIterable<string>): Readable {
  const gzip = createGzip();
  const source = Readable.from(hashed(of));
  source.on("error", (error) => gzip.destroy(error));
  return source.pipe(gzip);
}

/** What tells two states of the data apart without reading it. */
export async function stateOf(
  db: Queryable,
): Promise<{ state: string; upTo: bigint; arrival: string }> {
  const deleted = [...COLLECTION_NAMES.map((name) => COLLECTIONS[name].table), "streams"].map(
    (table) => `(SELECT coalesce(sum(extract(epoch FROM deleted_at)), 0) FROM ${table})`,
  );
  const [row] = await db.query<{ last: string; arrival: string; streams: string; deleted: string }>(
    `SELECT (SELECT coalesce(max(sequence), 0)::text FROM revisions) AS last,
            (SELECT coalesce(max(arrival), 0)::text FROM samples) AS arrival,
            (SELECT count(*)::text FROM streams) AS streams,
            (${deleted.join(" + ")})::text AS deleted`,
  );
  const { last = "0", arrival = "0", streams = "0", deleted: marks = "0" } = row ?? {};
  return { state: `${last}-${marks}-${streams}-${arrival}`, upTo: BigInt(last), arrival };
}

async function* lines(db: Queryable, contents: Contents, application: string, parts?: Parts) {
  const { state, upTo, arrival } = await stateOf(db);
  const madeAt = new Date().toISOString();
  yield text({ format: FORMAT, version: VERSION, madeAt, application, state } satisfies Head);
  for (let after = "0"; ; ) {
    // Between two numbers a table that was never analysed is taken to hold few rows, and all of it is written out and
    // sorted for each hundred: it is read along its index, and the end is looked for here.
    const rows = await db.query<{ place: string; line: string }>(
      `SELECT sequence::text AS place,
              jsonb_build_object('collection', collection, 'id', id, 'revision', revision,
                'savedAt', ${iso("saved_at")}, 'document', document)::text AS line
         FROM (SELECT * FROM revisions WHERE sequence > $1::bigint ORDER BY sequence LIMIT ${BATCH}) next
        ORDER BY sequence`,
      [after],
    );
    for (const { place, line } of rows) {
      if (BigInt(place) > upTo) break;
      yield line;
    }
    const last = rows.at(-1);
    if (!last || BigInt(last.place) >= upTo) break;
    after = last.place;
  }
  for (const collection of COLLECTION_NAMES) {
    const rows = await db.query<{ id: string; at: Date }>(
      `SELECT id, deleted_at AS at FROM ${COLLECTIONS[collection].table}
        WHERE deleted_at IS NOT NULL ORDER BY id`,
    );
    for (const { id, at } of rows) {
      yield text({ deleted: { collection, id, at: at.toISOString() } } satisfies Line);
    }
  }
  for (const attachment of contents.hashes()) {
    if (parts) {
      parts.picture(attachment, contents);
      yield text({ attachment, part: attachment } satisfies Written);
      continue;
    }
    const bytes = contents.read(attachment)?.toString("base64");
    if (bytes !== undefined) yield text({ attachment, bytes } satisfies Line);
  }
  yield* streamLines(db, arrival, parts);
}

/** Every stream, each with its samples up to one arrival. */
async function* streamLines(db: Queryable, upTo: string, parts?: Parts) {
  const streams = await db.query<{ id: string; line: string }>(
    `SELECT id, jsonb_build_object('id', id, 'createdAt', ${iso("created_at")},
              'deletedAt', ${iso("deleted_at")}, 'tokenHash', token_hash, 'document', document)::text AS line
       FROM streams ORDER BY id`,
  );
  for (const { id, line } of streams) {
    yield `{"stream":${line}}`;
    for (let after = "0"; ; ) {
      const [row] = await db.query<{ rows: string | null; last: string }>(
        `SELECT json_agg(json_build_array(n, at, "values") ORDER BY arrival)::text AS rows,
                max(arrival)::text AS last
           FROM (SELECT arrival, n, at, "values" FROM samples
                  WHERE stream_id = $1 AND arrival > $2::bigint ORDER BY arrival LIMIT ${SAMPLES}) next
          WHERE arrival <= $3::bigint`,
        [id, after, upTo],
      );
      if (!row?.rows) break;
      yield parts
        ? text({ samples: id, part: parts.text(row.rows) } satisfies Written)
        : `{"samples":${text(id)},"rows":${row.rows}}`;
      after = row.last;
    }
  }
}

const iso = (column: string) =>
  `to_char(${column} AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

const text = (line: unknown) => JSON.stringify(line);

/** The lines with the end that lets a reader see that none is missing or changed. */
async function* hashed(of: AsyncIterable<string>) {
  const hash = createHash("sha256");
  let count = 0;
  for await (const line of of) {
    const whole = `${line}\n`;
    hash.update(whole);
    count++;
    yield whole;
  }
  yield `${text({ end: { lines: count, sha256: hash.digest("hex") } } satisfies Written)}\n`;
}
