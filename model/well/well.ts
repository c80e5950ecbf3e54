import { checkContext, type Judgement } from "#core/check/registry.ts";
import { windowFor, windowOf } from "#core/check/well.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { WATER_LEVELS } from "#core/fluid/levels.ts";
import { meanArea, recoveryTime, settlingTime } from "#core/line/casing.ts";
import type { Drawdown } from "#core/line/path.ts";
import { type DrawdownFit, drawdownAt, drawdownUncertainty } from "#core/well/drawdown.ts";
import type { SettingWindow } from "#core/well/setting.ts";
import { pumpedOff } from "#core/well/tankDay.ts";
import { solutionOf } from "../job/solveJob.ts";
import { type CableResult, cableOf } from "./cable.ts";
import { type DropPipeResult, dropPipeOf } from "./dropPipe.ts";
import { guardOf } from "./guard.ts";
import { type KnownOfWell, knownOfWell } from "./known.ts";
import { partsOfWell, type WellPart } from "./parts.ts";
import { type JobWithWell, type Season, seasonOf } from "./season.ts";
import { fitOf, pumpDepth, standingOf, topOf } from "./settle.ts";
import { type TankResult, tankResultOf } from "./tank.ts";
import type { FilledBy } from "./tankLine.ts";
import { USUAL_AREA } from "./usual.ts";

/** Everything that is told of a job's well, as plain data. SI. */
export interface WellResult {
  depth: number;
  seasons: Season[];
  fit: DrawdownFit;
  /** the line is solved with another drawdown than the test gives: a file that was written by hand */
  differs: boolean;
  /** m³/s and m: the curve through the test, from nothing to past its largest step */
  curve: { flow: number; drawdown: number; doubt: number }[];
  /** steps that were too short for the water to settle, by the casing alone; s it takes */
  short: { step: number; needs: number }[];
  /** the casing between standing and pumping level, in the dry season */
  casing?: { area: number; settles: number; volume: number; recovers: number };
  window: SettingWindow;
  /** where the well gives less than the pump lifts: how its guard runs it */
  guarded?: Guarded;
  /** of the judgements those the well is about */
  judgements: Judgement[];
  dropPipe: DropPipeResult;
  parts: WellPart[];
  cable: CableResult;
  tank: TankResult;
  /** what is to be said of it all */
  findings: WellFinding[];
}

export type WellFinding = FindingIn<
  "well" | "drawdown-test" | "hanging" | "cable" | "cable-size" | "tank" | "valve"
>;

export interface Guarded {
  stop: number;
  restart: number;
  /** m³/s the pump lifts while it runs, and m³ a day in all */
  lifts: number;
  perDay: number;
  startsPerHour: number;
  /** part of the day it runs */
  runs: number;
}

const DAY = 86_400;
/** Of the drawdown, what is left when a well is said to have recovered. */
const RECOVERED = 0.1;

const ABOUT: ReadonlySet<string> = new Set([
  ...["well-dry", "well-setting", "motor-cooling", "cut-out-reached", "pressure-rating"],
  ...["pump-width", "water-too-deep", "pressure-rating-unknown"],
]);

/** A job's well at its three seasons: what it gives, where its pump may hang, on what, and what feeds and follows it. */
export function wellOf(
  job: JobWithWell,
  { solved, filledBy }: KnownOfWell = knownOfWell(job),
): WellResult {
  const solution = solutionOf(solved);
  const context = solution && checkContext(solution, job, job.wantedFlow);
  const fit = fitOf(job);
  const pump = job.pumps.find(({ id }) => id === solution?.pumps[0]?.pump.id);
  const filled = solution && !solution.asked ? filledBy() : undefined;
  const seasons = WATER_LEVELS.map((at) => seasonOf(job, at, solution, fit));
  const window = context ? windowOf(context, pump) : windowFor(job, undefined, pump);
  const dry = seasons[0] as Season;
  const casings = job.well?.casings ?? [];
  const known = job.source.kind === "well" ? job.source.drawdown : { linear: 0, quadratic: 0 };
  const casing = casingOf(casings, dry, known.linear);
  const guarded = guardedOf(job, filled, dry, casing?.area);
  const [differs, short] = [differsFrom(fit, known), shortSteps(job, fit)];
  const dropPipe = dropPipeOf(job, solution, dry);
  const cable = cableOf(job, solution, pump);
  const tank = tankResultOf(job, filled);
  const lacksWeight = dropPipe.lacks.includes("pump-weight");
  return {
    ...{ depth: pumpDepth(job), seasons, fit },
    ...{ curve: curveOf(fit), differs, short },
    ...(casing && { casing }),
    window,
    ...(guarded && { guarded }),
    judgements: (solved.kind === "refused" ? [] : solved.judgements).filter(({ code }) =>
      ABOUT.has(code),
    ),
    parts: partsOfWell(job),
    ...{ dropPipe, cable, tank },
    findings: [
      ...findingsIn("well", { differs, short, lacksWeight, ...(guarded && { guarded }) }),
      ...findingsIn("drawdown-test", fit),
      ...(dropPipe.hangs ? findingsIn("hanging", dropPipe.hangs) : []),
      ...cableFindings(cable),
      ...tankFindings(tank),
    ],
  };
}

/**
 * Of what was found, what is of the job itself: its tank where it has one, its valve where one was typed. Behind a valve
 * the pump does not start and stop as it would on the switch alone.
 */
export function ownFindings(
  { pressureTank }: Pick<JobWithWell, "pressureTank">,
  { findings }: Pick<WellResult, "findings">,
): WellFinding[] {
  const valved = pressureTank?.valve !== undefined;
  const onSwitch = new Set<WellFinding["code"]>(["tank-run", "tank-starts"]);
  return findings.filter(({ context, code }) =>
    context === "valve"
      ? valved
      : context !== "tank" || (pressureTank !== undefined && !(valved && onSwitch.has(code))),
  );
}

/** Of the cable that was chosen; while none is, of the one to choose. */
function cableFindings({ rows, choice, chosen, motor }: CableResult): WellFinding[] {
  const row = rows.find(({ conductor }) => conductor.id === chosen);
  if (row) return findingsIn("cable-size", { row, breaker: motor?.breaker });
  return choice ? findingsIn("cable", choice) : [];
}

function tankFindings(tank: TankResult): WellFinding[] {
  const { valved, leastFlow: plate, past } = tank;
  return [
    ...findingsIn("tank", tank),
    ...(valved ? findingsIn("valve", { least: valved.valve.leastFlow, plate, past }) : []),
  ];
}

/** Part by which two drawdowns at the largest step may lie apart and still be one. */
const ALIKE = 0.02;

function differsFrom(fit: DrawdownFit, own: Drawdown): boolean {
  if (fit.kind !== "fitted") return false;
  const { drawdown, testedTo } = fit;
  return Math.abs(drawdownAt(own, testedTo) / drawdownAt(drawdown, testedTo) - 1) > ALIKE;
}

/** Points of the curve, and how far past its largest step it is drawn. */
const POINTS = 24;
const PAST = 1.3;

function curveOf(fit: DrawdownFit): WellResult["curve"] {
  if (fit.kind !== "fitted") return [];
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const flow = (fit.testedTo * PAST * i) / POINTS;
    return {
      flow,
      drawdown: drawdownAt(fit.drawdown, flow),
      doubt: drawdownUncertainty(fit, flow),
    };
  });
}

/** Times the well's own time to settle that a step has to last for its level to stay within 2 %. */
const SETTLED = 4;

function shortSteps(job: JobWithWell, fit: DrawdownFit): WellResult["short"] {
  const casings = job.well?.casings ?? [];
  const standing = standingOf(job);
  if (fit.kind !== "fitted") return [];
  return (job.well?.steps ?? []).flatMap(({ flow, level, minutes }, step) => {
    const area = meanArea(casings, standing, level);
    if (area === undefined || minutes === undefined) return [];
    const needs = SETTLED * settlingTime(area, (level - standing) / flow);
    return 60 * minutes < needs ? [{ step, needs }] : [];
  });
}

function casingOf(
  casings: Parameters<typeof meanArea>[0],
  { standing, pumping, flow, drawdown }: Season,
  linear: number,
): WellResult["casing"] {
  if (pumping === undefined || !flow || !drawdown || drawdown <= 0) return undefined;
  const area = meanArea(casings, standing, pumping);
  if (area === undefined) return undefined;
  const settles = settlingTime(area, linear > 0 ? linear : drawdown / flow);
  return { area, settles, volume: area * drawdown, recovers: recoveryTime(settles, RECOVERED) };
}

function guardedOf(
  job: JobWithWell,
  pump: FilledBy | undefined,
  dry: Season,
  area = USUAL_AREA,
): Guarded | undefined {
  const { source } = job;
  if (!pump || pump.boosts || source.kind !== "well" || dry.pumping === undefined) return undefined;
  const top = topOf(job);
  const { stop, restart } = guardOf(job, dry.standing);
  if (stop <= dry.standing || dry.pumping <= stop) return undefined;
  const pressure = pump.pressure;
  const lifts = (level: number) => pump.flowAt(level, pressure);
  const off = pumpedOff(
    {
      well: {
        standing: top - dry.standing,
        drawdown: source.drawdown,
        area,
        intake: source.intake,
      },
      protection: { stop: top - stop, restart: top - restart },
      lifts,
    },
    DAY,
  );
  if (off.holds) return undefined;
  return {
    ...{ stop, restart, perDay: off.pumped },
    lifts: off.runTime > 0 ? off.pumped / off.runTime : 0,
    startsPerHour: off.starts / 24,
    runs: off.runTime / DAY,
  };
}
