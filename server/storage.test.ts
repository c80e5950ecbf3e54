import { execFileSync, spawn } from "node:child_process";
import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { DEMO_JOBS } from "#demo/jobs.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer, root } from "../scripts/tasks/prepare.mjs";
import { claimFolder } from "./database/claim.ts";
import { dropFolder, freshFolder, openHere } from "./test/freshFolder.ts";
import { ended, type Launched, launch } from "./test/launch.ts";

/** Rounds of a race for a folder: some here, many where endurance is asked for. */
const ROUNDS = Number(process.env.CLAIM_ROUNDS ?? 2);
const demoJob = DEMO_JOBS[0]?.job;
const folders: string[] = [];
const running: Launched[] = [];
beforeAll(() => buildServer());
afterEach(async () => {
  for (const { child } of running.splice(0)) child.kill("SIGKILL");
  for (const folder of folders.splice(0)) await dropFolder(folder);
});

const emptyFolder = () => {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-storage-"));
  folders.push(folder);
  return folder;
};
const ourFolder = async () => {
  const folder = await freshFolder();
  folders.push(folder);
  return folder;
};
async function up(...args: Parameters<typeof launch>): Promise<Launched> {
  const launched = await launch(...args);
  running.push(launched);
  return launched;
}
async function save({ address }: Launched, id: string, revision: number, later = "") {
  const response = await fetch(`${address}/api/jobs/${id}`, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ revision, document: { ...demoJob, later } }),
    signal: AbortSignal.timeout(30_000),
  });
  return { status: response.status, body: (await response.json()) as { message: string } };
}
const read = async ({ address }: Launched, path: string) =>
  (await fetch(`${address}/api${path}`, { signal: AbortSignal.timeout(30_000) })).status;
/** Everything in a folder with its contents, to see that nothing was touched. */
const stateOf = (folder: string) =>
  fs
    .readdirSync(folder, { recursive: true, encoding: "utf8" })
    .toSorted()
    .map((name) => {
      const path = join(folder, name);
      return fs.statSync(path).isFile() ? `${name} ${fs.readFileSync(path, "base64")}` : name;
    });

describe("a full disk", () => {
  async function onDisk() {
    const folder = await ourFolder();
    const word = join(emptyFolder(), "disk");
    fs.writeFileSync(word, "roomy");
    const how = {
      env: { GUSHER_TEST_DISK: word, GUSHER_TEST_DATA: folder },
      node: ["--import", join(root, "server/test/fullDisk.mjs")],
    };
    return { folder, how, is: (state: string) => fs.writeFileSync(word, state) };
  }

  it("refuses saves with a sentence, goes on reading, and recovers by itself", async () => {
    const { folder, how, is } = await onDisk();
    const server = await up(folder, [], how);
    expect((await save(server, "one", 0)).status).toBe(200);
    is("low");
    const refused = await save(server, "one", 1);
    expect(refused.status).toBe(507);
    expect(refused.body.message).toMatch(/full: 3 MB are free, and 48 MB are needed/);
    expect(await read(server, "/jobs/one")).toBe(200);
    expect(await read(server, "/health")).toBe(200);
    is("roomy");
    expect((await save(server, "one", 1)).status).toBe(200);
  });

  it("that nothing foretold breaks the engine, not the server: it reads again and keeps what it said", async () => {
    const { folder, how, is } = await onDisk();
    const server = await up(folder, [], how);
    expect((await save(server, "kept", 0)).status).toBe(200);
    is("quota");
    // Noise does not compress: the log's first piece is full after some dozen of these.
    const noise = () =>
      Array.from({ length: 40_000 }, () => Math.floor(Math.random() * 1e9).toString(36)).join("");
    let acknowledged = 0;
    let answer = { status: 200, body: { message: "" } };
    while (answer.status === 200 && acknowledged < 200) {
      answer = await save(server, "grows", acknowledged, noise().slice(0, 200_000));
      if (answer.status === 200) acknowledged++;
    }
    expect([503, 507]).toContain(answer.status);
    expect(answer.body.message).toMatch(/full|did not answer in time/);
    expect(await read(server, "/jobs/kept")).toBe(200);
    const again = await save(server, "other", 0);
    expect(again.status).toBe(507);
    expect(again.body.message).toMatch(/takes no more/);
    is("roomy");
    expect((await save(server, "other", 0)).status).toBe(200);
    expect(await read(server, `/jobs/grows/revisions/${acknowledged}`)).toBe(200);
    server.child.kill("SIGINT");
    expect(await ended(server.child)).toBe(0);
  });

  it("is said at once where there is no room to begin", async () => {
    const { how, is } = await onDisk();
    const folder = emptyFolder();
    is("low");
    const env = { ...how.env, GUSHER_TEST_DATA: folder };
    await expect(launch(folder, [], { ...how, env })).rejects.toThrow(
      /no room for a data folder in .*: 3 MB are free, and 160 MB are needed/,
    );
  });
});

describe("a folder that is not ours, or not whole, is never written to", () => {
  it.each<[string, (folder: string) => void, RegExp]>([
    [
      "holds something else",
      (folder) => {
        for (const name of fs.readdirSync(folder)) {
          fs.rmSync(join(folder, name), { recursive: true });
        }
        fs.writeFileSync(join(folder, "letters.txt"), "Dear");
      },
      /holds something else \(letters\.txt\)/,
    ],
    [
      "is a PostgreSQL server's",
      (folder) => {
        fs.cpSync(join(folder, "database"), folder, { recursive: true });
        fs.rmSync(join(folder, "database"), { recursive: true });
        fs.rmSync(join(folder, "upright-gusher.json"));
        fs.writeFileSync(join(folder, "postmaster.opts"), "postgres -D .");
      },
      /holds something else/,
    ],
    [
      "lost its version file",
      (folder) => fs.rmSync(join(folder, "database/PG_VERSION")),
      /not whole: PG_VERSION is missing/,
    ],
    [
      "lost its version file as the first versions laid it out",
      (folder) => {
        fs.cpSync(join(folder, "database"), folder, { recursive: true });
        fs.rmSync(join(folder, "database"), { recursive: true });
        fs.rmSync(join(folder, "PG_VERSION"));
      },
      /not whole: PG_VERSION is missing/,
    ],
    [
      "lost its database",
      (folder) => fs.rmSync(join(folder, "database"), { recursive: true }),
      /database that was in .* is gone/,
    ],
  ])("when it %s", async (_what, change, sentence) => {
    const folder = await ourFolder();
    change(folder);
    const before = stateOf(folder);
    await expect(launch(folder)).rejects.toThrow(sentence);
    expect(stateOf(folder)).toEqual(before);
  });

  it("and one that is broken inside is said to be, in a sentence without a stack", async () => {
    const folder = await ourFolder();
    fs.writeFileSync(join(folder, "database/global/pg_control"), Buffer.alloc(8192));
    const said = await launch(folder).then(
      () => "",
      (error: Error) => error.message,
    );
    expect(said).toMatch(/cannot be opened.*restore/s);
    expect(said).toContain(join(folder, "server.log"));
    expect(said).not.toMatch(/\n\s+at /);
    expect(fs.readFileSync(join(folder, "server.log"), "utf8")).toMatch(/\n\s+at /);
  });

  it.each(["jobs", "revisions"])(
    "and so is one whose %s are damaged: with what to do, wherever it is met",
    async (table) => {
      const folder = await ourFolder();
      const first = await up(folder);
      for (let i = 0; i < 3; i++) expect((await save(first, `job-${i}`, 0)).status).toBe(200);
      first.child.kill("SIGTERM");
      await ended(first.child);
      const db = await openHere(folder);
      const [file] = await db.query<{ path: string }>("SELECT pg_relation_filepath($1) AS path", [
        table,
      ]);
      await db.close();
      const path = join(folder, "database", file?.path ?? "");
      fs.writeFileSync(path, Buffer.alloc(Math.max(8192, fs.statSync(path).size), 0x5a));
      // Where it is met depends on what is asked for first: as it starts, or as somebody asks.
      const said: string[] = [];
      const server = await up(folder).catch((error: Error) => {
        said.push(error.message);
        return undefined;
      });
      for (const ask of ["/jobs", "/jobs/job-1", "/jobs/job-1/tests", "/jobs/job-1/revisions"]) {
        if (!server) break;
        const answer = await fetch(`${server.address}/api${ask}`);
        expect([200, 503]).toContain(answer.status);
        if (!answer.ok) said.push(((await answer.json()) as { message: string }).message);
      }
      expect(said.length).toBeGreaterThan(0);
      for (const sentence of said) {
        expect(sentence).toMatch(/cannot be (read|opened).*copy the folder away.*restore/is);
        expect(sentence).not.toMatch(/\n\s+at /);
      }
    },
  );

  it("opens one that the first versions laid out, where it is", async () => {
    const folder = await ourFolder();
    fs.cpSync(join(folder, "database"), folder, { recursive: true });
    fs.rmSync(join(folder, "database"), { recursive: true });
    fs.rmSync(join(folder, "upright-gusher.json"));
    const server = await up(folder);
    expect((await save(server, "one", 0)).status).toBe(200);
    expect(fs.existsSync(join(folder, "database"))).toBe(false);
  });
});

describe("a claim on a folder", () => {
  it("is one process's, whatever its temporary folder, and stale ones are in nobody's way", async () => {
    const folder = await ourFolder();
    const first = await up(folder, [], { env: { TMPDIR: emptyFolder() } });
    await expect(launch(folder, [], { env: { TMPDIR: emptyFolder() } })).rejects.toThrow(
      `already running on ${folder}, at ${first.address}`,
    );
    first.child.kill("SIGKILL");
    await ended(first.child);
    const second = await up(folder);
    expect((await save(second, "one", 0)).status).toBe(200);
  });

  it(
    `goes to exactly one of three that ask at once over stale ones, ${ROUNDS} times`,
    async () => {
      const program = join(emptyFolder(), "claim.mjs");
      await build({
        stdin: {
          contents: `import { claimFolder } from "./server/database/claim.ts";
          process.stdin.resume();
          claimFolder(process.argv[2]).then(() => console.log("held"), () => console.log("refused"));`,
          resolveDir: root,
        },
        ...{ bundle: true, platform: "node", format: "esm", outfile: program },
      });
      const ask = (folder: string) => {
        const child = spawn(process.execPath, [program, folder]);
        const word = new Promise<string>((resolve) =>
          child.stdout.once("data", (chunk) => resolve(String(chunk).trim())),
        );
        return { child, word };
      };
      const folder = emptyFolder();
      for (let round = 0; round < ROUNDS; round++) {
        const asking = [0, 1, 2].map(() => ask(folder));
        const words = await Promise.all(asking.map(({ word }) => word));
        expect(words.toSorted()).toEqual(["held", "refused", "refused"]);
        for (const { child } of asking) child.kill("SIGKILL");
        await Promise.all(asking.map(({ child }) => ended(child)));
        // The claim of the one that was killed is what the next three find.
        expect(fs.readdirSync(folder)).toHaveLength(1);
      }
    },
    60_000 + ROUNDS * 2000,
  );

  it("fits in a folder with a name longer than a socket's may be", async () => {
    const folder = join(emptyFolder(), "deep".repeat(20), "deeper".repeat(20));
    fs.mkdirSync(folder, { recursive: true });
    const claim = await claimFolder(folder);
    await expect(claimFolder(folder)).rejects.toThrow(/already running/);
    await claim.release();
  });
});

describe("a disk that is mounted for it", () => {
  const mounted: string[] = [];
  const mount = (...args: string[]) => execFileSync("mount", args, { stdio: "pipe" });
  // Mounting is root's, and not everywhere; elsewhere the disk above, that only says so, has to do.
  const mayMount = (() => {
    const place = fs.mkdtempSync(join(tmpdir(), "gusher-mount-"));
    try {
      mount("-t", "tmpfs", "tmpfs", place);
      execFileSync("umount", [place]);
      return true;
    } catch {
      return false;
    } finally {
      fs.rmdirSync(place);
    }
  })();
  afterEach(() => {
    for (const place of mounted.splice(0)) execFileSync("umount", ["--lazy", place]);
  });
  const disk = (megabytes: number) => {
    const place = emptyFolder();
    mount("-t", "tmpfs", "-o", `size=${megabytes}m`, "tmpfs", place);
    mounted.push(place);
    return place;
  };

  it.runIf(mayMount)(
    "fills to its last byte, is read, and takes more once there is room",
    async () => {
      const place = disk(260);
      const folder = join(place, "data");
      const server = await up(folder);
      let acknowledged = 0;
      for (; acknowledged < 20; acknowledged++) {
        expect((await save(server, "grows", acknowledged)).status).toBe(200);
      }
      const filler = join(place, "filler");
      execFileSync("sh", ["-c", `cat /dev/zero > "${filler}" 2>/dev/null || true`]);
      const free = fs.statfsSync(place);
      expect(free.bavail).toBe(0);
      const refused = await save(server, "grows", acknowledged);
      expect(refused.status).toBe(507);
      expect(refused.body.message).toMatch(/full: 0 MB are free/);
      expect(await read(server, `/jobs/grows/revisions/${acknowledged}`)).toBe(200);
      fs.rmSync(filler);
      expect((await save(server, "grows", acknowledged)).status).toBe(200);
      execFileSync("sh", ["-c", `cat /dev/zero > "${filler}" 2>/dev/null || true`]);
      server.child.kill("SIGINT");
      expect(await ended(server.child)).toBe(0);
      // Started while it is still full it reads; nothing is lost by trying.
      const early = await up(folder);
      expect(await read(early, `/jobs/grows/revisions/${acknowledged + 1}`)).toBe(200);
      expect((await save(early, "grows", acknowledged + 1)).status).toBe(507);
      early.child.kill("SIGTERM");
      await ended(early.child);
      fs.rmSync(filler);
      const again = await up(folder);
      expect(await read(again, `/jobs/grows/revisions/${acknowledged + 1}`)).toBe(200);
    },
  );

  it.runIf(mayMount)("may be read only: said with the folder and what to do", async () => {
    const place = disk(260);
    const folder = join(place, "data");
    const server = await up(folder);
    server.child.kill("SIGTERM");
    await ended(server.child);
    mount("-o", "remount,ro", place);
    const before = stateOf(folder);
    const said = await launch(folder).then(
      () => "",
      (error: Error) => error.message,
    );
    expect(said).toContain(folder);
    expect(said).toMatch(/mounted for reading only.*--data FOLDER/s);
    expect(said).not.toMatch(/\n\s+at /);
    expect(stateOf(folder)).toEqual(before);
  });
});

it.each([
  ["the script", process.execPath, [join(root, "scripts/start.mjs")]],
  ["npm", "npm", ["start", "--"]],
])("one signal to %s that started it ends everything, data closed", async (_who, program, args) => {
  const folder = await ourFolder();
  const command = spawn(
    program,
    [...args, "--data", folder, "--port", "0"],
    // As in a terminal: what the test runner sets would change how the interface is built.
    { cwd: root, env: { PATH: process.env.PATH, HOME: process.env.HOME } },
  );
  const address = await new Promise<string>((resolve) => {
    let said = "";
    command.stdout.on("data", (chunk) => {
      said += chunk;
      const found = /is ready: (\S+)/.exec(said)?.[1];
      if (found) resolve(found);
    });
  });
  command.kill("SIGTERM");
  await ended(command);
  // npm does not wait for what the shell that it ends had started.
  const claims = () => fs.readdirSync(folder).filter((name) => name.startsWith("claim-"));
  await vi.waitFor(() => expect(claims()).toEqual([]), { timeout: 60_000 });
  await expect(fetch(address)).rejects.toThrow();
});
