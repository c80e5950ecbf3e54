import type { CollectionName } from "#contract/collections.ts";
import { DEMO_TESTS } from "./fieldTests.ts";
import { DEMO_JOBS } from "./jobs.ts";

/** Everything the demo begins with, in an order in which each finds what it belongs to. */
export const DEMO_DOCUMENTS: { collection: CollectionName; id: string; document: object }[] = [
  ...DEMO_JOBS.map(({ id, job }) => ({ collection: "jobs" as const, id, document: job })),
  ...DEMO_TESTS.flatMap(({ id, test, readings }) => [
    { collection: "tests" as const, id, document: test },
    ...readings.map(({ id: readingId, reading }) => ({
      collection: "readings" as const,
      id: readingId,
      document: demoReading(id, reading),
    })),
  ]),
];

function demoReading(testId: string, reading: object): object {
  return { format: "upright-gusher/reading", version: 2, testId, ...reading };
}
