import type { CompiledLine, Segment } from "../line/compileLine.ts";
import type { Flows } from "../line/flowsAlong.ts";
import { endHead, type LossContext, segmentLoss } from "../line/lineLoss.ts";
import type { LevelCase } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";

/** One line of the bill of head: what an item of the path takes at the flow that runs. */
export interface LedgerEntry {
  kind: "lift" | "outlet-pressure" | "hole" | Segment["kind"];
  /** the item of the path; absent for the lift, which belongs to the levels */
  itemId?: string;
  /** m; negative where the water falls and gives head back */
  head: number;
  /** fraction of everything that takes head */
  share: number;
  /** m/s in the smallest bore of the item */
  velocity?: number;
  /** m, that bore */
  bore?: number;
  /** m³/s that leaves through a hole; a hole takes water, not head */
  lost?: number;
}

/**
 * The bill of head at a flow in m³/s. The entries add up to the total head of the duty: lift, what the
 * outlet demands, and the loss of every item.
 */
export function headLedger(
  line: CompiledLine,
  levelCase: LevelCase,
  flows: Flows,
  context: LossContext,
): LedgerEntry[] {
  const demanded = endHead(line, levelCase, context.water);
  const height = line.outlet.type === "pressure" ? line.outletElevation : demanded;
  const entries: LedgerEntry[] = [
    { kind: "lift", head: height - line.source[levelCase], share: 0 },
  ];
  if (line.outlet.type === "pressure") {
    const { outletItemId: itemId } = line;
    entries.push({ kind: "outlet-pressure", itemId, head: demanded - height, share: 0 });
  }
  const holesBefore = (index: number) => {
    for (const hole of line.holes.filter((h) => h.index === index)) {
      const lost = flows.lost.find(({ itemId }) => itemId === hole.itemId)?.flow ?? 0;
      entries.push({ kind: "hole", itemId: hole.itemId, head: 0, share: 0, bore: hole.bore, lost });
    }
  };
  for (const [index, segment] of line.segments.entries()) {
    holesBefore(index);
    const { kind, itemId, bore } = segment;
    const flow = flows.bySegment[index] as number;
    const head = segmentLoss(segment, flow, context);
    entries.push({ kind, itemId, head, share: 0, velocity: meanVelocity(flow, bore), bore });
  }
  const taken = entries.reduce((sum, entry) => sum + Math.max(entry.head, 0), 0);
  return entries.map((entry) => ({
    ...entry,
    share: taken > 0 ? Math.max(entry.head, 0) / taken : 0,
  }));
}
