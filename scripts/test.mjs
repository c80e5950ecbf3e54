// npm test: types, lint, boundaries, unit tests, a build, and the real interface in headless Chromium.
// Ends with a line "N passed, N failed".
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "./tasks/chromium.mjs";
import { buildServer, buildSolve, buildWeb, install, run } from "./tasks/prepare.mjs";
import { bin, reads } from "./tasks/reads.mjs";

let passed = 0;
let failed = 0;
/** What did not hold, by name: told once more at the end, where one looks first. */
const named = [];
const scratch = mkdtempSync(join(tmpdir(), "gusher-results-"));

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
  else {
    failed++;
    named.push(name);
  }
  console.log(`${ok ? "✓" : "✗"} ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
}

/** A test runner that writes its counts to a JSON file; a run that counted nothing has failed. */
async function suite(name, command, args, env, counts) {
  console.log(`\n── ${name}`);
  const code = await run(command, args, { env: { ...process.env, ...env } });
  let result = { passed: 0, failed: 0, named: [] };
  try {
    result = counts();
  } catch (error) {
    console.error(`${name} left no result: ${error.message}`);
  }
  passed += result.passed;
  failed += result.failed;
  named.push(...result.named);
  if (result.passed === 0 || (code !== 0 && result.failed === 0)) failed++;
}

await install();
await check("build", async () => {
  await Promise.all([buildServer(), buildSolve(), buildWeb()]);
  return true;
});

const unitResult = join(scratch, "unit.json");
await Promise.all([
  reads().then((counts) => {
    passed += counts.passed;
    failed += counts.failed;
    named.push(...counts.named);
  }),
  // Two lanes: a file with a server or an engine of its own beside others that compute.
  suite(
    "unit tests",
    bin("vitest"),
    [
      ...["run", "--maxWorkers=2"],
      ...["--reporter=default", "--reporter=json", `--outputFile.json=${unitResult}`],
    ],
    {},
    () => {
      const { numPassedTests, numFailedTests, numFailedTestSuites, testResults } = JSON.parse(
        readFileSync(unitResult, "utf8"),
      );
      return {
        passed: numPassedTests,
        failed: Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0),
        named: testResults.flatMap(({ name, status, message, assertionResults }) => {
          const not = assertionResults.filter((one) => one.status === "failed");
          if (not.length === 0 && status === "failed") return [`${name}: ${message}`];
          return not.map(
            (one) => `${name}: ${one.fullName}\n  ${one.failureMessages.join("\n  ")}`,
          );
        }),
      };
    },
  ),
]);

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
    const { stats, suites } = JSON.parse(readFileSync(browserResult, "utf8"));
    const specsOf = ({ specs = [], suites: inner = [] }) => [...specs, ...inner.flatMap(specsOf)];
    const named = suites
      .flatMap(specsOf)
      .filter(({ ok }) => !ok)
      .map(({ file, line, title }) => `${file}:${line}: ${title}`);
    return { passed: stats.expected + stats.flaky, failed: stats.unexpected, named };
  },
);

rmSync(scratch, { recursive: true, force: true });
for (const name of named) console.log(`✗ ${name.slice(0, 2000)}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
