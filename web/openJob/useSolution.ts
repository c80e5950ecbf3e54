import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { SizeUp } from "#core/whatif/sizeUp.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { onPage } from "./results.ts";
import { useResult } from "./useResult.ts";

/**
 * A job, solved on every key. What has to be tried on the line, such as sizes that mend a judgement, joins it as soon as
 * it is there.
 */
export function useSolution(job: JobDocument): {
  solved: JobSolution;
  sizeUps: readonly SizeUp[];
} {
  const solved = onPage.look({ job })("solved");
  const { value, stale } = useResult("tried", { job });
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
