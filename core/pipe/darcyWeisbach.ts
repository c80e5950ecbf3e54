import type { Water } from "../fluid/water.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { frictionFactor } from "./frictionFactor.ts";

/** A straight run of pipe or hose. Lengths in m. */
export interface PipeRun {
  length: number;
  /** real inside diameter */
  bore: number;
  /** absolute roughness ε */
  roughness: number;
  /** Hazen–Williams C */
  hazenWilliamsC: number;
}

/** Head lost to friction in m: h = f (L/D) v²/2g, L and D in m, v in m/s. Source: Darcy–Weisbach. */
export function darcyWeisbach(
  factor: number,
  length: number,
  bore: number,
  velocity: number,
): number {
  return (factor * length * velocity * velocity) / (bore * 2 * GRAVITY);
}

/** Head in m a run loses at a flow in m³/s (zero or positive), with the factor of `frictionFactor`. */
export function darcyWeisbachLoss(run: PipeRun, flow: number, water: Water): number {
  if (flow <= 0) return 0;
  const velocity = meanVelocity(flow, run.bore);
  const factor = frictionFactor(
    reynoldsNumber(water.density, velocity, run.bore, water.viscosity),
    run.roughness / run.bore,
  );
  return darcyWeisbach(factor, run.length, run.bore, velocity);
}

/** Re = ρ v D / μ, from kg/m³, m/s, m and Pa·s. */
export function reynoldsNumber(
  density: number,
  velocity: number,
  bore: number,
  viscosity: number,
): number {
  return (density * velocity * bore) / viscosity;
}

/**
 * Mean velocity in m/s of a flow in m³/s through a bore in m.
 * @example meanVelocity(0.005, 0.0525) // 2.31
 */
export function meanVelocity(flow: number, bore: number): number {
  return (4 * flow) / (Math.PI * bore * bore);
}

/**
 * v²/2g in m.
 * @example velocityHead(0.005, 0.0525) // 0.272
 */
export function velocityHead(flow: number, bore: number): number {
  return coefficientLoss(1, meanVelocity(flow, bore));
}

/**
 * Head in m lost by a coefficient K at a velocity in m/s: h = K v²/2g.
 * @example coefficientLoss(0.5, 2) // 0.102
 */
export function coefficientLoss(k: number, velocity: number): number {
  return (k * velocity * velocity) / (2 * GRAVITY);
}
