import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { jobSchema } from "#contract/documents/job.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { databaseOn } from "../server/database/database.ts";
import { databaseIn } from "../server/database/dataFolder.ts";
import { openEngine } from "../server/database/engine.ts";
import { migrate } from "../server/database/migrate.ts";
import { listJobs, saveDocument } from "../server/documents/store.ts";

/** What keeping costs: each save beside one sync of the same disk, and lists as they grow. */
export async function benchStorage(
  row: (name: string, value: string, note?: string) => void,
): Promise<void> {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-bench-"));
  const job = jobSchema.parse(GLASSHOUSES) as unknown as Record<string, unknown>;
  const place = await databaseIn(folder, (empty) => openEngine(empty));
  const db = databaseOn(await openEngine(place));
  await migrate(db);
  const saves: number[] = [];
  const save = async (id: string, revision: number) => {
    const started = performance.now();
    await saveDocument(db, "jobs", id, revision, { ...job, name: `${id} ${revision}` });
    saves.push(performance.now() - started);
  };
  const lists: string[] = [];
  const jobs = [20, 200, 2000];
  let made = 0;
  for (const until of jobs) {
    for (; made < until; made++) await save(`job-${made}`, 0);
    const times: number[] = [];
    for (let i = 0; i < 20; i++) {
      const started = performance.now();
      await listJobs(db);
      times.push(performance.now() - started);
    }
    lists.push(`${until}: ${median(times).toFixed(1)} ms`);
  }
  const first = median(saves.splice(0).slice(100, 600));
  for (let n = 0; n < 1000; n++) await save("job-0", n + 1);
  const thousand = saves.reduce((sum, ms) => sum + ms, 0);
  await db.close();
  const sync = syncTime(folder);
  row(
    "a job saved, on the disk",
    `${first.toFixed(1)} ms`,
    `one sync of this disk ${sync.toFixed(1)} ms, ratio ${(first / sync).toFixed(1)}`,
  );
  row(
    "1 000 saves of one job, each on the disk",
    `${(thousand / 1000).toFixed(2)} s`,
    `median ${median(saves).toFixed(1)} ms, after 2 000 jobs ×${(median(saves) / first).toFixed(2)}`,
  );
  row("jobs listed", lists.at(-1)?.split(": ")[1] ?? "", lists.join(", "));
  fs.rmSync(folder, { recursive: true, force: true });
}

/** Median ms of one page written at the end of a file and put on the disk. */
function syncTime(folder: string): number {
  const file = fs.openSync(join(folder, "sync"), "w");
  const page = new Uint8Array(8192);
  const times = Array.from({ length: 200 }, () => {
    const started = performance.now();
    fs.writeSync(file, page);
    fs.fsyncSync(file);
    return performance.now() - started;
  });
  fs.closeSync(file);
  return median(times);
}

function median(of: readonly number[]): number {
  return of.toSorted((a, b) => a - b)[Math.floor(of.length / 2)] ?? 0;
}
