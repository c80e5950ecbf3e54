import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { SolvableJob } from "#model/job/solveJob.ts";
import { solvableOf } from "./solutions.ts";

/** What of a job its solution depends on; the same object while none of that changes. */
export function useSolvable(job: JobDocument): SolvableJob {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank } = job;
  const { kind, assumed } = job;
  const battery = overTime?.battery;
  return useMemo(
    () => solvableOf(job),
    [source, path, site, method, pumps, wantedFlow, well, battery, pressureTank, kind, assumed],
  );
}
