/**
 * Air pressure in Pa at an altitude in m above sea level, −500 to 11 000 m.
 *
 * Source: ISO 2533:1975 standard atmosphere, troposphere. Weather moves the true figure by about
 * ±3 % at sea level, which is 0.3 m of suction lift.
 * @example atmosphericPressure(1500) // 84556
 */
export function atmosphericPressure(altitude: number): number {
  return 101325 * (1 - 2.25577e-5 * altitude) ** 5.25588;
}
