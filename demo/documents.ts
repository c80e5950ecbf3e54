import type { CollectionName } from "#contract/collections.ts";
import {
  type ReadingDocument,
  readingSchema,
  readingVersions,
} from "#contract/documents/fieldTest.ts";
import { firmVersions } from "#contract/documents/firm.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { compareReading } from "#model/measurement/readings.ts";
import { judgementOf } from "#words/comparison.ts";
import { DEMO_TESTS, INSTRUMENTS } from "./fieldTests.ts";
import { fromLibrary } from "./fromLibrary.ts";
import { DEMO_JOBS } from "./jobs.ts";

/** Of the shipped pumps, those the firm has. */
const OWNED: readonly [id: string, has: { owned: number; inVan?: boolean }][] = [
  ["quillbeck-puddle-1", { owned: 1, inVan: true }],
  ["tarnfold-pit-9", { owned: 2, inVan: true }],
  ["brackle-run-28", { owned: 1 }],
  ["fenwicket-siltstride-2", { owned: 1 }],
];

/** Everything the demo begins with, in an order in which each finds what it belongs to. */
export const DEMO_DOCUMENTS: { collection: CollectionName; id: string; document: object }[] = [
  ...OWNED.map(([id, has]) => ({
    collection: "pumps" as const,
    id,
    document: { ...fromLibrary(id), ...has },
  })),
  {
    collection: "firms",
    id: "firm",
    document: {
      format: firmVersions.format,
      version: firmVersions.version,
      name: "Oxbow & Larch, pump fitters",
      instruments: INSTRUMENTS,
    },
  },
  ...DEMO_JOBS.map(({ id, job }) => ({ collection: "jobs" as const, id, document: job })),
  ...DEMO_TESTS.flatMap(({ id, test, readings }) => [
    { collection: "tests" as const, id, document: test },
    ...readings.map(({ id: readingId, reading }) => ({
      collection: "readings" as const,
      id: readingId,
      document: demoReading(id, test.jobId, reading),
    })),
  ]),
];

/** A reading with the judgement of its day, on the job as it stood then. */
function demoReading(testId: string, jobId: string, given: object): object {
  const document = {
    format: "upright-gusher/reading",
    version: readingVersions.version,
    testId,
    jobRevision: 1,
    ...given,
  };
  const reading = readingSchema.parse(document) as ReadingDocument;
  const job = DEMO_JOBS.find(({ id }) => id === jobId)?.job;
  const comparison = job && compareReading(solveJob(jobSchema.parse(job) as JobDocument), reading);
  return {
    ...document,
    ...(comparison && { judged: judgementOf(comparison, reading.takenAt, "metric") }),
  };
}
