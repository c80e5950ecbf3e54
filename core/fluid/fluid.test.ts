import { describe, expect, it } from "vitest";
import { atmosphericPressure } from "./atmosphere.ts";
import { saturatedLiquidDensity, saturationPressure } from "./saturation.ts";
import { viscosity } from "./viscosity.ts";
import { waterAt } from "./water.ts";

describe("water and air against their published formulations", () => {
  // IAPWS SR1-86(1992), table 1: computer-program verification values.
  it.each([
    [273.16, 611.657, 999.789],
    [373.1243, 101325, 958.365],
    [647.096, 22.064e6, 322],
  ])("at %f K the vapour pressure is %f Pa and the density %f kg/m³", (t, pressure, density) => {
    expect(saturationPressure(t) / pressure).toBeCloseTo(1, 5);
    expect(saturatedLiquidDensity(t) / density).toBeCloseTo(1, 5);
  });

  // IAPWS SR6-08(2011), table of check values, 298.15 K; 293.15 K is the 1.0016 mPa·s of ISO/TR 3666.
  it.each([
    [298.15, 889.997e-6, 6],
    [293.15, 1.0016e-3, 3],
  ])("at %f K the viscosity is %f Pa·s", (t, expected, digits) => {
    expect(viscosity(t) / expected).toBeCloseTo(1, digits);
  });

  // ISO 2533 / U.S. Standard Atmosphere 1976 (the same troposphere), pressure by geopotential height.
  it.each([
    [0, 101325],
    [1000, 89874.6],
    [2000, 79495.2],
    [3000, 70108.5],
    [5000, 54019.9],
  ])("at %i m the air presses with %f Pa", (altitude, expected) => {
    expect(atmosphericPressure(altitude) / expected).toBeCloseTo(1, 4);
  });

  it("holds temperatures outside the formulations at the nearer end", () => {
    expect(waterAt(200)).toEqual(waterAt(273.16));
    expect(waterAt(293.15, 1.1).density / waterAt(293.15).density).toBeCloseTo(1.1, 12);
  });
});
