import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { inTime } from "#model/simulation/told.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { useDoubt } from "./useBand.ts";

/** The range of a job's run, by draws, for whoever asks for it. */
export function useTimeRange(job: JobDocument) {
  return useCalculation("timeRange", [useInTime(job), useDoubt(job)]);
}

/** What of a job its run, and choosing for it, depends on; the same object while none of that changes. */
export function useInTime(job: JobDocument) {
  const { source, path, site, method, pumps, wantedFlow, well, need, bodies, overTime } = job;
  return useMemo(
    () => inTime(job),
    [source, path, site, method, pumps, wantedFlow, well, need, bodies, overTime],
  );
}

/** A job over time, run beside the page a moment after each change. */
export function useOverTime(job: JobDocument) {
  return useCalculation("overTime", [useInTime(job)]);
}
