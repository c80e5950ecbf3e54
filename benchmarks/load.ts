import fs from "node:fs";
import { Agent, request } from "node:http";
import { jobSchema } from "#contract/documents/job.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { startServer } from "./server.ts";

const CLIENTS = 200;
const SECONDS = 20;
const JOBS = 200;

/** The server as it is run, asked by two hundred at once: nine reads of jobs to one save. The clients share its cores. */
export async function benchLoad(
  row: (name: string, value: string, note?: string) => void,
): Promise<void> {
  const { address, pid, stop } = await startServer();
  const job = jobSchema.parse(GLASSHOUSES) as Record<string, unknown>;
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  const ask = (method: string, path: string, body?: unknown) =>
    new Promise<number>((resolve, reject) => {
      const headers = { "content-type": "application/json" };
      request(`${address}/api${path}`, { method, agent, headers }, (response) => {
        response.resume().on("end", () => resolve(response.statusCode ?? 0));
      })
        .on("error", reject)
        .end(body === undefined ? undefined : JSON.stringify(body));
    });
  const saved = Array.from({ length: JOBS }, () => 0);
  const save = async (n: number) => {
    const revision = saved[n] as number;
    saved[n] = revision + 1;
    return ask("PUT", `/jobs/job-${n}`, { revision, document: { ...job, later: `${revision}` } });
  };
  for (let n = 0; n < JOBS; n++) await save(n);

  const times: { write: boolean; ms: number }[] = [];
  let refused = 0;
  let most = 0;
  const watching = setInterval(() => {
    most = Math.max(most, memoryOf(pid));
  }, 250);
  const until = performance.now() + SECONDS * 1000;
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, client) => {
      for (let turn = client; performance.now() < until; turn++) {
        const write = turn % 10 === 0;
        const started = performance.now();
        // Each client saves a job of its own, as people do.
        const status = await (write
          ? save(client % JOBS)
          : ask("GET", `/jobs/job-${(turn * 37) % JOBS}`));
        times.push({ write, ms: performance.now() - started });
        if (status !== 200) refused++;
      }
    }),
  );
  clearInterval(watching);
  agent.destroy();
  await stop();
  const at = (share: number, of = times) =>
    of.map(({ ms }) => ms).toSorted((a, b) => a - b)[Math.floor(share * (of.length - 1))] ?? 0;
  const writes = times.filter(({ write }) => write);
  row(
    `${CLIENTS} clients, nine reads to a save`,
    `${Math.round(times.length / SECONDS)} a second`,
    `median ${at(0.5).toFixed(0)} ms, 99 of 100 within ${at(0.99).toFixed(0)} ms, slowest ${at(1).toFixed(0)} ms; saves median ${at(0.5, writes).toFixed(0)} ms; ${refused} refused; ${most > 0 ? `${most} MB at most` : "memory not known"}`,
  );
}

/** MB a process has in memory; 0 where the system does not tell. */
function memoryOf(pid: number | undefined): number {
  try {
    const found = /VmRSS:\s+(\d+) kB/.exec(fs.readFileSync(`/proc/${pid}/status`, "utf8"));
    return Math.round(Number(found?.[1] ?? 0) / 1024);
  } catch {
    return 0;
  }
}
