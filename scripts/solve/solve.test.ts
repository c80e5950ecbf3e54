import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { KETTERBY } from "#demo/jobs.ts";
import { BRAMBLE_BOREHOLE } from "#demo/wellJobs.ts";
// @ts-expect-error: plain JavaScript without types
import { buildSolve, root } from "../tasks/prepare.mjs";

const program = join(root, "dist", "solve.mjs");
beforeAll(() => buildSolve());

const solve = (input: string, file = "-") =>
  spawnSync(process.execPath, [program, file], { input, encoding: "utf8" });

/** The complete example of the documentation, as it stands there. */
const example =
  /```json\n([\s\S]*?)```/.exec(readFileSync(join(root, "docs/job-file.md"), "utf8"))?.[1] ?? "";

describe("solve", () => {
  it("prints the duty, the ledger and the checks of the documented example", () => {
    const { status, stdout, stderr } = solve(example);
    expect(stderr).toBe("");
    expect(status).toBe(0);
    const report = JSON.parse(stdout);
    expect(report.duty.normal.outcome).toBe("runs");
    const total = report.ledger.reduce(
      (sum: number, entry: { head: number }) => sum + entry.head,
      0,
    );
    expect(total).toBeCloseTo(report.duty.normal.totalDynamicHead, 6);
    expect(report.checks.length).toBeGreaterThan(3);
  });

  it("tells of a job that waters ground what its guns and its field come to, and of no other", () => {
    const { stdout } = solve(JSON.stringify(KETTERBY));
    const { watering } = JSON.parse(stdout);
    expect(watering.guns[0].thrown.kind).toBe("throws");
    expect(watering.timing.runs).toHaveLength(watering.sets.sets);
    expect(JSON.parse(solve(example).stdout).watering).toBeUndefined();
  });

  it("tells of a job that draws from a well where its pump may hang and what its pipe holds", () => {
    const { well } = JSON.parse(solve(JSON.stringify(BRAMBLE_BOREHOLE)).stdout);
    expect(well.depth).toBeGreaterThan(well.window.from);
    expect(well.dropPipe.runs[0].holds).toHaveLength(3);
    expect(JSON.parse(solve(example).stdout).well).toBeUndefined();
  });

  it.each<[string, (job: Record<string, never>) => unknown, RegExp]>([
    [
      "a negative length",
      (job) => replace(job, "length", "-4 m"),
      /^path\.\d+\.length: The length must be more than 0\.$/m,
    ],
    [
      "an unknown size",
      (job) => replace(job, "stock", "bamboo"),
      /^path\.\d+: This size is not in stock/m,
    ],
    [
      "a pump nobody has",
      (job) => replace(job, "pump", "ghost"),
      /^path\.\d+: The pump named here/m,
    ],
    ["no name", ({ name: _, ...job }) => job, /^name: /m],
    ["a list", () => [], /must be an object/],
  ])("refuses %s with its path and a sentence, and prints nothing", (_what, spoil, message) => {
    const { status, stdout, stderr } = solve(JSON.stringify(spoil(JSON.parse(example))));
    expect(status).toBe(2);
    expect(stdout).toBe("");
    expect(stderr).toMatch(message);
  });

  it("refuses what is not JSON and a file that is not there", () => {
    expect(solve("{").stderr).toMatch(/not valid JSON/);
    expect(solve("", "/nowhere.json")).toMatchObject({ status: 2, stdout: "" });
  });

  it("loads neither server nor interface", () => {
    const bundle = readFileSync(program, "utf8");
    expect(bundle).not.toMatch(/pglite|hono|react-dom|from "node:(http|net)"/i);
  });
});

/** Puts `value` under the first `key` found on the path. */
function replace(job: Record<string, never>, key: string, value: unknown) {
  const path = [...(job.path as unknown as Record<string, unknown>[])];
  const index = path.findIndex((item) => item[key] !== undefined);
  path[index] = { ...path[index], [key]: value };
  return { ...job, path };
}
