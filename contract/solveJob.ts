import type { LedgerEntry } from "#core/duty/ledger.ts";
import { type SizeUp, sizeUps } from "#core/duty/sizeUp.ts";
import { type Solution, solveLine } from "#core/duty/solveLine.ts";
import type { Finding } from "#core/line/finding.ts";
import type { Verdict } from "#core/verdict/verdict.ts";
import { verdictsOn } from "#core/verdict/verdicts.ts";
import type { JobDocument } from "./documents/job.ts";

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
