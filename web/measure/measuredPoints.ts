import { coreReading, type ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { NotBalanced } from "#core/hydraulics/flowsAlong.ts";
import { type Comparison, compareWithRated } from "#core/measurement/acceptance.ts";
import type { JobSolution } from "#model/solveJob.ts";
import type { TestWithReadings } from "../api/client.ts";
import type { MeasuredPoint } from "../charts/CurvePlot.tsx";

/** Whether a reading was taken on another pump than the job has now. */
export function takenOnAnother(
  { solution }: Extract<JobSolution, { kind: "solved" }>,
  { pumpId }: ReadingDocument,
): boolean {
  return pumpId !== undefined && solution.pumps.every(({ pump }) => pump.id !== pumpId);
}

/**
 * A reading held against the pump on the job; undefined while the line cannot be solved, and for a
 * reading of another pump.
 */
export function compareReading(
  job: JobDocument,
  solved: JobSolution,
  reading: ReadingDocument,
): Comparison | undefined {
  if (solved.kind !== "solved" || takenOnAnother(solved, reading)) return undefined;
  const { line, pumps, water, cases } = solved.solution;
  const [only, ...others] = pumps;
  // What each of several pumps gives cannot be told from one flow.
  if (!only || others.length > 0) return undefined;
  const { pump } = only;
  const lost = cases.normal.running?.flows.lost.reduce((sum, { flow }) => sum + flow, 0) ?? 0;
  const context = { water, friction: job.method.friction };
  try {
    return compareWithRated(line, pump, coreReading(reading), context, lost);
  } catch (error) {
    // The suction lines of a fork may not balance at a flow far from the duty.
    if (error instanceof NotBalanced) return undefined;
    throw error;
  }
}

export function pointOf(name: string, comparison: Comparison, now = false): MeasuredPoint {
  return {
    name,
    flow: comparison.flow.value,
    head: comparison.head.value,
    flowUncertainty: comparison.flow.standardUncertainty,
    headUncertainty: comparison.head.standardUncertainty,
    now,
  };
}

export function measuredPoints(
  job: JobDocument,
  solved: JobSolution,
  tests: readonly TestWithReadings[],
): MeasuredPoint[] {
  return tests.flatMap((test) =>
    test.readings.flatMap((reading) => {
      const comparison = compareReading(job, solved, reading.document);
      const name = `${test.document.takenOn}, ${test.document.title}`;
      return comparison ? [pointOf(name, comparison)] : [];
    }),
  );
}
