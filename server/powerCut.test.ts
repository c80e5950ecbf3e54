import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, expect, it } from "vitest";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { type Database, databaseOn } from "./database/database.ts";
import { databaseIn } from "./database/dataFolder.ts";
import { openEngine } from "./database/engine.ts";
import { migrate } from "./database/migrate.ts";
import { checkpoint } from "./database/upkeep.ts";
import { getDocument, saveDocument } from "./documents/store.ts";
import { type ForgetfulDisk, watchDisk } from "./test/forgetfulDisk.ts";
import { freshFolder, openHere } from "./test/freshFolder.ts";

/** Cuts of the power: a few here, hundreds where endurance is asked for. */
const CUTS = Number(process.env.POWER_CUTS ?? 4);
const demoJob = DEMO_JOBS[0]?.job as unknown as Record<string, unknown>;

/** A stream of numbers from 0 to 1 that a seed repeats (mulberry32). */
function chanceOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}
const SEED = Number(process.env.SEED ?? 1);

let disk: ForgetfulDisk | undefined;
const folders: string[] = [];
const folderOf = (name: string) => {
  const folder = mkdtempSync(join(tmpdir(), `gusher-${name}-`));
  folders.push(folder);
  return folder;
};
afterEach(() => {
  disk?.stop();
  disk = undefined;
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

const save = (db: Database, id: string, revision: number) =>
  saveDocument(db, "jobs", id, revision, { ...demoJob, name: `${id}, save ${revision + 1}` });

it("puts the log on the disk before a save is acknowledged, and a new segment's name too", async () => {
  const folder = await freshFolder();
  folders.push(folder);
  disk = watchDisk(folder);
  const db = await openHere(folder);
  await migrate(db);
  const segment = expect.stringMatching(/^database\/pg_wal\/[0-9A-F]{24}$/);
  disk.takeSyncs();
  await save(db, "one", 0);
  expect(disk.takeSyncs()).toEqual([segment]);
  await db.query("SELECT 1");
  expect(disk.takeSyncs()).toEqual([]);
  await db.query("SELECT pg_switch_wal()");
  await save(db, "one", 1);
  const syncs = disk.takeSyncs();
  expect(syncs.at(-1)).toEqual(segment);
  expect(syncs).toContain("database/pg_wal");
  await db.close();
});

it(
  `keeps every acknowledged save through ${CUTS} cuts of the power`,
  async () => {
    const chance = chanceOf(SEED);
    for (let left = CUTS; left > 0; ) {
      const folder = await freshFolder();
      folders.push(folder);
      const own = watchDisk(folder);
      disk = own;
      const db = await openHere(folder);
      await migrate(db);
      const acknowledged = new Map<string, number>();
      const images: { image: string; promised: Map<string, number> }[] = [];
      let next = 1 + Math.floor(chance() * 200);
      own.onOperation = () => {
        if (--next > 0 || images.length === Math.min(10, left)) return;
        next = 1 + Math.floor(chance() * 200);
        const image = folderOf("image");
        own.leave(image, chance);
        images.push({ image, promised: new Map(acknowledged) });
      };
      const writer = async (id: string) => {
        for (let n = 0; images.length < Math.min(10, left); n++) {
          expect((await save(db, id, n)).kind).toBe("saved");
          acknowledged.set(id, n + 1);
          if (chance() < 0.02) await checkpoint(db, join(folder, "database"));
          if (chance() < 0.02) await db.query("SELECT pg_switch_wal()");
        }
      };
      await Promise.all(["a", "b", "c"].map(writer));
      await db.close();
      own.stop();
      disk = undefined;
      for (const { image, promised } of images) {
        const after = await openHere(image);
        for (const [id, saves] of promised) {
          const kept = await getDocument(after, "jobs", id);
          expect(kept?.revision, `${id} after a cut`).toBeGreaterThanOrEqual(saves);
          expect(kept?.document).toMatchObject({ name: `${id}, save ${kept?.revision}` });
        }
        expect((await save(after, "next", 0)).kind).toBe("saved");
        await after.close();
      }
      left -= images.length;
      for (const made of folders.splice(0)) rmSync(made, { recursive: true, force: true });
    }
  },
  60_000 + CUTS * 15_000,
);

it(
  "starts after a cut at any moment of a folder's first start",
  async () => {
    const chance = chanceOf(SEED + 1);
    const make = async (folder: string) => databaseIn(folder, (empty) => openEngine(empty));
    for (let round = 0; round < Math.max(1, CUTS / 50); round++) {
      const folder = folderOf("first");
      const own = watchDisk(folder);
      disk = own;
      // One cut somewhere, and two in the last moments, where the folder gets its name and its mark.
      const images: string[] = [];
      let [anywhere, sealed] = [1 + Math.floor(chance() * 2500), 0];
      const late = new Set([Math.floor(chance() * 4), 4 + Math.floor(chance() * 4)]);
      own.onOperation = () => {
        if (own.takeSyncs().includes("database.new") || sealed > 0) sealed++;
        if (--anywhere !== 0 && !late.has(sealed - 1)) return;
        const image = folderOf("image");
        own.leave(image, chance);
        images.push(image);
      };
      await make(folder);
      own.stop();
      disk = undefined;
      expect(images).toHaveLength(3);
      for (const image of images) {
        const db = databaseOn(await openEngine(await make(image)));
        await migrate(db);
        expect((await save(db, "one", 0)).kind).toBe("saved");
        await db.close();
      }
    }
  },
  120_000 + CUTS * 5000,
);
