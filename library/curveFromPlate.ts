import type { PumpInput } from "#contract/documents/pump.ts";

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
}

const DENSITY = 998.2;
const GRAVITY = 9.80665;

/**
 * Nine points of a believable centrifugal curve: head falls with the square of flow through the
 * best-efficiency point, efficiency is a parabola through nothing, best, and nothing at twice the best
 * flow, power follows from both.
 */
export function curveFromPlate(plate: Plate): PumpInput["points"] {
  const { shutoffHead, bestFlow, bestHead, runout, bestEfficiency, npshAtBest } = plate;
  return Array.from({ length: 9 }, (_, i) => {
    const x = (runout * i) / 8;
    const head = shutoffHead - (shutoffHead - bestHead) * x * x;
    // ρ g Q H / η with η = best · x (2 − x); x cancels, so that shut-off needs no special case.
    const power = (DENSITY * GRAVITY * bestFlow * head) / (bestEfficiency * (2 - x));
    return {
      flow: round(x * bestFlow, 4),
      head: round(head, 3),
      power: round(power, 3),
      ...(npshAtBest !== undefined && { npshRequired: round(npshAtBest * (0.6 + 0.4 * x * x), 2) }),
    };
  });
}

function round(value: number, digits: number): number {
  return value === 0 ? 0 : Number(value.toPrecision(digits));
}
