import type { CompiledLine } from "../line/compiledLine.ts";
import { receivingWater } from "../outlet/outlets.ts";
import type { Boundary, PumpState } from "./boundary.ts";

/** Head in m above datum, and whether every pump on the way has a published shut-off head. */
export interface ShutHead {
  head: number;
  published: boolean;
}

/**
 * The most head that can stand at every node with nothing running out. Pumps in series add up; of pumps side
 * by side the strongest counts; one that is stopped adds nothing.
 */
export function shutHeads(
  line: CompiledLine,
  boundary: Boundary,
  pumps: readonly PumpState[],
): ShutHead[] {
  const heads = line.nodes.map((): ShutHead => ({ head: boundary.source, published: true }));
  const raise = (node: number, { head, published }: ShutHead) => {
    const held = heads[node] as ShutHead;
    if (head > held.head) heads[node] = { head, published: held.published && published };
  };
  // A pump that another feeds is reached in the round after it.
  for (let round = 0; round <= line.pumps.length; round++) {
    for (const [i, { inlet, outlet }] of line.pumps.entries()) {
      const state = pumps[i];
      const { head, published } = heads[inlet] as ShutHead;
      if (state?.kind !== "running") raise(outlet, { head, published });
      else {
        const { peak, firstFlow } = state.curve;
        raise(outlet, { head: head + peak.head, published: published && firstFlow === 0 });
      }
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
  boundary: Boundary,
  pumps: readonly PumpState[],
): number | undefined {
  const heads = shutHeads(line, boundary, pumps);
  let least = Number.POSITIVE_INFINITY;
  for (const [i, outlet] of line.outlets.entries()) {
    if (receivingWater(outlet.item.outlet)) return undefined;
    const reached = (heads[outlet.node] as ShutHead).head;
    least = Math.min(least, (boundary.outlets[i] as number) - reached);
  }
  return least >= 0 ? least : undefined;
}
