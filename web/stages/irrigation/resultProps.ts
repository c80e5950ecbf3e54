import type { JobDocument } from "#contract/documents/job.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";

/** What every view of the ground is given. */
export interface ResultProps {
  job: JobDocument;
  told: IrrigationResult;
}
