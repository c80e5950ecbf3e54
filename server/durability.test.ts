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

it("keeps every acknowledged save when the server is killed in the middle of a burst", async () => {
  const { child, address } = await launch(folder);
  const acknowledged = new Map<string, string>();
  const dead = ended(child);
  let stop = false;
  const writer = async (w: number) => {
    for (let n = 0; !stop; n++) {
      const id = `job-${w}`;
      const name = `Writer ${w}, save ${n}`;
      const response = await fetch(`${address}/api/jobs/${id}`, {
        method: "PUT",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ revision: n, document: { ...demoJob, name } }),
      }).catch(() => undefined);
      if (!response?.ok) return;
      acknowledged.set(id, name);
      if (acknowledged.size === 5 && n === 25) {
        stop = true;
        child.kill("SIGKILL");
      }
    }
  };
  await Promise.all([0, 1, 2, 3, 4].map(writer));
  await dead;
  expect(acknowledged.size).toBe(5);

  const second = await launch(folder);
  for (const [id, name] of acknowledged) {
    const response = await fetch(`${second.address}/api/jobs/${id}`);
    const { document } = (await response.json()) as { document: { name: string } };
    const number = (text: string) => Number(/save (\d+)/.exec(text)?.[1]);
    // One more may have been written whose answer the kill cut off; never one fewer.
    expect(number(document.name)).toBeGreaterThanOrEqual(number(name));
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
});
