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
import {
  type AskedFlow,
  type LineModel,
  lineModel,
  type Refused,
  type Solution,
  solveModel,
} from "#core/hydraulics/solveLine.ts";
import type { CompiledLine } from "#core/line/compiledLine.ts";
import { finish, type Steps } from "#core/numeric/steps.ts";
import { type SizeUp, sizeUps } from "#core/whatif/sizeUp.ts";
import { lineKnown } from "./assumed.ts";

/** What of a job its solution depends on. */
export type SolvableJob = Pick<
  JobDocument,
  | "source"
  | "path"
  | "site"
  | "method"
  | "pumps"
  | "wantedFlow"
  | "well"
  | "overTime"
  | "pressureTank"
  | "kind"
  | "assumed"
>;

/** Everything the application says about a job at once, from its document alone. The line is compiled once, here. */
export type JobSolution = Solved | Asked | Refused;
export interface Solved {
  kind: "solved";
  solution: Solution;
  judgements: Judgement[];
}
/** The pump is still to be chosen: what the line asks of it at the wanted flow, and what can be said of it so far. */
export interface Asked {
  kind: "asked";
  asked: AskedFlow;
  solution: Solution;
  judgements: Judgement[];
}

export function solveJob(job: SolvableJob): JobSolution {
  return finish(solveJobInSteps(job, lineModel(job, job.pumps, job.wantedFlow)));
}

/** The same in its steps, of a line that is ready. */
export function* solveJobInSteps(job: SolvableJob, ready: LineModel | Refused): Steps<JobSolution> {
  if (!lineKnown(job)) {
    const sketch = ready.kind === "refused" ? ready.sketch : ready.line;
    return { kind: "refused", diagnostics: [{ code: "line-unknown" }], sketch };
  }
  if (ready.kind === "refused") return ready;
  yield { done: 0.2 };
  const result = solveModel(ready, job);
  if (result.kind === "refused") return result;
  const { solution } = result;
  yield { done: 0.7 };
  const judgements = judge(contextOf(solution, job));
  const { asked } = solution;
  return asked
    ? { kind: "asked", asked, solution, judgements }
    : { kind: "solved", solution, judgements };
}

/** The judgements of a solved job with the sizes that mend them, each tried on the line: not for every key. */
export function withRemedies(
  job: SolvableJob,
  { solution, judgements }: Solved | Asked,
): Judgement[] {
  return completed(judgements, contextOf(solution, job));
}

/** What one size larger would give back, run by run. Each solves the line anew: for whoever looks at it. */
export const sizeGains = (job: SolvableJob, { solution }: Solved | Asked): SizeUp[] =>
  sizeUps(solution, job, job.pumps, "normal");

/** What mends a job's judgements, and what larger sizes would give: each remedy was solved on its line. */
export const triedOn = (job: SolvableJob, solved: JobSolution): TriedOnLine =>
  solved.kind !== "refused"
    ? { judgements: withRemedies(job, solved), sizeUps: sizeGains(job, solved) }
    : { judgements: [], sizeUps: [] };

export interface TriedOnLine {
  judgements: Judgement[];
  sizeUps: SizeUp[];
}

/** The line solved; nothing where it was refused. */
export const solutionOf = (solved: JobSolution): Solution | undefined =>
  solved.kind === "refused" ? undefined : solved.solution;

/** The line a drawing shows, solved or not. */
export function lineOf(solved: JobSolution): CompiledLine {
  return solved.kind === "refused" ? solved.sketch : solved.solution.line;
}

function contextOf(solution: Solution, job: SolvableJob): CheckContext {
  return checkContext(solution, job, job.wantedFlow);
}

/** The ledger a person reads: the normal level's. */
export function normalLedger(solution: Solution): LedgerEntry[] {
  return solution.cases.normal.running?.ledger ?? [];
}

/** A number a person may ask about: of the duty, or of a judgement. */
export type Subject = DutySubject | { kind: "check"; judgement: Judgement };

/** How that number comes about; the last step ends with it. */
export function derivationOf(subject: Subject, solution: Solution, job: SolvableJob): Derivation {
  return subject.kind === "check"
    ? judgementDerivation(subject.judgement, contextOf(solution, job))
    : dutyDerivation(subject, solution, job);
}
