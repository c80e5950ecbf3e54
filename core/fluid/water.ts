import { saturatedLiquidDensity, saturationPressure } from "./saturation.ts";
import { viscosity } from "./viscosity.ts";

/** The water being pumped, as the rest of the core needs it. SI units. */
export interface Water {
  /** K */
  temperature: number;
  /** kg/m³, after the specific gravity is applied */
  density: number;
  /** Pa·s */
  viscosity: number;
  /** Pa, absolute */
  vapourPressure: number;
}

/** Temperatures the property formulations and the trade both cover: 0.01–95 °C, in K. */
export const WATER_TEMPERATURE = { min: 273.16, max: 368.15 } as const;

/**
 * Properties at a temperature (K, within `WATER_TEMPERATURE`; a value outside is held at the
 * nearer end) and a specific gravity relative to clean water.
 *
 * Dirty water is heavier, but its viscosity is taken as clean water's: sludge is not covered.
 * The saturated-liquid density stands in for density at pump pressures; the error is below 0.1 %
 * up to 2 MPa.
 */
export function waterAt(temperature: number, specificGravity = 1): Water {
  const held = Math.min(Math.max(temperature, WATER_TEMPERATURE.min), WATER_TEMPERATURE.max);
  return {
    temperature: held,
    density: saturatedLiquidDensity(held) * specificGravity,
    viscosity: viscosity(held),
    vapourPressure: saturationPressure(held),
  };
}
