import type { HouseDocument, JobDocument } from "#contract/documents/job.ts";
import { findPipeStock, surfaceOf } from "#core/catalogue/pipes.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { atmosphericPressure } from "#core/fluid/atmosphere.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import { waterAt } from "#core/fluid/water.ts";
import { meanArea } from "#core/line/casing.ts";
import { levelsOf } from "#core/line/path.ts";
import { firstAtOrAfter } from "#core/numeric/sorted.ts";
import type { PipeRun } from "#core/pipe/darcyWeisbach.ts";
import { drawdownAt } from "#core/well/drawdown.ts";
import { type Tap, tapPressure } from "#core/well/houseLine.ts";
import { type TankDay, tankDay, type WellSystem } from "#core/well/tankDay.ts";
import { type Draw, USUAL_TAP, usualDay, volumeOf } from "#core/well/useOfDay.ts";
import { workForWater } from "./booster.ts";
import { guardOf } from "./guard.ts";
import { type KnownOfWell, knownOfWell } from "./known.ts";
import type { JobWithWell } from "./season.ts";
import { topOf } from "./settle.ts";
import type { FilledBy } from "./tankLine.ts";
import { tankOf, USUAL_AREA, valveOf } from "./usual.ts";

/** What happens in a job's well and tank while a household, or the plots, draw water. */
export interface WellDayResult {
  days: number;
  /** draws a day, and m³ of the first */
  draws: number;
  volume: number;
  use: NonNullable<HouseDocument["use"]>;
  count: number;
  countAssumed: boolean;
  /** on the switch alone, and with a valve that holds the pressure; absent while no pump runs into a tank */
  switched?: MethodDay;
  valved?: MethodDay;
  /** the dry season's water stands under the intake: nothing is pumped at all */
  noWater?: boolean;
  /** J the pump in the well takes for the same water, where a booster makes the pressure */
  lifting?: number;
}

export interface MethodDay {
  run: TankDay;
  taps: TapResult[];
  findings: FindingIn<"draws" | "tap">[];
}

export interface TapResult {
  name: string;
  flow: number;
  /** Pa while it draws, least and most; absent where it is never drawn from */
  least?: number;
  most?: number;
  /** s of the least */
  at?: number;
  /** each draw: from and to in s, and the least Pa at the tap meanwhile */
  draws: { from: number; to: number; least: number }[];
}

const DAY = 86_400;
export const USUAL_COUNT = { house: 4, plots: 12, typed: 0 } as const;

/** Draws of the days that are looked at, from what is typed or usual. */
export function drawsOf(house: HouseDocument = {}): { draws: Draw[]; days: number } {
  const { use = "house", taps = [], days = 1 } = house;
  const flows = taps.map(({ flow }) => flow);
  const all: Draw[] = [];
  for (let day = 0; day < days; day++) {
    const own =
      use === "typed"
        ? (house.draws ?? [])
            .filter((each) => each.day === undefined || each.day === day)
            .map(({ at, volume, tap = 0 }): Draw => {
              const flow = flows[tap] ?? USUAL_TAP;
              return { start: at, duration: volume / flow, flow, tap };
            })
        : usualDay(use, house.count ?? USUAL_COUNT[use], flows, day);
    for (const draw of own) all.push({ ...draw, start: draw.start + day * DAY });
  }
  return { draws: all, days };
}

/** Who holds the pressure: the switch alone, or a valve while water is drawn. */
export type Control = "switched" | "valved";

/** The school of control a job's own tank is kept by. */
export const controlOf = ({ pressureTank }: Pick<JobDocument, "pressureTank">): Control =>
  pressureTank?.valve ? "valved" : "switched";

/** The days of a job's well and tank, by either school of control. */
export function wellDayOf(
  job: JobWithWell,
  at: WaterLevel = "low",
  known: KnownOfWell = knownOfWell(job),
  of: (control: Control) => MethodDay | undefined = (control) => dayUnder(job, control, at, known),
): WellDayResult {
  const house = job.house ?? {};
  const { draws, days } = drawsOf(house);
  const use = house.use ?? "house";
  const first = draws.filter(({ start }) => start < DAY);
  const base: WellDayResult = {
    ...{ days, use, draws: first.length, volume: volumeOf(first) },
    count: house.count ?? USUAL_COUNT[use],
    countAssumed: house.count === undefined && use !== "typed",
  };
  const system = systemOf(job, at, known);
  if (system === "no-water") return { ...base, noWater: true };
  const [switched, valved] = [of("switched"), of("valved")];
  if (!system || !switched || !valved) return base;
  const { solved } = known;
  // Of the pump in the well: the booster's own is told by its runs.
  const lift =
    system.pump.boosts && solved.kind !== "refused"
      ? workForWater(job, solved.solution).well
      : undefined;
  return {
    ...{ ...base, switched, valved },
    ...(lift !== undefined && { lifting: lift * volumeOf(draws) }),
  };
}

/** The days by one school of control; nothing while no pump runs into a tank, or it stands dry. */
export function dayUnder(
  job: JobWithWell,
  control: Control,
  at: WaterLevel = "low",
  known: KnownOfWell = knownOfWell(job),
): MethodDay | undefined {
  const system = systemOf(job, at, known);
  if (!system || system === "no-water") return undefined;
  const { plate } = system.pump;
  const { draws, days } = drawsOf(job.house);
  const held = control === "valved" ? valveOf(job.pressureTank, plate?.leastFlow) : {};
  const run = tankDay({ ...system, ...held }, draws, days * DAY);
  const taps = tapsOf(job, draws, run);
  return {
    ...{ run, taps },
    findings: [
      ...findingsIn("draws", { run, startsLimit: plate?.startsPerHour }),
      ...taps.flatMap(({ least }) => (least === undefined ? [] : findingsIn("tap", { least }))),
    ],
  };
}

/** A job's well, pump and tank as water is drawn, on the switch alone. */
function systemOf(
  job: JobWithWell,
  at: WaterLevel,
  { filledBy }: KnownOfWell,
): (WellSystem & { pump: FilledBy }) | "no-water" | undefined {
  const pump = filledBy();
  const { source, site } = job;
  if (!pump || source.kind !== "well" || job.pumps.length === 0) return undefined;
  const top = topOf(job);
  const standing = levelsOf(source)[at];
  if (!pump.boosts && standing <= source.intake) return "no-water";
  const likely = drawdownAt(source.drawdown, pump.flowAt(standing, pump.pressure));
  const area =
    meanArea(job.well?.casings ?? [], top - standing, top - standing + Math.max(likely, 1)) ??
    USUAL_AREA;
  const guard = guardOf(job, top - standing);
  return {
    ...{ pump, tank: tankOf(job.pressureTank), air: atmosphericPressure(site.altitude) },
    well: {
      ...{ standing, area, intake: source.intake },
      // A booster draws from an open tank, and the well fills that meanwhile.
      drawdown: pump.boosts ? { linear: 0, quadratic: 0 } : source.drawdown,
    },
    ...(!pump.boosts && {
      protection: { stop: top - guard.stop, restart: top - guard.restart },
    }),
  };
}

function runOf(stock: string, length: number): PipeRun | undefined {
  const found = findPipeStock(stock);
  return found && { length, bore: found.bore, ...surfaceOf(found) };
}

/** The pressure at each tap through all its draws. */
function tapsOf(
  job: Pick<JobDocument, "house" | "site">,
  draws: readonly Draw[],
  { times, pressure, drawn }: TankDay,
): TapResult[] {
  const { taps = [], shared } = job.house ?? {};
  const water = waterAt(job.site.waterTemperature, job.site.specificGravity);
  const sharedRun = shared && runOf(shared.stock, shared.length);
  return taps.map(({ name, height, stock, length, flow }, i): TapResult => {
    const branch = runOf(stock, length);
    if (!branch) return { name, flow, draws: [] };
    const tap: Tap = { height, branch, flow };
    const told: TapResult = { name, flow, draws: [] };
    for (const draw of draws) {
      if (draw.tap !== i) continue;
      const end = draw.start + draw.duration;
      let least = Number.POSITIVE_INFINITY;
      for (let k = firstAtOrAfter(times, draw.start); k < times.length; k++) {
        const time = times[k] as number;
        if (time > end) break;
        // At the moment it ends nothing of it is drawn any more.
        const together = Math.max(drawn[k] as number, time < end ? flow : 0);
        if (together < flow * (1 - 1e-9)) continue;
        const own = tapPressure(
          tap,
          pressure[k] as number,
          sharedRun && { run: sharedRun, flow: together },
          water,
        );
        least = Math.min(least, own);
        if (told.least === undefined || own < told.least) {
          told.least = own;
          told.at = time;
        }
        if (told.most === undefined || own > told.most) told.most = own;
      }
      if (Number.isFinite(least)) told.draws.push({ from: draw.start, to: end, least });
    }
    return told;
  });
}
