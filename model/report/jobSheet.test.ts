import { expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { solveJob } from "../solveJob.ts";
import { jobSheet } from "./jobSheet.ts";

const jobs = DEMO_JOBS.map(({ id, job }) => [id, jobSchema.parse(job) as JobDocument] as const);

it.each(jobs)(
  "the sheet of %s says everything that has to be mended, in both systems",
  (_, job) => {
    const solved = solveJob(job);
    if (solved.kind !== "solved") throw new Error("refused");
    for (const system of ["us", "metric"] as const) {
      const blocks = jobSheet(job, solved, system);
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

it("of a line that cannot be solved, the sheet says why", () => {
  const [, job] = jobs[0] as (typeof jobs)[number];
  const broken = { ...job, path: job.path.slice(0, -1) };
  const texts = jobSheet(broken, solveJob(broken), "metric").map((block) =>
    block.kind === "paragraph" ? block.text : "",
  );
  expect(texts.join(" ")).toMatch(/outlet/);
});
