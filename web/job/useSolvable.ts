import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { SolvableJob } from "#model/solveJob.ts";

/** What of a job its solution depends on; the same object while none of that changes. */
export function useSolvable(job: JobDocument): SolvableJob {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank } = job;
  const { kind, assumed } = job;
  const battery = overTime?.battery;
  return useMemo(
    () => ({
      ...{ source, path, site, method, pumps },
      ...(wantedFlow !== undefined && { wantedFlow }),
      ...(well && { well }),
      ...(battery && { overTime: { battery } }),
      ...(pressureTank && { pressureTank }),
      ...(kind && { kind }),
      ...(assumed && { assumed }),
    }),
    [source, path, site, method, pumps, wantedFlow, well, battery, pressureTank, kind, assumed],
  );
}
