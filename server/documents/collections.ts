import type { saveSchemas } from "#contract/api/api.ts";

export type CollectionName = keyof typeof saveSchemas;

export interface Collection {
  name: CollectionName;
  table: string;
  /** what a person calls one of them */
  noun: string;
  /** the column and document field that hold the id of what it belongs to */
  parent?: { column: string; field: string; table: string; noun: string };
}

export const COLLECTIONS: Record<CollectionName, Collection> = {
  jobs: { name: "jobs", table: "jobs", noun: "job" },
  pumps: { name: "pumps", table: "pumps", noun: "pump" },
  tests: {
    name: "tests",
    table: "field_tests",
    noun: "field test",
    parent: { column: "job_id", field: "jobId", table: "jobs", noun: "job" },
  },
  readings: {
    name: "readings",
    table: "readings",
    noun: "reading",
    parent: { column: "test_id", field: "testId", table: "field_tests", noun: "field test" },
  },
};
