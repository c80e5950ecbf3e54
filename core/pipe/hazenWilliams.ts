import type { PipeRun } from "./darcyWeisbach.ts";

/**
 * Head lost to friction in m over a length (m) at a flow (m³/s, not negative) through a bore (m).
 *
 * h = 10.67 L Q^1.852 / (C^1.852 D^4.8704), the SI form of the Hazen–Williams formula. Empirical:
 * water at ordinary temperature, turbulent, bores from about 50 mm, velocity up to about 3 m/s;
 * `hazenWilliamsConcerns` names what lies outside.
 * @example hazenWilliams(100, 0.005, 150, 0.0525) // 9.33
 */
export function hazenWilliams(length: number, flow: number, c: number, bore: number): number {
  return (10.67 * length * (flow / c) ** 1.852) / bore ** 4.8704;
}

/** Head in m a run loses at a flow in m³/s (zero or positive). */
export function hazenWilliamsLoss(run: PipeRun, flow: number): number {
  return flow <= 0 ? 0 : hazenWilliams(run.length, flow, run.hazenWilliamsC, run.bore);
}

export type HazenWilliamsConcern = "temperature" | "velocity" | "bore";

/** Which limits of the formula a run breaks: 5–25 °C, v ≤ 3 m/s, D ≥ 50 mm. */
export function hazenWilliamsConcerns(
  bore: number,
  velocity: number,
  temperature: number,
): HazenWilliamsConcern[] {
  const concerns: HazenWilliamsConcern[] = [];
  if (temperature < 278.15 || temperature > 298.15) concerns.push("temperature");
  if (velocity > 3) concerns.push("velocity");
  if (bore < 0.05) concerns.push("bore");
  return concerns;
}
