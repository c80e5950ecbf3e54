import type { FieldDocument } from "#contract/documents/job.ts";
import { profileBy } from "#core/irrigation/catchCans.ts";
import { type DayPlan, dayPlan } from "#core/irrigation/dayPlan.ts";
import { type Season, season } from "#core/irrigation/season.ts";
import {
  planSets,
  type SetPlan,
  type SetPlanResult,
  SPACING,
  secondsPerSet,
} from "#core/irrigation/sets.ts";
import { type Runoff, runoffOn } from "#core/irrigation/soil.ts";
import type { Grounds } from "./ground.ts";
import type { Drive, GunResult } from "./guns.ts";
import {
  COOLING,
  DEPTH,
  DRIP_LOSS,
  FILLING,
  LOSS,
  MOVE,
  PRIME,
  START,
  WEEKLY,
  WIND,
} from "./usual.ts";

/** How long a field takes, once round. SI. */
export interface Timing {
  depth: number;
  /** s of one set on average, and of each */
  perSet: number;
  runs: number[];
  /** s of running, and with the moves between */
  running: number;
  whole: number;
  /** m³ put out, and of it what comes down inside the field */
  volume: number;
  inside: number;
  /** m³ of fuel, or J from the mains */
  fuel?: number;
  energy?: number;
  /** under one gun where it turns through most, and where it turns through less, through least */
  widest: Falls;
  narrowest?: Falls;
}

/** How fast it comes down under one gun, m/s, turning through so many degrees, and whether the soil takes it. */
export interface Falls {
  rate: number;
  arc: number;
  runoff?: Runoff;
}

/** What a plan may be made for: guns that all throw, by the one that throws least. */
export function radiusOf(guns: readonly GunResult[], end: "radius" | "low" | "high" = "radius") {
  const all = guns.map(({ thrown }) => (thrown.kind === "throws" ? thrown[end] : undefined));
  const known = all.filter((own) => own !== undefined);
  return known.length > 0 && known.length === all.length ? Math.min(...known) : undefined;
}

export function setsOf(
  field: FieldDocument,
  grounds: Grounds | undefined,
  guns: readonly GunResult[],
  profile?: readonly number[],
  end?: "low" | "high",
): SetPlanResult | undefined {
  const radius = radiusOf(guns, end);
  if (grounds?.surveyed.kind !== "surveyed" || radius === undefined) return undefined;
  const { outline } = grounds.surveyed;
  const from = outline[field.from ?? 0];
  return planSets({
    ...{ outline, keepOff: grounds.keepOff, radius, guns: guns.length },
    arc: Math.min(...guns.map(({ gun }) => gun.arc ?? 360)),
    spacing: field.spacing ?? SPACING[field.wind ?? WIND],
    ...(from && { from }),
    ...(profile && { profile: profileBy(profile) }),
  });
}

/** Sets were the throw at either end of its doubt. */
export function setsBetween(
  field: FieldDocument,
  grounds: Grounds | undefined,
  guns: readonly GunResult[],
): { low?: number; high?: number } {
  const count = (end: "low" | "high") => {
    const plan = setsOf(field, grounds, guns, undefined, end);
    return plan?.kind === "planned" ? plan.sets : undefined;
  };
  // A shorter throw needs more sets.
  const [low, high] = [count("high"), count("low")];
  return { ...(low !== undefined && { low }), ...(high !== undefined && { high }) };
}

export function timingOf(
  field: FieldDocument,
  plan: SetPlan,
  guns: readonly GunResult[],
  flow: number,
  drive: Drive,
): Timing | undefined {
  if (!(flow > 0)) return undefined;
  const depth = field.depth ?? DEPTH;
  // The depth that is asked for is that on the field: what falls beside it is put out as well.
  const perSet = secondsPerSet(depth, plan.area, plan.sets, flow * (1 - plan.outside));
  const running = perSet * plan.sets;
  const moves = (plan.sets - 1) * (field.day?.move ?? MOVE);
  const arcs = plan.stands.map(({ arc }) => arc);
  const [least, most] = [Math.min(...arcs), Math.max(...arcs)];
  // Turned through less, the same water comes down on less ground.
  const falls = (arc: number): Falls => {
    const rate = Math.max(...guns.map((own) => ((own.rate ?? 0) * (own.gun.arc ?? 360)) / arc));
    return { rate, arc, ...(field.soil && { runoff: runoffOn(field.soil, rate) }) };
  };
  const { fuelRate, power, kind } = drive;
  return {
    ...{ depth, perSet, running },
    widest: falls(most),
    ...(least < most - 1 && { narrowest: falls(least) }),
    runs: plan.shares.map((share) => share * running),
    whole: running + moves,
    volume: flow * running,
    inside: flow * running * (1 - plan.outside),
    ...(fuelRate !== undefined && { fuel: fuelRate * running }),
    ...(kind === "electric" && power !== undefined && { energy: power * running }),
  };
}

/** The plan by the clock, from where somebody is, or from its start. */
export function dayOf({ day = {} }: FieldDocument, { runs }: Timing, drive: Drive): DayPlan {
  const { at, calm, start = START, move = MOVE, prime = PRIME } = day;
  const { cooling = COOLING, filling = FILLING } = day;
  const { tankLasts } = drive;
  return dayPlan({
    ...{ runs, move, prime },
    next: at?.set ?? 0,
    start: at?.time ?? start,
    ...(calm && { calm }),
    ...(tankLasts !== undefined && {
      engine: { tankLasts, left: tankLasts * (at?.tankLeft ?? 1), cooling, filling },
    }),
  });
}

export interface Seasons {
  guns?: Season;
  drip?: Season;
}

/** The season's water by guns and, where a zone is told, by drip: the same weeks, each with its own loss. */
export function seasonsOf(
  field: FieldDocument,
  plan: SetPlanResult | undefined,
  timing: Timing | undefined,
  flow: number,
  drive: Drive,
  drip: { flow: number; area: number } | undefined,
): Seasons | undefined {
  const { season: own } = field;
  if (!own?.rain || own.rain.length === 0) return undefined;
  const { weekly = WEEKLY, rain, effective = 1, wage, attended } = own;
  const wanted = { weekly, rain, effective, ...(wage !== undefined && { wage }) };
  const perSecond = drive.kind === "engine" ? drive.fuelRate : drive.power;
  const price = drive.kind === "engine" ? own.fuelPrice : own.energyPrice;
  // A price is of a litre, or a kilowatt-hour.
  const perUnit = drive.kind === "engine" ? 1e-3 : 3.6e6;
  return {
    ...(plan?.kind === "planned" &&
      timing && {
        guns: season({
          ...wanted,
          ...{ flow, area: plan.area, loss: own.loss ?? LOSS },
          round: { depth: timing.depth, sets: plan.sets, move: field.day?.move ?? MOVE },
          ...(perSecond !== undefined && { perSecond }),
          ...(price !== undefined && { energyPrice: price / perUnit }),
          ...(attended && { attended }),
        }),
      }),
    ...(drip && { drip: season({ ...wanted, ...drip, loss: own.dripLoss ?? DRIP_LOSS }) }),
  };
}
