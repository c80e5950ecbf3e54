import type { CompiledLine, PlacedPump, Side } from "../line/compiledLine.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import type { Flows } from "./flowsAlong.ts";
import { type LossContext, segmentLoss } from "./lineLoss.ts";

/** A point along the line. Heads are m above datum; `pressureHead` is m of water above air pressure. */
export interface HeadLinePoint {
  itemId: string;
  side: Side;
  distance: number;
  elevation: number;
  totalHead: number;
  pressureHead: number;
  /** points of one way without a fork share a number, one after another */
  way: number;
  lane: number;
}

/**
 * Total head and pressure along the water's path while `flows` run: at the start of every way, after
 * every segment, and on each side of a pump.
 */
export function headLine(line: CompiledLine, flows: Flows, context: LossContext): HeadLinePoint[] {
  const points: HeadLinePoint[] = [];
  const headAt = (node: number) => flows.nodeHeads[node] as number;
  let way = -1;
  let reached: number | undefined;

  const push = (
    place: Pick<HeadLinePoint, "itemId" | "side" | "distance" | "elevation" | "lane">,
    totalHead: number,
    bore: number | undefined,
    flow: number,
  ) => {
    const speed = bore === undefined ? 0 : velocityHead(Math.abs(flow), bore);
    points.push({ ...place, totalHead, pressureHead: totalHead - place.elevation - speed, way });
  };
  const pumpSides = (pump: PlacedPump, index: number, after: number, lane: number) => {
    const { elevation, distance, inlet, outlet, item, fed } = pump;
    const before = line.stretches.findLast(({ to, start, end }) => to === inlet && end > start);
    const boreAfter = line.segments[after]?.bore;
    const boreBefore = before ? line.segments[before.end - 1]?.bore : boreAfter;
    const flow = flows.byPump[index] as number;
    const base = { itemId: item.id, distance, elevation, lane };
    push({ ...base, side: fed ? "discharge" : "suction" }, headAt(inlet), boreBefore, flow);
    push({ ...base, side: "discharge" }, headAt(outlet), boreAfter, flow);
  };

  for (const stretch of line.stretches) {
    const { from, to, start, end, lane } = stretch;
    const first = line.segments[start];
    if (!first) continue;
    const pumpAt = line.pumps.findIndex((pump) => pump.outlet === from);
    const pump = line.pumps[pumpAt];
    if (reached === undefined || (pump ? pump.inlet : from) !== reached) way += 1;
    let totalHead = headAt(from);
    if (pump) pumpSides(pump, pumpAt, start, lane);
    else if (reached !== from) {
      const { itemId, side, startDistance: distance, startElevation: elevation, stock } = first;
      const flow = flows.bySegment[start] as number;
      push({ itemId, side, distance, elevation, lane }, totalHead, stock.bore, flow);
    }
    for (let i = start; i < end; i++) {
      const segment = line.segments[i] as (typeof line.segments)[number];
      const flow = flows.bySegment[i] as number;
      totalHead -= Math.sign(flow) * segmentLoss(segment, Math.abs(flow), context);
      const { itemId, side, endDistance: distance, endElevation: elevation, kind, stock } = segment;
      // Past the outlet the water's speed is spent: no velocity head is left to take off.
      const spent = kind === "exit" || kind === "nozzle" || kind === "emitter";
      push(
        { itemId, side, distance, elevation, lane },
        totalHead,
        spent ? undefined : stock.bore,
        flow,
      );
    }
    reached = to;
  }
  return points;
}
