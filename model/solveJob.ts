import type { JobDocument } from "#contract/documents/job.ts";
import type { Verdict } from "#core/check/verdict.ts";
import { verdictsOn } from "#core/check/verdicts.ts";
import type { LedgerEntry } from "#core/hydraulics/headLedger.ts";
import { type Solution, solveLine } from "#core/hydraulics/solveLine.ts";
import type { Finding } from "#core/line/diagnostic.ts";
import { type SizeUp, sizeUps } from "#core/whatif/sizeUp.ts";

/** Everything the application says about a job, from its document alone. */
export type JobSolution =
  | {
      kind: "solved";
      solution: Solution;
      verdicts: Verdict[];
      sizeUps: SizeUp[];
    }
  | { kind: "refused"; findings: Finding[] };

export function solveJob(job: JobDocument): JobSolution {
  const result = solveLine(job, job.pumps);
  if (result.kind === "refused") return result;
  const { solution } = result;
  return {
    kind: "solved",
    solution,
    verdicts: verdictsOn(solution, job, { wantedFlow: job.wantedFlow }),
    sizeUps: sizeUps(job, job.pumps, "normal"),
  };
}

/** The ledger a person reads: the normal level's. */
export function normalLedger(solution: Solution): LedgerEntry[] {
  return solution.cases.normal.running?.ledger ?? [];
}
