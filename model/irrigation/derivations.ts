import { type Derivation, derive } from "#core/formula/formula.ts";
import {
  CHART_THROW,
  CHRISTIANSEN,
  LAID,
  LOW_QUARTER,
  MEASURED_THROW,
  PER_SET,
  RATE,
  TEXTBOOK_THROW,
  WETTED,
} from "#core/formula/irrigation.ts";
import { expectedThrow } from "#core/irrigation/gun.ts";
import { GRAVITY, WATER_DENSITY } from "#core/quantity/constants.ts";
import type { GunResult } from "./guns.ts";
import type { IrrigationResult } from "./irrigation.ts";

/** Figures of a watering that show their working. */
export const IRRIGATION_FIGURES = [
  "throw",
  "wets",
  "rate",
  "per-set",
  "laid",
  "christiansen",
  "low-quarter",
] as const;
export type IrrigationFigure = (typeof IRRIGATION_FIGURES)[number];

/** How a figure comes about; nothing while it is not told. `gun` is the one it is asked of. */
export function irrigationDerivation(
  figure: IrrigationFigure,
  told: IrrigationResult,
  gun: GunResult | undefined = told.guns[0],
): Derivation | undefined {
  const { sets, timing, flow, cans } = told;
  switch (figure) {
    case "throw":
      return gun && throwOf(told, gun);
    case "wets":
    case "rate": {
      if (gun?.thrown.kind !== "throws") return undefined;
      const wetted = derive(WETTED, [gun.thrown.radius, gun.gun.arc ?? 360]);
      const before = [...throwOf(told, gun), wetted];
      return figure === "wets"
        ? before
        : [...before, derive(RATE, [gun.flow, wetted.result.value])];
    }
    case "per-set":
      if (sets?.kind !== "planned" || !timing) return undefined;
      return [derive(PER_SET, [timing.depth, sets.area, sets.sets, flow, sets.outside])];
    case "laid":
      if (sets?.kind !== "planned" || !timing) return undefined;
      return [derive(LAID, [timing.depth, sets.area, sets.outside])];
    case "christiansen":
    case "low-quarter": {
      if (cans?.test.kind !== "tested") return undefined;
      const { deviation, mean, least } = cans.test.evenness;
      return figure === "christiansen"
        ? [derive(CHRISTIANSEN, [deviation, mean])]
        : [derive(LOW_QUARTER, [least, mean])];
    }
  }
}

function throwOf(
  { calibration }: IrrigationResult,
  { gun, pressure, thrown }: GunResult,
): Derivation {
  if (thrown.kind !== "throws") return [];
  const expected = expectedThrow(gun, pressure);
  const first =
    gun.chart && gun.chart.length > 0
      ? derive(CHART_THROW, [pressure, expected])
      : derive(TEXTBOOK_THROW, [gun.bore, pressure / (WATER_DENSITY * GRAVITY)]);
  return thrown.by === "measured" && calibration
    ? [first, derive(MEASURED_THROW, [calibration.factor, expected])]
    : [first];
}
