import { fieldTestSchema, readingSchema } from "#contract/documents/fieldTest.ts";
import { jobSchema } from "#contract/documents/job.ts";
import { DEMO_TESTS } from "./fieldTests.ts";
import { DEMO_JOBS } from "./jobs.ts";

/** Anything that runs plain SQL. */
interface Queryable {
  query(sql: string, parameters?: unknown[]): Promise<unknown>;
}

/** Writes the demo's jobs, field tests and readings into empty tables. */
export async function seedDemo(tx: Queryable): Promise<void> {
  for (const { id, job } of DEMO_JOBS) {
    await tx.query("INSERT INTO jobs (id, revision, document) VALUES ($1, 1, $2)", [
      id,
      jobSchema.parse(job),
    ]);
  }
  for (const { id, test, readings } of DEMO_TESTS) {
    const document = fieldTestSchema.parse(test);
    await tx.query(
      "INSERT INTO field_tests (id, job_id, revision, document) VALUES ($1, $2, 1, $3)",
      [id, document.jobId, document],
    );
    for (const { id: readingId, reading } of readings) {
      await tx.query(
        "INSERT INTO readings (id, test_id, revision, document) VALUES ($1, $2, 1, $3)",
        [readingId, id, readingSchema.parse({ ...reading, testId: id })],
      );
    }
  }
}
