import { expect, it } from "vitest";
import type { JobSummary } from "#contract/api/api.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { jobSheet } from "#report/jobSheet.ts";
import { newJob } from "../kinds/kinds.ts";
import { summariseJob } from "../results/summaries.ts";
import { keepAssumed } from "./assumed.ts";
import { owedNext } from "./owed.ts";
import { SMALL_HEIGHT } from "./smallSection.ts";
import { solveJob } from "./solveJob.ts";

const demo = Object.fromEntries(
  DEMO_JOBS.map(({ id, job }) => [id, jobSchema.parse(job) as JobDocument]),
);
const glasshouses = demo["ennet-glasshouses-transfer"] as JobDocument;

const told = (job: JobDocument, more: Partial<JobSummary> = {}): JobSummary => ({
  ...{ id: "one", revision: 1, updatedAt: "", readings: 0, measured: null },
  ...summariseJob(job),
  ...more,
});

it("a job is owed what is missing first, then what is wrong, then what is unproven", () => {
  const { wantedFlow: _, ...bare } = glasshouses;
  const path = bare.path.map((item) => (item.kind === "pump" ? { ...item, pump: null } : item));
  const unchosen = { ...bare, path, pumps: [] } as JobDocument;
  expect(owedNext(told(unchosen))).toBe("survey");
  expect(owedNext(told({ ...unchosen, wantedFlow: 2e-3 }))).toBe("choose");
  expect(owedNext(told({ ...unchosen, path: [], wantedFlow: 2e-3 }))).toBe("survey");
  expect(owedNext(told(glasshouses))).toBe("measure");
  // A lift beyond the pump is a stop.
  const high = glasshouses.path.map((item) =>
    item.kind === "pipe" && item.id === "tank-riser" ? { ...item, length: 60, rise: 60 } : item,
  );
  expect(owedNext(told({ ...glasshouses, path: high }))).toBe("mend");
  const reading = (acceptance: string) =>
    owedNext(told(glasshouses, { readings: 1, measured: { acceptance, flow: 3e-3 } }));
  expect(["meets", "as-promised", "more"].map(reading)).toEqual(["nothing", "nothing", "nothing"]);
  expect(["falls-short", "less"].map(reading)).toEqual(["mend", "mend"]);
  expect(["cannot-be", "cannot-tell"].map(reading)).toEqual(["measure", "measure"]);
});

it("just to measure is owed a reading, and then nothing", () => {
  const job = newJob("Measuring", "measuring", "us");
  expect(owedNext(told(job))).toBe("measure");
  expect(owedNext(told(job, { readings: 1 }))).toBe("nothing");
});

it("a line nobody drew is neither solved nor judged nor shown, whatever pump stands on it", () => {
  const job = newJob("Measuring", "measuring", "us");
  const { pumps } = glasshouses;
  const pump = pumps[0]?.id as string;
  const path = job.path.map((item) => (item.kind === "pump" ? { ...item, pump } : item));
  const withPump = keepAssumed(job, { ...job, path, pumps, wantedFlow: 2e-3 });
  expect(solveJob(withPump)).toMatchObject({ diagnostics: [{ code: "line-unknown" }] });
  const summary = summariseJob(withPump);
  expect(summary).toMatchObject({ missing: "line", stops: 0 });
  expect(summary.section).toBeUndefined();
  expect(owedNext({ ...told(withPump), readings: 1 })).toBe("nothing");
  const { sheet, working } = jobSheet(withPump, solveJob(withPump), "us");
  expect(sheet.map(({ kind }) => kind)).toEqual(
    expect.not.arrayContaining(["table", "finding", "derivation"]),
  );
  expect(working).toEqual([]);

  // Once the run is typed it is a line like any other.
  const typed = keepAssumed(withPump, {
    ...withPump,
    path: path.map((item) => (item.kind === "pipe" ? { ...item, length: 21, rise: 2 } : item)),
  });
  expect(solveJob(typed).kind).toBe("solved");
});

it.each(Object.entries(demo))("the small section of %s stays in its frame", (_, job) => {
  const { section } = summariseJob(job);
  const line = section?.line ?? [];
  expect(line.length).toBeGreaterThanOrEqual(6);
  expect(line.length).toBeLessThan(60);
  for (const [i, at] of line.entries()) {
    expect(at).toBeGreaterThanOrEqual(0);
    expect(at).toBeLessThanOrEqual(i % 2 === 0 ? 100 : SMALL_HEIGHT);
  }
});
