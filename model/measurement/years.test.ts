import { expect, it } from "vitest";
import { type ReadingDocument, readingSchema } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { uncertaintyOf } from "../job/assumed.ts";
import { type Visit, yearsOf } from "./years.ts";

const job = jobSchema.parse(GLASSHOUSES) as JobDocument;
const visits = (jobThen?: JobDocument): Visit[] =>
  DEMO_TESTS.filter(({ test }) => test.jobId === "ennet-glasshouses-transfer").map(
    ({ id, test, readings }) => ({
      id,
      takenOn: test.takenOn,
      title: test.title,
      readings: readings.map((own) => ({
        id: own.id,
        document: readingSchema.parse({ ...own.reading, testId: id }) as ReadingDocument,
      })),
      jobThen,
    }),
  );

it("judges each visit by the job of its day and by today's, and finds where it is going", () => {
  // Since then somebody found that the published heads were a tenth too low.
  const today: JobDocument = {
    ...job,
    pumps: job.pumps.map((pump) => ({
      ...pump,
      points: pump.points.map((point) => ({ ...point, head: 1.1 * point.head })),
    })),
  };
  const [years] = yearsOf(today, visits(job), uncertaintyOf(job));
  expect(years?.rows.map(({ takenOn }) => takenOn)).toEqual(
    years?.rows.map(({ takenOn }) => takenOn).toSorted(),
  );
  for (const { onItsDay, today: now } of years?.rows ?? []) {
    expect((onItsDay?.value as number) / (now?.value as number)).toBeCloseTo(1.1, 4);
  }
  expect(years?.trend?.slope.value).toBeLessThan(0);
  expect(years?.trend?.crossing.kind).toBe("below");
});

it("says the same twice where the job is as it was", () => {
  const [years] = yearsOf(job, visits(), uncertaintyOf(job));
  for (const { onItsDay, today } of years?.rows ?? []) expect(onItsDay).toEqual(today);
});
