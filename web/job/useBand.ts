import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { Line } from "#core/line/path.ts";
import { type BandResult, USUAL_DOUBT } from "#core/whatif/uncertainty.ts";
import { type Calculation, useCalculation } from "../calculations/useCalculation.ts";

/** The band of the job's duty, worked out beside the page a moment after each change. */
export function useBand(job: JobDocument): Calculation<BandResult> {
  const { source, path, site, method, pumps, doubt = USUAL_DOUBT } = job;
  const line = useMemo<Line>(() => ({ source, path, site, method }), [source, path, site, method]);
  return useCalculation("band", [line, pumps, doubt]);
}
