import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import type { PipeStock } from "#core/catalogue/pipes.ts";
import {
  type BandResult,
  dutyBand,
  type Uncertainty,
  USUAL_DRAWS,
} from "#core/condition/uncertainty.ts";
import type { Line } from "#core/line/path.ts";
import type { Pump, Tolerance } from "#core/pump/pump.ts";
import type { Money, TogetherAsked } from "#core/selection/front.ts";
import type { Weighing } from "#core/selection/weights.ts";
import { compareSizes, type SizeComparison } from "#core/sizes/sizes.ts";
import { singleChanges, type Tried } from "#core/whatif/changes.ts";
import {
  type IrrigationJob,
  type IrrigationResult,
  irrigationOf,
} from "#model/irrigation/irrigation.ts";
import type { Variant } from "#model/job/changes.ts";
import { type SolvableJob, solveJob, triedOn } from "#model/job/solveJob.ts";
import { type Judged, judgeTests, type KeptReading } from "#model/measurement/fieldTests.ts";
import { type PumpYears, type Visit, yearsOf } from "#model/measurement/years.ts";
import { type Chosen, choosePumps, type JobToChooseFor } from "#model/selection/choose.ts";
import { type TogetherResult, togetherOf } from "#model/selection/together.ts";
import type { SimulatedJob } from "#model/simulation/overTime.ts";
import { TIME_DRAWS, type TimeRangeResult, timeRange } from "#model/simulation/range.ts";
import { type SimulationResult, simulationOf } from "#model/simulation/result.ts";
import { type WellDayResult, wellDayOf } from "#model/well/day.ts";
import type { JobWithWell } from "#model/well/season.ts";
import { hasWell } from "#model/well/settle.ts";
import { type WellResult, wellOf } from "#model/well/well.ts";
import { type Column, columnsOf } from "#model/whatif/columns.ts";

/** Called now and then with how much of a computation is done, 0 to 1, and with what is known so far. */
export type Progress<T = never> = (done: number, soFar?: T) => void;

/** Of what is known before all is, so many of the first: enough for what is in sight. */
const SOON = 40;

let lastLibrary: { text: string; pumps: readonly Pump[] } | undefined;

/** Pumps out of their text; the same text is read once. */
function libraryOf(text: string): readonly Pump[] {
  if (lastLibrary?.text !== text) lastLibrary = { text, pumps: JSON.parse(text) as Pump[] };
  return lastLibrary.pumps;
}

/**
 * The long computations, worked out beside the page. Each is a plain function that runs in Node.js just as well;
 * its last argument hears how far it has got.
 */
export const CALCULATIONS = {
  band: (line: Line, pumps: Pump[], doubt: Uncertainty, progress: Progress): BandResult =>
    dutyBand(line, pumps, doubt, USUAL_DRAWS, (draws) => progress(draws / USUAL_DRAWS)),
  chosen: (
    job: JobToChooseFor,
    library: string,
    itemId: string,
    weighing: Weighing,
    progress: Progress<Chosen[]>,
  ): Chosen[] =>
    choosePumps(job, libraryOf(library), itemId, weighing, (soFar) =>
      progress(0.5, soFar.slice(0, SOON)),
    ),
  together: (
    line: Line,
    library: string,
    asked: Omit<TogetherAsked, "soFar">,
    money: Money,
    progress: Progress,
  ): TogetherResult => togetherOf(line, libraryOf(library), asked, money, progress),
  changes: (line: Line, pumps: readonly Pump[], library: readonly Pump[]): Tried[] =>
    singleChanges(line, pumps, library),
  tried: (job: SolvableJob) => triedOn(job),
  columns: (job: JobDocument, variants: readonly Variant[], progress: Progress): Column[] =>
    columnsOf(job, variants, progress),
  timeRange: (job: SimulatedJob, doubt: Uncertainty, progress: Progress): TimeRangeResult =>
    timeRange(job, doubt, TIME_DRAWS, (draws) => progress(draws / TIME_DRAWS)),
  overTime: (job: SimulatedJob): SimulationResult => simulationOf(job),
  judged: (
    job: SolvableJob,
    readings: readonly KeptReading[],
    doubt: Uncertainty,
    limits: Tolerance | undefined,
  ): Judged[] => {
    const solved = solveJob(job);
    return solved.kind === "solved" ? judgeTests(solved, job, readings, doubt, limits) : [];
  },
  watering: (job: IrrigationJob): IrrigationResult => irrigationOf(job),
  /** nothing of a job that draws from no well */
  well: (job: JobWithWell, library: readonly PumpDocument[]): WellResult | undefined =>
    hasWell(job) ? wellOf(job, library) : undefined,
  wellDay: (job: JobWithWell): WellDayResult => wellDayOf(job),
  years: (job: SolvableJob, visits: readonly Visit[], doubt: Uncertainty): PumpYears[] =>
    yearsOf(job, visits, doubt),
  sizes: (
    line: Line,
    pumps: Pump[],
    itemIds: string[],
    sizes: PipeStock[],
    wanted: number | undefined,
  ): SizeComparison => compareSizes(line, pumps, itemIds, sizes, "normal", wanted),
};

export type Calculations = typeof CALCULATIONS;
export type CalculationName = keyof Calculations;
/** What one is asked with, its progress left out. */
export type ArgumentsOf<N extends CalculationName> =
  Parameters<Calculations[N]> extends [...infer Rest, (done: number, soFar?: never) => void]
    ? Rest
    : Parameters<Calculations[N]>;
export type ResultOf<N extends CalculationName> = ReturnType<Calculations[N]>;
