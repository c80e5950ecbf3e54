import type { CompiledLine, Segment } from "../line/compiledLine.ts";
import type { LevelCase } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { Flows } from "./flowsAlong.ts";
import { endHead, type LossContext, segmentLoss, sourceHead } from "./lineLoss.ts";

/** One line of the bill of head: what an item of the path takes at the flow that runs. */
export interface LedgerEntry {
  kind: "lift" | "source-pressure" | "outlet-pressure" | "hole" | Segment["kind"];
  /** the item of the path; absent for the lift of a line with one outlet, which belongs to the levels */
  itemId?: string;
  /** m; negative where the water falls, or is pushed, and gains head */
  head: number;
  /** fraction of all the power the water spends, each head at its own flow */
  share: number;
  /** m³/s that runs there; negative where it runs against the path */
  flow: number;
  /** m/s in the smallest bore of the item */
  velocity?: number;
  /** m, that bore */
  bore?: number;
  /** m³/s that leaves through a hole; a hole takes water, not head */
  lost?: number;
}

/**
 * The bill of head. Along every way from the source to an outlet the entries add up to the head of the
 * pumps on that way: lift, what the outlet demands, and the loss of every item.
 */
export function headLedger(
  line: CompiledLine,
  levelCase: LevelCase,
  flows: Flows,
  context: LossContext,
): LedgerEntry[] {
  const { source, outlets, segments } = line;
  const entries: LedgerEntry[] = [];
  const sourceLevel = source.level[levelCase];
  const pushed = sourceHead(source, levelCase, context.water) - sourceLevel;
  for (const [i, placed] of outlets.entries()) {
    const { item } = placed;
    const demanded = endHead(placed, levelCase, context.water);
    const bare = { ...placed, item: { ...item, outlet: withoutPressure(item.outlet) } };
    const height = endHead(bare, levelCase, context.water);
    const flow = flows.byOutlet[i] as number;
    const named = outlets.length > 1 ? { itemId: item.id } : {};
    entries.push({ kind: "lift", ...named, head: height - sourceLevel, share: 0, flow });
    if (demanded !== height) {
      const head = demanded - height;
      entries.push({ kind: "outlet-pressure", itemId: item.id, head, share: 0, flow });
    }
  }
  if (pushed !== 0) {
    entries.push({ kind: "source-pressure", head: -pushed, share: 0, flow: flows.delivered });
  }
  const holesAt = (index: number) => {
    for (const { index: at, itemId, bore } of line.holes) {
      if (at !== index) continue;
      const lost = flows.lost.find((hole) => hole.itemId === itemId)?.flow ?? 0;
      entries.push({ kind: "hole", itemId, head: 0, share: 0, flow: lost, bore, lost });
    }
  };
  for (const [index, segment] of segments.entries()) {
    holesAt(index);
    const { kind, itemId, bore } = segment;
    const flow = flows.bySegment[index] as number;
    const speed = Math.abs(flow);
    const head = Math.sign(flow) * segmentLoss(segment, speed, context);
    entries.push({ kind, itemId, head, share: 0, flow, velocity: meanVelocity(speed, bore), bore });
  }
  const spent = (entry: LedgerEntry) => Math.max(entry.head * entry.flow, 0);
  const taken = entries.reduce((sum, entry) => sum + spent(entry), 0);
  return entries.map((entry) => ({ ...entry, share: taken > 0 ? spent(entry) / taken : 0 }));
}

type Outlet = CompiledLine["outlets"][number]["item"]["outlet"];

function withoutPressure(outlet: Outlet): Outlet {
  if (outlet.type === "pressure") return { type: "free" };
  return outlet.type === "submerged" ? { ...outlet, gasPressure: 0 } : outlet;
}
