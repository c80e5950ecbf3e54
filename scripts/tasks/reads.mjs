// What only reads the code: types, lint and format, boundaries. Each says what it found when it is done.
import { closeSync, mkdirSync, mkdtempSync, openSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { root, run } from "./prepare.mjs";

export const bin = (name) =>
  join(root, "node_modules", ".bin", process.platform === "win32" ? `${name}.cmd` : name);

const LAYERS = ["core", "contract", "model", "words", "report", "library"];
const TYPED = [...LAYERS, "server", "web", "web/drawn", "e2e", "tsconfig.tests.json"];
/** The compiler as a native program: a tenth of the time. The other one is there for what reads its trees. */
const TSC = join(root, "node_modules", "typescript-native", "bin", "tsc");
/** What the compiler keeps between runs. */
const CACHE = join(root, "node_modules", ".cache", "types");

const COMMANDS = [
  ...TYPED.map((part) => [
    `types: ${part}`,
    process.execPath,
    [
      ...[TSC, "-p", part, "--noEmit", "--incremental"],
      ...["--tsBuildInfoFile", join(CACHE, `${part.replaceAll("/", "-")}.tsbuildinfo`)],
    ],
  ]),
  ["lint and format", bin("biome"), ["ci", "."]],
  [
    "boundaries",
    bin("depcruise"),
    [
      ...[...LAYERS, "server", "web", "demo", "scripts", "benchmarks"],
      ...["--config", ".dependency-cruiser.cjs"],
    ],
  ],
];

/** @returns how many of them found nothing, how many something, and the names of those */
export async function reads() {
  mkdirSync(CACHE, { recursive: true });
  const scratch = mkdtempSync(join(tmpdir(), "gusher-reads-"));
  const counts = { passed: 0, failed: 0, named: [] };
  for (const [name, command, args] of COMMANDS) {
    const said = join(scratch, "said");
    const file = openSync(said, "w");
    const started = Date.now();
    const code = await run(command, args, { stdio: ["ignore", file, file] });
    closeSync(file);
    counts[code === 0 ? "passed" : "failed"]++;
    if (code !== 0) counts.named.push(name);
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    console.log(`${code === 0 ? "✓" : `${readFileSync(said, "utf8")}\n✗`} ${name} (${seconds} s)`);
  }
  rmSync(scratch, { recursive: true, force: true });
  return counts;
}
