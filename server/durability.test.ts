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
