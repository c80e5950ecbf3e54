/**
 * Saturation pressure and saturated-liquid density of ordinary water.
 *
 * Source: IAPWS SR1-86(1992), Revised Supplementary Release on Saturation Properties of Ordinary
 * Water Substance, equations 1 and 2. Valid from the triple point (273.16 K) to the critical point.
 */
const CRITICAL_TEMPERATURE = 647.096;
const CRITICAL_PRESSURE = 22.064e6;
const CRITICAL_DENSITY = 322;

/**
 * Vapour pressure in Pa at a temperature in K.
 * @example saturationPressure(293.15) // 2339
 */
export function saturationPressure(temperature: number): number {
  const tau = 1 - temperature / CRITICAL_TEMPERATURE;
  const series =
    -7.85951783 * tau +
    1.84408259 * tau ** 1.5 -
    11.7866497 * tau ** 3 +
    22.6807411 * tau ** 3.5 -
    15.9618719 * tau ** 4 +
    1.80122502 * tau ** 7.5;
  return CRITICAL_PRESSURE * Math.exp((CRITICAL_TEMPERATURE / temperature) * series);
}

/**
 * Density of the saturated liquid in kg/m³ at a temperature in K.
 * @example saturatedLiquidDensity(293.15) // 998.2
 */
export function saturatedLiquidDensity(temperature: number): number {
  const tau = 1 - temperature / CRITICAL_TEMPERATURE;
  return (
    CRITICAL_DENSITY *
    (1 +
      1.99274064 * tau ** (1 / 3) +
      1.09965342 * tau ** (2 / 3) -
      0.510839303 * tau ** (5 / 3) -
      1.75493479 * tau ** (16 / 3) -
      45.5170352 * tau ** (43 / 3) -
      6.7469445e5 * tau ** (110 / 3))
  );
}
