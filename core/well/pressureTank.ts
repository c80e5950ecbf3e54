import { PSI } from "../quantity/constants.ts";

/**
 * A pressure tank with a bladder: m³, and Pa (gauge) of its air with no water in it, and of its switch. Air pressure
 * outside, `air` in Pa, turns gauge into absolute.
 */
export interface PressureTank {
  volume: number;
  preCharge: number;
  cutIn: number;
  cutOut: number;
}

/** Pa under the cut-in a tank's air is set to: for a common pump, and for one that starts softly. Common practice, no source. */
export const PRE_CHARGE_UNDER = { "2-psi-under": 2 * PSI, "5-psi-under": 5 * PSI } as const;
export type PreChargeMethod = keyof typeof PRE_CHARGE_UNDER;

/** Pa (gauge) of air by a school; never under none. */
export const preChargeBy = (school: PreChargeMethod, cutIn: number): number =>
  Math.max(cutIn - PRE_CHARGE_UNDER[school], 0);

export const AIR = 101_325;

/**
 * m³ a tank gives between two pressures: V p_pre (1/p_on − 1/p_off), all absolute. Source: Boyle, p V constant, the air as
 * warm after as before.
 */
export function tankGives(
  volume: number,
  preCharge: number,
  on: number,
  off: number,
  air = AIR,
): number {
  const gas = volume * (preCharge + air);
  // Below its own air a tank is empty, and has no more to give.
  const from = Math.max(on, preCharge);
  return Math.max(gas * (1 / (from + air) - 1 / (off + air)), 0);
}

/** m³ of a tank that gives so much between two pressures. */
export function tankFor(
  gives: number,
  preCharge: number,
  on: number,
  off: number,
  air = AIR,
): number {
  return gives / tankGives(1, preCharge, on, off, air);
}

/** s from one start to the next, and s of it the pump runs. */
export interface Cycle {
  run: number;
  rest: number;
}

export type CycleResult =
  | ({ kind: "cycles" } & Cycle)
  /** the use takes all the pump gives at this pressure in Pa: it runs on and never reaches its cut-out */
  | { kind: "runs-on"; pressure: number };

/**
 * One cycle of a tank while so many m³/s are used all the time. The pump's flow depends on the tank's pressure; the run is
 * ∫ dV/(Q(p) − q) from cut-in to cut-out, the rest V/q.
 * @param flowAt m³/s that comes to the tank at a pressure in Pa
 */
export function tankCycle(
  tank: PressureTank,
  flowAt: (pressure: number) => number,
  use: number,
  air = AIR,
): CycleResult {
  const { volume, preCharge, cutIn, cutOut } = tank;
  // With more air than its cut-out there is no water in it at all.
  const from = Math.min(Math.max(cutIn, preCharge), cutOut);
  const gas = volume * (preCharge + air);
  const waterAt = (pressure: number) => volume - gas / (pressure + air);
  const step = (cutOut - from) / PANELS;
  let run = 0;
  for (let i = 0; i < PANELS; i++) {
    const pressure = from + (i + 0.5) * step;
    const net = flowAt(pressure) - use;
    if (net <= 0) return { kind: "runs-on", pressure };
    run += (waterAt(from + (i + 1) * step) - waterAt(from + i * step)) / net;
  }
  return {
    kind: "cycles",
    run,
    rest:
      use > 0 ? tankGives(volume, preCharge, cutIn, cutOut, air) / use : Number.POSITIVE_INFINITY,
  };
}

const PANELS = 160;

/** Starts an hour at one use; of a pump that runs on none. */
export interface StartsAt {
  /** m³/s */
  use: number;
  startsPerHour: number;
  /** s it runs at a time; without end where it runs on */
  run: number;
}

/** Starts over the whole range of use, from nothing to what the pump gives at its cut-in. */
export function startsOverUse(
  tank: PressureTank,
  flowAt: (pressure: number) => number,
  air = AIR,
  /** m³/s up to which half of all uses are looked at: where a valve makes little uses matter most */
  fineTo = 0,
): StartsAt[] {
  const most = flowAt(Math.max(tank.cutIn, tank.preCharge));
  const bend = fineTo > 0 && fineTo < most ? fineTo : most / 2;
  return Array.from({ length: USES + 1 }, (_, i): StartsAt => {
    const half = USES / 2;
    const use = i <= half ? (bend * i) / half : bend + ((most - bend) * (i - half)) / half;
    const cycle = tankCycle(tank, flowAt, use, air);
    if (cycle.kind === "runs-on") {
      return { use, startsPerHour: 0, run: Number.POSITIVE_INFINITY };
    }
    return { use, startsPerHour: use > 0 ? 3600 / (cycle.run + cycle.rest) : 0, run: cycle.run };
  });
}

const USES = 64;

/** The use at which it starts most often. */
export const mostStarts = (over: readonly StartsAt[]): StartsAt | undefined =>
  over.reduce<StartsAt | undefined>(
    (worst, own) => (!worst || own.startsPerHour > worst.startsPerHour ? own : worst),
    undefined,
  );

/** A valve at the well's head that lets just so much through that the pressure behind it stays. */
export interface ThrottleValve {
  /** Pa it holds behind it */
  pressure: number;
  /** m³/s it always lets through, so that the motor is cooled */
  leastFlow: number;
}

/** Pa from wide open to its least flow. Common practice, no source. */
export const VALVE_BAND = 3 * PSI;

/** m³/s through a valve that a pump could push `open` through wide open, at a pressure behind it in Pa. */
export function throughValve(valve: ThrottleValve, open: number, pressure: number): number {
  const part = Math.min(Math.max((valve.pressure - pressure) / VALVE_BAND, 0), 1);
  const least = Math.min(valve.leastFlow, open);
  return least + (open - least) * part;
}
