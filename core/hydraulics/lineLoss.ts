import type { Water } from "../fluid/water.ts";
import type { CompiledLine, PlacedOutlet, Segment } from "../line/compiledLine.ts";
import type { LevelCase, Method, Source } from "../line/path.ts";
import { darcyWeisbachLoss, velocityHead } from "../pipe/darcyWeisbach.ts";
import { hazenWilliamsLoss } from "../pipe/hazenWilliams.ts";
import { GRAVITY } from "../quantity/constants.ts";

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
  if (segment.k > 0 && flow > 0) loss += segment.k * velocityHead(flow, segment.bore);
  if (segment.emitter) {
    const { flow: known, pressure } = segment.emitter;
    loss += (pressure / (context.water.density * GRAVITY)) * (flow / known) ** 2;
  }
  return loss;
}

/** Head in m taken by a stretch of segments. */
export function stretchLoss(segments: readonly Segment[], flow: number, context: LossContext) {
  let loss = 0;
  for (const segment of segments) loss += segmentLoss(segment, flow, context);
  return loss;
}

/** Total head in m above datum of the source: its level, and what stands on a closed tank. */
export function sourceHead(source: Source, levelCase: LevelCase, water: Water): number {
  return source.level[levelCase] + (source.gasPressure ?? 0) / (water.density * GRAVITY);
}

/**
 * Total head in m above datum that an outlet asks for at no flow. "low" is the hardest case: source low
 * and, where the outlet is under water, the receiving level high; "high" is the easiest.
 */
export function endHead(
  { item: { outlet }, elevation }: PlacedOutlet,
  levelCase: LevelCase,
  water: Water,
): number {
  switch (outlet.type) {
    case "submerged":
      return (
        outlet.level[OPPOSITE[levelCase]] + (outlet.gasPressure ?? 0) / (water.density * GRAVITY)
      );
    case "pressure":
      return elevation + outlet.pressure / (water.density * GRAVITY);
    case "free":
    case "nozzle":
    case "emitter":
      return elevation;
  }
}

/**
 * Height in m the water must be raised in a case before any runs, with pressure at the outlet counted in
 * metres; to the lowest of several outlets.
 */
export function staticHead(line: CompiledLine, levelCase: LevelCase, water: Water): number {
  let least = Number.POSITIVE_INFINITY;
  for (const outlet of line.outlets) least = Math.min(least, endHead(outlet, levelCase, water));
  return least - sourceHead(line.source, levelCase, water);
}

const OPPOSITE: Record<LevelCase, LevelCase> = { low: "high", normal: "normal", high: "low" };
