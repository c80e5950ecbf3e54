import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { atmosphericPressure } from "#core/fluid/atmosphere.ts";
import { type Water, waterAt } from "#core/fluid/water.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import { correctedLiftLimit } from "#core/hydraulics/suctionLimits.ts";
import { levelsOf, type PathItem } from "#core/line/path.ts";
import { FOOT } from "#core/quantity/constants.ts";
import {
  AIR_LOSSES,
  type AirLiftResult,
  airLift,
  pulsePump,
  startPressure,
} from "#core/well/airLift.ts";
import { drawdownAt } from "#core/well/drawdown.ts";
import { cylinderArea, handFlow, handleForce, MOST_PULL, STICK } from "#core/well/handPump.ts";
import { UNDER_WATER } from "#core/well/setting.ts";
import { type JobSolution, solutionOf } from "../job/solveJob.ts";
import { workForWater } from "./booster.ts";
import type { JobWithWell, Season } from "./season.ts";
import { topOf } from "./settle.ts";

/** Ways to lift water without a motor in the well, each at the dry season's water. */
export interface OtherPumpsResult {
  /** m: how far up anything sucks here, and how far it would have to at rest */
  suction: { limit: number; lift: number };
  hand?: HandPumpResult;
  jets: JetResult[];
  air?: { result: AirLiftResult; start: number; pumping: number; lift: number };
  pulse?: PulseResult;
  /** J a m³ of the job's own pump, to hold the others against */
  own?: number;
  findings: OtherPumpFinding[];
}

export type OtherPumpFinding = FindingIn<
  "top-suction" | "hand-pump" | "jet" | "air-lift" | "pulse-pump"
>;

export interface HandPumpResult {
  flow: number;
  /** N at the handle, and what a person keeps up */
  force: number;
  most: number;
  lift: number;
  /** m the water is sucked up to the cylinder; over the limit it does not come */
  sucked: number;
  /** m³ to fill before the first stroke; none where its cylinder stands in the water */
  priming: number;
  sticks: number;
}

export interface JetResult {
  id: string;
  name: string;
  /** m³/s at the outlet; none where it does not run */
  flow?: number;
  /** m drawn up, friction counted, and what this pump holds here */
  lift?: number;
  limit?: number;
}

export interface PulseResult {
  /** m³/s and J a m³, once slug and time were measured */
  flow?: number;
  perVolume?: number;
  /** Pa it starts at, and whether it does */
  start: number;
  starts: boolean;
  /** Pa its valves and hose take beside that once it runs */
  losses: number;
  /** m of its foot under the water in the dry season: with none it stops */
  submergence: number;
}

/** m a maker's pump at the top is rated to suck at the sea: 25 ft. Common practice, no source. */
const RATED_SUCTION = 25 * FOOT;
/** Pipe a hand pump hangs on. */
const HAND_PIPE = "steel-sch40-1-1-4in";
const MOST_JETS = 3;

export function otherPumpsOf(
  job: JobWithWell,
  solved: JobSolution,
  seasons: readonly Season[],
  library: readonly PumpDocument[],
): OtherPumpsResult {
  const solution = solutionOf(solved);
  const [dry, , wet] = seasons as readonly [Season, Season, Season];
  const { site, well, source } = job;
  const water = waterAt(site.waterTemperature, site.specificGravity);
  const drawn = (flow: number) => (source.kind === "well" ? drawdownAt(source.drawdown, flow) : 0);
  const limit = correctedLiftLimit(RATED_SUCTION, site.altitude, water);
  const own = workForWater(job, solution).whole;
  const suction = { limit, lift: dry.standing };
  const levels = [dry.standing, wet.standing] as const;
  const hand = well?.hand && handOf(well.hand, dry.standing, drawn, water);
  const jets = limit > dry.standing ? jetsOf(job, library) : [];
  const air = well?.air && airOf(job, well.air, levels, drawn, water);
  const pulse = well?.pulse && pulseOf(well.pulse, levels, drawn, water);
  return {
    ...{ suction, jets },
    ...(hand && { hand }),
    ...(air && { air }),
    ...(pulse && { pulse }),
    ...(own !== undefined && { own }),
    findings: [
      ...findingsIn("top-suction", suction),
      ...(hand ? findingsIn("hand-pump", { ...hand, limit }) : []),
      ...jets.flatMap((jet) => findingsIn("jet", jet)),
      ...(air ? findingsIn("air-lift", air.result) : []),
      ...(pulse ? findingsIn("pulse-pump", pulse) : []),
    ],
  };
}

function handOf(
  hand: NonNullable<NonNullable<JobDocument["well"]>["hand"]>,
  standing: number,
  drawn: (flow: number) => number,
  water: Water,
): HandPumpResult {
  const { bore, stroke, strokes, leverage, cylinder = 0 } = hand;
  const flow = handFlow({ bore, stroke, strokesPerMinute: strokes, leverage });
  const lift = standing + drawn(flow);
  const pipe = findPipeStock(HAND_PIPE)?.bore ?? 0.035;
  const sucked = Math.max(lift - cylinder, 0);
  return {
    ...{ flow, lift, most: MOST_PULL },
    force: handleForce(water.density, lift, cylinderArea(bore), leverage),
    sucked,
    // A cylinder in the water fills itself.
    priming: sucked > 0 ? cylinderArea(pipe) * standing : 0,
    sticks: Math.ceil(Math.max(cylinder, lift + UNDER_WATER) / STICK - 1e-9),
  };
}

function airOf(
  job: JobWithWell,
  air: NonNullable<NonNullable<JobDocument["well"]>["air"]>,
  [standing, highest]: readonly [dry: number, wet: number],
  drawn: (flow: number) => number,
  water: Water,
): NonNullable<OtherPumpsResult["air"]> {
  const outside = atmosphericPressure(job.site.altitude);
  const up = Math.max(outletOver(job), 0);
  const at = (pumping: number) =>
    // It has to start against the most water over its foot, and to lift with the least.
    airLift(pumping + up, air.foot - highest, air.foot - pumping, air, water.density, outside);
  // The flow draws the water down, and that lowers the flow: the first answer goes in once more until both agree.
  let pumping = standing;
  let result = at(pumping);
  for (let i = 0; i < 60 && result.kind === "lifts"; i++) {
    const next = standing + drawn(result.flow);
    if (Math.abs(next - pumping) < 1e-6) break;
    pumping = (pumping + next) / 2;
    result = at(pumping);
  }
  return {
    result,
    start: startPressure(water.density, Math.max(air.foot - highest, 0)),
    ...{ pumping, lift: pumping + up },
  };
}

function pulseOf(
  pulse: NonNullable<NonNullable<JobDocument["well"]>["pulse"]>,
  [standing, highest]: readonly [dry: number, wet: number],
  drawn: (flow: number) => number,
  water: Water,
): PulseResult {
  const { slug, period, power } = pulse;
  const found =
    slug !== undefined && period !== undefined ? pulsePump(slug, period, power) : undefined;
  const start = startPressure(water.density, Math.max(pulse.foot - highest, 0));
  return {
    ...found,
    ...{ start, losses: AIR_LOSSES, starts: pulse.pressure >= start },
    submergence: pulse.foot - standing - drawn(found?.flow ?? 0),
  };
}

/** m from the casing's top up to the outlet. */
function outletOver(job: JobWithWell): number {
  let elevation = job.source.intake;
  for (const item of job.path) {
    if (item.kind === "pipe" || item.kind === "rise") elevation += item.rise;
  }
  return elevation - topOf(job);
}

/** The library's jet pumps stood at the top on a suction pipe of their own, those that move most first. */
function jetsOf(job: JobWithWell, library: readonly PumpDocument[]): JetResult[] {
  const tried = library.flatMap((pump): JetResult[] => {
    if (pump.kind !== "jet") return [];
    const own = atTop(job, pump);
    const solved = own && solveLine(own, [pump]);
    const name = `${pump.maker} ${pump.model}`;
    if (!solved || solved.kind === "refused") return [];
    const { running } = solved.solution.cases.low;
    const suction = running?.pumps[0]?.suction;
    return [
      {
        ...{ id: pump.id, name },
        ...(running && { flow: running.state.delivered }),
        ...(suction && { lift: suction.dynamicLift }),
        ...(suction?.ownLimit !== undefined && { limit: suction.ownLimit }),
      },
    ];
  });
  const works = ({ flow = 0, lift = 0, limit = 0 }: JetResult) => (lift < limit ? flow : 0);
  return tried.toSorted((a, b) => works(b) - works(a)).slice(0, MOST_JETS);
}

/** The job with a pump at the casing's top that draws through a pipe with a foot valve, in place of what hangs in it. */
function atTop(job: JobWithWell, pump: PumpDocument) {
  const top = topOf(job);
  const dry = top - levelsOf(job.source).low;
  const down = dry + 3 * UNDER_WATER;
  const stock = "pe-sidr7-1-1-4in";
  const rest: PathItem[] = [];
  let elevation = job.source.intake;
  let past = false;
  for (const item of job.path as PathItem[]) {
    const start = elevation;
    if (item.kind === "pipe" || item.kind === "rise") elevation += item.rise;
    if (past) rest.push(item);
    else if (elevation >= top - 0.5) {
      past = true;
      // What of the run that leaves the well lies over its top goes on from there.
      const over = elevation - top;
      if (item.kind === "pipe" && over > 0) {
        const part = over / Math.max(item.rise, over);
        rest.push({ ...item, rise: over, length: Math.max(item.length * part, over) });
      } else if (start >= top && item.kind !== "pipe") rest.push(item);
    }
  }
  if (!past) return undefined;
  const path: PathItem[] = [
    { kind: "fitting", id: "jet-foot", fitting: "foot-valve-poppet", count: 1, stock },
    { kind: "pipe", id: "jet-suction", stock, length: down, rise: down },
    { kind: "pump", id: "jet-pump", pump: pump.id },
    ...rest,
  ];
  return {
    ...{ site: { ...job.site, standsAt: "open-ground" as const }, method: job.method },
    ...{ source: { ...job.source, intake: top - down }, path },
    ...(job.well && { well: job.well }),
  };
}
