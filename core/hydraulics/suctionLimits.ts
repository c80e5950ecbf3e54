import { atmosphericPressure } from "../fluid/atmosphere.ts";
import { type Water, waterAt } from "../fluid/water.ts";
import { GRAVITY } from "../quantity/constants.ts";

/**
 * Greatest height in m that air pressure can hold water up at an altitude: (p_atm − p_v)/ρg. No pump
 * sucks water higher than this; none reaches it.
 */
export function barometricLimit(altitude: number, water: Water): number {
  return (atmosphericPressure(altitude) - water.vapourPressure) / (water.density * GRAVITY);
}

/**
 * A maker's suction lift limit, given at sea level with water of 15 °C, where the pump really stands.
 * The pump needs the rest of the barometric head for itself, so the limit falls by as much as the
 * barometric limit does. Common practice, no source.
 */
export function correctedLiftLimit(rated: number, altitude: number, water: Water): number {
  return rated - (barometricLimit(0, waterAt(288.15)) - barometricLimit(altitude, water));
}
