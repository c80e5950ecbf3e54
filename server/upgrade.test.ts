import { readdirSync, readFileSync } from "node:fs";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { JobSummary } from "#contract/api/api.ts";
import type { Database } from "./database/database.ts";
import { migrate } from "./database/migrate.ts";
import first from "./database/migrations/0001_documents.sql";
import {
  getDocument,
  listJobs,
  listRevisions,
  listTestsOf,
  saveDocument,
} from "./documents/store.ts";
import { dropFolder, freshFolder, openHere, summarised } from "./test/freshFolder.ts";

/** A data folder as the first version of the application left it, with what it had stored in it. */
const FOLDER = "contract/test/version-1";
const documentOf = (file: string) =>
  JSON.parse(readFileSync(`${FOLDER}/${file}`, "utf8")).document as Record<string, unknown>;
const jobs = readdirSync(FOLDER).filter((file) => file.startsWith("job-"));
const idOf = (file: string) => file.slice("job-".length, -".json".length);

let folder: string;
let db: Database;
beforeAll(async () => {
  folder = await freshFolder();
  db = await openHere(folder);
  await db.execute(first);
  await db.execute(
    "CREATE TABLE migrations (number integer PRIMARY KEY, name text NOT NULL, applied_at timestamptz NOT NULL DEFAULT now())",
  );
  await db.query("INSERT INTO migrations (number, name) VALUES (1, 'documents')");
  for (const file of jobs) {
    await db.query("INSERT INTO jobs (id, revision, document) VALUES ($1, 7, $2)", [
      idOf(file),
      documentOf(file),
    ]);
  }
  const [job] = jobs.map(idOf);
  await db.query(
    "INSERT INTO field_tests (id, job_id, revision, document) VALUES ('t', $1, 1, $2)",
    [job, { ...documentOf("field-test.json"), jobId: job }],
  );
  await db.query(
    "INSERT INTO readings (id, test_id, revision, document) VALUES ('r', 't', 1, $1)",
    [{ ...documentOf("reading.json"), testId: "t" }],
  );
  await migrate(db);
  await summarised(db);
});
afterAll(async () => {
  await db.close();
  await dropFolder(folder);
});

it("a data folder of the first version opens whole, and goes on from the revision it had", async () => {
  for (const file of jobs) {
    const id = idOf(file);
    const stored = await getDocument(db, "jobs", id);
    expect(stored).toMatchObject({ revision: 7, document: { version: 2 } });
    expect(await listRevisions(db, "jobs", id)).toMatchObject([{ revision: 7 }]);
    const document = stored?.document as Record<string, unknown>;
    const saved = await saveDocument(db, "jobs", id, 7, { ...document, note: "Again." });
    expect(saved).toMatchObject({ kind: "saved", stored: { revision: 8 } });
    expect(await listRevisions(db, "jobs", id)).toMatchObject([{ revision: 8 }, { revision: 7 }]);
  }
  const listed: JobSummary[] = JSON.parse(await listJobs(db));
  expect(listed.map(({ id }) => id).toSorted()).toEqual(jobs.map(idOf).toSorted());
  for (const { name } of listed) expect(name).not.toBe("");
  const tests = await listTestsOf(db, "jobs", idOf(jobs[0] as string));
  expect(tests[0]?.document).toMatchObject({ format: "upright-gusher/field-test", version: 3 });
  // The first readings named neither format nor version.
  expect(tests[0]?.readings[0]?.document).toMatchObject({
    format: "upright-gusher/reading",
    version: 5,
  });
});
