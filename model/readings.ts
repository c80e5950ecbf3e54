import { coreReading, type ReadingDocument } from "#contract/documents/fieldTest.ts";
import { type Comparison, compareWithRated } from "#core/measurement/acceptance.ts";
import { compareWithPromise, outletOf, type PromiseComparison } from "#core/measurement/promise.ts";
import { isGauged } from "#core/measurement/reading.ts";
import type { Band, Doubt } from "#core/whatif/uncertainty.ts";
import type { JobSolution } from "./solveJob.ts";

/** Whether a reading was taken on another pump than the job has now. */
export function takenOnAnother(
  { solution }: Extract<JobSolution, { kind: "solved" }>,
  { pumpId }: Pick<ReadingDocument, "pumpId">,
): boolean {
  return pumpId !== undefined && solution.pumps.every(({ pump }) => pump.id !== pumpId);
}

/**
 * A reading held against the pump on the job; undefined while the line cannot be solved, for a reading of another
 * pump, and where what each of several pumps gives cannot be told from one flow.
 */
export function compareReading(
  solved: JobSolution,
  reading: ReadingDocument,
): Comparison | undefined {
  if (solved.kind !== "solved" || takenOnAnother(solved, reading)) return undefined;
  const { model, pumps, cases } = solved.solution;
  const [only, ...others] = pumps;
  if (!only || others.length > 0) return undefined;
  const { lost } = cases.normal.running?.state ?? { lost: [] };
  const taken = coreReading(reading);
  return isGauged(taken) ? compareWithRated(model, only.pump, taken, lost) : undefined;
}

/**
 * The flow of a reading held against what the line was promised at its outlet.
 * @param band where the duty likely lies; nothing can be said before it is known
 */
export function comparePromise(
  solved: JobSolution,
  reading: ReadingDocument,
  band: Band | undefined,
  doubt: Doubt,
): PromiseComparison | undefined {
  if (solved.kind !== "solved" || !band || takenOnAnother(solved, reading)) return undefined;
  const likely = band.byOutlet[outletOf(solved.solution, reading.outletId)];
  return likely && compareWithPromise(solved.solution, coreReading(reading), likely, doubt);
}

/** A reading as a point on the curve sheet: as it was judged, or, if it never was, as it compares now. */
export interface ReadingPoint {
  flow: number;
  head: number;
  flowUncertainty: number;
  headUncertainty: number;
}

export function readingPoint(
  solved: JobSolution,
  reading: ReadingDocument,
): ReadingPoint | undefined {
  const { judged } = reading;
  if (judged) {
    const { flow, flowUncertainty, head, headUncertainty = 0 } = judged;
    return head === undefined ? undefined : { flow, flowUncertainty, head, headUncertainty };
  }
  const comparison = compareReading(solved, reading);
  return comparison && pointOf(comparison);
}

export function pointOf({ flow, head }: Comparison): ReadingPoint {
  return {
    flow: flow.value,
    head: head.value,
    flowUncertainty: flow.standardUncertainty,
    headUncertainty: head.standardUncertainty,
  };
}
