import type { Water } from "../fluid/water.ts";
import type { CompiledLine } from "../line/compiledLine.ts";
import type { LevelCase } from "../line/path.ts";
import type { PumpCurve } from "../pump/curve.ts";
import { endHead, sourceHead } from "./lineLoss.ts";

/** Head in m above datum, and whether every pump on the way has a published shut-off head. */
export interface ShutHead {
  head: number;
  published: boolean;
}

/**
 * The most head that can stand at every node with nothing running. Pumps in series add up; of pumps side by
 * side the strongest counts.
 */
export function shutHeads(
  line: CompiledLine,
  curves: readonly PumpCurve[],
  levelCase: LevelCase,
  water: Water,
): ShutHead[] {
  const still = sourceHead(line.source, levelCase, water);
  const heads = line.nodes.map((): ShutHead => ({ head: still, published: true }));
  const raise = (node: number, { head, published }: ShutHead) => {
    const held = heads[node] as ShutHead;
    if (head > held.head) heads[node] = { head, published: held.published && published };
  };
  // A pump that another feeds is reached in the round after it.
  for (let round = 0; round < line.pumps.length; round++) {
    for (const [i, { inlet, outlet }] of line.pumps.entries()) {
      const curve = curves[i] as PumpCurve;
      const { head, published } = heads[inlet] as ShutHead;
      raise(outlet, {
        head: head + Math.max(...curve.head.y),
        published: published && curve.firstFlow === 0,
      });
    }
    for (const { from, to } of line.stretches) raise(to, heads[from] as ShutHead);
  }
  return heads;
}

/**
 * By how many m the pumps fall short of the outlet nearest to their reach, where no outlet is: then nothing
 * runs at all. Undefined where something can, or where an outlet under water may itself drive the line.
 */
export function outOfReach(
  line: CompiledLine,
  curves: readonly PumpCurve[],
  levelCase: LevelCase,
  water: Water,
): number | undefined {
  const heads = shutHeads(line, curves, levelCase, water);
  let least = Number.POSITIVE_INFINITY;
  for (const outlet of line.outlets) {
    if (outlet.item.outlet.type === "submerged") return undefined;
    const reached = (heads[outlet.node] as ShutHead).head;
    least = Math.min(least, endHead(outlet, levelCase, water) - reached);
  }
  return least >= 0 ? least : undefined;
}
