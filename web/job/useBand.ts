import type { JobDocument } from "#contract/documents/job.ts";
import { type BandResult, USUAL_DOUBT } from "#core/whatif/uncertainty.ts";
import { type Calculation, useCalculation } from "../calculations/useCalculation.ts";
import { useLine } from "./useLine.ts";

/** The band of the job's duty, worked out beside the page a moment after each change. */
export function useBand(job: JobDocument): Calculation<BandResult> {
  const { pumps, doubt = USUAL_DOUBT } = job;
  return useCalculation("band", [useLine(job), pumps, doubt]);
}
