import { type JobSolution, solveJob } from "../job/solveJob.ts";
import type { JobWithWell } from "./season.ts";
import { type FilledBy, pumpToTankOf } from "./tankLine.ts";

/** What is known of a job before its well is looked at: its line solved, and what fills its tank, when that is asked. */
export interface KnownOfWell {
  solved: JobSolution;
  filledBy: () => FilledBy | undefined;
}

export const knownOfWell = (job: JobWithWell): KnownOfWell => ({
  solved: solveJob(job),
  filledBy: () => pumpToTankOf(job),
});
