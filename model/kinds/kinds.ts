import type { JobDocument, JobInput } from "#contract/documents/job.ts";
import { JOB_KINDS, type JobKindId } from "#contract/documents/jobKinds.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { emptying } from "./emptying.ts";
import { watering } from "./irrigation.ts";
import type { Clash, Demand, JobKind, Measure, Values } from "./kind.ts";
import { pit } from "./pit.ts";
import { measuring, plainLine } from "./plainLine.ts";
import { transfer } from "./transfer.ts";
import { well } from "./well.ts";
import { yard } from "./yard.ts";

/** Every kind of job. */
export const KINDS: Record<JobKindId, JobKind> = {
  "sump-riser": pit,
  emptying,
  "yard-drain": yard,
  "tank-to-tank": transfer,
  "well-to-tank": well,
  "pond-to-field": watering,
  "plain-line": plainLine,
  measuring,
};

/** Those with a line of their own, which may take the place of another's. */
export const LINE_KINDS = JOB_KINDS.filter((kind) => kind !== "measuring");

/** What is known of a job before it is one. */
export interface Sketch {
  kind: JobKindId;
  /** one of the kind's; its first when absent */
  demand?: Demand | undefined;
  typed: Values;
  place?: string | undefined;
  customer?: string | undefined;
  /** what was said of where the pump stands, the water and the power */
  site?: Partial<JobDocument["site"]> | undefined;
}

/** Round numbers in either system: a metre here is three feet there. */
const roundMetre = (units: UnitSystem) => (units === "us" ? 0.9144 : 1);

/** What stands in for a measure until it is typed. */
export const usualOf = (kind: JobKindId, units: UnitSystem): Values =>
  KINDS[kind].usual(roundMetre(units));

/** What only a tape or a watch can still give. */
export function stillToMeasure({ kind, demand, typed }: Sketch): Measure[] {
  const { asks, demands } = KINDS[kind];
  return asks(demand ?? demands[0]).filter((measure) => typed[measure] === undefined);
}

/** What cannot be so, at the measure that is to be typed again. */
export function clashOf(sketch: Sketch, units: UnitSystem): Clash | undefined {
  const { kind, demand, typed } = sketch;
  const { asks, demands, clash } = KINDS[kind];
  const own = clash?.(typed);
  if (own) return own;
  const begun = begunFrom(sketch, units);
  if (isWithin(begun.wantedFlow, RANGES.flow) && isWithin(begun.volume, RANGES.jobVolume)) {
    return undefined;
  }
  const at = asks(demand ?? demands[0]).findLast((measure) => MAKES_A_FLOW.has(measure));
  return at && { at, why: "too-much-water" };
}

const MAKES_A_FLOW: ReadonlySet<Measure> = new Set([
  "riseTime",
  "hardestHour",
  "within",
  "flow",
  "pressure",
]);

const isWithin = (value: unknown, { max }: { max: number }) =>
  typeof value !== "number" || value <= max;

/** What a kind makes of a sketch, before it is a document. */
function begunFrom({ kind, demand, typed }: Sketch, units: UnitSystem) {
  const own = KINDS[kind];
  const m = roundMetre(units);
  const usual = own.usual(m);
  return own.begin(
    (measure) => typed[measure] ?? usual[measure] ?? 0,
    (...measures) => measures.every((each) => typed[each] !== undefined),
    demand ?? own.demands[0],
    m,
  );
}

/**
 * The job a sketch begins. What was not typed stands in the document as it usually is, and is named in `assumed`. A
 * flow that is not known yet is not wanted either.
 */
export function beginJob(sketch: Sketch, name: string, units: UnitSystem): JobDocument {
  const { kind, typed, place, customer, site = {} } = sketch;
  const own = KINDS[kind];
  const whole = begunFrom(sketch, units);
  const { wantedFlow: _flow, volume: _volume, need: _need, ...rest } = whole;
  // More water than a job can have is said where it was typed; the job is begun without it.
  const begun = clashOf(sketch, units)?.why === "too-much-water" ? rest : whole;
  const isTyped = (measure: Measure) => typed[measure] !== undefined;
  const assumed = Object.entries({ ...EVERYWHERE, ...own.restsOn }).flatMap(([field, measures]) =>
    field.startsWith("site.") && field.slice(5) in site
      ? []
      : measures.length > 0 && measures.every(isTyped)
        ? []
        : [field],
  );
  const document: JobInput = {
    format: "upright-gusher/job",
    version: 2,
    kind,
    name: name.trim(),
    ...begun,
    ...(place && { place }),
    ...(customer && { customer: { name: customer } }),
    site: {
      ...{ altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
      ...begun.site,
      ...site,
    },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    pumps: [],
    assumed,
  };
  return document as JobDocument;
}

/** A job of a kind with nothing measured yet. */
export const newJob = (name: string, kind: JobKindId, units: UnitSystem): JobDocument =>
  beginJob({ kind, typed: {} }, name, units);

const EVERYWHERE = { "site.altitude": [], "site.waterTemperature": [] };
