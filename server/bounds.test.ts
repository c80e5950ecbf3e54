import { createHash } from "node:crypto";
import fs from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { contentsIn } from "./attachments/contents.ts";
import type { Database } from "./database/database.ts";
import { migrate } from "./database/migrate.ts";
import { saveDocument } from "./documents/store.ts";
import { collectOrphans, thinRevisions } from "./documents/thinning.ts";
import { addSamples, createStream, listStreams, samplesAfter } from "./streams/store.ts";
import { daysOfSamples, thinSamples } from "./streams/thinning.ts";
import { dropFolder, freshFolder, openHere } from "./test/freshFolder.ts";

const DAY = 24 * 3600 * 1000;
const job = jobSchema.parse(DEMO_JOBS[0]?.job) as JobDocument;
const [demo] = DEMO_TESTS;
let folder: string;
let db: Database;
beforeAll(async () => {
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});
const save = (
  name: "jobs" | "tests" | "readings" | "attachments" | "firms",
  id: string,
  revision: number,
  document: object,
) => saveDocument(db, name, id, revision, document as Record<string, unknown>);
/** As if it had been saved then. */
const savedAt = (id: string, revision: number, at: string) =>
  db.transaction(async (tx) => {
    await tx.execute("ALTER TABLE revisions DISABLE TRIGGER revisions_are_kept");
    await tx.query("UPDATE revisions SET saved_at = $3 WHERE id = $1 AND revision = $2", [
      id,
      revision,
      at,
    ]);
    await tx.execute("ALTER TABLE revisions ENABLE TRIGGER revisions_are_kept");
  });
const revisionsOf = async (id: string) =>
  (
    await db.query<{ revision: number }>(
      "SELECT revision FROM revisions WHERE id = $1 ORDER BY revision",
      [id],
    )
  ).map(({ revision }) => revision);

it("of older days the last revision stays, all of the last month, the one that stands, and what a reading was judged against", async () => {
  const ago = (days: number, hour: number) => {
    const at = new Date(Date.now() - days * DAY);
    return new Date(
      Date.UTC(at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate(), hour),
    ).toISOString();
  };
  const at = [
    // Two days of long ago, a day just older than a month and one just younger.
    ...[ago(90, 1), ago(90, 2), ago(90, 3), ago(90, 4), ago(80, 1), ago(80, 23)],
    ...[ago(32, 1), ago(32, 2), ago(28, 1), ago(28, 2)],
  ];
  for (const [i, moment] of at.entries()) {
    await save("jobs", "old", i, { ...job, note: `${i + 1}` });
    await savedAt("old", i + 1, moment);
  }
  // Its last state is itself of long ago.
  for (const i of [0, 1]) {
    await save("jobs", "done", i, job);
    await savedAt("done", i + 1, ago(300, 5 + i));
  }
  await save("tests", "t", 0, { ...demo?.test, jobId: "old" });
  const reading = { ...demo?.readings[0]?.reading, testId: "t" };
  await save("readings", "r", 0, { ...reading, jobRevision: 2 });
  expect(await thinRevisions(db)).toBe(5);
  expect(await revisionsOf("old")).toEqual([2, 4, 6, 8, 9, 10]);
  expect(await revisionsOf("done")).toEqual([2]);
  expect(await thinRevisions(db)).toBe(0);
  // Nothing else may take one away.
  await expect(db.execute("DELETE FROM revisions")).rejects.toThrow(/only added/);
});

it("pictures that nobody names go after a month, and no others; sent again they count as new", async () => {
  const contents = contentsIn(folder);
  const bytes = (text: string) =>
    Buffer.concat([Buffer.from("\xff\xd8\xff", "latin1"), Buffer.from(text)]);
  const hashOf = (text: string) => createHash("sha256").update(bytes(text)).digest("hex");
  const picture = async (id: string, text: string) => {
    expect(contents.keep(hashOf(text), bytes(text))).toBeUndefined();
    await save("attachments", id, 0, {
      ...{ format: "upright-gusher/attachment", version: 2, type: "image/jpeg" },
      ...{ size: bytes(text).length, hash: hashOf(text) },
    });
  };
  for (const [id, text] of [
    ...[
      ["named", "a"],
      ["was-named", "b"],
      ["curve", "c"],
      ["nobodys", "d"],
      ["twin", "e"],
      ["nobodys-twin", "e"],
    ],
  ] as [string, string][]) {
    await picture(id, text);
  }
  expect(contents.keep(hashOf("loose"), bytes("loose"))).toBeUndefined();
  const [pump] = job.pumps;
  await save("jobs", "album", 0, { ...job, attachments: ["was-named"] });
  await save("jobs", "album", 1, {
    ...job,
    attachments: ["named", "twin"],
    pumps: [{ ...pump, curve: { from: "traced", picture: "curve" } }],
  });
  const files = () => contents.hashes();
  expect(files()).toHaveLength(6);
  expect(await collectOrphans(db, contents, Date.now() + 29 * DAY)).toBe(0);
  const later = Date.now() + 31 * DAY;
  expect(await collectOrphans(db, contents, later)).toBe(2);
  expect(files()).toEqual([..."abce"].map(hashOf).toSorted());
  const left = await db.query<{ id: string }>("SELECT id FROM attachments ORDER BY id");
  expect(left.map(({ id }) => id)).toEqual(["curve", "named", "twin", "was-named"]);
  expect(await revisionsOf("nobodys")).toEqual([]);
  // One that was loose for long, and is sent once more just before its picture is saved.
  expect(contents.keep(hashOf("f"), bytes("f"))).toBeUndefined();
  fs.utimesSync(join(folder, "attachments", hashOf("f")), new Date(0), new Date(0));
  expect(contents.keep(hashOf("f"), bytes("f"))).toBeUndefined();
  expect(await collectOrphans(db, contents)).toBe(0);
});

describe("samples older than the firm keeps them", () => {
  const now = Date.UTC(2026, 10, 30, 12);
  const begun = now - 10 * DAY;
  const every = 10_000;
  const minutes = 1200;
  beforeAll(async () => {
    await save("jobs", "watched", 0, job);
    await createStream(db, "s", {
      ...{ name: "s", jobId: "watched" },
      channels: [{ reads: "flow" }, { reads: "level" }],
    });
    for (let m = 0; m < minutes; m += 200) {
      await addSamples(
        db,
        "s",
        Array.from({ length: 200 * 6 }, (_, i) => {
          const n = m * 6 + i;
          const value = Math.sin(n / 9);
          const at = new Date(begun + n * every).toISOString();
          return { n, at, values: [value, n % 6 === 0 ? null : 1] };
        }),
      );
    }
    await save("tests", "watch", 0, { ...demo?.test, jobId: "watched" });
    const takenAt = new Date(begun + 600 * 60_000).toISOString();
    await save("readings", "watched", 0, {
      ...demo?.readings[0]?.reading,
      testId: "watch",
      takenAt,
    });
  });
  const all = () => samplesAfter(db, "s", 0, 100_000);

  it("thin to their mean a minute, but for half an hour around a reading, and come to the same", async () => {
    const before = await all();
    // Counted as they come and go, whatever came twice.
    const counted = async () => (await listStreams(db, "watched"))[0]?.count;
    await addSamples(db, "s", [{ n: 0, at: new Date(begun).toISOString(), values: [9, 9] }]);
    expect(await counted()).toBe(before.length);
    expect(await thinSamples(db, 11, now)).toBe(0);
    // All but the last 200 minutes are older than this.
    const limit = begun + 1000 * 60_000;
    const gone = await thinSamples(db, (now - limit) / DAY, now);
    const after = await all();
    expect(after).toHaveLength(before.length - gone);
    expect(await counted()).toBe(after.length);
    const at = (ms: number) => (ms - begun) / 60_000;
    const untouched = after.filter((own) =>
      before.some(({ n, at }) => n === own.n && at === own.at),
    );
    // Sixty minutes and both ends around the reading, and all after the limit.
    expect(untouched.filter((own) => own.at < limit).length).toBeGreaterThanOrEqual(60 * 6);
    expect(untouched.filter((own) => at(own.at) >= 571 && at(own.at) < 629)).toHaveLength(58 * 6);
    expect(untouched.filter((own) => own.at >= limit)).toHaveLength(200 * 6);
    const old = after.filter((own) => own.at < limit && (at(own.at) < 569 || at(own.at) >= 631));
    expect(old).toHaveLength(569 + 369);
    for (const { at: moment, values } of old) {
      const minute = Math.floor(moment / 60_000);
      const own = before.filter((one) => Math.floor(one.at / 60_000) === minute);
      const mean = own.reduce((sum, one) => sum + (one.values[0] ?? 0), 0) / own.length;
      expect(values[0]).toBeCloseTo(mean, 12);
      expect(values[1]).toBe(1);
    }
    expect(await thinSamples(db, (now - limit) / DAY, now)).toBe(0);
  });

  it("are thinned where the firm says after how many days, and only there", async () => {
    expect(await daysOfSamples(db)).toBeUndefined();
    const firm = { format: "upright-gusher/firm", version: 3 };
    await save("firms", "firm", 0, firm);
    expect(await daysOfSamples(db)).toBeUndefined();
    await save("firms", "firm", 1, { ...firm, sampleDays: 90 });
    expect(await daysOfSamples(db)).toBe(90);
  });
});
