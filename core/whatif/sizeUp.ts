import { findPipeStock, nextSizeUp, type PipeStock } from "../catalogue/pipes.ts";
import type { WaterLevel } from "../fluid/levels.ts";
import { segmentLoss } from "../hydraulics/resistance.ts";
import { type LineModel, lineModel } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem, type Line } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";

/** What laying one run a size larger would do, solved anew and not scaled. */
export interface SizeUp {
  itemId: string;
  larger: PipeStock;
  /** m³/s at the outlet at the new duty, and how much more than now */
  flow: number;
  flowGain: number;
  /** m the run takes less, each at its own duty */
  headGain: number;
}

/** Runs tried on one line: those that take most. On a line of many hundreds the others give next to nothing. */
export const MOST_TRIED = 24;

/**
 * For the runs of pipe that take most head, in the order of the path, the duty with that run alone one stocked size
 * larger. Fittings that take their size from the run grow with it. Runs already at the largest size, and lines that
 * do not settle, give no row.
 */
export function sizeUps(
  ready: LineModel,
  line: Line,
  pumps: readonly Pump[],
  at: WaterLevel,
): SizeUp[] {
  const now = settled(ready, at);
  if (!now) return [];
  const head = now.byItem;
  const runs = everyItem(line.path).filter((item) => item.kind === "pipe");
  const most = new Set(
    runs
      .toSorted((a, b) => (head.get(b.id) ?? 0) - (head.get(a.id) ?? 0))
      .slice(0, MOST_TRIED)
      .map(({ id }) => id),
  );
  return runs.flatMap((item) => {
    if (!most.has(item.id)) return [];
    const stock = findPipeStock(item.stock);
    const larger = stock && nextSizeUp(stock);
    if (!larger) return [];
    const path = changeItems(line.path, (other) =>
      other.id === item.id ? { ...item, stock: larger.id } : other,
    );
    const changed = lineModel({ ...line, path }, pumps, ready.asked?.wanted);
    const then = changed.kind === "ready" ? settled(changed, at) : undefined;
    if (!then) return [];
    const flowGain = then.delivered - now.delivered;
    const headGain = (now.byItem.get(item.id) ?? 0) - (then.byItem.get(item.id) ?? 0);
    return [{ itemId: item.id, larger, flow: then.delivered, flowGain, headGain }];
  });
}

/** What a line delivers at a duty it settles at, and the head in m that the parts of an item take. */
function settled({ model, boundaries, states }: LineModel, at: WaterLevel) {
  const result = model.solve(boundaries[at], states);
  if (result.kind !== "steady") return undefined;
  const { bySegment, delivered } = result.state;
  const byItem = new Map<string, number>();
  for (const [i, segment] of model.line.segments.entries()) {
    const loss = segmentLoss(segment, Math.abs(bySegment[i] as number), model.context);
    byItem.set(segment.itemId, (byItem.get(segment.itemId) ?? 0) + loss);
  }
  return { delivered, byItem };
}
