import type { JobDocument } from "#contract/documents/job.ts";
import type { CheckContext } from "#core/check/check.ts";
import {
  checkContext,
  completed,
  type Judgement,
  judge,
  judgementDerivation,
} from "#core/check/registry.ts";
import { type Subject as DutySubject, dutyDerivation } from "#core/formula/duty.ts";
import type { Derivation } from "#core/formula/formula.ts";
import type { LedgerEntry } from "#core/hydraulics/headLedger.ts";
import { lineModel, type Refused, type Solution, solveModel } from "#core/hydraulics/solveLine.ts";
import type { CompiledLine } from "#core/line/compiledLine.ts";
import { type SizeUp, sizeUps } from "#core/whatif/sizeUp.ts";

/** Everything the application says about a job, from its document alone. The line is compiled once, here. */
export type JobSolution =
  | {
      kind: "solved";
      solution: Solution;
      judgements: Judgement[];
      sizeUps: SizeUp[];
    }
  | Refused;

export function solveJob(job: JobDocument): JobSolution {
  const ready = lineModel(job, job.pumps);
  if (ready.kind === "refused") return ready;
  const result = solveModel(ready, job);
  if (result.kind === "refused") return result;
  const { solution } = result;
  const context = contextOf(solution, job);
  return {
    kind: "solved",
    solution,
    judgements: completed(judge(context), context),
    sizeUps: sizeUps(ready, job, job.pumps, "normal"),
  };
}

/** The line a drawing shows, solved or not. */
export function lineOf(solved: JobSolution): CompiledLine {
  return solved.kind === "solved" ? solved.solution.line : solved.sketch;
}

function contextOf(solution: Solution, job: JobDocument): CheckContext {
  return checkContext(solution, job, job.wantedFlow);
}

/** The ledger a person reads: the normal level's. */
export function normalLedger(solution: Solution): LedgerEntry[] {
  return solution.cases.normal.running?.ledger ?? [];
}

/** A number a person may ask about: of the duty, or of a judgement. */
export type Subject = DutySubject | { kind: "check"; judgement: Judgement };

/** How that number comes about; the last step ends with it. */
export function derivationOf(subject: Subject, solution: Solution, job: JobDocument): Derivation {
  return subject.kind === "check"
    ? judgementDerivation(subject.judgement, contextOf(solution, job))
    : dutyDerivation(subject, solution, job);
}
