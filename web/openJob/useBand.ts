import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { BandResult, Uncertainty } from "#core/condition/uncertainty.ts";
import { uncertaintyOf } from "#model/job/assumed.ts";
import { type Calculation, useCalculation } from "../calculations/useCalculation.ts";
import { useLine } from "./useLine.ts";

/** The band of the job's duty, worked out beside the page a moment after each change. */
export function useBand(job: JobDocument): Calculation<BandResult> {
  return useCalculation("band", [useLine(job), job.pumps, useUncertainty(job)]);
}

/** How far the inputs are in doubt; the same object until what it rests on changes. */
export function useUncertainty({ doubt, assumed, path }: JobDocument): Uncertainty {
  return useMemo(
    () => uncertaintyOf({ path, ...(doubt && { doubt }), ...(assumed && { assumed }) }),
    [doubt, assumed, path],
  );
}
