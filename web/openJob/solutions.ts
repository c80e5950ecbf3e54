import type { JobDocument } from "#contract/documents/job.ts";
import {
  type JobSolution,
  type SolvableJob,
  solveJob,
  solving,
  triedOn,
} from "#model/job/solveJob.ts";
import { isLongLine } from "./longLine.ts";

interface Kept {
  job: SolvableJob;
  solved: JobSolution;
  tried?: ReturnType<typeof triedOn>;
}

/** The job solved last: asked for again it is there at once. */
let last: Kept | undefined;

function keptOf(job: SolvableJob): Kept {
  if (!last || !isSame(last.job, job)) last = { job, solved: solveJob(job) };
  return last;
}

/** A job, solved. */
export const solutionOf = (job: SolvableJob): JobSolution => keptOf(job).solved;

/** What was tried on its line, for a line that is short enough to do that at once. */
export function triedHere(job: SolvableJob): ReturnType<typeof triedOn> {
  const kept = keptOf(job);
  kept.tried ??= triedOn(job, kept.solved);
  return kept.tried;
}

/** Solves a job before its page is drawn, in steps that leave the page to whoever looks at it. */
export async function solveAhead(document: JobDocument): Promise<void> {
  const job = solvableOf(document);
  const steps = solving(job);
  let step = steps.next();
  while (!step.done) {
    await breath();
    step = steps.next();
  }
  last = { job, solved: step.value };
  if (isLongLine(job)) return;
  await breath();
  triedHere(job);
  await breath();
}

/** Lets everything else have its turn. */
const breath = () => new Promise((done) => setTimeout(done));

/** What of a job its solution depends on. */
export function solvableOf(job: JobDocument): SolvableJob {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank } = job;
  const { kind, assumed } = job;
  const battery = overTime?.battery;
  return {
    ...{ source, path, site, method, pumps },
    ...(wantedFlow !== undefined && { wantedFlow }),
    ...(well && { well }),
    ...(battery && { overTime: { battery } }),
    ...(pressureTank && { pressureTank }),
    ...(kind && { kind }),
    ...(assumed && { assumed }),
  };
}

/** Whether two say the same of everything, by the very same things. */
function isSame(one: SolvableJob, other: SolvableJob): boolean {
  const { overTime: mine, ...ours } = one;
  const { overTime: its, ...theirs } = other;
  const keys = new Set([...Object.keys(ours), ...Object.keys(theirs)]) as Set<keyof typeof ours>;
  return mine?.battery === its?.battery && [...keys].every((key) => ours[key] === theirs[key]);
}
