import type { JobDocument, OverTimeDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import type { PipeStock } from "#core/catalogue/pipes.ts";
import type { BandResult, Uncertainty } from "#core/condition/uncertainty.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import type { LineModel, Refused } from "#core/hydraulics/solveLine.ts";
import { everyItem } from "#core/line/path.ts";
import type { Pump, Tolerance } from "#core/pump/pump.ts";
import type { Money, TogetherAsked } from "#core/selection/front.ts";
import type { Weighing } from "#core/selection/weights.ts";
import type { SizeComparison } from "#core/sizes/sizes.ts";
import type { Tried } from "#core/whatif/changes.ts";
import type { IrrigationResult } from "../irrigation/irrigation.ts";
import type { JobSolution, TriedOnLine } from "../job/solveJob.ts";
import type { Decision } from "../kinds/decision.ts";
import type { Judged, KeptReading } from "../measurement/fieldTests.ts";
import type { PumpYears, Visit } from "../measurement/years.ts";
import type { Chosen } from "../selection/choose.ts";
import type { Driving } from "../selection/driving.ts";
import type { TogetherResult } from "../selection/together.ts";
import type { TimeRangeResult } from "../simulation/range.ts";
import type { SimulationResult } from "../simulation/result.ts";
import type { MethodDay, WellDayResult } from "../well/day.ts";
import type { OtherPumpsResult } from "../well/otherPumps.ts";
import type { FilledBy } from "../well/tankLine.ts";
import type { WellResult } from "../well/well.ts";
import type { Column } from "../whatif/columns.ts";
import type { Offer } from "../whatif/offers.ts";
import type { Remedy } from "../whatif/remedies.ts";

/** Everything that follows from a job, by its name. */
export interface Results {
  /** its line, ready to be asked */
  line: LineModel | Refused;
  solved: JobSolution;
  /** what mends its judgements, and what larger sizes give */
  tried: TriedOnLine;
  uncertainty: Uncertainty;
  band: BandResult;
  run: SimulationResult;
  timeRange: TimeRangeResult;
  irrigation: IrrigationResult;
  /** what fills its tank; nothing where none is filled */
  filledBy: FilledBy | undefined;
  /** nothing of a job that draws from no well */
  well: WellResult | undefined;
  /** its days by either school of control; nothing while no pump runs into a tank */
  switchedDay: MethodDay | undefined;
  valvedDay: MethodDay | undefined;
  wellDay: WellDayResult;
  /** nothing of a job that draws from no well */
  otherPumps: OtherPumpsResult | undefined;
  findings: JobFindings;
  decisions: Decision[];
  /** what mends what was found, each tried on the whole job */
  remedies: Remedy[];
  columns: Column[];
  offers: Offer[];
  /** pumps to choose from, read from their text */
  library: readonly Pump[];
  chosen: Chosen[];
  together: TogetherResult;
  sizes: SizeComparison;
  changes: Tried[];
  driving: Driving | undefined;
  judged: Judged[];
  years: PumpYears[];
}
export type ResultName = keyof Results;

/** What some results are asked for besides the job. */
export interface Beside {
  /** pumps to choose from as JSON: as text it crosses to another thread in a moment */
  libraryText: string;
  /** the same as documents, and of them the jets */
  documents: readonly PumpDocument[];
  jets: readonly PumpDocument[];
  /** a place of the path where a pump stands */
  place: string;
  weighing: Weighing;
  pairing: TogetherAsked;
  money: Money;
  sizing: { itemIds: readonly string[]; sizes: readonly PipeStock[] };
  /** readings of one visit, and the limits it is held to */
  readings: readonly KeptReading[];
  limits: Tolerance | undefined;
  visits: readonly Visit[];
}

/** Where a result is worked out: on the page at once, beside it, or as the length of the line has it. */
type Where = "page" | "worker" | "by-length";

/** A field of the job, or of what stands beside it; of what a run is made of the battery by itself. */
export type Read = keyof JobDocument | keyof Beside | "overTime.battery";

interface Declared {
  /** what it is worked out from; `compute` is given nothing else */
  reads: readonly Read[];
  /** results it is worked out from */
  needs: readonly ResultName[];
  where: Where;
  /** nobody waits for it: all else comes first */
  last?: true;
}

const LINE = [
  ...["source", "path", "site", "method", "pumps", "wantedFlow", "well"],
  ...["overTime.battery", "pressureTank"],
] as const satisfies readonly Read[];
const SOLVED = [...LINE, "kind", "assumed"] as const satisfies readonly Read[];
const RUN = [
  ...["source", "path", "site", "method", "pumps", "wantedFlow", "well", "pressureTank"],
  ...["need", "bodies", "overTime"],
] as const satisfies readonly Read[];
const WELL = [...LINE, "assumed", "house"] as const satisfies readonly Read[];

/** All there is of a job; the compiler names what is missing. */
const EVERY_FIELD = Object.keys({
  ...{ format: 1, version: 1, kind: 1, name: 1, place: 1, note: 1, datum: 1, customer: 1 },
  ...{ source: 1, path: 1, site: 1, method: 1, wantedFlow: 1, volume: 1, doubt: 1, pumps: 1 },
  ...{ milestones: 1, assumed: 1, promise: 1, attachments: 1, variants: 1, need: 1, bodies: 1 },
  ...{ overTime: 1, yard: 1, well: 1, pressureTank: 1, house: 1, field: 1 },
} satisfies Record<keyof JobDocument, 1>) as (keyof JobDocument)[];

/** What each result is worked out from, and where. */
export const DECLARED = {
  line: { reads: LINE, needs: [], where: "page" },
  solved: { reads: SOLVED, needs: ["line"], where: "page" },
  tried: { reads: SOLVED, needs: ["solved"], where: "by-length" },
  uncertainty: { reads: ["doubt", "assumed", "path"], needs: [], where: "page" },
  band: { reads: [], needs: ["line", "uncertainty"], where: "worker" },
  run: { reads: RUN, needs: ["line"], where: "worker" },
  timeRange: { reads: RUN, needs: ["line", "uncertainty"], where: "worker" },
  irrigation: { reads: [...LINE, "field"], needs: ["solved"], where: "worker" },
  filledBy: { reads: WELL, needs: [], where: "worker" },
  well: { reads: WELL, needs: ["solved", "filledBy"], where: "worker" },
  switchedDay: { reads: WELL, needs: ["solved", "filledBy"], where: "worker" },
  valvedDay: { reads: WELL, needs: ["solved", "filledBy"], where: "worker" },
  wellDay: {
    reads: WELL,
    needs: ["solved", "filledBy", "switchedDay", "valvedDay"],
    where: "worker",
  },
  otherPumps: { reads: [...WELL, "jets"], needs: ["solved", "well"], where: "worker" },
  findings: {
    reads: [...SOLVED, "need", "bodies", "house", "yard", "field"],
    needs: ["solved", "line", "run", "well", "switchedDay", "valvedDay", "irrigation"],
    where: "worker",
  },
  decisions: {
    reads: [...RUN, "kind", "assumed", "house", "yard", "field"],
    needs: ["solved", "run", "well", "irrigation", "findings"],
    where: "worker",
  },
  remedies: {
    reads: EVERY_FIELD,
    needs: ["tried", "findings", "well"],
    ...{ where: "worker", last: true },
  },
  columns: {
    reads: EVERY_FIELD,
    needs: ["solved", "run", "irrigation", "findings"],
    where: "worker",
  },
  offers: { reads: [...EVERY_FIELD, "documents"], needs: [], where: "page" },
  library: { reads: ["libraryText"], needs: [], where: "worker" },
  chosen: { reads: [...RUN, "place", "weighing"], needs: ["library"], where: "worker" },
  together: { reads: [...LINE, "pairing", "money"], needs: ["library"], where: "worker" },
  sizes: { reads: [...LINE, "sizing"], needs: [], where: "by-length" },
  changes: { reads: [...LINE, "documents"], needs: ["solved"], where: "worker" },
  driving: { reads: [...RUN, "place", "documents"], needs: ["line"], where: "page" },
  judged: {
    reads: [...SOLVED, "readings", "limits"],
    needs: ["solved", "uncertainty"],
    where: "worker",
  },
  years: { reads: [...SOLVED, "visits"], needs: ["solved", "uncertainty"], where: "worker" },
} as const satisfies Record<ResultName, Declared>;

/** A job with what stands beside it. */
export type Inputs = { job: JobDocument } & Partial<Beside>;

type ReadsOf<N extends ResultName> = (typeof DECLARED)[N]["reads"][number];
export type NeedsOf<N extends ResultName> = (typeof DECLARED)[N]["needs"][number];

/** What of a job and of what stands beside it a result is given. */
export type Seen<N extends ResultName> = Pick<JobDocument, ReadsOf<N> & keyof JobDocument> &
  Pick<Beside, ReadsOf<N> & keyof Beside> &
  ("overTime.battery" extends ReadsOf<N>
    ? { overTime?: Pick<OverTimeDocument, "battery"> }
    : unknown);

/** Whether a result comes after all else that is asked for. */
export const isLast = (name: ResultName): boolean => (DECLARED[name] as Declared).last ?? false;

/** Everything a result rests on, by way of its needs as well. */
const RESTS_ON = {} as Record<ResultName, readonly Read[]>;
export function restsOn(name: ResultName): readonly Read[] {
  RESTS_ON[name] ??= [
    ...new Set([
      ...DECLARED[name].reads,
      ...(DECLARED[name].needs as readonly ResultName[]).flatMap(restsOn),
    ]),
  ];
  return RESTS_ON[name];
}

/** One of the things that are read; nothing where the job has none. */
export function readOf(inputs: Inputs, read: Read): unknown {
  if (read in inputs) return inputs[read as keyof Beside];
  const { job } = inputs;
  return read === "overTime.battery" ? job.overTime?.battery : job[read as keyof JobDocument];
}

/** What a result rests on: the very same things give the very same result. */
export const keyOf = (name: ResultName, inputs: Inputs): readonly unknown[] =>
  restsOn(name).map((read) => readOf(inputs, read));

export const isSameKey = (one: readonly unknown[], other: readonly unknown[]): boolean =>
  one.length === other.length && one.every((value, i) => value === other[i]);

/** Parts of a line up to which all that is said of it is worked out with the key that changed it. */
const SHORT = 150;

/** Whether a result is worked out on the page, as the job stands. */
export function isOnPage(name: ResultName, { job: { path } }: Inputs): boolean {
  const { where } = DECLARED[name];
  if (where !== "by-length") return where === "page";
  return path.length <= SHORT && everyItem(path).length <= SHORT;
}
