import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import fc from "fast-check";
import type { Hono } from "hono";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { JobSummary, Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { createApp } from "./app.ts";
import type { Database } from "./database/database.ts";
import { migrate } from "./database/migrate.ts";
import { dropFolder, freshFolder, openHere, summarised } from "./test/freshFolder.ts";

const HOST = "127.0.0.1:8417";
const noLog = () => undefined;
let folder: string;
let db: Database;
let app: Hono;

beforeAll(async () => {
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
  await migrate(db);
  app = createApp(db, {
    folder,
    isOwnName: (host) => host === HOST,
    version: "test",
    demo: false,
    log: { write: noLog },
  });
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});

async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
) {
  const response = await app.request(`http://${HOST}/api${path}`, {
    method,
    headers: { host: HOST, "content-type": "application/json", ...headers },
    ...(body !== undefined && { body: typeof body === "string" ? body : JSON.stringify(body) }),
  });
  const text = await response.text();
  return {
    status: response.status,
    body: text ? JSON.parse(text) : undefined,
    headers: response.headers,
  };
}

const demoJob = DEMO_JOBS[0]?.job;
const save = (id: string, revision: number, document: unknown, collection = "jobs") =>
  call("PUT", `/${collection}/${id}`, { revision, document });

describe("saving", () => {
  it("creates, reads back in SI, and counts revisions", async () => {
    const created = await save("one", 0, demoJob);
    expect(created.status).toBe(200);
    const stored = (await call("GET", "/jobs/one")).body as Stored<JobDocument>;
    expect(stored.revision).toBe(1);
    const { source } = stored.document;
    expect(source.kind === "open" && source.level.low).toBeCloseTo(-1.6, 12);
    const again = await save("one", 1, { ...stored.document, name: "Renamed" });
    expect(again.body.revision).toBe(2);
  });

  it("refuses a stale write with what stands now, and changes nothing", async () => {
    const stale = await save("one", 1, { ...demoJob, name: "Too late" });
    expect(stale.status).toBe(409);
    expect(stale.body.current.document.name).toBe("Renamed");
    expect((await call("GET", "/jobs/one")).body.document.name).toBe("Renamed");
    expect((await save("one", 0, demoJob)).status).toBe(409);
  });

  it("answers a write whose answer was lost as it did the first time, and stores it once", async () => {
    const first = await save("lost", 0, demoJob);
    const again = await save("lost", 0, demoJob);
    expect(again).toMatchObject({ status: 200, body: { revision: 1 } });
    const edited = { ...first.body.document, name: "Edited" };
    expect((await save("lost", 1, edited)).body.revision).toBe(2);
    expect((await save("lost", 1, edited)).body.revision).toBe(2);
    expect((await save("lost", 1, { ...edited, name: "Another" })).status).toBe(409);
    expect((await call("GET", "/jobs/lost/revisions")).body).toHaveLength(2);
  });

  it("keeps every state a document was saved in, and lets none be changed", async () => {
    const first = (await call("GET", "/jobs/one/revisions/1")).body as Stored<JobDocument>;
    expect(first.document.name).toBe(demoJob?.name);
    const states = (await call("GET", "/jobs/one/revisions")).body;
    expect(states.map(({ revision }: { revision: number }) => revision)).toEqual([2, 1]);
    expect((await call("GET", "/jobs/one/revisions/9")).status).toBe(404);
    expect((await call("GET", "/jobs/one/revisions/x")).status).toBe(404);
    for (const sql of ["UPDATE revisions SET revision = revision + 100", "DELETE FROM revisions"]) {
      await expect(db.execute(sql)).rejects.toThrow(/only added/);
    }
  });

  it("lists the pumps of branches too", async () => {
    const mill = DEMO_JOBS.find(({ id }) => id === "tallow-mill-wheel-pit");
    await save("mill", 0, mill?.job);
    const jobs = (await call("GET", "/jobs")).body as JobSummary[];
    expect(jobs.find(({ id }) => id === "mill")?.pumps).toEqual(["Tarnfold Pit 9"]);
  });

  it("opens what version 1 stored, in its newest form", async () => {
    const old = JSON.parse(
      readFileSync("contract/test/version-1/job-ketterby-hurling-ground.json", "utf8"),
    ).document;
    await db.query("INSERT INTO jobs (id, revision, document) VALUES ('old', 3, $1)", [old]);
    await summarised(db);
    const stored = (await call("GET", "/jobs/old")).body as Stored<JobDocument>;
    expect(stored.document).toMatchObject({ version: 2, source: { kind: "open" } });
    expect((await save("old", 3, stored.document)).body.revision).toBe(4);
    const jobs = (await call("GET", "/jobs")).body as JobSummary[];
    expect(jobs.find(({ id }) => id === "old")?.name).toBe(old.name);
    await call("DELETE", "/jobs/old");
  });

  it("lets exactly one of many simultaneous writes of one revision through", async () => {
    await save("race", 0, demoJob);
    const writes = await Promise.all(
      Array.from({ length: 12 }, (_, i) => save("race", 1, { ...demoJob, name: `Writer ${i}` })),
    );
    expect(writes.filter((write) => write.status === 200)).toHaveLength(1);
    expect(writes.filter((write) => write.status === 409)).toHaveLength(11);
  });

  it("keeps fields it does not know", async () => {
    await save("unknown", 0, { ...demoJob, later: { splits: [1, 2] } });
    expect((await call("GET", "/jobs/unknown")).body.document.later).toEqual({ splits: [1, 2] });
  });

  it.each<[string, object, string, RegExp]>([
    ["a name", { name: " " }, "document.name", /name/i],
    [
      "a level as text without unit",
      { source: { kind: "open", level: { low: "3", normal: 0, high: 0 }, intake: 0 } },
      "document.source.level.low",
      /needs a unit/,
    ],
    [
      "a missing level",
      { source: { kind: "open", level: { low: 0, normal: 0 }, intake: 0 } },
      "document.source.level.high",
      /give a number/i,
    ],
    [
      "a pipe without length",
      { path: [{ kind: "pipe", id: "a", stock: "pvc-sch40-2in", length: 0, rise: 0 }] },
      "document.path.0.length",
      /more than 0/,
    ],
    [
      "a kind nobody knows",
      { path: [{ kind: "wormhole", id: "a" }] },
      "document.path.0.kind",
      /part of the path/,
    ],
    [
      "two parts of one name",
      {
        path: [
          { kind: "rise", id: "a", rise: 1 },
          { kind: "rise", id: "a", rise: 1 },
        ],
      },
      "document.path.1.id",
      /called/,
    ],
    ["another format", { format: "something/else" }, "document.format", /not a job/],
    [
      "boiling water",
      { site: { altitude: 0, waterTemperature: "90 °C", specificGravity: 1 } },
      "document.site.waterTemperature",
      /cannot be more than 60 °C \(140 °F\)/,
    ],
  ])("names the field of %s", async (_what, patch, path, message) => {
    const { status, body } = await save("bad", 0, { ...demoJob, ...patch });
    expect(status).toBe(422);
    expect(body.issues).toContainEqual({ path, message: expect.stringMatching(message) });
    expect((await call("GET", "/jobs/bad")).status).toBe(404);
  });

  it("deletes softly and brings back", async () => {
    await save("gone", 0, demoJob);
    expect((await call("DELETE", "/jobs/gone")).status).toBe(204);
    expect((await call("GET", "/jobs/gone")).status).toBe(404);
    expect((await save("gone", 1, demoJob)).status).toBe(409);
    expect((await call("POST", "/jobs/gone/restore")).status).toBe(204);
    expect((await call("GET", "/jobs/gone")).status).toBe(200);
    expect((await call("DELETE", "/jobs/never")).status).toBe(404);
  });
});

const V2 = { format: "upright-gusher/reading", version: 2 };

describe("field tests and readings", () => {
  it("belong to a job, and are counted in its summary", async () => {
    const [demo] = DEMO_TESTS;
    if (!demo) throw new Error("no demo test");
    await save("measured", 0, demoJob);
    const orphan = await save("t0", 0, { ...demo.test, jobId: "nobody" }, "tests");
    expect(orphan.body.issues).toEqual([
      { path: "document.jobId", message: "There is no such job." },
    ]);
    expect((await save("t1", 0, { ...demo.test, jobId: "measured" }, "tests")).status).toBe(200);
    for (const { id, reading } of demo.readings) {
      expect((await save(id, 0, { ...V2, ...reading, testId: "t1" }, "readings")).status).toBe(200);
    }
    const tests = (await call("GET", "/jobs/measured/tests")).body;
    expect(tests[0].readings).toHaveLength(demo.readings.length);
    const jobs = (await call("GET", "/jobs")).body as JobSummary[];
    const summary = jobs.find((job) => job.id === "measured");
    expect(summary).toMatchObject({ readings: 2, pumps: ["Brackle Run 35"] });
  });

  it("on the shop's stand belong to no job", async () => {
    const test = {
      format: "upright-gusher/field-test",
      version: 3,
      title: "On the stand",
      takenOn: "2026-05-02",
      configuration: "shop-stand",
    };
    expect((await save("stand", 0, test, "tests")).status).toBe(200);
    expect((await call("GET", "/tests/stand")).body.document).toEqual(test);
  });

  it("have pictures that are what they say, within bounds, their bytes sent first", async () => {
    const bytes = Buffer.concat([Buffer.from("\xff\xd8\xff", "latin1"), Buffer.alloc(240_000, 1)]);
    const hash = createHash("sha256").update(bytes).digest("hex");
    const picture = {
      format: "upright-gusher/attachment",
      version: 2,
      type: "image/jpeg",
      size: bytes.length,
      hash,
      caption: "Gauge at the port",
    };
    const send = (name: string, body: Buffer) =>
      app.request(`http://${HOST}/api/contents/${name}`, {
        method: "PUT",
        headers: { host: HOST },
        body: new Uint8Array(body),
      });
    const issueOf = async (change: object) =>
      (await save("gauge", 0, { ...picture, ...change }, "attachments")).body.issues?.[0];
    expect(await issueOf({})).toEqual({
      path: "document.hash",
      message: "Send the picture itself first.",
    });
    expect((await send(hash, bytes.subarray(1))).status).toBe(400);
    expect((await send("../../server.log", bytes)).status).toBe(404);
    expect((await send(hash, Buffer.alloc(12_000_001))).status).toBe(413);
    for (let twice = 0; twice < 2; twice++) expect((await send(hash, bytes)).status).toBe(204);
    expect(await issueOf({ size: 5 })).toMatchObject({ path: "document.size" });
    expect(await issueOf({ type: "image/png" })).toMatchObject({ path: "document.type" });
    expect(await issueOf({ size: 5e7 })).toEqual({
      path: "document.size",
      message: "At most 12 MB.",
    });
    expect((await save("gauge", 0, picture, "attachments")).body.document).toEqual(picture);
    const shown = await app.request(`http://${HOST}/api/attachments/gauge/content`, {
      headers: { host: HOST },
    });
    expect(shown.headers.get("content-type")).toBe("image/jpeg");
    expect(shown.headers.get("x-content-type-options")).toBe("nosniff");
    expect(Buffer.from(await shown.arrayBuffer())).toEqual(bytes);
    expect((await call("GET", "/attachments/never/content")).status).toBe(404);
  });
});

describe("the pump library", () => {
  it("is empty at first, loads once, and brings deleted pumps back", async () => {
    expect((await call("GET", "/pumps")).body).toEqual([]);
    const { added } = (await call("POST", "/library")).body;
    expect(added).toBeGreaterThanOrEqual(12);
    expect((await call("POST", "/library")).body).toEqual({ added: 0 });
    await call("DELETE", "/pumps/brackle-run-35");
    expect((await call("POST", "/library")).body).toEqual({ added: 1 });
    expect((await call("POST", "/demo/reset")).status).toBe(403);
  });
});

describe("the bin", () => {
  it("holds what was deleted under its name for thirty days, and gives it back as it was", async () => {
    const made = await save("thrown", 0, { ...demoJob, name: "Thrown away" });
    expect(made.status).toBe(200);
    await call("DELETE", "/jobs/thrown");
    expect((await call("GET", "/jobs/thrown")).status).toBe(404);
    const found = async () =>
      ((await call("GET", "/bin")).body as { id: string; name: string; collection: string }[]).find(
        ({ id }) => id === "thrown",
      );
    expect(await found()).toMatchObject({ collection: "jobs", name: "Thrown away" });
    expect((await call("POST", "/jobs/thrown/restore")).status).toBe(204);
    const back = (await call("GET", "/jobs/thrown")).body as Stored<JobDocument>;
    expect(back.document.name).toBe("Thrown away");
    expect(await found()).toBeUndefined();
    await call("DELETE", "/jobs/thrown");
  });

  it("lets go of what has lain there longer", async () => {
    await save("long-ago", 0, demoJob);
    await call("DELETE", "/jobs/long-ago");
    const listed = async () =>
      ((await call("GET", "/bin")).body as { id: string }[]).some(({ id }) => id === "long-ago");
    for (const [days, there] of [
      [29, true],
      [31, false],
    ] as const) {
      await db.query(
        `UPDATE jobs SET deleted_at = now() - interval '${days} days' WHERE id = 'long-ago'`,
      );
      expect(await listed()).toBe(there);
    }
  });
});

describe("who may ask", () => {
  it.each<[string, Record<string, string>, number]>([
    ["its own name", {}, 200],
    ["another name", { host: "evil.test" }, 403],
    ["a page of another site", { origin: "http://evil.test" }, 403],
    ["its own page", { origin: `http://${HOST}` }, 200],
    ["a form of its own", { origin: "null", "sec-fetch-site": "same-origin" }, 200],
    ["a form of nobody", { origin: "null" }, 403],
    ["a form of another site", { origin: "null", "sec-fetch-site": "cross-site" }, 403],
  ])("answers %s", async (_who, headers, status) => {
    expect((await call("GET", "/jobs", undefined, headers)).status).toBe(status);
  });

  it.each(["PUT", "POST", "DELETE", "PATCH"])(
    "takes no %s that another site had a page send",
    async (method) => {
      const answer = await call(method, "/jobs/one", method === "DELETE" ? undefined : {}, {
        "sec-fetch-site": "cross-site",
      });
      expect(answer.status).toBe(403);
      // A link to a page here may stand anywhere.
      expect(
        (await call("GET", "/jobs", undefined, { "sec-fetch-site": "cross-site" })).status,
      ).toBe(200);
    },
  );

  it("refuses what is too large, not JSON, or not text", async () => {
    expect((await save("big", 0, { ...demoJob, note: "x".repeat(1_100_000) })).status).toBe(413);
    expect((await call("PUT", "/jobs/x", "{")).status).toBe(400);
    expect((await call("PUT", "/jobs/x", "{}", { "content-type": "text/plain" })).status).toBe(400);
    for (const broken of ["\u0000", "\ud800"]) {
      expect((await save("x", 0, { ...demoJob, note: broken })).status).toBe(400);
    }
    expect((await save("about", 0, { ...demoJob, note: "the text \\u0000" })).status).toBe(200);
  });

  it("sends a policy without inline script or outside hosts", async () => {
    const policy = (await call("GET", "/health")).headers.get("content-security-policy") ?? "";
    expect(policy).toMatch(/script-src 'self';/);
    expect(policy).toMatch(/default-src 'none'/);
    expect(policy).not.toMatch(/https?:|\*/);
    // Style elements: the page's own file, and what bears the number of this one answer.
    const styles = /style-src-elem ([^;]*)/.exec(policy)?.[1] ?? "";
    expect(styles).toMatch(/^'self' 'nonce-[\w+/=]{20,}' 'sha256-[\w+/=]{40,}'$/);
    expect(policy).toMatch(/style-src 'self';/);
    const again = (await call("GET", "/health")).headers.get("content-security-policy") ?? "";
    expect(again).not.toBe(policy);
  });
});

/** Malformed requests: some here, many where endurance is asked for. */
const MALFORMED = Number(process.env.MALFORMED ?? 200);

describe("malformed requests", () => {
  const anyPath = fc.oneof(
    fc.constantFrom(
      "/jobs",
      "/jobs/one",
      "/pumps/x",
      "/tests/y",
      "/readings/z",
      "/jobs/one/tests",
      "/library2",
      "/jobs/%00",
      "/jobs/%ff",
      "/jobs/a%2Fb/restore",
    ),
    fc.webPath(),
  );
  const almostJob = fc.record(
    {
      revision: fc.oneof(fc.integer(), fc.double(), fc.jsonValue()),
      document: fc.oneof(
        fc.jsonValue(),
        fc
          .tuple(
            fc.constantFrom(
              "name",
              "path",
              "source",
              "site",
              "method",
              "pumps",
              "wantedFlow",
              "note",
              "constructor",
              "__proto__",
            ),
            fc.oneof(fc.jsonValue(), fc.string({ unit: "binary" }), fc.double()),
          )
          .map(([key, value]) => ({ ...demoJob, [key]: value })),
        fc
          .tuple(
            fc.constantFrom("length", "rise", "stock", "id", "kind", "count", "pump", "outlet"),
            fc.oneof(fc.jsonValue(), fc.double(), fc.string()),
          )
          .map(([key, value]) => ({
            ...demoJob,
            path: demoJob?.path.map((item, i) => (i === 5 ? { ...item, [key]: value } : item)),
          })),
      ),
    },
    { requiredKeys: [] },
  );

  it(
    "never get a 500",
    async () => {
      await fc.assert(
        fc.asyncProperty(
          fc.constantFrom("GET", "PUT", "POST", "DELETE", "PATCH"),
          anyPath,
          fc.oneof(almostJob, fc.jsonValue({ maxDepth: 8 }), fc.string({ unit: "binary" })),
          async (method, path, body) => {
            const target = path.startsWith("/") ? path : `/${path}`;
            const { status } = await call(method, target, method === "GET" ? undefined : body);
            expect(status).toBeLessThan(500);
          },
        ),
        { numRuns: MALFORMED },
      );
    },
    60_000 + MALFORMED * 20,
  );
});
