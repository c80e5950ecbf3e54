import type { PumpCurve } from "../pump/curve.ts";
import type { CompiledLine } from "./compiledLine.ts";
import { lineNetwork } from "./flowsAlong.ts";
import type { LossContext } from "./lineLoss.ts";
import type { LevelCase } from "./path.ts";

/**
 * Total head in m that a pump of the line must make to pass a flow in m³/s: the system curve as that pump
 * meets it, with the others running on their `curves`. Curves may be left out where it is the only one.
 */
export function systemCurve(
  line: CompiledLine,
  levelCase: LevelCase,
  context: LossContext,
  pump = 0,
  curves: readonly PumpCurve[] = [],
): (flow: number) => number {
  const network = lineNetwork(line, levelCase, context);
  return (flow) => network.headOf({ kind: "forced", pump, flow, curves });
}
