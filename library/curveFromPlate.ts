import type { PumpInput } from "#contract/documents/pump.ts";
import { GRAVITY } from "#core/quantity/constants.ts";

/** The few numbers an invented pump is drawn from. SI. */
export interface Plate {
  shutoffHead: number;
  bestFlow: number;
  bestHead: number;
  /** last published flow as a multiple of best-efficiency flow */
  runout: number;
  bestEfficiency: number;
  /** NPSH required at best efficiency, m; left out for pumps that stand in the water */
  npshAtBest?: number;
  /** power at shut-off as a share of that at best efficiency */
  powerAtShutOff?: number;
}

/** kg/m³ of the water they are tested with */
export const DENSITY = 998.2;

/**
 * Power at shut-off as a share of that at best efficiency: a small radial pump draws least there and most at
 * run-out, along a line that is nearly straight (common practice, no source).
 */
const POWER_AT_SHUT_OFF = 0.6;

/**
 * Thirteen points of a believable radial pump: head falls from shut-off through the best-efficiency point, power
 * rises straight to run-out, and efficiency, which follows from both, is best where the plate says: that fixes
 * how the head falls. At x = Q/Q_b the head is s − (s − 1)x^m of the best, s the shut-off head over it, and the
 * efficiency is stationary at x = 1 where m (s − 1) is the power's share at shut-off.
 */
export function curveFromPlate(plate: Plate): PumpInput["points"] {
  const { shutoffHead, bestFlow, bestHead, runout, bestEfficiency, npshAtBest } = plate;
  const { powerAtShutOff = POWER_AT_SHUT_OFF } = plate;
  const droop = shutoffHead / bestHead - 1;
  const exponent = Math.min(Math.max(powerAtShutOff / droop, 1.1), 3);
  const atShutOff = exponent * droop;
  const bestPower = (DENSITY * GRAVITY * bestFlow * bestHead) / bestEfficiency;
  return Array.from({ length: 13 }, (_, i) => {
    const x = (runout * i) / 12;
    const head = shutoffHead - (shutoffHead - bestHead) * x ** exponent;
    const power = bestPower * (atShutOff + (1 - atShutOff) * x);
    return {
      flow: round(x * bestFlow, 4),
      head: round(head, 4),
      power: round(power, 3),
      ...(npshAtBest !== undefined && { npshRequired: round(npshAtBest * (0.6 + 0.4 * x * x), 2) }),
    };
  });
}

function round(value: number, digits: number): number {
  return value === 0 ? 0 : Number(value.toPrecision(digits));
}
