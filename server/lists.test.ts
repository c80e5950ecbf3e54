import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import type { JobLine, JobSummary } from "#contract/api/api.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { summariseJob } from "#model/results/summaries.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer, root } from "../scripts/tasks/prepare.mjs";
import { createApp } from "./app.ts";
import { type Database, EngineLost, type Queryable } from "./database/database.ts";
import { databaseIn } from "./database/dataFolder.ts";
import { migrate } from "./database/migrate.ts";
import { openThreadedEngine } from "./database/threadedEngine.ts";
import { listJobs, saveDocument, setDeleted } from "./documents/store.ts";
import { type Summarise, summaries, summariseInThread } from "./documents/summaries.ts";
import { dropFolder, freshFolder, openHere, summarised } from "./test/freshFolder.ts";

const job = jobSchema.parse(DEMO_JOBS[0]?.job) as JobDocument;
const built = (name: string) => new URL(`file://${root}/dist/${name}.mjs`);
let folder: string;
let db: Database;
beforeAll(async () => {
  await buildServer();
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});
beforeEach(() => db.execute("TRUNCATE readings, field_tests, jobs, revisions CASCADE"));

const save = (id: string, revision: number, document: object) =>
  saveDocument(db, "jobs", id, revision, document as Record<string, unknown>);
const listed = async (id: string) =>
  (JSON.parse(await listJobs(db)) as JobSummary[]).find((own) => own.id === id);

describe("what a list shows of a job", () => {
  it("follows after the job was acknowledged; until then it is said to be that of before", async () => {
    await save("one", 0, job);
    expect(await listed("one")).toMatchObject({ name: job.name, pending: true, stops: 0 });
    await summarised(db);
    const worked = await listed("one");
    expect(worked).toMatchObject(summariseJob(job));
    expect(worked?.pending).toBeUndefined();
    const { kind: _, ...without } = { ...job, name: "Renamed" };
    await save("one", 1, without);
    const { duty } = worked as JobSummary;
    expect(await listed("one")).toMatchObject({ name: "Renamed", pending: true, duty });
    expect((await listed("one"))?.kind).toBeUndefined();
  });

  it("is that of the revision that stands, whoever saved while it was worked out", async () => {
    await save("one", 0, job);
    const seen: string[] = [];
    const slow: Summarise = async (document) => {
      const own = document as JobDocument;
      seen.push(own.name);
      if (seen.length === 1) await save("one", 1, { ...job, name: "Meanwhile" });
      return summariseJob(own);
    };
    const { look, settled } = summaries(db, slow);
    look();
    look();
    await settled();
    expect(seen).toEqual([job.name, "Meanwhile"]);
    expect(await listed("one")).toMatchObject({ name: "Meanwhile", revision: 2 });
    expect((await listed("one"))?.pending).toBeUndefined();
  });

  it("says so where it took too long or could not be worked out, and the next job has its turn", async () => {
    await save("broken", 0, job);
    await save("heavy", 0, job);
    await save("light", 0, { ...job, name: "Light" });
    const complaints: unknown[] = [];
    const one: Summarise = async (document) => {
      if ((document as JobDocument).name === "Light") return summariseJob(document as JobDocument);
      if (complaints.length > 0) return undefined;
      throw new Error("It broke.");
    };
    const { look, settled } = summaries(db, one, (error) => complaints.push(error));
    look();
    await settled();
    for (const id of ["broken", "heavy"]) {
      expect(await listed(id)).toMatchObject({ name: job.name, missing: "too-much" });
      expect((await listed(id))?.pending).toBeUndefined();
    }
    expect((await listed("light"))?.duty).toBeDefined();
    expect(String(complaints)).toContain("It broke.");
  });

  it("is worked out in a thread of its own, which is ended where it takes too long", async () => {
    const program = built("summary");
    expect(await summariseInThread(program)(job)).toEqual(summariseJob(job));
    const hasty = summariseInThread(program, 0);
    expect(await hasty(job)).toBeUndefined();
    await expect(summariseInThread(program)({ path: 1 })).rejects.toThrow();
  });

  it("counts the readings that stand, and tells the last that was judged", async () => {
    const [demo] = DEMO_TESTS;
    if (!demo) throw new Error("no demo test");
    for (const id of ["one", "two"]) await save(id, 0, job);
    const put = (name: "tests" | "readings", id: string, revision: number, document: object) =>
      saveDocument(db, name, id, revision, document as Record<string, unknown>);
    const reading = demo.readings[0]?.reading as object;
    const of = (at: string, flow: number, method?: string) => ({
      ...reading,
      ...(method && { flow: { method } }),
      testId: "t",
      takenAt: at,
      judged: { acceptance: "within", flow },
    });
    await put("tests", "t", 0, { ...demo.test, jobId: "one" });
    await put("readings", "later", 0, of("2026-05-02T12:00", 0.02));
    await put("readings", "earlier", 0, of("2026-05-02T11:00", 0.01));
    await put("readings", "shut", 0, of("2026-05-02T13:00", 0, "shut"));
    const told = { acceptance: "within", flow: 0.02 };
    expect(await listed("one")).toMatchObject({ readings: 3, measured: told });
    await db.transaction((tx) => setDeleted(tx, "readings", "later", true));
    expect(await listed("one")).toMatchObject({ readings: 2, measured: { ...told, flow: 0.01 } });
    await put("tests", "t", 1, { ...demo.test, jobId: "two" });
    expect(await listed("one")).toMatchObject({ readings: 0, measured: null });
    expect(await listed("two")).toMatchObject({ readings: 2, measured: { flow: 0.01 } });
    await db.transaction((tx) => setDeleted(tx, "tests", "t", true));
    expect(await listed("two")).toMatchObject({ readings: 0, measured: null });
  });
});

it("a list is made once for all who ask at once, and anew after a change", async () => {
  let made = 0;
  const counting: Database = {
    ...db,
    query: (sql, parameters) => {
      if (/string_agg/.test(sql)) made += 1;
      return db.query(sql, parameters);
    },
  };
  const app = createApp(counting, {
    ...{ folder, isOwnName: () => true, version: "test", demo: false },
    log: { write: () => undefined },
  });
  const ask = async () => {
    const answer = await app.request("http://127.0.0.1/api/jobs", { headers: { host: "x" } });
    return ((await answer.json()) as JobLine[]).map(({ name }) => name);
  };
  await save("one", 0, job);
  expect(await Promise.all(Array.from({ length: 50 }, ask))).toEqual(
    Array.from({ length: 50 }, () => [job.name]),
  );
  expect(made).toBe(1);
  // Whoever asks after a write sees it, also while the list of before is still being made.
  for (let i = 1; i <= 10; i++) {
    const before = ask();
    await save("one", i, { ...job, name: `Name ${i}` });
    expect(await ask()).toEqual([`Name ${i}`]);
    await before;
  }
  await db.transaction((tx) => setDeleted(tx, "jobs", "one", true));
  expect(await ask()).toEqual([]);
});

describe("an engine in its thread", () => {
  const BUSY = `DO $$ DECLARE until timestamptz := clock_timestamp() + interval '400 ms';
    BEGIN WHILE clock_timestamp() < until LOOP NULL; END LOOP; END $$`;
  it("is taken for hung by the time of what it does, not by that of what waits before or behind", async () => {
    const own = await freshFolder();
    const place = await databaseIn(own, () => Promise.reject(new Error("There is one.")));
    const engine = await openThreadedEngine(place, built("engine"), {
      asked: 1500,
      upkeep: 60_000,
    });
    const busy = (on: Queryable, times: number) =>
      Promise.all(Array.from({ length: times }, () => on.execute(BUSY)));
    // Six that take 0.4 s each, asked at once: the last waits for longer than any may take.
    await busy(engine, 6);
    const many = BUSY.replace("400 ms", "3000 ms");
    const behind = engine.upkeep(many).then(() => engine.query("SELECT 1"));
    await expect(behind).resolves.toHaveLength(1);
    await expect(engine.execute(many)).rejects.toBeInstanceOf(EngineLost);
    await engine.close();
    await dropFolder(own);
  });
});
