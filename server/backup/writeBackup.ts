import { createHash } from "node:crypto";
import { Readable } from "node:stream";
import { createGzip } from "node:zlib";
import { COLLECTION_NAMES, COLLECTIONS } from "#contract/collections.ts";
import type { Contents } from "../attachments/contents.ts";
import type { Queryable } from "../database/database.ts";
import { FORMAT, type Head, type Line, VERSION } from "./format.ts";

/** Revisions read at once: saves have their turn in between. */
const BATCH = 100;

/**
 * Everything that is kept, as one gzip file that grows as it is read. Revisions are only ever added, so those up to
 * the last one at its beginning are one moment's state, however long the reading takes.
 */
export function backupStream(db: Queryable, contents: Contents, application: string): Readable {
  const gzip = createGzip();
  const source = Readable.from(hashed(lines(db, contents, application)));
  source.on("error", (error) => gzip.destroy(error));
  return source.pipe(gzip);
}

/** What tells two states of the data apart without reading it. */
export async function stateOf(db: Queryable): Promise<{ state: string; upTo: string }> {
  const deleted = COLLECTION_NAMES.map(
    (name) =>
      `(SELECT coalesce(sum(extract(epoch FROM deleted_at)), 0) FROM ${COLLECTIONS[name].table})`,
  );
  const [row] = await db.query<{ last: string; deleted: string }>(
    `SELECT (SELECT coalesce(max(sequence), 0)::text FROM revisions) AS last,
            (${deleted.join(" + ")})::text AS deleted`,
  );
  const { last = "0", deleted: marks = "0" } = row ?? {};
  return { state: `${last}-${marks}`, upTo: last };
}

async function* lines(db: Queryable, contents: Contents, application: string) {
  const { state, upTo } = await stateOf(db);
  const madeAt = new Date().toISOString();
  yield text({ format: FORMAT, version: VERSION, madeAt, application, state } satisfies Head);
  for (let after = "0"; ; ) {
    // Between two numbers a table that was never analysed is taken to hold few rows, and all of it is written out and
    // sorted for each hundred: it is read along its index, and the end is looked for here.
    const rows = await db.query<{ place: string; line: string }>(
      `SELECT sequence::text AS place,
              jsonb_build_object('collection', collection, 'id', id, 'revision', revision,
                'savedAt', to_char(saved_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
                'document', document)::text AS line
         FROM (SELECT * FROM revisions WHERE sequence > $1::bigint ORDER BY sequence LIMIT ${BATCH}) next
        ORDER BY sequence`,
      [after],
    );
    for (const { place, line } of rows) {
      if (BigInt(place) > BigInt(upTo)) break;
      yield line;
    }
    const last = rows.at(-1);
    if (!last || BigInt(last.place) >= BigInt(upTo)) break;
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
    const bytes = contents.read(attachment)?.toString("base64");
    if (bytes !== undefined) yield text({ attachment, bytes } satisfies Line);
  }
}

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
  yield `${text({ end: { lines: count, sha256: hash.digest("hex") } } satisfies Line)}\n`;
}
