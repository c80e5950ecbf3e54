import type { CompiledLine } from "../line/compiledLine.ts";
import type { LevelCase } from "../line/path.ts";
import type { PumpCurve } from "../pump/curve.ts";
import { lineNetwork } from "./flowsAlong.ts";
import type { LossContext } from "./lineLoss.ts";

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
