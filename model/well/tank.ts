import { currentOf, USUAL_POWER_FACTOR } from "#core/driving/motor.ts";
import { atmosphericPressure } from "#core/fluid/atmosphere.ts";
import { boreAt } from "#core/line/casing.ts";
import { levelsOf } from "#core/line/path.ts";
import { bracketedRoot } from "#core/numeric/bracketedRoot.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import { annulusVelocity, coolingVelocity } from "#core/well/cooling.ts";
import { drawdownAt } from "#core/well/drawdown.ts";
import {
  mostStarts,
  PRE_CHARGE_UNDER,
  type PreChargeMethod,
  type PressureTank,
  preChargeBy,
  type StartsAt,
  startsOverUse,
  type ThrottleValve,
  tankCycle,
  tankFor,
  tankGives,
  throughValve,
} from "#core/well/pressureTank.ts";
import type { JobWithWell } from "./season.ts";
import { pumpDepth } from "./settle.ts";
import type { FilledBy } from "./tankLine.ts";
import { isUpsideDown, tankOf, valveOf } from "./usual.ts";

/** A tank on a plain switch, or behind a valve: how it starts and what it asks of pipe and motor. */
export interface MethodResult {
  tank: PressureTank;
  /** m³ between cut-out and cut-in */
  gives: number;
  /** over the whole range of use */
  starts: StartsAt[];
  worst?: StartsAt;
  /** s: the shortest it ever runs, with nothing used meanwhile */
  shortest?: number;
  /** it never stops, even with nothing used */
  runsOn: boolean;
  /** at a few uses, while water is drawn */
  at: AtUse[];
}

/** While so many m³/s are drawn all the time. */
export interface AtUse {
  use: number;
  /** Pa at the foot of the drop pipe over what stands outside */
  pipe: number;
  /** W, A and J a m³; absent where no power is published */
  power?: number;
  current?: number;
  perVolume?: number;
}

export interface TankResult {
  tank: PressureTank & { school: PreChargeMethod };
  /** what a tank of this size gives by either school of pre-charge */
  schools: { school: PreChargeMethod; preCharge: number; gives: number }[];
  air: number;
  /** absent while no pump runs into a tank */
  switched?: MethodResult;
  valved?: MethodResult & { valve: ThrottleValve };
  /** m³ of the smallest tank on the plain switch that lets the pump run a minute */
  forMinute?: number;
  /** what the pump's plate allows */
  startsLimit?: number;
  leastFlow?: number;
  /** pre-charge stands above the cut-in: the taps run dry before the pump starts */
  overCharged: boolean;
  /** its cut-out lies at its cut-in or under it */
  upsideDown: boolean;
  /** m³/s at the middle of the switch */
  flow?: number;
  /** m/s past the motor while the valve lets only its least flow through, and m/s that cool it */
  past?: { velocity: number; limit: number };
}

const USES = [0.25, 0.5, 0.75, 1];

/** What a job's pressure tank comes to, on its switch alone and with a valve that holds the pressure. */
export function tankResultOf(job: JobWithWell, pump: FilledBy | undefined): TankResult {
  const tank = tankOf(job.pressureTank);
  const air = atmosphericPressure(job.site.altitude);
  const schools = (Object.keys(PRE_CHARGE_UNDER) as PreChargeMethod[]).map((school) => {
    const preCharge = preChargeBy(school, tank.cutIn);
    const gives = tankGives(tank.volume, preCharge, tank.cutIn, tank.cutOut, air);
    return { school, preCharge, gives };
  });
  const upsideDown = isUpsideDown(job.pressureTank);
  const base = { tank, schools, air, upsideDown, overCharged: tank.preCharge > tank.cutIn };
  const plate = pump?.plate;
  if (!pump || job.source.kind !== "well") return base;
  // A booster draws from an open tank, whose water stays where it is.
  const drawdown = pump.boosts ? { linear: 0, quadratic: 0 } : job.source.drawdown;
  // In the wet season the pump gives most, runs shortest and starts most often.
  const standing = levelsOf(job.source).high;
  // What comes at a pressure, the water drawn down as that flow itself asks.
  const openAt = (pressure: number) => {
    const most = pump.flowAt(standing, pressure);
    const over = (flow: number) =>
      flow - pump.flowAt(standing - drawdownAt(drawdown, flow), pressure);
    return most <= 0 || over(most) <= 0
      ? most
      : bracketedRoot(over, 0, most, over(0), over(most), 1e-10);
  };
  const table = tabulated(openAt, Math.min(tank.cutIn, tank.preCharge), tank.cutOut);
  const perMetre = pump.density * GRAVITY;
  const electric = plate?.electric;
  const { phase = 1, volts, powerFactor = USUAL_POWER_FACTOR } = electric ?? {};
  // What the pump adds at a flow is the pipe's pressure over the water outside.
  const atUse = (use: number): AtUse => {
    const power = pump.powerAt(use);
    return {
      use,
      pipe: pump.headAt(use) * perMetre,
      ...(power !== undefined && { power, perVolume: power / use }),
      ...(power !== undefined && volts && { current: currentOf(power, volts, powerFactor, phase) }),
    };
  };
  const most = table(tank.cutIn);
  const school = (
    own: PressureTank,
    flowAt: (pressure: number) => number,
    at: AtUse[],
    fineTo?: number,
  ): MethodResult => {
    const starts = startsOverUse(own, flowAt, air, fineTo);
    const worst = mostStarts(starts);
    const idle = tankCycle(own, flowAt, 0, air);
    return {
      tank: own,
      gives: tankGives(own.volume, own.preCharge, own.cutIn, own.cutOut, air),
      starts,
      ...(worst && { worst }),
      ...(idle.kind === "cycles" && { shortest: idle.run }),
      runsOn: idle.kind === "runs-on",
      at,
    };
  };
  const { valve, tank: behind } = valveOf(job.pressureTank, plate?.leastFlow);
  const middle = table((tank.cutIn + tank.cutOut) / 2);
  const uses = USES.map((part) => part * middle);
  // On a plain switch the pump gives all it can while it runs, whatever is drawn.
  const plain = uses.map((use) => ({ ...atUse(middle), use }));
  const held = uses.map((use) => ({ ...atUse(Math.max(use, valve.leastFlow)), use }));
  const throttled = (pressure: number) => throughValve(valve, table(pressure), pressure);
  return {
    ...base,
    switched: school(tank, table, plain),
    valved: { ...school(behind, throttled, held, 1.2 * valve.leastFlow), valve },
    forMinute: tankFor(60 * middle, tank.preCharge, tank.cutIn, tank.cutOut, air),
    ...(plate?.startsPerHour !== undefined && { startsLimit: plate.startsPerHour }),
    ...(plate?.leastFlow !== undefined && { leastFlow: plate.leastFlow }),
    ...(most > 0 && { flow: middle }),
    ...(!pump.boosts && pastMotor(job, plate?.diameter, valve.leastFlow)),
  };
}

/** How fast a flow passes a motor where it hangs; nothing where its width or the bore round it is not told. */
function pastMotor(
  job: JobWithWell,
  diameter: number | undefined,
  flow: number,
): Pick<TankResult, "past"> {
  const bore = job.well?.sleeve ?? boreAt(job.well?.casings ?? [], pumpDepth(job));
  if (diameter === undefined || bore === undefined || bore <= diameter) return {};
  return {
    past: { velocity: annulusVelocity(flow, bore, diameter), limit: coolingVelocity(diameter) },
  };
}

const STEPS = 32;

/** A falling flow read off a table, straight between its rows. */
function tabulated(of: (x: number) => number, from: number, to: number): (x: number) => number {
  const step = (to - from) / STEPS;
  const values = Array.from({ length: STEPS + 1 }, (_, i) => of(from + i * step));
  return (x) => {
    const along = Math.min(Math.max((x - from) / step, 0), STEPS);
    const i = Math.min(Math.floor(along), STEPS - 1);
    const [a, b] = [values[i] as number, values[i + 1] as number];
    return a + (b - a) * (along - i);
  };
}
