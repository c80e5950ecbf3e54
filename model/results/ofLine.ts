import { lineModel } from "#core/hydraulics/solveLine.ts";
import { uncertaintyOf } from "../job/assumed.ts";
import { solveJobInSteps, triedOn } from "../job/solveJob.ts";
import type { Computations } from "./graph.ts";

/** What is said of a line with the key that changed it. */
export const LINE_COMPUTATIONS = {
  line: (job) => lineModel(job, job.pumps, job.wantedFlow),
  solved: (job, look) => solveJobInSteps(job, look("line")),
  tried: (job, look) => triedOn(job, look("solved")),
  uncertainty: uncertaintyOf,
} satisfies Partial<Computations>;
