// npm test: types, lint, boundaries, unit tests, a build, and the real interface in headless Chromium.
// Ends with a line "N passed, N failed".
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "./tasks/chromium.mjs";
import { buildServer, buildSolve, buildWeb, install, root, run } from "./tasks/prepare.mjs";

const LAYERS = ["core", "contract", "words", "model", "library"];
let passed = 0;
let failed = 0;
const scratch = mkdtempSync(join(tmpdir(), "gusher-results-"));
const bin = (name) =>
  join(root, "node_modules", ".bin", process.platform === "win32" ? `${name}.cmd` : name);

async function check(name, work) {
  const started = Date.now();
  console.log(`\n── ${name}`);
  let ok = false;
  try {
    ok = await work();
  } catch (error) {
    console.error(error);
  }
  if (ok) passed++;
  else failed++;
  console.log(`${ok ? "✓" : "✗"} ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
}

/** A test runner that writes its counts to a JSON file; a run that counted nothing has failed. */
async function suite(name, command, args, env, counts) {
  console.log(`\n── ${name}`);
  const code = await run(command, args, { env: { ...process.env, ...env } });
  let result = { passed: 0, failed: 0 };
  try {
    result = counts();
  } catch (error) {
    console.error(`${name} left no result: ${error.message}`);
  }
  passed += result.passed;
  failed += result.failed;
  if (result.passed === 0 || (code !== 0 && result.failed === 0)) failed++;
}

await install();
await check("build", async () => {
  await Promise.all([buildServer(), buildSolve(), buildWeb()]);
  return true;
});

/** What only reads, one after the other, while the unit tests run; each says what it found when it is done. */
async function reads() {
  const commands = [
    ...[...LAYERS, "server", "web", "e2e", "tsconfig.tests.json"].map((part) => [
      `types: ${part}`,
      "tsc",
      ["-p", part],
    ]),
    ["lint and format", "biome", ["ci", "."]],
    [
      "boundaries",
      "depcruise",
      [
        ...[...LAYERS, "server", "web", "demo", "scripts", "benchmarks"],
        ...["--config", ".dependency-cruiser.cjs"],
      ],
    ],
  ];
  for (const [name, command, args] of commands) {
    const said = join(scratch, "said");
    const file = openSync(said, "w");
    const started = Date.now();
    const code = await run(bin(command), args, { stdio: ["ignore", file, file] });
    closeSync(file);
    if (code === 0) passed++;
    else failed++;
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    console.log(`${code === 0 ? "✓" : `${readFileSync(said, "utf8")}\n✗`} ${name} (${seconds} s)`);
  }
}

const unitResult = join(scratch, "unit.json");
await Promise.all([
  reads(),
  suite(
    "unit tests",
    bin("vitest"),
    ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${unitResult}`],
    {},
    () => {
      const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(
        readFileSync(unitResult, "utf8"),
      );
      return {
        passed: numPassedTests,
        failed: Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0),
      };
    },
  ),
]);

await check("the first script is sent in under 200 kB, compressed as it lies there", () => {
  const page = readFileSync(join(root, "dist", "web", "index.html"), "utf8");
  const scripts = [...page.matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map(
    ([, file]) => file,
  );
  const bytes = scripts.reduce(
    // Where a browser takes no brotli, it is sent this.
    (sum, file) => sum + statSync(join(root, "dist", "web", `${file}.gz`)).size,
    0,
  );
  console.log(`${scripts.length} files, ${(bytes / 1000).toFixed(0)} kB`);
  return scripts.length > 0 && bytes < 200_000;
});

const browserResult = join(scratch, "browser.json");
const executable = await chromium();
await suite(
  "browser tests",
  bin("playwright"),
  ["test", "--config", "e2e/playwright.config.ts"],
  {
    CHROMIUM: executable,
    PLAYWRIGHT_JSON_OUTPUT_NAME: browserResult,
    PLAYWRIGHT_JSON_OUTPUT_FILE: browserResult,
  },
  () => {
    const { expected, unexpected, flaky } = JSON.parse(readFileSync(browserResult, "utf8")).stats;
    return { passed: expected + flaky, failed: unexpected };
  },
);

rmSync(scratch, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
