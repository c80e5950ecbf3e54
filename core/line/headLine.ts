import { velocityHead } from "../pipe/darcyWeisbach.ts";
import type { CompiledLine, Side } from "./compileLine.ts";
import { type LossContext, segmentLoss } from "./lineLoss.ts";
import type { LevelCase } from "./path.ts";

/** A point along the line. Heads are m above datum; `pressureHead` is m of water above air pressure. */
export interface HeadLinePoint {
  itemId: string;
  side: Side;
  distance: number;
  elevation: number;
  totalHead: number;
  pressureHead: number;
}

/**
 * Total head and pressure along the water's path while `flow` (m³/s) runs and the pump adds
 * `pumpHead` (m): one point at the start of the path, one after every segment, and one on each side
 * of the pump.
 */
export function headLine(
  line: CompiledLine,
  levelCase: LevelCase,
  flow: number,
  pumpHead: number,
  context: LossContext,
): HeadLinePoint[] {
  const points: HeadLinePoint[] = [];
  let totalHead = line.source[levelCase];
  const first = line.segments[0];
  const point = (
    itemId: string,
    side: Side,
    distance: number,
    elevation: number,
    bore: number | undefined,
  ): HeadLinePoint => ({
    itemId,
    side,
    distance,
    elevation,
    totalHead,
    pressureHead: totalHead - elevation - (bore === undefined ? 0 : velocityHead(flow, bore)),
  });
  if (first && line.pumpIndex > 0) {
    points.push(
      point(first.itemId, "suction", first.startDistance, line.intakeElevation, first.bore),
    );
  }
  line.segments.forEach((segment, index) => {
    if (index === line.pumpIndex) {
      const { id } = line.pumpItem;
      const inletBore = line.segments[index - 1]?.bore ?? segment.bore;
      points.push(point(id, "suction", segment.startDistance, line.pumpElevation, inletBore));
      totalHead += pumpHead;
      points.push(point(id, "discharge", segment.startDistance, line.pumpElevation, segment.bore));
    }
    totalHead -= segmentLoss(segment, flow, context);
    const { itemId, side, endDistance, endElevation, kind, stock } = segment;
    // Past the outlet the water's speed is spent: no velocity head is left to take off.
    const bore = kind === "exit" || kind === "nozzle" ? undefined : stock.bore;
    points.push(point(itemId, side, endDistance, endElevation, bore));
  });
  return points;
}
