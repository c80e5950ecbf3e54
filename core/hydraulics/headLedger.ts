import type { Water } from "../fluid/water.ts";
import type { CompiledLine, Segment } from "../line/compiledLine.ts";
import { outletPressure } from "../outlet/outlets.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { type Boundary, pressureHead, sourcePressure } from "./boundary.ts";
import type { SteadyState } from "./hydraulicModel.ts";

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
  /** which segment of the line, for an entry that is one */
  segment?: number;
}

/**
 * The bill of head between the ends a state belongs to, from the loss of every segment in it. Along every way from the source to an outlet the entries add up
 * to the head of the pumps on that way: lift, what the outlet demands, and the loss of every item.
 */
export function headLedger(
  line: CompiledLine,
  boundary: Boundary,
  state: SteadyState,
  losses: readonly number[],
  water: Water,
): LedgerEntry[] {
  const { source, outlets, segments } = line;
  const entries: LedgerEntry[] = [];
  const pushed = pressureHead(sourcePressure(source), water);
  const sourceLevel = boundary.source - pushed;
  for (const [i, { item }] of outlets.entries()) {
    const flow = state.byOutlet[i] as number;
    const named = outlets.length > 1 ? { itemId: item.id } : {};
    const demanded = pressureHead(outletPressure(item.outlet), water);
    const head = (boundary.outlets[i] as number) - demanded - sourceLevel;
    entries.push({ kind: "lift", ...named, head, share: 0, flow });
    if (demanded !== 0) {
      entries.push({ kind: "outlet-pressure", itemId: item.id, head: demanded, share: 0, flow });
    }
  }
  if (pushed !== 0) {
    entries.push({ kind: "source-pressure", head: -pushed, share: 0, flow: state.delivered });
  }
  let hole = 0;
  for (const [index, segment] of segments.entries()) {
    for (; line.holes[hole]?.index === index; hole++) {
      const { itemId, bore } = line.holes[hole] as CompiledLine["holes"][number];
      const lost = state.lost[hole]?.flow ?? 0;
      entries.push({ kind: "hole", itemId, head: 0, share: 0, flow: lost, bore, lost });
    }
    const flow = state.bySegment[index] as number;
    const entry: LedgerEntry = {
      kind: segment.kind,
      itemId: segment.itemId,
      head: losses[index] as number,
      share: 0,
      flow,
      segment: index,
    };
    if (segment.kind !== "supply") {
      entry.velocity = meanVelocity(Math.abs(flow), segment.bore);
      entry.bore = segment.bore;
    }
    entries.push(entry);
  }
  const spent = (entry: LedgerEntry) => Math.max(entry.head * entry.flow, 0);
  let taken = 0;
  for (const entry of entries) taken += spent(entry);
  if (taken > 0) for (const entry of entries) entry.share = spent(entry) / taken;
  return entries;
}
