import { useMemo } from "react";
import { type JobSolution, solveJob } from "#model/solveJob.ts";
import { useJobStore } from "./jobStore.ts";

/** The job on the bench, solved. Fast enough to run on every key. */
export function useSolution(): JobSolution {
  const job = useJobStore((state) => state.job);
  return useMemo(() => solveJob(job), [job]);
}
