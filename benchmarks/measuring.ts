import { type ReadingDocument, readingSchema } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "#demo/fieldTests.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { uncertaintyOf } from "#model/job/assumed.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { judgeTests } from "#model/measurement/fieldTests.ts";

const TIMES = 7;

/** What it costs to judge a visit: five readings as they are taken, and many times as many. */
export function benchMeasuring(row: (name: string, value: string, note?: string) => void): void {
  const job = jobSchema.parse(GLASSHOUSES) as JobDocument;
  const solved = solveJob(job);
  const demo = DEMO_TESTS.find(({ id }) => id === "glasshouses-as-found");
  if (solved.kind !== "solved" || !demo) throw new Error("The demo has no such visit.");
  const taken = demo.readings.map(
    ({ reading }) => readingSchema.parse({ ...reading, testId: demo.id }) as ReadingDocument,
  );
  const cost = (times: number) => {
    const readings = Array.from({ length: times }, (_, k) =>
      taken.map((document, i) => ({ id: `r${k}-${i}`, document })),
    ).flat();
    const all = Array.from({ length: TIMES }, () => {
      const begins = performance.now();
      judgeTests(solved, job, readings, uncertaintyOf(job));
      return performance.now() - begins;
    });
    return all.toSorted((a, b) => a - b)[TIMES >> 1] as number;
  };
  const five = cost(1);
  const [fifty, hundred] = [cost(10), cost(20)];
  row(
    "a visit of 5 readings judged: each, all, pump or line",
    `${five.toFixed(1)} ms`,
    `50 readings ×${(fifty / five).toFixed(1)}, 100 readings ×${(hundred / five).toFixed(1)}`,
  );
}
