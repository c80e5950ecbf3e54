import fc from "fast-check";
import type { Hono } from "hono";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { BoxTruth } from "#contract/streams/stream.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { createApp } from "../app.ts";
import type { Database } from "../database/database.ts";
import { migrate } from "../database/migrate.ts";
import { dropFolder, freshFolder, openHere } from "../test/freshFolder.ts";

const HOST = "127.0.0.1:8417";
let folder: string;
let db: Database;
let app: Hono;

beforeAll(async () => {
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
  app = createApp(db, {
    folder,
    isOwnName: (host) => host === HOST,
    version: "test",
    demo: false,
    log: { write: () => undefined },
  });
  await call("PUT", "/jobs/transfer", { revision: 0, document: DEMO_JOBS[0]?.job });
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});

const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  app.request(`http://${HOST}/api${path}`, {
    method,
    headers: { host: HOST, "content-type": "application/json", ...headers },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
async function call(method: string, path: string, body?: unknown, headers = {}) {
  const response = await send(method, path, body, headers);
  return { status: response.status, body: await response.json() };
}

let made = 0;
async function begin(channels = [{ reads: "flow" }, { reads: "discharge", tolerance: 0.01 }]) {
  const id = `logger-${++made}`;
  const { status, body } = await call("PUT", `/streams/${id}`, { name: "Logger", channels });
  expect(status).toBe(200);
  return { id, bearer: { authorization: `Bearer ${body.token}` } };
}
const START = Date.parse("2026-11-20T08:00:00Z");
const sample = (n: number) => ({
  n,
  at: new Date(START + 1000 * n).toISOString(),
  values: [n / 1e6, n % 7 === 0 ? null : n],
});

/** What a stream holds: moments and channels. */
async function whole(id: string) {
  const response = await send("GET", `/streams/${id}/whole`);
  const numbers = new Float64Array(await response.arrayBuffer());
  const [count = 0, channels = 0] = numbers;
  const column = (c: number) => [...numbers.slice(2 + count * c, 2 + count * (c + 1))];
  return { count, channels, at: column(0), values: [1, 2].map(column) };
}

/** Reads so many samples from a live connection that sets out after one. */
async function listen(id: string, count: number, after?: string) {
  const stop = new AbortController();
  const response = await app.request(`http://${HOST}/api/streams/${id}/live`, {
    headers: { host: HOST, ...(after !== undefined && { "last-event-id": after }) },
    signal: stop.signal,
  });
  const reader = (response.body as ReadableStream<Uint8Array>).getReader();
  const decoder = new TextDecoder();
  const heard: { id: string; n: number; at: number; values: number[] }[] = [];
  let text = "";
  while (heard.length < count) {
    const { value, done } = await reader.read();
    if (done) break;
    text += decoder.decode(value, { stream: true });
    for (;;) {
      const end = text.indexOf("\n\n");
      if (end < 0) break;
      const event = text.slice(0, end);
      text = text.slice(end + 2);
      const data = /^data: (.*)$/m.exec(event)?.[1];
      const own = /^id: (.*)$/m.exec(event)?.[1] ?? "";
      if (data) heard.push({ id: own, ...JSON.parse(data) });
    }
  }
  await reader.cancel();
  stop.abort();
  return heard;
}

describe("a logger's stream", () => {
  it("keeps a thousand samples once each over a connection that drops, repeats and reorders", async () => {
    const { id, bearer } = await begin();
    await fc.assert(
      fc.asyncProperty(
        fc.shuffledSubarray(
          Array.from({ length: 1000 }, (_, n) => n),
          { minLength: 1000 },
        ),
        fc.array(fc.constantFrom("lost-before", "lost-after", "sent", "twice"), {
          minLength: 50,
          maxLength: 50,
        }),
        async (order, luck) => {
          for (let i = 0; i < 50; i++) {
            const samples = order.slice(20 * i, 20 * i + 20).map(sample);
            const post = () => call("POST", `/streams/${id}/samples`, { samples }, bearer);
            // What was lost on the way there, or whose answer was lost, is sent again.
            if (luck[i] === "lost-after" || luck[i] === "twice") await post();
            const { status, body } = await post();
            expect(status).toBe(200);
            expect(body.added + body.known).toBe(20);
          }
        },
      ),
      { numRuns: 2 },
    );
    const kept = await whole(id);
    expect(kept.count).toBe(1000);
    expect(kept.at).toEqual(Array.from({ length: 1000 }, (_, n) => START + 1000 * n));
    expect(kept.values[0]?.[17]).toBeCloseTo(17e-6, 15);
    expect(kept.values[1]?.[14]).toBeNaN();
    expect(kept.values[1]?.[15]).toBe(15);
  });

  it("takes nothing without its own token, nor samples that do not fit its channels", async () => {
    const { id, bearer } = await begin();
    const other = await begin();
    const samples = [sample(0)];
    const post = (headers: object, given: unknown = samples) =>
      call("POST", `/streams/${id}/samples`, { samples: given }, headers);
    expect((await post({})).status).toBe(401);
    expect((await post(other.bearer)).status).toBe(401);
    expect((await post(bearer, [{ ...sample(0), values: [1] }])).body.issues).toEqual([
      {
        path: "samples.0.values",
        message: "A sample of this stream has 2 values, one for each channel.",
      },
    ]);
    expect((await post(bearer, [{ ...sample(0), at: "noon" }])).status).toBe(422);
    expect((await whole(id)).count).toBe(0);
    expect(
      (await call("PUT", `/streams/${id}`, { name: "x", channels: [{ reads: "flow" }] })).status,
    ).toBe(409);
    const twice = [{ reads: "flow" }, { reads: "flow" }];
    expect((await call("PUT", "/streams/x", { name: "x", channels: twice })).status).toBe(422);
    expect(
      (await call("PUT", "/streams/x", { name: "x", jobId: "gone", channels: [{ reads: "flow" }] }))
        .status,
    ).toBe(422);
  });

  it("is heard live, and from where a dropped connection left off", async () => {
    const { id, bearer } = await begin();
    const post = (from: number, to: number) =>
      call(
        "POST",
        `/streams/${id}/samples`,
        { samples: Array.from({ length: to - from }, (_, i) => sample(from + i)) },
        bearer,
      );
    await post(0, 5);
    const first = await listen(id, 3);
    expect(first.map(({ n }) => n)).toEqual([0, 1, 2]);
    const hearing = listen(id, 6, first.at(-1)?.id);
    await new Promise((done) => setTimeout(done, 50));
    await post(3, 9);
    expect((await hearing).map(({ n }) => n)).toEqual([3, 4, 5, 6, 7, 8]);
    // What no sample was ever told under is a new connection, and no fault.
    for (const odd of ["1e30", "-1", "999999999999999999999", "x"]) {
      expect(
        (await listen(id, 3, odd)).map(({ n }) => n),
        odd,
      ).toEqual([0, 1, 2]);
    }
  });
});

it("a thousand readings over a connection that drops, repeats and reorders are there once each", async () => {
  const test = {
    ...{ format: "upright-gusher/field-test", version: 3, title: "Many", jobId: "transfer" },
    takenOn: "2026-11-20",
  };
  await call("PUT", "/tests/many", { revision: 0, document: test });
  const [order] = fc.sample(
    fc.shuffledSubarray(
      Array.from({ length: 1000 }, (_, n) => n),
      { minLength: 1000 },
    ),
    { numRuns: 1, seed: 3 },
  );
  const reading = (n: number) => ({
    ...{ format: "upright-gusher/reading", version: 5, testId: "many" },
    takenAt: new Date(START + 1000 * n).toISOString(),
    flow: { method: "meter", flow: 0.001 + n * 1e-6, tolerance: 0.01 },
  });
  for (const [i, n] of (order ?? []).entries()) {
    const file = () => call("PUT", `/readings/many-${n}`, { revision: 0, document: reading(n) });
    // The answer to every third is lost, and it is sent again.
    if (i % 3 === 0) await file();
    expect((await file()).status).toBe(200);
  }
  const tests = (await call("GET", "/jobs/transfer/tests")).body as {
    readings: { id: string; revision: number; document: { flow: { flow: number } } }[];
  }[];
  const kept = tests.flatMap(({ readings }) => readings);
  expect(kept).toHaveLength(1000);
  expect(new Set(kept.map(({ id }) => id)).size).toBe(1000);
  expect(kept.every(({ revision }) => revision === 1)).toBe(true);
  expect(kept[17]?.document.flow.flow).toBeCloseTo(0.001 + 17e-6, 12);
}, 120_000);

it("a stream that is deleted takes nothing and is listed no more, until it is brought back", async () => {
  const { id, bearer } = await begin();
  const post = () => call("POST", `/streams/${id}/samples`, { samples: [sample(0)] }, bearer);
  expect((await post()).status).toBe(200);
  expect((await send("DELETE", `/streams/${id}`)).status).toBe(204);
  expect((await send("GET", `/streams/${id}`)).status).toBe(404);
  expect((await post()).status).toBe(401);
  expect((await send("DELETE", `/streams/${id}`)).status).toBe(404);
  const again = { name: "Again", channels: [{ reads: "flow" }] };
  expect((await call("PUT", `/streams/${id}`, again)).status).toBe(409);
  expect((await send("POST", `/streams/${id}/restore`)).status).toBe(204);
  expect((await call("GET", `/streams/${id}`)).body.count).toBe(1);
});

describe("the simulated box", () => {
  const values = (heard: { values: number[] }[]) => heard.at(-1)?.values as number[];

  it("shows a job's line as its hand valve is turned, and tells what was hidden when it is stopped", async () => {
    const options = { jobId: "transfer", fault: "worn", noise: 0, every: 50, seed: 7 };
    expect((await call("PUT", "/boxes/box-1", options)).status).toBe(200);
    const [flow = 0, discharge = 0] = values(await listen("box-1", 3));
    expect(flow).toBeGreaterThan(0.002);
    expect(flow).toBeLessThan(0.004);
    expect(discharge).toBeGreaterThan(5e4);
    expect((await call("PATCH", "/boxes/box-1", { valve: 0 })).body).toEqual({
      valve: 0,
      running: true,
    });
    const shut = values(await listen("box-1", 200));
    expect(shut[0]).toBeLessThan(0.1 * flow);
    expect(shut[1]).toBeGreaterThan(discharge);
    const { body } = await call("DELETE", "/boxes/box-1");
    expect((body as BoxTruth).strength).toBeLessThan(0.9);
    expect((await call("PATCH", "/boxes/box-1", { valve: 1 })).status).toBe(404);
    const [stream] = (await call("GET", "/jobs/transfer/streams")).body;
    expect(stream).toMatchObject({ id: "box-1", name: "Simulated box" });
    expect(stream.count).toBeGreaterThan(50);
    expect(stream.box).toBeUndefined();
  });

  it("is refused for a job that cannot be solved, or is not there", async () => {
    const job = { ...DEMO_JOBS[0]?.job, pumps: [] };
    await call("PUT", "/jobs/no-pump", { revision: 0, document: job });
    expect((await call("PUT", "/boxes/box-2", { jobId: "no-pump" })).status).toBe(422);
    expect((await call("PUT", "/boxes/box-2", { jobId: "gone" })).status).toBe(422);
  });
});
