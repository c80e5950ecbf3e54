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

/**
 * Head lost to friction in m, for a flow in m³/s (zero or positive).
 * h = f (L/D) v²/2g. Source: Darcy–Weisbach with the factor of `frictionFactor`.
 */
export function darcyWeisbachLoss(run: PipeRun, flow: number, water: Water): number {
  if (flow <= 0) return 0;
  const velocity = meanVelocity(flow, run.bore);
  const reynolds = (water.density * velocity * run.bore) / water.viscosity;
  const factor = frictionFactor(reynolds, run.roughness / run.bore);
  return (factor * run.length * velocity * velocity) / (run.bore * 2 * GRAVITY);
}

/** Mean velocity in m/s of a flow in m³/s through a bore in m. */
export function meanVelocity(flow: number, bore: number): number {
  return (4 * flow) / (Math.PI * bore * bore);
}

/** v²/2g in m. */
export function velocityHead(flow: number, bore: number): number {
  const velocity = meanVelocity(flow, bore);
  return (velocity * velocity) / (2 * GRAVITY);
}
