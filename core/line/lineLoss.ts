import { GRAVITY } from "../constants/gravity.ts";
import { darcyWeisbachLoss, velocityHead } from "../pipe/darcyWeisbach.ts";
import { hazenWilliamsLoss } from "../pipe/hazenWilliams.ts";
import type { Water } from "../water/water.ts";
import type { CompiledLine, Segment } from "./compileLine.ts";
import type { LevelCase, Method } from "./path.ts";

/** What a loss depends on beside the segment and the flow. */
export interface LossContext {
  water: Water;
  friction: Method["friction"];
}

/** Head in m a segment takes at a flow in m³/s (zero or positive). */
export function segmentLoss(segment: Segment, flow: number, context: LossContext): number {
  let loss = 0;
  if (segment.run) {
    loss +=
      context.friction === "darcy-weisbach"
        ? darcyWeisbachLoss(segment.run, flow, context.water)
        : hazenWilliamsLoss(segment.run, flow);
  }
  if (segment.k > 0) loss += segment.k * velocityHead(flow, segment.bore);
  return loss;
}

/** Head in m taken by a stretch of segments. */
export function stretchLoss(segments: readonly Segment[], flow: number, context: LossContext) {
  let loss = 0;
  for (const segment of segments) loss += segmentLoss(segment, flow, context);
  return loss;
}

/**
 * Height in m the water must be raised in a case, with pressure at the outlet counted in metres.
 * "low" is the hardest case: source low and, where the outlet is under water, the receiving level
 * high; "high" is the easiest.
 */
export function staticHead(line: CompiledLine, levelCase: LevelCase, water: Water): number {
  return endHead(line, levelCase, water) - line.source[levelCase];
}

/** Total head in m above datum that the outlet asks for at no flow. */
export function endHead(line: CompiledLine, levelCase: LevelCase, water: Water): number {
  const { outlet } = line;
  switch (outlet.type) {
    case "submerged":
      return outlet.level[OPPOSITE[levelCase]];
    case "pressure":
      return line.outletElevation + outlet.pressure / (water.density * GRAVITY);
    case "free":
    case "nozzle":
      return line.outletElevation;
  }
}

const OPPOSITE: Record<LevelCase, LevelCase> = { low: "high", normal: "normal", high: "low" };
