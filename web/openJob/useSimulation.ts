import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { simulatedJob } from "#model/simulation/result.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { useUncertainty } from "./useBand.ts";

/** The range of a job's run, by draws, for whoever asks for it. */
export function useTimeRange(job: JobDocument) {
  return useCalculation("timeRange", [useSimulatedJob(job), useUncertainty(job)]);
}

/** What of a job its run, and choosing for it, depends on; the same object while none of that changes. */
export function useSimulatedJob(job: JobDocument) {
  const { source, path, site, method, pumps, wantedFlow, well, need, bodies, overTime } = job;
  return useMemo(
    () => simulatedJob(job),
    [source, path, site, method, pumps, wantedFlow, well, need, bodies, overTime],
  );
}

/** A job over time, run beside the page a moment after each change. */
export function useSimulation(job: JobDocument) {
  return useCalculation("overTime", [useSimulatedJob(job)]);
}
