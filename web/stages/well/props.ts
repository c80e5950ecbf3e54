import type { JobDocument } from "#contract/documents/job.ts";
import type { WellResult } from "#model/well/well.ts";

/** What the told side of each view is given: the job it was worked out from, and what that came to. */
export interface ResultProps {
  job: JobDocument;
  told: WellResult;
}

/** What the entries of each view are given: the job as it is typed, and what was told last. */
export interface FieldProps {
  job: JobDocument;
  told: WellResult | undefined;
}
