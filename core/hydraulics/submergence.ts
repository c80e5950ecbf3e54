import { GRAVITY } from "../quantity/constants.ts";

/**
 * Depth in m of water needed over an intake so that no vortex draws air, S = D (1 + 2.3 V/√(gD)), for an
 * inlet of diameter D (m) and a velocity V (m/s) in it. Source: ANSI/HI 9.8, from memory.
 * @example submergence(0.05, 1.5) // 0.296
 */
export function submergence(diameter: number, velocity: number): number {
  return diameter * (1 + (2.3 * velocity) / Math.sqrt(GRAVITY * diameter));
}
