import { atmosphericPressure } from "../fluid/atmosphere.ts";
import { type Water, waterAt } from "../fluid/water.ts";
import { GRAVITY, ZERO_CELSIUS } from "../quantity/constants.ts";

/**
 * Greatest height in m that air pressure can hold water up at an altitude: (p_atm − p_v)/ρg. No pump
 * sucks water higher than this; none reaches it.
 */
export function barometricLimit(altitude: number, water: Water): number {
  return barometricHead(atmosphericPressure(altitude), water.vapourPressure, water.density);
}

/** (p_a − p_v)/ρg in m, from Pa, Pa and kg/m³. */
export function barometricHead(air: number, vapour: number, density: number): number {
  return (air - vapour) / (density * GRAVITY);
}

/** m that air pressure holds up at sea level with water of 15 °C, where makers state their limits. */
export const SEA_LEVEL_LIMIT = barometricLimit(0, waterAt(ZERO_CELSIUS + 15));

/**
 * A maker's suction lift limit, given at sea level with water of 15 °C, where the pump really stands.
 * The pump needs the rest of the barometric head for itself, so the limit falls by as much as the
 * barometric limit does. Common practice, no source.
 */
export function correctedLiftLimit(rated: number, altitude: number, water: Water): number {
  return liftLimitHere(rated, SEA_LEVEL_LIMIT, barometricLimit(altitude, water));
}

/** The rated limit less what the barometric limit lost, all in m. */
export function liftLimitHere(rated: number, atSeaLevel: number, here: number): number {
  return rated - (atSeaLevel - here);
}

/** NPSH available in m: what air pressure holds up, less lift and friction. */
export function npshAvailable(barometric: number, lift: number, friction: number): number {
  return barometric - lift - friction;
}
