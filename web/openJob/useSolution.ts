import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { SizeUp } from "#core/whatif/sizeUp.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { isLongLine } from "./longLine.ts";
import { solutionOf, triedHere } from "./solutions.ts";
import { useSolvable } from "./useSolvable.ts";

/**
 * A job, solved on every key. What has to be tried on the line, such as sizes that mend a judgement,
 * is worked out beside the page where the line is long, and joins it a moment later.
 */
export function useSolution(document: JobDocument): {
  solved: JobSolution;
  sizeUps: readonly SizeUp[];
} {
  const job = useSolvable(document);
  const solved = useMemo(() => solutionOf(job), [job]);
  const { value, stale } = useCalculation("tried", [job], isLongLine(job) ? undefined : triedHere);
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
