import type { FieldTestDocument } from "#contract/documents/fieldTest.ts";

/** What tests belong to: a job, or one real pump that is tested on the stand in the shop. */
export interface Owner {
  of: "jobs" | "units";
  id: string;
  /** what every test of it says */
  test: Pick<FieldTestDocument, "jobId" | "unitId" | "pumpId" | "configuration">;
}
