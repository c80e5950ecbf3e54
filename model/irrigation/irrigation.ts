import type { JobDocument } from "#contract/documents/job.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { type SolveResult, solveLine } from "#core/hydraulics/solveLine.ts";
import type { DayPlan } from "#core/irrigation/dayPlan.ts";
import type { KeepOff, Surveyed } from "#core/irrigation/ground.ts";
import type { Calibration } from "#core/irrigation/gun.ts";
import { gunsAtWork, withOneGun } from "#core/irrigation/gunsOnLine.ts";
import type { SetPlanResult } from "#core/irrigation/sets.ts";
import type { Soil } from "#core/irrigation/soil.ts";
import type { PathItem } from "#core/line/path.ts";
import type { JobSolution, SolvableJob } from "../job/solveJob.ts";
import { type CansResult, cansOf } from "./cans.ts";
import { type DripZoneResult, dripOf } from "./drip.ts";
import {
  dayOf,
  type Seasons,
  seasonsOf,
  setsBetween,
  setsOf,
  type Timing,
  timingOf,
} from "./fieldPlan.ts";
import { type FromReadings, fromReadings } from "./fromReadings.ts";
import { groundsOf } from "./ground.ts";
import { calibrationOf, type Drive, driveOf, type GunResult, gunResult } from "./guns.ts";

/** What of a job its watering depends on. */
export type IrrigationJob = SolvableJob & Pick<JobDocument, "field">;

/** Everything that is told of a job's watering, as plain data. SI. */
export interface IrrigationResult {
  /** whether the guns run on a pump, on the flow asked of one still to be chosen, or the line does not stand */
  line: "running" | "asked" | "none";
  guns: GunResult[];
  /** what throws were measured say of the first gun, and of all that are like it */
  calibration?: Calibration;
  /** throws that were taken with another nozzle, and count for nothing here */
  otherNozzle: number;
  /** of several guns: Pa one alone would have, and m it would throw */
  alone?: { pressure: number; radius?: number };
  /** m³/s of all guns */
  flow: number;
  drive: Drive;
  ground?: Surveyed;
  keepOff: KeepOff[];
  /** absent while no gun throws or no ground is told */
  sets?: SetPlanResult;
  timing?: Timing;
  /** sets were the throw at either end of its doubt */
  between?: { low?: number; high?: number };
  day?: DayPlan;
  season?: Seasons;
  cans?: CansResult;
  drip?: DripZoneResult;
  read: FromReadings;
  /** what is to be said of ground, sets, day, cans and drip; of a gun beside that gun */
  findings: FindingIn<"runoff" | "sets" | "day-plan" | "cans" | "drip">[];
}

/** The watering of a job: its guns at normal water, the field by sets, the clock, the season, and what was measured. */
export function irrigationOf(
  job: IrrigationJob,
  // Nothing here is a judgement: the line alone is solved.
  solved: SolveResult | JobSolution = solveLine(job, job.pumps, job.wantedFlow),
): IrrigationResult {
  const field = job.field ?? {};
  const ready = solved.kind === "refused" ? undefined : solved.solution;
  const running = ready?.cases.normal.running;
  const bare = ready && running ? gunsAtWork(ready, running) : [];
  const { calibration, otherNozzle } = calibrationOf(field, bare[0]);
  const alike = JSON.stringify(bare[0]?.gun);
  const guns =
    ready && running
      ? gunsAtWork(ready, running, (gun) =>
          // A tape at one gun says nothing of another with other nozzles.
          JSON.stringify(gun) === alike ? calibration : undefined,
        ).map(gunResult)
      : [];
  const flow = guns.reduce((sum, own) => sum + own.flow, 0);
  const drive = driveOf(job, field, ready, running);
  const grounds = groundsOf(job.field);
  const cans = cansOf(field, guns[0]);
  const profile = cans?.test.kind === "tested" ? cans.test.profile : undefined;
  const sets = setsOf(field, grounds, guns, profile);
  const planned = sets?.kind === "planned" ? sets : undefined;
  const timing = planned && timingOf(field, planned, guns, flow, drive);
  const drip = dripOf(job, field);
  const dripped =
    drip?.result.kind === "solved" ? { flow: drip.result.flow, area: drip.area } : undefined;
  const season = seasonsOf(field, sets, timing, flow, drive, dripped);
  const day = timing && dayOf(field, timing, drive);
  return {
    line: !running ? "none" : ready?.asked ? "asked" : "running",
    ...{ guns, flow, drive, otherNozzle, keepOff: grounds?.keepOff ?? [] },
    ...(guns.length > 1 && aloneOf(job, calibration)),
    ...(calibration && { calibration }),
    ...(grounds && { ground: grounds.surveyed }),
    ...(sets && { sets }),
    ...(timing && { timing }),
    ...(day && { day }),
    ...(planned && { between: setsBetween(field, grounds, guns) }),
    ...(season && { season }),
    ...(cans && { cans }),
    ...(drip && { drip }),
    read: fromReadings(job, field, guns[0], calibration, ready),
    findings: [
      ...(field.soil && timing ? runoffFindings(field.soil, timing, guns.length) : []),
      ...findingsIn("sets", {
        ...{ ground: grounds?.surveyed, sets },
        keptOff: (grounds?.keepOff.length ?? 0) > 0,
      }),
      ...(day ? findingsIn("day-plan", day) : []),
      ...cansFindings(cans),
      ...(drip ? findingsIn("drip", drip.result) : []),
    ],
  };
}

function runoffFindings(soil: Soil, { widest, narrowest }: Timing, guns: number) {
  const { rate, runoff } = widest;
  if (!runoff) return [];
  return findingsIn("runoff", {
    ...{ soil, guns, rate, runoff },
    ...(narrowest && { narrow: narrowest }),
  });
}

function cansFindings(cans: CansResult | undefined) {
  if (cans?.test.kind !== "tested" || !cans.agreement || cans.flow === undefined) return [];
  const { agreement, flow: modelled, test } = cans;
  return findingsIn("cans", { agreement, modelled, caught: test.flow });
}

/** What stands at the first gun while all others are shut off, and how far it throws then. */
function aloneOf(job: IrrigationJob, calibration: Calibration | undefined) {
  const path = withOneGun(job.path as PathItem[]);
  const solved = path && solveLine({ ...job, path }, job.pumps, job.wantedFlow);
  if (!solved || solved.kind === "refused") return {};
  const { running } = solved.solution.cases.normal;
  const [gun] = running ? gunsAtWork(solved.solution, running, () => calibration) : [];
  if (!gun) return {};
  const { pressure, thrown } = gun;
  return { alone: { pressure, ...(thrown.kind === "throws" && { radius: thrown.radius }) } };
}
