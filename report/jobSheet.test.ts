import { expect, it } from "vitest";
import { type JobDocument, type JobPathItem, jobSchema } from "#contract/documents/job.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import { everyItem } from "#core/line/path.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { newJob } from "#model/kinds/kinds.ts";
import { simulationOf } from "#model/simulation/result.ts";
import { jobSheet } from "./jobSheet.ts";
import { partsOfLine } from "./partsOfLine.ts";

const jobs = DEMO_JOBS.map(({ id, job }) => [id, jobSchema.parse(job) as JobDocument] as const);

it.each(jobs)(
  "the sheet of %s says everything that has to be mended, in both systems",
  (_, job) => {
    const solved = solveJob(job);
    if (solved.kind !== "solved") throw new Error("refused");
    for (const system of ["us", "metric"] as const) {
      const { sheet, working } = jobSheet(job, solved, system);
      const blocks = [...sheet, ...working];
      const bad = solved.judgements.filter(({ severity }) => severity !== "good").length;
      expect(blocks.filter(({ kind }) => kind === "finding")).toHaveLength(bad);
      expect(JSON.stringify(blocks)).not.toMatch(/NaN|Infinity|undefined|\[object/);
      for (const block of blocks) {
        if (block.kind !== "table") continue;
        for (const row of block.rows) expect(row).toHaveLength(block.columns.length);
      }
    }
  },
);

it("a job that moves in time says what it comes to, what stops it, and who allowed it", () => {
  const parsed = new Map(jobs);
  const sheetOf = (id: string) => {
    const job = parsed.get(id) as JobDocument;
    const told = simulationOf(job);
    if (told.kind !== "run") throw new Error(told.kind);
    return jobSheet(job, solveJob(job), "metric", { run: told }).sheet;
  };
  const stops = sheetOf("ennet-drill-tank").flatMap((block) =>
    block.kind === "finding" && block.severity === "stop" ? [block.title] : [],
  );
  expect(stops).toContain("Drill tank can lift out of the ground");
  const room = JSON.stringify(sheetOf("ennet-halt-relay-room"));
  expect(room).toContain("Dry after: 5 h 7 min");
  expect(room).toContain("Allowed by Ennet Halt station keeper on 2026-10-02");
  expect(room).not.toMatch(/NaN|undefined/);
});

it("of a line that cannot be solved, the sheet says why", () => {
  const [, job] = jobs[0] as (typeof jobs)[number];
  const broken = { ...job, path: job.path.slice(0, -1) };
  const texts = jobSheet(broken, solveJob(broken), "metric").sheet.map((block) =>
    block.kind === "paragraph" ? block.text : "",
  );
  expect(texts.join(" ")).toMatch(/outlet/);
});

it.each(jobs)("every part of %s is on its list, and nothing twice", (_, job) => {
  const rows = partsOfLine(job.path, "metric");
  expect(new Set(rows.map(([name]) => name)).size).toBe(rows.length);
  const items = everyItem<JobPathItem>(job.path);
  const metres = items.reduce((sum, item) => sum + (item.kind === "pipe" ? item.length : 0), 0);
  const pieces = items.reduce((sum, item) => sum + (item.kind === "fitting" ? item.count : 0), 0);
  const listed = (unit: RegExp) =>
    rows.reduce((sum, [, much = ""]) => sum + (unit.test(much) ? Number.parseFloat(much) : 0), 0);
  expect(Math.abs(listed(/ m$/) - metres)).toBeLessThan(0.06 * rows.length);
  const others = items.filter(
    ({ kind, ...item }) =>
      kind === "orifice" || ("outlet" in item && (item.outlet as { type: string }).type !== "free"),
  ).length;
  expect(listed(/^\d+$/)).toBe(pieces + others);
});

it("promises what reaches the outlet, with its range once that is known", () => {
  const [, job] = jobs[0] as (typeof jobs)[number];
  const solved = solveJob(job);
  const spread = { low: 0.003, middle: 0.0032, high: 0.0034 };
  const band = { kind: "band", flow: spread, byOutlet: [spread], head: spread } as unknown as Band;
  const said = (known?: Band) =>
    jobSheet(job, solved, "metric", { band: known })
      .sheet.flatMap((block) => (block.kind === "paragraph" ? [block.text] : []))
      .find((text) => text.startsWith("Promised"));
  expect(said()).toBe("Promised at the outlet at normal water: 3.17 L/s.");
  expect(said(band)).toBe(
    "Promised at the outlet at normal water: 3.17 L/s; likely 3.00 to 3.40 L/s.",
  );
});

it("says what was never measured, until it was", () => {
  const job = newJob("Sketched", "sump-riser", "us");
  const said = (one: JobDocument) => JSON.stringify(jobSheet(one, solveJob(one), "us").sheet);
  expect(said(job)).toContain("Assumed, not measured: Altitude");
  expect(said(job)).toContain("Check valve, swing");
  expect(said({ ...job, assumed: [] })).not.toContain("Assumed, not measured");
});
