import { expect, it, vi } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import type { Line } from "#core/line/path.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { resultsOf } from "#model/results/computations.ts";

const compiled = vi.hoisted(() => ({ lines: [] as Line[] }));
vi.mock(import("#core/line/compileLine.ts"), async (original) => {
  const own = await original();
  return {
    ...own,
    compileLine: (line) => {
      compiled.lines.push(line);
      return own.compileLine(line);
    },
  };
});

const JOBS = DEMO_JOBS.map(({ id, job }) => ({ id, job: jobSchema.parse(job) as JobDocument }));

it.each(JOBS)("the line of $id is compiled once, whatever is looked at", ({ job }) => {
  const path = [...job.path];
  compiled.lines.length = 0;
  const look = resultsOf({ ...job, path });
  for (const name of ["tried", "band", "run", "irrigation", "decisions"] as const) {
    look(name);
  }
  // A tank is filled from the well at rest: that line has another source.
  const own = compiled.lines.filter((line) => line.path === path && line.source === job.source);
  expect(own).toHaveLength(1);
});
