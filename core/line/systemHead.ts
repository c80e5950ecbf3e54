import type { CompiledLine } from "./compileLine.ts";
import { flowsAlong } from "./flowsAlong.ts";
import { type LossContext, staticHead, stretchLoss } from "./lineLoss.ts";
import type { LevelCase } from "./path.ts";

/** Total head in m the pump must make to pass a flow in m³/s: the system curve. */
export function systemHead(
  line: CompiledLine,
  levelCase: LevelCase,
  flow: number,
  context: LossContext,
): number {
  // The plain single path is the common case, asked for many times in every solution.
  if (line.holes.length === 0) {
    return staticHead(line, levelCase, context.water) + stretchLoss(line.segments, flow, context);
  }
  const drawn = stretchLoss(line.segments.slice(0, line.pumpIndex), flow, context);
  const { headAfterPump } = flowsAlong(line, levelCase, flow, context);
  return headAfterPump - line.source[levelCase] + drawn;
}
