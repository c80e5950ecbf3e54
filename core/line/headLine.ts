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
 * Total head and pressure along the water's path while `flows` (m³/s, by segment) run and the pump adds
 * `pumpHead` (m): one point at the start of the path, one after every segment, and one on each side
 * of the pump.
 */
export function headLine(
  line: CompiledLine,
  levelCase: LevelCase,
  flows: readonly number[],
  pumpHead: number,
  context: LossContext,
): HeadLinePoint[] {
  const points: HeadLinePoint[] = [];
  const at = (segment: number) => flows[segment] as number;
  let totalHead = line.source[levelCase];
  const first = line.segments[0];
  const point = (
    itemId: string,
    side: Side,
    distance: number,
    elevation: number,
    bore: number | undefined,
    flow: number,
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
      point(first.itemId, "suction", first.startDistance, line.intakeElevation, first.bore, at(0)),
    );
  }
  line.segments.forEach((segment, index) => {
    if (index === line.pumpIndex) {
      const { id } = line.pumpItem;
      const inletBore = line.segments[index - 1]?.bore ?? segment.bore;
      points.push(
        point(id, "suction", segment.startDistance, line.pumpElevation, inletBore, at(index)),
      );
      totalHead += pumpHead;
      points.push(
        point(id, "discharge", segment.startDistance, line.pumpElevation, segment.bore, at(index)),
      );
    }
    totalHead -= segmentLoss(segment, at(index), context);
    const { itemId, side, endDistance, endElevation, kind, stock } = segment;
    // Past the outlet the water's speed is spent: no velocity head is left to take off.
    const bore = kind === "exit" || kind === "nozzle" ? undefined : stock.bore;
    points.push(point(itemId, side, endDistance, endElevation, bore, at(index)));
  });
  return points;
}
