import { appendFileSync, rmSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { JobSummary } from "#contract/api/api.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { summariseJob } from "#model/results/summaries.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer } from "../scripts/tasks/prepare.mjs";
import { readBackup } from "./backup/readBackup.ts";
import { migrate } from "./database/migrate.ts";
import { dropFolder, freshFolder, openHere } from "./test/freshFolder.ts";
import { ended, type Launched, launch } from "./test/launch.ts";

/** A firm's years of work: some here, thousands where endurance is asked for. */
const JOBS = Number(process.env.JOBS ?? 300);
const REVISIONS = Number(process.env.REVISIONS ?? 4);

const job = jobSchema.parse(DEMO_JOBS[0]?.job) as JobDocument;
let folder: string;
let server: Launched;

/** Told beside the trial where figures are asked for. */
const figure = (what: string, value: string) => {
  if (process.env.FIGURES)
    appendFileSync(process.env.FIGURES, `${JSON.stringify([what, value])}\n`);
};
const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
  const started = performance.now();
  return [await work(), performance.now() - started];
};
const seconds = (ms: number) => `${(ms / 1000).toFixed(2)} s`;
const among = (times: number[], share: number) =>
  times.toSorted((a, b) => a - b)[Math.ceil(share * times.length) - 1] ?? 0;

beforeAll(async () => {
  await buildServer();
  folder = await freshFolder();
  const db = await openHere(folder);
  await migrate(db);
  // As many saves would have left them; the summary is that of the last.
  await db.query(
    `INSERT INTO revisions (collection, id, revision, saved_at, document)
     SELECT 'jobs', 'job-' || n, r, now() - make_interval(days => ${REVISIONS} - r),
            $1::jsonb || jsonb_build_object('name', 'Job ' || n, 'note', 'Revision ' || r)
       FROM generate_series(1, ${JOBS}) AS n, generate_series(1, ${REVISIONS}) AS r`,
    [job],
  );
  await db.query(
    `INSERT INTO jobs (id, revision, updated_at, document, summary, summary_of)
     SELECT id, revision, saved_at, document, $1::jsonb || jsonb_build_object('name', document ->> 'name'), revision
       FROM revisions WHERE revision = ${REVISIONS}`,
    [summariseJob(job)],
  );
  await db.close();
  let took: number;
  [server, took] = await timed(() => launch(folder));
  figure(`start on ${JOBS} jobs, ${JOBS * REVISIONS} revisions`, seconds(took));
}, 900_000);
afterAll(async () => {
  const gone = ended(server.child);
  server.child.kill();
  await gone;
  await dropFolder(folder);
});

const ask = async (path: string, document?: object, revision = 0) => {
  const [response, ms] = await timed(() =>
    fetch(`${server.address}/api${path}`, {
      ...(document && {
        method: "PUT",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ revision, document }),
      }),
    }),
  );
  return { status: response.status, text: await response.text(), ms };
};

/** A list as it arrives, not unpacked: a hundred of them would keep this process busier than the server. */
const packedList = () =>
  timed(
    () =>
      new Promise<{ status: number | undefined; packed: Buffer }>((resolve, reject) => {
        const headers = { "accept-encoding": "gzip" };
        request(`${server.address}/api/jobs`, { headers, agent: false }, (response) => {
          const pieces: Buffer[] = [];
          response.on("data", (piece: Buffer) => pieces.push(piece));
          response.on("end", () =>
            resolve({ status: response.statusCode, packed: Buffer.concat(pieces) }),
          );
        })
          .on("error", reject)
          .end();
      }),
  );

it("a hundred who ask for all jobs at once, while eight save, are all answered with what stands", async () => {
  const quiet = await Promise.all(Array.from({ length: 100 }, packedList));
  const asked = Array.from({ length: 100 }, packedList);
  const saves = Array.from({ length: 8 }, (_, i) =>
    ask(`/jobs/job-${i + 1}`, { ...job, name: `Saved ${i}` }, REVISIONS),
  );
  const busy = await Promise.all(asked);
  const lists = [...quiet, ...busy];
  for (const [{ status }] of lists) expect(status).toBe(200);
  const different = new Map(lists.map(([{ packed }]) => [packed.toString("latin1"), packed]));
  for (const packed of different.values()) {
    expect(JSON.parse(gunzipSync(packed).toString())).toHaveLength(JOBS);
  }
  for (const { status } of await Promise.all(saves)) expect(status).toBe(200);
  const after = JSON.parse((await ask("/jobs")).text) as JobSummary[];
  const newest = after.slice(0, 8).map(({ name }) => name);
  expect(newest.toSorted()).toEqual(Array.from({ length: 8 }, (_, i) => `Saved ${i}`));
  const size = (lists[0]?.[0].packed.length ?? 0) / 1000;
  const within = (of: typeof lists) =>
    seconds(
      among(
        of.map(([, ms]) => ms),
        0.99,
      ),
    );
  figure(
    "100 lists at once",
    `99 of 100 within ${within(quiet)}, while eight save ${within(busy)}, ${size.toFixed(0)} kB each`,
  );
}, 120_000);

it("nobody waits for a heavy job that another saves", async () => {
  const heavy = DEMO_JOBS.map((own) => jobSchema.parse(own.job) as JobDocument).toSorted(
    (a, b) => JSON.stringify(b).length - JSON.stringify(a).length,
  )[0] as JobDocument;
  // A save a moment of a job that takes long to work out, while others ask.
  const saving = Array.from({ length: 10 }, (_, i) => ask(`/jobs/heavy-${i}`, heavy));
  const others: number[] = [];
  const until = Promise.all(saving).then(() => true);
  for (let done = false; !done; ) {
    const answer = await ask("/jobs/job-9");
    expect(answer.status).toBe(200);
    others.push(answer.ms);
    done = await Promise.race([until, Promise.resolve(false)]);
  }
  for (const { status } of await Promise.all(saving)) expect(status).toBe(200);
  figure("a job read while heavy ones are saved", `slowest ${seconds(Math.max(...others))}`);
  const numbers = async () =>
    (JSON.parse((await ask("/jobs")).text) as JobSummary[]).filter(({ pending }) => pending);
  await expect.poll(async () => (await numbers()).length, { timeout: 60_000 }).toBe(0);
}, 120_000);

it("everything is in a backup that is made beside", async () => {
  const path = join(folder, "..", `thousands-${process.pid}.gz`);
  try {
    const [response, ms] = await timed(async () => {
      const answer = await fetch(`${server.address}/api/backups/now`);
      return answer.arrayBuffer();
    });
    writeFileSync(path, Buffer.from(response));
    let revisions = 0;
    for await (const line of readBackup(path)) if ("revision" in line) revisions++;
    expect(revisions).toBe(JOBS * REVISIONS + 8 + 10);
    figure("backup of all of it", `${seconds(ms)}, ${(response.byteLength / 1e6).toFixed(1)} MB`);
  } finally {
    rmSync(path, { force: true });
  }
}, 300_000);
