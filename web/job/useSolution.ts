import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { SizeUp } from "#core/whatif/sizeUp.ts";
import { type JobSolution, type SolvableJob, solveJob } from "#model/solveJob.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { isLongLine } from "./longLine.ts";

/** What of a job its solution depends on; the same object while none of that changes. */
function useSolvable(job: JobDocument): SolvableJob {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank } = job;
  const battery = overTime?.battery;
  return useMemo(
    () => ({
      ...{ source, path, site, method, pumps },
      ...(wantedFlow !== undefined && { wantedFlow }),
      ...(well && { well }),
      ...(battery && { overTime: { battery } }),
      ...(pressureTank && { pressureTank }),
    }),
    [source, path, site, method, pumps, wantedFlow, well, battery, pressureTank],
  );
}

/**
 * A job, solved on every key. What has to be tried on the line, such as sizes that mend a judgement,
 * is worked out beside the page where the line is long, and joins it a moment later.
 */
export function useSolution(document: JobDocument): {
  solved: JobSolution;
  sizeUps: readonly SizeUp[];
} {
  const job = useSolvable(document);
  const solved = useMemo(() => solveJob(job), [job]);
  const { value, stale } = useCalculation("tried", [job], !isLongLine(job));
  const tried = stale ? undefined : value;
  return useMemo(
    () =>
      tried && solved.kind !== "refused"
        ? { solved: { ...solved, judgements: tried.judgements }, sizeUps: tried.sizeUps }
        : { solved, sizeUps: NONE },
    [solved, tried],
  );
}

const NONE: readonly SizeUp[] = [];
