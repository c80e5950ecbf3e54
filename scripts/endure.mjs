// npm run endure: every property and a hundred thousand random networks on fresh cases, and everything that can befall
// the data. Prints a table and writes it to docs/endurance.md. npm run endure -- core (or data) does one half. The seed
// is printed first: SEED=n npm run endure repeats it. npm run endure -- pages measures what pages cost.
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { cpus, platform, tmpdir, totalmem } from "node:os";
import { join } from "node:path";
import { buildServer, fail, install, root, run } from "./tasks/prepare.mjs";

const half = process.argv[2] ?? "all";
if (!["all", "core", "data", "pages"].includes(half))
  fail("Say core, data, pages or nothing: npm run endure -- data");
await install();
await buildServer();
const seed = process.env.SEED ?? String(1 + Math.floor(Math.random() * 1e6));
console.log(`SEED=${seed}`);

/** How long each trial is; fewer or more by the variable of that name. */
const many = (name, usual) => process.env[name] ?? String(usual);
const NETWORKS = many("NETWORKS", 100_000);
const POWER_CUTS = many("POWER_CUTS", 200);
const KILLS = many("KILLS", 40);
const CLAIM_ROUNDS = many("CLAIM_ROUNDS", 60);
const MALFORMED = many("MALFORMED", 40_000);
const JOBS = many("JOBS", 5000);
const REVISIONS = many("REVISIONS", 13);

/** What is run: the tests of npm test that matter to it, with the numbers that make it long. */
const TRIALS = [
  [
    "core",
    `properties on fresh cases, ${NETWORKS} random networks`,
    ["core", "contract", "model", "words"],
    { NETWORKS },
  ],
  [
    "data",
    `${POWER_CUTS} cuts of the power, and of first starts`,
    ["server/powerCut"],
    { POWER_CUTS },
  ],
  ["data", `${KILLS} kills (SIGKILL) in a burst of saves`, ["server/durability"], { KILLS }],
  [
    "data",
    `full disks, foreign and broken folders, ${CLAIM_ROUNDS} races of three servers`,
    ["server/storage"],
    { CLAIM_ROUNDS },
  ],
  ["data", "backups restored and compared row by row, damaged ones refused", ["server/backup"], {}],
  [
    "data",
    `${MALFORMED} malformed requests over every route, by who is signed in and who is not`,
    ["server/api", "server/hostile"],
    { MALFORMED },
  ],
  [
    "data",
    `${JOBS} jobs in ${JOBS * REVISIONS} revisions: start, list, backup`,
    ["server/thousands"],
    { JOBS, REVISIONS },
  ],
  [
    "data",
    "imports in pieces, what is thinned and collected, lists",
    ["server/imports", "server/bounds", "server/lists"],
    {},
  ],
  ["data", "names, pass phrase and certificate of an open server", ["server/network"], {}],
];

const vitest = join(root, "node_modules", "vitest", "vitest.mjs");
const scratch = mkdtempSync(join(tmpdir(), "gusher-endure-"));
const rows = [];
const figures = join(scratch, "figures.jsonl");
for (const [part, what, files, numbers] of TRIALS) {
  if (half !== "all" && half !== part) continue;
  console.log(`\n── ${what}`);
  const result = join(scratch, `${rows.length}.json`);
  const started = Date.now();
  await run(
    process.execPath,
    [
      vitest,
      "run",
      ...files,
      "--reporter=default",
      "--reporter=json",
      `--outputFile.json=${result}`,
    ],
    { env: { ...process.env, SEED: seed, FIGURES: figures, ...numbers } },
  );
  // A trial that broke off leaves no result, and has not held.
  const {
    numPassedTests: passed,
    numFailedTests: failed,
    success,
  } = existsSync(result)
    ? JSON.parse(readFileSync(result, "utf8"))
    : { numPassedTests: 0, numFailedTests: 1, success: false };
  const seconds = Math.round((Date.now() - started) / 1000);
  rows.push({
    what,
    held: success && passed > 0,
    counts: `${passed} held, ${failed} did not`,
    seconds,
  });
}
const told = (file) =>
  existsSync(file)
    ? readFileSync(file, "utf8")
        .trim()
        .split("\n")
        .map((line) => `| ${JSON.parse(line).join(" | ")} |`)
        .join("\n")
    : "";
const measured = told(figures);
let pages = "";
if (half === "all" || half === "pages") {
  const file = join(scratch, "pages.jsonl");
  await run(process.execPath, [join(root, "scripts", "bench.mjs"), "pages"], {
    env: { ...process.env, FIGURES: file },
  });
  pages = told(file);
}
rmSync(scratch, { recursive: true, force: true });

const table = [
  "| what | tests | time |",
  "| --- | --- | --- |",
  ...rows.map(({ what, counts, seconds }) => `| ${what} | ${counts} | ${seconds} s |`),
].join("\n");
const figuresTable = measured === "" ? "" : `\n\n| measured | |\n| --- | --- |\n${measured}`;
console.log(`\n${table}${figuresTable}`);
if (half !== "core") {
  const machine = `${cpus().length} cores, ${Math.round(totalmem() / 2 ** 30)} GB, ${platform()}, Node.js ${process.version}`;
  const day = new Date().toISOString().slice(0, 10);
  const document = join(root, "docs", "endurance.md");
  // What was not run this time stays as it was.
  const [before = "", pagesBefore = ""] = readFileSync(document, "utf8").split("\n## Pages\n");
  const data = `# What it has been through

The last run of \`npm run endure${half === "all" ? "" : ` -- ${half}`}\`, ${day}, SEED=${seed}, on ${machine}. Nothing acknowledged was lost where every test held.

${table}${figuresTable}
`;
  const figuresOfPages = `
What pages cost, ${day}, on ${machine}.

| | | |
| --- | --- | --- |
${pages}
`;
  writeFileSync(
    document,
    `${half === "pages" ? before : data}\n## Pages\n${pages === "" ? pagesBefore : figuresOfPages}`,
  );
}
process.exit(rows.every(({ held }) => held) ? 0 : 1);
