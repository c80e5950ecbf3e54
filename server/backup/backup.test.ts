import { execFile } from "node:child_process";
import { createHash } from "node:crypto";
import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { gunzipSync, gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { COLLECTION_NAMES, COLLECTIONS } from "#contract/collections.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer, root } from "../../scripts/tasks/prepare.mjs";
import { contentsIn } from "../attachments/contents.ts";
import type { Database } from "../database/database.ts";
import { migrate } from "../database/migrate.ts";
import { saveDocument, setDeleted } from "../documents/store.ts";
import { resetDemo } from "../routes/library.ts";
import { addSamples, createStream, mayStream, setStreamDeleted } from "../streams/store.ts";
import { dropFolder, freshFolder, openHere, summarised } from "../test/freshFolder.ts";
import { ended, type Launched, launch } from "../test/launch.ts";
import { datedBackups, keepDated, wholeBackup, writeBackup, writeStream } from "./dated.ts";
import { readBackup } from "./readBackup.ts";
import { restore, verify } from "./restore.ts";

const picture = Buffer.concat([Buffer.from("\xff\xd8\xff", "latin1"), Buffer.alloc(70_000, 7)]);
const hash = createHash("sha256").update(picture).digest("hex");
const demoJob = DEMO_JOBS[0]?.job as unknown as Record<string, unknown>;

let folder: string;
let token = "";
let scratch: string;
let db: Database;
beforeAll(async () => {
  scratch = fs.mkdtempSync(join(tmpdir(), "gusher-backup-"));
  folder = await freshFolder();
  db = await openHere(folder);
  await migrate(db);
  await db.transaction(resetDemo);
  for (let revision = 0; revision < 5; revision++) {
    const document = { ...demoJob, name: `Änderung ${revision}\n“two lines”` };
    await saveDocument(db, "jobs", "edited", revision, document);
  }
  await saveDocument(db, "jobs", "gone", 0, demoJob);
  await setDeleted(db, "jobs", "gone", true);
  expect(contentsIn(folder).keep(hash, picture)).toBeUndefined();
  const attachment = { format: "upright-gusher/attachment", version: 2, type: "image/jpeg" };
  const document = { ...attachment, size: picture.length, hash };
  await saveDocument(db, "attachments", "gauge", 0, document);
  await summarised(db);
  for (const id of ["well", "ended"]) {
    const channels = [{ reads: "flow" as const }, { reads: "level" as const }];
    const made = await createStream(db, id, { name: id, channels });
    if (id === "well" && typeof made === "object") token = made.token;
    await addSamples(db, id, samplesFrom(id === "well" ? 9000 : 3));
  }
  await setStreamDeleted(db, "ended", true);
});
afterAll(async () => {
  await db.close();
  for (const made of [folder, scratch]) await dropFolder(made);
});

/** Samples as a logger sends them: some late, some with nothing to say. */
const samplesFrom = (count: number, first = 0) =>
  Array.from({ length: count }, (_, i) => {
    const n = first + ((i * 7919) % count);
    const at = new Date(Date.UTC(2026, 4, 2, 8) + n * 1000).toISOString();
    return { n, at, values: [0.1 + n / 3, n % 5 === 0 ? null : -n / 7] };
  });

/** Everything that a database holds, as rows. */
async function everything(from: Database) {
  const rows = [
    await from.query(
      "SELECT collection, id, revision, saved_at, document FROM revisions ORDER BY sequence",
    ),
  ];
  for (const name of COLLECTION_NAMES) {
    const columns = `id, revision, updated_at, deleted_at, document${name === "jobs" ? ", summary" : ""}`;
    rows.push(await from.query(`SELECT ${columns} FROM ${COLLECTIONS[name].table} ORDER BY id`));
  }
  rows.push(
    await from.query(
      "SELECT id, created_at, deleted_at, job_id, token_hash, document FROM streams ORDER BY id",
    ),
    await from.query(`SELECT stream_id, n, at, "values" FROM samples ORDER BY stream_id, arrival`),
  );
  return rows;
}
const restoredInto = async (path: string) => {
  const place = await freshFolder();
  const into = await openHere(place);
  const result = await restore(path, into, contentsIn(place));
  await summarised(into);
  return { place, into, result };
};
const linesOf = (path: string) =>
  gunzipSync(fs.readFileSync(path)).toString().trimEnd().split("\n");

it("brings everything back: documents, every revision, what was deleted, pictures, streams", async () => {
  const path = join(scratch, "all.gz");
  await writeBackup(db, contentsIn(folder), "test", path);
  const { place, into, result } = await restoredInto(path);
  expect(result).toMatchObject({ attachments: 1, samples: 9003 });
  expect(result.revisions).toBeGreaterThan(20);
  expect(await everything(into)).toEqual(await everything(db));
  expect(contentsIn(place).read(hash)).toEqual(picture);
  // And what is backed up from there says the same, line by line but the first and the last.
  const again = join(scratch, "again.gz");
  await writeBackup(into, contentsIn(place), "test", again);
  expect(linesOf(again).slice(1, -1)).toEqual(linesOf(path).slice(1, -1));
  await saveDocument(into, "jobs", "edited", 5, demoJob);
  // The logger goes on sending with the token it has.
  expect(await mayStream(into, "well", token)).toBe(2);
  expect(await addSamples(into, "well", samplesFrom(10, 8995))).toHaveLength(5);
  await into.close();
  await dropFolder(place);
});

describe("a file that is not whole is refused, whatever is wrong with it", () => {
  const repacked = (change: (lines: string[]) => string[]) => (whole: Buffer) =>
    gzipSync(`${change(gunzipSync(whole).toString().trimEnd().split("\n")).join("\n")}\n`);
  it.each<[string, (whole: Buffer) => Buffer, RegExp]>([
    ["cut short", (whole) => whole.subarray(0, whole.length - 300), /cut short/],
    ["without its last line", repacked((lines) => lines.slice(0, -1)), /cut short/],
    ["with a line missing", repacked((lines) => lines.toSpliced(4, 1)), /does not add up/],
    [
      "with a name changed",
      repacked((lines) => lines.map((line) => line.replace("Änderung 3", "Änderung 9"))),
      /does not add up/,
    ],
    ["with a line more", repacked((lines) => [...lines, lines[3] as string]), /goes on after/],
    ["with a line broken", repacked((lines) => lines.with(2, "{")), /Line 3 of/],
    [
      "of a newer version",
      repacked((lines) =>
        lines.with(0, (lines[0] as string).replace(/"version":2/, '"version":9')),
      ),
      /newer version/,
    ],
    ["that is something else", () => Buffer.from("Dear fitter,"), /is no|was damaged/],
    ["of another kind", () => gzipSync('{"format":"letters"}\n'), /not a backup/],
    ["that is empty", () => gzipSync(""), /cut short/],
    // A file of a few kB that would take more room than there is.
    [
      "with a line that never ends",
      repacked(([head = ""]) => [head, "x".repeat(40_000_000)]),
      /longer than any of ours/,
    ],
  ])("%s", async (what, change, sentence) => {
    const whole = join(scratch, "whole.gz");
    if (!fs.existsSync(whole)) await writeBackup(db, contentsIn(folder), "test", whole);
    const path = join(scratch, `${what}.gz`);
    fs.writeFileSync(path, change(fs.readFileSync(whole)));
    const read = async () => {
      for await (const line of readBackup(path)) expect(line).toBeDefined();
    };
    await expect(read()).rejects.toThrow(sentence);
  });
});

it("dated ones are made once a day while something changes, and the oldest go", async () => {
  const on = (day: number) => new Date(Date.UTC(2026, 4, day, 12));
  let revision = 0;
  const change = () => saveDocument(db, "jobs", "daily", revision++, demoJob);
  for (let day = 1; day <= 20; day++) {
    await change();
    expect(await keepDated(db, folder, "test", on(day))).toBe(true);
    expect(await keepDated(db, folder, "test", on(day))).toBe(false);
  }
  const names = datedBackups(folder).map(({ name }) => name);
  expect(names).toHaveLength(14);
  expect([names[0], names[13]]).toEqual([
    "backup-2026-05-20.jsonl.gz",
    "backup-2026-05-07.jsonl.gz",
  ]);
  expect(await keepDated(db, folder, "test", on(21))).toBe(false);
  await setDeleted(db, "jobs", "daily", true);
  expect(await keepDated(db, folder, "test", on(22))).toBe(true);
});

describe("dated ones share what does not change", () => {
  const day = (n: number) => new Date(Date.UTC(2026, 5, n, 12));
  const place = () => join(folder, "backups");
  const parts = () => fs.readdirSync(join(place(), "parts"));
  const path = (n: number) => join(place(), `backup-2026-06-${`${n}`.padStart(2, "0")}.jsonl.gz`);
  let revision = 0;
  const make = async (n: number) => {
    await saveDocument(db, "jobs", "shared", revision++, demoJob);
    expect(await keepDated(db, folder, "test", day(n))).toBe(true);
  };

  it("each part once; every one is restored whole, also out of a copy with its parts", async () => {
    await make(1);
    const first = parts();
    // A picture, three runs of one stream and one of the other.
    expect(first).toHaveLength(1 + 3 + 1);
    await make(2);
    expect(parts()).toEqual(first);
    expect(fs.statSync(join(place(), "parts", hash)).nlink).toBe(2);
    await addSamples(db, "well", samplesFrom(500, 9000));
    await make(3);
    // The last run was not full; the others are those of before.
    expect(parts().filter((part) => !first.includes(part))).toHaveLength(1);
    const { place: into, into: restored, result } = await restoredInto(path(3));
    expect(result).toMatchObject({ attachments: 1, samples: 9503 });
    await summarised(db);
    expect(await everything(restored)).toEqual(await everything(db));
    expect(contentsIn(into).read(hash)).toEqual(picture);
    await restored.close();
    await dropFolder(into);
  });

  it("is one whole file where it is downloaded, and says what is missing where it was copied alone", async () => {
    const alone = join(scratch, "alone.gz");
    fs.copyFileSync(path(3), alone);
    await expect(verify(alone)).rejects.toThrow(/needs .*parts.*Copy the folder/);
    await writeStream(wholeBackup(path(3)), alone);
    await verify(alone);
    const now = join(scratch, "as-now.gz");
    await writeBackup(db, contentsIn(folder), "test", now);
    const told = (file: string) =>
      linesOf(file)
        .slice(1, -1)
        .map((line) => JSON.parse(line) as unknown);
    const [own, other] = [told(alone), told(now)];
    expect(own).toHaveLength(other.length);
    expect(own.findIndex((line, i) => !sameDocument(line, other[i]))).toBe(-1);
    // One that was damaged does not fit its name.
    const part = join(place(), "parts", parts().find((name) => name.endsWith(".gz")) as string);
    const whole = fs.readFileSync(part);
    fs.writeFileSync(part, gzipSync("[[1,2,[3]]]"));
    await expect(verify(path(3))).rejects.toThrow(/not there or was damaged/);
    fs.writeFileSync(part, whole);
    await verify(path(3));
  });

  it("go with the last that needs them, and never where it is not known what is needed", async () => {
    const before = parts();
    const list = `${path(3)}.parts`;
    const kept = fs.readFileSync(list);
    fs.rmSync(list);
    await make(4);
    expect(before.every((part) => parts().includes(part))).toBe(true);
    fs.writeFileSync(list, kept);
    await db.execute("DELETE FROM samples WHERE stream_id = 'well'");
    for (let n = 5; n <= 20; n++) await make(n);
    expect(parts()).toHaveLength(2);
    expect(datedBackups(folder)).toHaveLength(14);
    expect(fs.readdirSync(place()).filter((name) => name.endsWith(".parts"))).toHaveLength(14);
    for (const { name } of datedBackups(folder)) await verify(join(place(), name));
  });
});

it("is one moment's state, though others save while it is made", async () => {
  const path = join(scratch, "moment.gz");
  let saving = true;
  const writer = (async () => {
    for (let n = 0; saving; n++) {
      await saveDocument(db, "jobs", "busy", n, demoJob);
      // The engine of this test shares its thread with the files and the packing.
      await new Promise((done) => setTimeout(done, 5));
    }
    return true;
  })();
  for (let round = 0; round < 5; round++) {
    await writeBackup(db, contentsIn(folder), "test", path);
    const busy = linesOf(path)
      .slice(1, -1)
      .map((line) => JSON.parse(line) as { id?: string; revision?: number })
      .filter(({ id, revision }) => id === "busy" && revision !== undefined);
    expect(busy.map(({ revision }) => revision)).toEqual(busy.map((_, i) => i + 1));
  }
  saving = false;
  expect(await writer).toBe(true);
});

describe("the commands", () => {
  const program = join(root, "dist/backup.mjs");
  const command = (...args: string[]) => promisify(execFile)(process.execPath, [program, ...args]);
  let own: string;
  let server: Launched;
  let live: string;
  let said: string;
  beforeAll(async () => {
    await buildServer();
    own = await freshFolder();
    live = join(scratch, "live.gz");
    server = await launch(own, ["--demo"]);
    said = (await command("make", live, "--data", own)).stdout;
  });
  afterAll(() => dropFolder(own));

  it("make one from a server that runs and from one that does not", async () => {
    expect(said).toMatch(/read back whole/);
    const now = await fetch(`${server.address}/api/backups/now`);
    expect(now.headers.get("content-disposition")).toMatch(
      /upright-gusher-\d{4}-\d\d-\d\d\.jsonl\.gz/,
    );
    const [downloaded, still] = [join(scratch, "downloaded.gz"), join(scratch, "still.gz")];
    fs.writeFileSync(downloaded, Buffer.from(await now.arrayBuffer()));
    server.child.kill("SIGTERM");
    await ended(server.child);
    await command("make", still, "--data", own);
    for (const path of [still, downloaded]) {
      expect(linesOf(path).slice(1, -1)).toEqual(linesOf(live).slice(1, -1));
    }
  });

  it("restore one into a folder of its own, and only a whole one", async () => {
    const target = join(scratch, "target");
    await expect(command("restore", live, "--data", own)).rejects.toThrow(/is not empty/);
    const broken = join(scratch, "broken.gz");
    fs.writeFileSync(broken, fs.readFileSync(live).subarray(0, 2000));
    await expect(command("restore", broken, "--data", target)).rejects.toThrow(/cut short/);
    expect(fs.readdirSync(target)).toEqual([]);
    expect((await command("restore", live, "--data", target)).stdout).toMatch(
      /Restored into .*documents/,
    );
    const restored = await launch(target);
    const jobs = (await (await fetch(`${restored.address}/api/jobs`)).json()) as unknown[];
    expect(jobs.length).toBe(DEMO_JOBS.length);
    restored.child.kill("SIGTERM");
    await ended(restored.child);
  });
});
