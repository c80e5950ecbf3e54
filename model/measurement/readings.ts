import { coreReading, type ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { Band, Uncertainty } from "#core/condition/uncertainty.ts";
import { waterAt } from "#core/fluid/water.ts";
import { type Comparison, compareWithRated } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import { lostDuring } from "#core/measurement/lostWater.ts";
import {
  compareWithPrediction,
  outletOf,
  type PredictionComparison,
  standingDuring,
  stateAsTaken,
} from "#core/measurement/prediction.ts";
import { type Reach, reachOf, reachOfPump } from "#core/measurement/reach.ts";
import { isGauged } from "#core/measurement/reading.ts";
import type { Pump, Tolerance } from "#core/pump/pump.ts";
import { type JobSolution, lineOf, type SolvableJob, type Solved } from "../job/solveJob.ts";

/** Whether a reading was taken on another pump than the job has now. */
export function takenOnAnother(
  { solution }: Solved,
  { pumpId, running }: Pick<ReadingDocument, "pumpId" | "running">,
): boolean {
  const there = (itemId: string) => solution.pumps.some((pump) => pump.itemId === itemId);
  if (running && !running.every(there)) return true;
  const ran = solution.pumps.filter(({ itemId }) => running?.includes(itemId) ?? true);
  return pumpId !== undefined && ran.every(({ pump }) => pump.id !== pumpId);
}

/** Why the flow of a reading is not what one pump moves. */
export type NotOfOne = "several-ran" | "several-outlets" | "runs-back";

/** Which pump a reading is of: number `at` of the line, or why it is of none. */
export function pumpOfReading(
  { solution }: Solved,
  reading: ReadingDocument,
): { at: number } | NotOfOne {
  const taken = coreReading(reading);
  const standing = standingDuring(solution, taken);
  if (solution.pumps.length - standing.length !== 1) return "several-ran";
  const at = solution.pumps.findIndex(({ itemId }) => !standing.includes(itemId));
  const { byOutlet } = stateAsTaken(solution, taken) ?? { byOutlet: [] };
  const least = NONE * byOutlet.reduce((sum, flow) => sum + flow, 0);
  if (byOutlet.filter((flow) => flow > least).length > 1) return "several-outlets";
  if (standing.length === 0) return { at };
  const { model, boundaries } = solution;
  const moved = measuredFlow(taken.flow).value;
  const asMeasured = model.imposed(boundaries.normal, moved, [], at);
  // Through one that stands before or behind it goes what the other moves: that is no way back.
  const back =
    asMeasured.kind === "steady" && asMeasured.state.byPump.some((flow) => flow < -NONE * moved);
  return back ? "runs-back" : { at };
}

/** Share of a flow that may go another way and still be none. */
const NONE = 1e-3;

/**
 * A reading held against the pump on the job; undefined while the line cannot be solved, for a reading of another
 * pump, and where it is of no one pump.
 * @param limits the parties agreed on, instead of the pump's grade
 */
export function compareReading(
  solved: JobSolution,
  reading: ReadingDocument,
  limits?: Tolerance,
): Comparison | undefined {
  if (solved.kind !== "solved" || takenOnAnother(solved, reading)) return undefined;
  const taken = coreReading(reading);
  const of = pumpOfReading(solved, reading);
  if (!isGauged(taken) || typeof of === "string") return undefined;
  const { model, pumps } = solved.solution;
  const { pump } = pumps[of.at] as (typeof pumps)[number];
  const lost = lostDuring(solved.solution, taken, of.at);
  return compareWithRated(model, limits ? { ...pump, limits } : pump, taken, lost, of.at);
}

/**
 * The flow of a reading held against what the line was promised at its outlet.
 * @param band where the duty likely lies; nothing can be said before it is known
 */
export function comparePrediction(
  solved: JobSolution,
  reading: ReadingDocument,
  band: Band | undefined,
  uncertainty: Uncertainty,
): PredictionComparison | undefined {
  if (solved.kind !== "solved" || !band || takenOnAnother(solved, reading)) return undefined;
  const likely = band.byOutlet[outletOf(solved.solution, reading.outletId)];
  return (
    likely && compareWithPrediction(solved.solution, coreReading(reading), likely, uncertainty)
  );
}

/** Which of the line's pumps a reading was taken on; −1 when it stands there no more. */
export function placeOfReading(
  { solution: { pumps } }: Solved,
  { running, pumpId }: Pick<ReadingDocument, "running" | "pumpId">,
): number {
  if (running) return pumps.findIndex(({ itemId }) => itemId === running[0]);
  return pumpId === undefined ? 0 : pumps.findIndex(({ pump }) => pump.id === pumpId);
}

/** A reading as a point on the curve sheet: as it was judged, or, if it never was, as it compares now. */
export interface ReadingPoint {
  flow: number;
  head: number;
  flowUncertainty: number;
  headUncertainty: number;
  /** between their errors; none where it was not kept */
  correlation?: number;
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

export function pointOf({ flow, head, correlation }: Comparison): ReadingPoint {
  return {
    flow: flow.value,
    head: head.value,
    flowUncertainty: flow.standardUncertainty,
    headUncertainty: head.standardUncertainty,
    correlation,
  };
}

/** A pump that stands in a job's line, by the item that places it. */
export interface StandingPump {
  itemId: string;
  pump: Pump;
  /** of the rated speed */
  speedRatio: number;
}

/** The pumps chosen for a line, in its order, whether it is solved or not. */
export function standingPumps(
  { pumps }: Pick<SolvableJob, "pumps">,
  solved: JobSolution,
): StandingPump[] {
  return lineOf(solved).pumps.flatMap(({ item: { id, pump, speedRatio = 1 } }) => {
    const chosen = pumps.find((own) => own.id === pump);
    return chosen ? [{ itemId: id, pump: chosen, speedRatio }] : [];
  });
}

/**
 * What the instruments of a reading have to take: by the line where it is solved, and by the pump alone where nobody
 * drew one or it cannot be solved. `place` is the pump's number on a solved line, `elevation` the dial's height in m
 * above the datum.
 */
export function reachOfJob(
  { site }: Pick<SolvableJob, "site">,
  solved: JobSolution,
  { pump, speedRatio }: StandingPump,
  place: number,
  elevation: number | undefined,
): Reach {
  if (solved.kind === "solved" && elevation !== undefined) {
    return reachOf(solved.solution, place, elevation);
  }
  const { density } = waterAt(site.waterTemperature, site.specificGravity);
  return reachOfPump(pump, speedRatio, density);
}
