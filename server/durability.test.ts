import { afterAll, beforeAll, expect, it } from "vitest";
import { DEMO_JOBS } from "#demo/jobs.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer } from "../scripts/tasks/prepare.mjs";
import { dropFolder, freshFolder } from "./test/freshFolder.ts";
import { ended, launch } from "./test/launch.ts";

const demoJob = DEMO_JOBS[0]?.job;
let folder: string;
beforeAll(async () => {
  await buildServer();
  folder = await freshFolder();
});
afterAll(() => dropFolder(folder));

/** Kills in the middle of a burst: one here, many where endurance is asked for. */
const KILLS = Number(process.env.KILLS ?? 1);

it(
  `keeps every acknowledged save when the server is killed in the middle of a burst, ${KILLS} times`,
  async () => {
    const acknowledged = new Map<string, number>();
    for (let kill = 0; kill < KILLS; kill++) {
      const { child, address } = await launch(folder);
      const dead = ended(child);
      let stop = false;
      let saves = 0;
      const writer = async (w: number) => {
        const id = `job-${w}`;
        const start = await fetch(`${address}/api/jobs/${id}`);
        const { revision = 0 } = start.ok ? ((await start.json()) as { revision: number }) : {};
        // Of the last burst one more may have been written whose answer the kill cut off; never one fewer.
        expect(revision).toBeGreaterThanOrEqual(acknowledged.get(id) ?? 0);
        for (let n = revision; !stop; n++) {
          const response = await fetch(`${address}/api/jobs/${id}`, {
            method: "PUT",
            headers: { "content-type": "application/json" },
            body: JSON.stringify({ revision: n, document: { ...demoJob, name: `Save ${n + 1}` } }),
          }).catch(() => undefined);
          if (!response?.ok) return;
          acknowledged.set(id, n + 1);
          if (++saves === 60) {
            stop = true;
            child.kill("SIGKILL");
          }
        }
      };
      await Promise.all([0, 1, 2, 3, 4].map(writer));
      await dead;
    }
    expect(acknowledged.size).toBe(5);

    const second = await launch(folder);
    for (const [id, saves] of acknowledged) {
      const response = await fetch(`${second.address}/api/jobs/${id}`);
      const kept = (await response.json()) as { revision: number; document: { name: string } };
      expect(kept.revision).toBeGreaterThanOrEqual(saves);
      expect(kept.document.name).toBe(`Save ${kept.revision}`);
    }

    // The folder and the port are both taken now, and each says so.
    await expect(launch(folder)).rejects.toThrow(/already running on/);
    const port = new URL(second.address).port;
    const elsewhere = await freshFolder();
    await expect(launch(elsewhere, ["--port", port])).rejects.toThrow(`Port ${port} is taken`);
    await dropFolder(elsewhere);

    const closing = ended(second.child);
    second.child.kill("SIGTERM");
    expect(await closing).toBe(0);
  },
  60_000 + KILLS * 10_000,
);

it("loses no reading and no sample that was answered for when the server is killed in the middle of a test", async () => {
  const own = await freshFolder();
  const first = await launch(own);
  const dead = ended(first.child);
  const put = (path: string, body: unknown, headers = {}, method = "PUT") =>
    fetch(`${first.address}/api${path}`, {
      method,
      headers: { "content-type": "application/json", ...headers },
      body: JSON.stringify(body),
    }).catch(() => undefined);
  const test = {
    ...{ format: "upright-gusher/field-test", version: 3, title: "A sweep" },
    ...{ takenOn: "2026-11-20", configuration: "shop-stand" },
  };
  expect((await put("/tests/sweep", { revision: 0, document: test }))?.ok).toBe(true);
  const channels = [{ reads: "flow" }];
  const made = await put("/streams/box", { name: "Logger", channels });
  const { token } = (await (made as Response).json()) as { token: string };
  const shown = { readings: 0, samples: 0 };
  const reading = (flow: number) => ({
    ...{ format: "upright-gusher/reading", version: 5, testId: "sweep" },
    takenAt: "2026-11-20T08:00:00Z",
    flow: { method: "meter", flow, tolerance: 0.01 },
  });
  const take = async () => {
    for (let n = 0; ; n++) {
      const document = reading(0.001 + n * 1e-6);
      if (!(await put(`/readings/r${n}`, { revision: 0, document }))?.ok) return;
      shown.readings = n + 1;
      if (n === 40) first.child.kill("SIGKILL");
    }
  };
  const stream = async () => {
    for (let n = 0; ; n++) {
      const at = new Date(Date.UTC(2026, 10, 20, 8, 0, n)).toISOString();
      const body = { samples: [{ n, at, values: [0.003] }] };
      const bearer = { authorization: `Bearer ${token}` };
      if (!(await put("/streams/box/samples", body, bearer, "POST"))?.ok) return;
      shown.samples = n + 1;
    }
  };
  await Promise.all([take(), stream()]);
  await dead;
  expect(shown.readings).toBeGreaterThan(40);

  const second = await launch(own);
  for (let n = 0; n < shown.readings; n++) {
    expect((await fetch(`${second.address}/api/readings/r${n}`)).status).toBe(200);
  }
  const kept = (await (await fetch(`${second.address}/api/streams/box`)).json()) as {
    count: number;
  };
  expect(kept.count).toBeGreaterThanOrEqual(shown.samples);
  const closing = ended(second.child);
  second.child.kill("SIGTERM");
  await closing;
  await dropFolder(own);
}, 60_000);
