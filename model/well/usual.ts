import type { TankDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { FOOT, GALLON, PSI } from "#core/quantity/constants.ts";
import {
  type PreChargeMethod,
  type PressureTank,
  preChargeBy,
  type ThrottleValve,
} from "#core/well/pressureTank.ts";

/** What stands in until somebody types it. Common practice, no source. */

/** Pa between cut-in and cut-out. */
export const SWITCH_SPAN = 20 * PSI;
export const USUAL_METHOD: PreChargeMethod = "2-psi-under";
/** Pa of a switch nobody set, 30 and 50 psi, and m³ of its tank. */
const USUAL_TANK = { volume: 20 * GALLON, cutIn: 30 * PSI, cutOut: 50 * PSI };
/** m³/s a throttle valve always lets through, 1 gpm, and m³ of the tank behind it. */
const USUAL_VALVE = { leastFlow: (1 * GALLON) / 60, volume: 4.4 * GALLON };
/** m² of water in a casing nobody measured: 4 in. */
export const USUAL_AREA = (Math.PI / 4) * 0.1016 ** 2;
/** m over the intake at which a guard stops the pump. */
export const GUARD_OVER = 2 * FOOT;

/** Pa */
const LEAST_SPAN = 1000;

/** Whether a switch would stop the pump at less than it starts it. */
export const isUpsideDown = ({ cutIn, cutOut }: TankDocument = {}): boolean =>
  cutIn !== undefined && cutOut !== undefined && cutOut <= cutIn;

/** A tank whose switch has the pressure a line is laid out for in its middle, narrower where that is low: `m` is a round length near a metre, three feet in US units. */
export function usualTank(pressure: number, m: number): TankDocument {
  const span = Math.min(m < 1 ? SWITCH_SPAN : 140_000, 2 * pressure);
  const cutIn = Math.min(pressure, RANGES.outletPressure.max - span) - span / 2;
  return { volume: m < 1 ? 20 * GALLON : 0.08, cutIn, cutOut: cutIn + span };
}

/** The tank as it counts, with what nobody typed as it usually is. */
export function tankOf(given: TankDocument = {}): PressureTank & { school: PreChargeMethod } {
  const { volume, cutIn = USUAL_TANK.cutIn } = given;
  // How a valve holds the pressure is no school of pre-charge, though older files have it there.
  const school =
    given.school === undefined || given.school === "throttle-valve" ? USUAL_METHOD : given.school;
  // A switch typed upside down is told of, and taken as one that barely switches.
  const cutOut = Math.max(given.cutOut ?? cutIn + SWITCH_SPAN, cutIn + LEAST_SPAN);
  return {
    ...{ volume: volume ?? USUAL_TANK.volume, cutIn, cutOut, school },
    preCharge: given.preCharge ?? preChargeBy(school, cutIn),
  };
}

/** The valve that could hold a tank's pressure, and the tank behind it: never less through it than cools the motor. */
export function valveOf(
  given: TankDocument = {},
  coolingFlow = 0,
): { valve: ThrottleValve; tank: PressureTank } {
  const tank = tankOf(given);
  const { pressure, leastFlow, volume = USUAL_VALVE.volume } = given.valve ?? {};
  return {
    valve: {
      pressure: pressure ?? (tank.cutIn + tank.cutOut) / 2,
      leastFlow: leastFlow ?? Math.max(USUAL_VALVE.leastFlow, coolingFlow),
    },
    tank: { ...tank, volume },
  };
}
