import type { Water } from "../fluid/water.ts";
import {
  type CompiledLine,
  drawsItself,
  type PlacedPump,
  type Side,
} from "../line/compiledLine.ts";
import { isWayOut } from "../outlet/outlets.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import type { SteadyState } from "./hydraulicModel.ts";

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
 * Total head and pressure along the water's path in a `state`: at the start of every way, after
 * every segment with its loss, and on each side of a pump.
 */
export function headLine(
  line: CompiledLine,
  state: SteadyState,
  losses: readonly number[],
): HeadLinePoint[] {
  const points: HeadLinePoint[] = [];
  const headAt = (node: number) => state.nodeHeads[node] as number;
  let way = -1;
  let reached: number | undefined;

  const push = (
    itemId: string,
    side: Side,
    distance: number,
    elevation: number,
    lane: number,
    totalHead: number,
    bore: number | undefined,
    flow: number,
  ) => {
    const speed = bore === undefined ? 0 : velocityHead(Math.abs(flow), bore);
    const pressureHead = totalHead - elevation - speed;
    points.push({ itemId, side, distance, elevation, totalHead, pressureHead, way, lane });
  };
  const pumpSides = (pump: PlacedPump, index: number, after: number, lane: number) => {
    const { elevation, distance, inlet, outlet, item } = pump;
    const before = line.stretches.findLast(({ to, start, end }) => to === inlet && end > start);
    const boreAfter = line.segments[after]?.bore;
    const boreBefore = before ? line.segments[before.end - 1]?.bore : boreAfter;
    const flow = state.byPump[index] as number;
    const drawn = drawsItself(line, pump) ? "suction" : "discharge";
    push(item.id, drawn, distance, elevation, lane, headAt(inlet), boreBefore, flow);
    push(item.id, "discharge", distance, elevation, lane, headAt(outlet), boreAfter, flow);
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
      const { itemId, side, startDistance, startElevation, stock } = first;
      const flow = state.bySegment[start] as number;
      push(itemId, side, startDistance, startElevation, lane, totalHead, stock?.bore, flow);
    }
    for (let i = start; i < end; i++) {
      const segment = line.segments[i] as (typeof line.segments)[number];
      const { itemId, side, endDistance, endElevation, stock } = segment;
      totalHead -= losses[i] as number;
      // Past the outlet the water's speed is spent: no velocity head is left to take off.
      const bore = isWayOut(segment) ? undefined : stock?.bore;
      const flow = state.bySegment[i] as number;
      push(itemId, side, endDistance, endElevation, lane, totalHead, bore, flow);
    }
    reached = to;
  }
  return points;
}

/** m above datum to which open tubes would fill at either end of a segment while water moves. */
export interface TubeHeads {
  start: number;
  end: number;
}

/** Those of every segment in a `state`, from the head where its stretch begins and what each takes on the way. */
export function tubeHeads(
  { stretches, segments }: CompiledLine,
  { nodeHeads, bySegment, broken }: SteadyState,
  loss: (segment: CompiledLine["segments"][number], flow: number) => number,
): TubeHeads[] {
  const found = new Array<TubeHeads>(segments.length);
  for (const { from, start, end } of stretches) {
    let total = nodeHeads[from] as number;
    for (let i = start; i < end; i++) {
      const segment = segments[i] as CompiledLine["segments"][number];
      const flow = bySegment[i] as number;
      const speed = velocityHead(Math.abs(flow), segment.bore);
      const first = total - speed;
      total -= loss(segment, flow) + (broken?.segment === i - 1 ? broken.drop : 0);
      found[i] = { start: first, end: total - speed };
    }
  }
  return found;
}

/** m of water a gauge at the base of an outlet reads; nothing where the path begins with it. */
export function pressureHeadBefore(
  points: readonly HeadLinePoint[],
  outletId: string,
): number | undefined {
  const at = points.findIndex(({ itemId }) => itemId === outletId);
  const [before, outlet] = [points[at - 1], points[at]];
  // Between the two a rise may lie that holds no pipe: the base stands where the outlet does.
  return before && outlet && before.pressureHead + before.elevation - outlet.elevation;
}

/** Pa just before the outlets, of several the one with least. */
export function leastOutletPressure(
  { outlets }: CompiledLine,
  points: readonly HeadLinePoint[],
  { density }: Water,
): number | undefined {
  const heads = outlets.flatMap(({ item }) => pressureHeadBefore(points, item.id) ?? []);
  return heads.length > 0 ? Math.min(...heads) * density * GRAVITY : undefined;
}
