// What every command shares: installing what is missing and building what is out of date. Plain Node.js,
// no dependency: it has to run on a fresh clone.
import { spawn, spawnSync } from "node:child_process";
import {
  accessSync,
  closeSync,
  constants,
  existsSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { compressFiles } from "./compress.mjs";
import { notices } from "./notices.mjs";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..", "..");

const running = new Set();

/** Runs a program to its end; resolves to its exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: "inherit", ...options });
    running.add(child);
    child.on("error", reject);
    child.on("exit", (code, signal) => {
      running.delete(child);
      resolve(signal ? 1 : (code ?? 1));
    });
  });
}

/**
 * Hands a signal that this process alone got on to the programs it runs, and ends with them. A terminal sends
 * Ctrl+C to all of them; whoever gets it twice counts it once. A signal sent to npm ends npm and the shell between,
 * and nothing tells this process: it looks whether the shell that npm started it in is still there.
 * @returns a function after which this process does the work itself: it ends by a signal, or as whoever else listens
 *   for that does it
 */
export function passSignalsOn() {
  let works = false;
  for (const signal of ["SIGINT", "SIGTERM"]) {
    process.on(signal, () => {
      for (const child of running) child.kill(signal);
      const isAlone = process.listenerCount(signal) === 1;
      if (isAlone && (works || running.size === 0)) process.exit(1);
    });
  }
  const end = () => process.kill(process.pid, "SIGTERM");
  process.on("SIGHUP", end);
  if (process.env.npm_lifecycle_event) {
    const shell = process.ppid;
    const looking = setInterval(() => {
      if (process.ppid === shell) return;
      clearInterval(looking);
      end();
    }, 250);
    looking.unref();
  }
  return () => {
    works = true;
  };
}

/** Stops with a sentence when Node.js is too old. */
export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    fail(`Upright Gusher needs Node.js 20.19 or newer; this is ${process.version}.`);
  }
}

export function fail(message) {
  console.error(message);
  process.exit(1);
}

/** Installs the packages of the lock file, unless they are there already. */
export async function install() {
  checkNode();
  const lock = readFileSync(join(root, "package-lock.json"), "utf8");
  const stamp = join(root, "node_modules", ".installed-lock");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  console.error("Installing packages, once; it takes a minute or so …");
  const npm = process.platform === "win32" ? "npm.cmd" : "npm";
  // Not `npm ci`: it refuses a lock file that lacks the optional binaries of other platforms, which
  // registry mirrors often do not carry. `install --no-save` takes the locked versions all the same.
  const args = ["install", "--no-save", "--no-audit", "--no-fund", "--no-update-notifier"];
  // What npm says goes to a file: its stack traces and its advice are not for whoever reads this.
  const details = join(mkdtempSync(join(tmpdir(), "upright-gusher-")), "install.log");
  const log = openSync(details, "w");
  const code = await run(npm, args, {
    stdio: ["ignore", log, log],
    shell: process.platform === "win32",
  });
  closeSync(log);
  if (code !== 0) fail(`${whyNotInstalled(npm)}\nDetails: ${details}`);
  rmSync(dirname(details), { recursive: true });
  writeFileSync(stamp, lock);
}

/** What keeps the packages from being installed, in a sentence with what to do. */
function whyNotInstalled(npm) {
  const asked = spawnSync(npm, ["config", "get", "cache"], {
    encoding: "utf8",
    shell: process.platform === "win32",
  });
  for (const [what, folder, mend] of [
    ["npm’s cache", asked.stdout?.trim(), "Name another: npm_config_cache=FOLDER npm run …"],
    ["this folder", root, "Put the application in a folder of yours."],
  ]) {
    if (!folder) continue;
    const there = nearest(folder);
    try {
      accessSync(there, constants.W_OK);
    } catch {
      return `Installing the packages failed: ${what}, ${folder}, may not be written to by this user. ${mend}`;
    }
    const { bavail, bsize } = statfsSync(there);
    if (bavail * bsize < 600e6) {
      return `Installing the packages failed: there is no room on the disk of ${what}, ${folder}; 600 MB are needed. Free some, or ${mend[0].toLowerCase()}${mend.slice(1)}`;
    }
  }
  return "Installing the packages failed. Is the package registry reachable?";
}

/** The folder itself, or the nearest above it that is there. */
function nearest(folder) {
  return existsSync(folder) || dirname(folder) === folder ? folder : nearest(dirname(folder));
}

/** Newest change under the given files and folders, as a time in ms. */
export function newest(paths) {
  let latest = 0;
  for (const path of paths) {
    const full = join(root, path);
    const stat = statSync(full, { throwIfNoEntry: false });
    if (!stat) continue;
    if (!stat.isDirectory()) latest = Math.max(latest, stat.mtimeMs);
    else {
      for (const entry of readdirSync(full, { recursive: true, withFileTypes: true })) {
        if (!entry.isFile()) continue;
        latest = Math.max(
          latest,
          statSync(join(entry.parentPath ?? entry.path, entry.name)).mtimeMs,
        );
      }
    }
  }
  return latest;
}

/** True when `output` is missing or older than any of `sources`. */
export function outOfDate(output, sources) {
  const built = statSync(join(root, output), { throwIfNoEntry: false });
  return !built || newest(sources) > built.mtimeMs;
}

const CORE = [
  ...["core", "contract", "model", "words", "report", "library", "demo"],
  "package-lock.json",
];

/** Bundles Node.js entry points into dist/, when the first is out of date. */
async function bundle(entries, sources, external = []) {
  if (!isDue(entries, sources)) return;
  await bundleNow({ entryPoints: entries, outdir: "dist", external });
}

async function bundleNow(options) {
  const esbuild = await import("esbuild");
  await esbuild.build({
    absWorkingDir: root,
    outExtension: { ".js": ".mjs" },
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    loader: { ".sql": "text" },
    logLevel: "warning",
    ...options,
  });
}

/** What draws the interface's pages before they are sent: the interface itself, where there is no browser. */
const bundleDrawn = () =>
  bundleNow({
    entryPoints: ["web/drawn/pageThread.ts"],
    outdir: "dist/drawn",
    // What a first view does not show is not loaded to draw it.
    splitting: true,
    chunkNames: "[name]-[hash]",
    jsx: "automatic",
    loader: { ".css": "empty" },
    define: { "process.env.NODE_ENV": '"production"', "import.meta.env.PROD": "true" },
    banner: {
      // Packages that were written for the older kind of module find what they ask for.
      js: 'import { createRequire } from "node:module"; const require = createRequire(import.meta.url);',
    },
    plugins: [
      {
        name: "files-by-address",
        setup(build) {
          const found = { filter: /\?url$/, namespace: "address" };
          build.onResolve({ filter: found.filter }, ({ path }) => ({ path, namespace: "address" }));
          build.onLoad(found, () => ({ contents: 'export default ""' }));
        },
      },
    ],
  });

const isDue = (entries, sources) => outOfDate(`dist/${Object.keys(entries)[0]}.mjs`, sources);

/** The server, its threads for the database and for what lists show, and what makes and restores backups. */
const SERVER = {
  server: "server/main.ts",
  engine: "server/database/engineThread.ts",
  summary: "server/documents/summaryThread.ts",
  backup: "server/backup/main.ts",
};
export const SERVER_SOURCES = ["server", ...CORE];
export async function buildServer() {
  await bundle(SERVER, SERVER_SOURCES, ["@electric-sql/pglite"]);
  await prepareDatabase();
}

/** An empty database: a first start copies it, where else the engine would lay one out. */
async function prepareDatabase() {
  const place = "dist/empty-database";
  if (!outOfDate(`${place}/PG_VERSION`, ["package-lock.json"])) return;
  const { PGlite } = await import("@electric-sql/pglite");
  const { NodeFS } = await import("@electric-sql/pglite/nodefs");
  const beside = join(root, `${place}.${process.pid}`);
  const database = await PGlite.create({ fs: new NodeFS(beside) });
  await database.close();
  rmSync(join(root, place), { recursive: true, force: true });
  try {
    renameSync(beside, join(root, place));
  } catch (error) {
    rmSync(beside, { recursive: true, force: true });
    // Another build at the same time may have been quicker.
    if (!existsSync(join(root, place, "PG_VERSION"))) throw error;
  }
}
export const serverIsDue = () => isDue(SERVER, SERVER_SOURCES);

export const buildSolve = () =>
  bundle({ solve: "scripts/solve/solve.ts" }, ["scripts/solve", ...CORE]);

export const buildBench = () =>
  bundle(
    { bench: "benchmarks/bench.ts" },
    ["benchmarks", "server", ...CORE],
    ["@electric-sql/pglite", "@playwright/test"],
  );

export const buildDocs = () => bundle({ docs: "scripts/docs/docs.ts" }, ["scripts/docs", ...CORE]);

/** What is written last tells whether an earlier build came to its end. */
export const webIsDue = () =>
  outOfDate("dist/web/third-party-notices.txt", ["web", "scripts/tasks", ...CORE]);

/** Builds the interface into dist/web, when it is out of date. */
export async function buildWeb() {
  if (!webIsDue()) return;
  console.error("Building the interface …");
  const { build } = await import("vite");
  await build({
    root: join(root, "web"),
    configFile: join(root, "web", "vite.config.ts"),
    logLevel: "warn",
  });
  rmSync(join(root, "dist", "drawn"), { recursive: true, force: true });
  await bundleDrawn();
  const text = notices(root);
  await compressFiles(join(root, "dist", "web"));
  writeFileSync(join(root, "dist", "web", "third-party-notices.txt"), text);
}

export const version = JSON.parse(readFileSync(join(root, "package.json"), "utf8")).version;
