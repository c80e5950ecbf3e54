import fc from "fast-check";
import type { Hono } from "hono";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { jobSchema } from "#contract/documents/job.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { createApp } from "./app.ts";
import type { Database } from "./database/database.ts";
import { migrate } from "./database/migrate.ts";
import { forgetImports } from "./documents/imports.ts";
import { dropFolder, freshFolder, openHere } from "./test/freshFolder.ts";

let folder: string;
let db: Database;
let app: Hono;
beforeAll(async () => {
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
  app = createApp(db, {
    ...{ folder, isOwnName: () => true, version: "test", demo: false },
    log: { write: () => undefined },
  });
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});
beforeEach(() =>
  db.execute(
    "TRUNCATE readings, field_tests, jobs, pumps, revisions, imports, import_rows CASCADE",
  ),
);

async function call(method: string, path: string, body?: unknown) {
  const response = await app.request(`http://x/api${path}`, {
    method,
    headers: { host: "x", "content-type": "application/json" },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, body: text ? JSON.parse(text) : undefined };
}
const pump = pumpSchema.parse(LIBRARY[0]);
const own = (n: number, more: object = {}) => ({
  collection: "pumps",
  id: `taken-in-${n}`,
  document: { ...pump, id: `taken-in-${n}`, model: `N ${n}`, ...more },
});
const piece = (id: string, from: number, ...documents: object[]) =>
  call("PATCH", `/imports/${id}`, { from, documents });
const finish = (id: string, count: number) => call("POST", `/imports/${id}/finish`, { count });
const kept = async () =>
  (await db.query<{ id: string }>("SELECT id FROM pumps ORDER BY id")).map(({ id }) => id);

describe("documents that come in pieces", () => {
  it("are taken in at once, whatever came twice or in another order, and told again when asked again", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer(),
        async (numbers, size, seed) => {
          await db.execute("TRUNCATE pumps, revisions, pictures_named, imports, import_rows");
          const pieces = [];
          for (let from = 0; from < numbers.length; from += size) {
            pieces.push({ from, documents: numbers.slice(from, from + size).map((n) => own(n)) });
          }
          // Each comes twice, in an order of its own.
          const order = [...pieces, ...pieces].toSorted(
            (a, b) => ((a.from * seed) % 7) - ((b.from * seed) % 7),
          );
          for (const { from, documents } of order) {
            expect((await piece("one", from, ...documents)).status).toBe(200);
          }
          expect(await kept()).toEqual([]);
          const asked = await call("GET", "/imports/one");
          expect(asked.body).toEqual({ state: "open", come: numbers.length });
          const done = await finish("one", numbers.length);
          const added = new Set(numbers).size;
          const outcome = { state: "done", outcome: { added, changed: 0, same: 0 } };
          expect(done).toEqual({ status: 200, body: outcome });
          for (const again of [
            await finish("one", numbers.length),
            await call("GET", "/imports/one"),
            await piece("one", 0, own(99)),
            await call("DELETE", "/imports/one"),
          ]) {
            expect(again).toEqual(done);
          }
          expect(await kept()).toHaveLength(added);
        },
      ),
      { numRuns: 12 },
    );
  });

  it("add what is new, change what differs, bring back what was deleted, each with its revision", async () => {
    await piece("first", 0, own(1), own(2), own(3));
    await finish("first", 3);
    await call("DELETE", "/pumps/taken-in-3");
    await piece("second", 0, own(1), own(2, { model: "Other" }), own(3), own(4));
    const { body } = await finish("second", 4);
    expect(body.outcome).toEqual({ added: 1, changed: 1, same: 2 });
    expect((await call("GET", "/pumps/taken-in-2")).body).toMatchObject({
      ...{ revision: 2, document: { model: "Other" } },
    });
    expect((await call("GET", "/pumps/taken-in-3")).body).toMatchObject({ revision: 1 });
    expect((await call("GET", "/pumps/taken-in-2/revisions")).body).toHaveLength(2);
    expect((await call("GET", "/pumps/taken-in-4/revisions")).body).toHaveLength(1);
  });

  it("are refused by what is wrong with them, and nothing of them is there until the last has come", async () => {
    expect((await piece("one", 0, own(1))).status).toBe(200);
    const bad = await piece("one", 1, own(2), own(3, { points: [] }));
    expect(bad.status).toBe(422);
    expect(bad.body.issues[0].path).toBe("documents.1.document.points");
    const other = await piece("one", 1, { ...own(2), id: "another" });
    expect(other.body.issues[0].message).toMatch(/own id/);
    const short = await finish("one", 3);
    expect(short).toMatchObject({ status: 409, body: { message: "Only 1 of 3 have come." } });
    expect(await kept()).toEqual([]);
    expect((await finish("never", 3)).status).toBe(409);
    expect((await call("GET", "/imports/never")).status).toBe(404);
    expect((await finish("one", 1)).status).toBe(200);
  });

  it("are forgotten when cancelled, and what comes late of them too", async () => {
    await piece("one", 0, own(1));
    expect((await call("DELETE", "/imports/one")).body).toEqual({ state: "cancelled" });
    expect((await piece("one", 1, own(2))).body).toEqual({ state: "cancelled" });
    expect((await finish("one", 2)).body).toEqual({ state: "cancelled" });
    // Cancelled before anything of it came.
    await call("DELETE", "/imports/early");
    expect((await piece("early", 0, own(1))).body).toEqual({ state: "cancelled" });
    expect(await kept()).toEqual([]);
    expect(await db.query("SELECT * FROM import_rows")).toEqual([]);
  });

  it("are forgotten after a week", async () => {
    await piece("old", 0, own(1));
    await piece("new", 0, own(2));
    await db.execute("UPDATE imports SET begun_at = now() - interval '8 days' WHERE id = 'old'");
    await forgetImports(db);
    expect((await call("GET", "/imports/old")).status).toBe(404);
    expect((await call("GET", "/imports/new")).body).toEqual({ state: "open", come: 1 });
    expect(await db.query("SELECT * FROM import_rows")).toHaveLength(1);
  });
});

describe("a job of another installation with what belongs to it", () => {
  const job = jobSchema.parse(DEMO_JOBS[0]?.job);
  const [demo] = DEMO_TESTS;
  if (!demo) throw new Error("no demo test");
  const V2 = { format: "upright-gusher/reading", version: 2 };
  const all = [
    // What names another may come before it.
    ...demo.readings.map(({ id, reading }) => ({
      collection: "readings",
      id,
      document: { ...V2, ...reading, testId: "t" },
    })),
    { collection: "tests", id: "t", document: { ...demo.test, jobId: "j" } },
    { collection: "jobs", id: "j", document: job },
  ];
  it("is there whole, and listed with its readings", async () => {
    await piece("b", 0, ...all);
    expect((await finish("b", all.length)).status).toBe(200);
    const [listed] = (await call("GET", "/jobs")).body;
    expect(listed).toMatchObject({ id: "j", name: job.name, readings: demo.readings.length });
    expect((await call("GET", "/jobs/j/tests")).body[0].readings).toHaveLength(
      demo.readings.length,
    );
  });

  it("is not there at all where a part of it has no place", async () => {
    const without = all.filter(({ id }) => id !== "j");
    await piece("orphan", 0, ...without);
    const orphan = await finish("orphan", without.length);
    expect(orphan.status).toBe(422);
    expect(orphan.body.message).toMatch(/field test t belongs to something/);
    await call("PUT", "/jobs/j", { revision: 0, document: { ...job, name: "Another" } });
    await piece("taken", 0, ...all);
    const taken = await finish("taken", all.length);
    expect(taken).toMatchObject({ status: 409, body: { error: "conflict" } });
    expect((await call("GET", "/jobs/j")).body.document.name).toBe("Another");
    expect((await call("GET", "/jobs/j/tests")).body).toEqual([]);
    // Nor under a job that was deleted.
    await call("DELETE", "/jobs/j");
    await piece("deleted", 0, ...without);
    expect((await finish("deleted", without.length)).status).toBe(422);
  });
});
