import { coreReading, type ReadingDocument } from "#contract/documents/fieldTest.ts";
import { type Comparison, compareWithRated } from "#core/measurement/acceptance.ts";
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
  return compareWithRated(model, only.pump, coreReading(reading), lost);
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
  if (reading.judged) return reading.judged;
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
