import { GRAVITY } from "../quantity/constants.ts";
import { AIR } from "./pressureTank.ts";

/** Pumps that lift with air: Pa are gauge, air is counted at outside pressure. */

/**
 * Part of the air's isothermal work that lifts water, by how deep the foot lies under the pumping level over its whole
 * length. From memory: the constants of the customary formula for air lifts, turned into an efficiency.
 */
const EFFICIENCY: readonly (readonly [submergence: number, part: number])[] = [
  [0.35, 0.37],
  [0.4, 0.42],
  [0.5, 0.51],
  [0.6, 0.57],
  [0.75, 0.63],
];

/** Part of the work at its shaft a small compressor puts into the air, isothermally. Common practice, no source. */
export const COMPRESSOR = 0.4;

/** Pa that valves, hose and outlet take once air runs, beside the water over the inlet. Common practice, no source. */
export const AIR_LOSSES = 7000;

/** Pa at which an air pump starts: ρ g of the water over its air inlet. What the lift itself takes is apart. */
export const startPressure = (density: number, submergence: number): number =>
  density * GRAVITY * submergence;

export type AirLiftResult =
  | {
      kind: "lifts";
      /** m³/s */
      flow: number;
      /** submerged part of the whole length */
      submergence: number;
      efficiency: number;
      /** W of a compressor, and J for a m³ */
      power: number;
      perVolume: number;
    }
  /** Pa that start it: the water over its inlet as it stands before */
  | { kind: "will-not-start"; needs: number }
  /** it starts, and has not the Pa that its lift takes with air running */
  | { kind: "will-not-run"; needs: number }
  /** so little of it stands in water that nothing is known of it, and it gurgles */
  | { kind: "too-little-water"; submergence: number };

/**
 * Flow of an air lift: ρ g h Q = η p₀ Qₐ ln((p₀ + ρ g S)/p₀), the isothermal work of the air that rises from a foot S m
 * under the pumping level and lifts the water h m over it. η by S/(S + h), 0.35 to 0.75, from memory.
 * @param air m³/s of air as it is outside, and Pa the compressor gives
 */
export function airLift(
  lift: number,
  /** m of the foot under the water as it stands before, and while it runs */
  standing: number,
  pumping: number,
  air: { flow: number; pressure: number },
  density: number,
  outside = AIR,
): AirLiftResult {
  const needs = startPressure(density, standing);
  if (air.pressure < needs) return { kind: "will-not-start", needs };
  const running = startPressure(density, Math.max(pumping, 0)) + AIR_LOSSES;
  if (air.pressure < running) return { kind: "will-not-run", needs: running };
  const submergence = pumping / (pumping + lift);
  const [least] = EFFICIENCY[0] as readonly [number, number];
  if (pumping <= 0 || submergence < least) return { kind: "too-little-water", submergence };
  const efficiency = efficiencyAt(submergence);
  const flow = airLiftFlow(efficiency, air.flow, pumping, lift, density, outside);
  const power = (air.flow * outside * Math.log((outside + air.pressure) / outside)) / COMPRESSOR;
  return { kind: "lifts", flow, submergence, efficiency, power, perVolume: power / flow };
}

export function airLiftFlow(
  efficiency: number,
  air: number,
  submergence: number,
  lift: number,
  density: number,
  outside = AIR,
): number {
  const perAir = outside * Math.log((outside + density * GRAVITY * submergence) / outside);
  return (efficiency * air * perAir) / (density * GRAVITY * lift);
}

function efficiencyAt(submergence: number): number {
  for (let i = 1; i < EFFICIENCY.length; i++) {
    const [a, from] = EFFICIENCY[i - 1] as readonly [number, number];
    const [b, to] = EFFICIENCY[i] as readonly [number, number];
    if (submergence <= b) return from + ((to - from) * (submergence - a)) / (b - a);
  }
  return (EFFICIENCY.at(-1) as readonly [number, number])[1];
}

/** m³/s and J a m³ of a pump that throws a slug each so many s, by what was measured of it. */
export function pulsePump(
  slug: number,
  period: number,
  power: number,
): { flow: number; perVolume: number } {
  const flow = slug / period;
  return { flow, perVolume: power / flow };
}
