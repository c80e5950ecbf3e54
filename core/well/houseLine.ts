import type { Water } from "../fluid/water.ts";
import { darcyWeisbachLoss, type PipeRun } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";

/** A tap at the end of its own branch: m over the tank's gauge, and m³/s it draws. */
export interface Tap {
  height: number;
  branch: PipeRun;
  flow: number;
}

/**
 * Pa at a tap that draws, the tank at a pressure and all taps together drawing through the pipe they share. Less than
 * nothing means that so much does not come. Source: Darcy–Weisbach and hydrostatics.
 */
export function tapPressure(
  tap: Tap,
  tank: number,
  shared: { run: PipeRun; flow: number } | undefined,
  water: Water,
): number {
  const lost =
    darcyWeisbachLoss(tap.branch, tap.flow, water) +
    (shared ? darcyWeisbachLoss(shared.run, shared.flow, water) : 0);
  return tank - (tap.height + lost) * water.density * GRAVITY;
}
