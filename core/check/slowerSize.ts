import { findPipeStock, nextSizeUp, type PipeStock } from "../catalogue/pipes.ts";
import { lineModel, stateOf } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { CheckContext, Found } from "./check.ts";

/** What would mend a pipe that is too fast. */
export interface TooFast {
  /** id of the least larger size of the same pipe that brings it under the limit; absent where none stocked does */
  larger?: string;
}

/**
 * A larger size lets more water through, at times so much more that it runs no slower: each size is tried on the
 * line, at the state of the water that was judged.
 */
export function withSlowerSize(found: Found<TooFast>, context: CheckContext): Found<TooFast> {
  const { at, itemId, limit = 0, severity } = found;
  const item = everyItem(context.line.path).find(({ id }) => id === itemId);
  if (severity === "good" || item?.kind !== "pipe") return found;
  const pumps = context.solution.pumps.map(({ pump }) => pump);
  const now = findPipeStock(item.stock);
  for (let stock = now && nextSizeUp(now); stock; stock = nextSizeUp(stock)) {
    if (fastest(context, pumps, item.id, stock, at) <= limit) {
      return { ...found, facts: { larger: stock.id } };
    }
  }
  return found;
}

/** m/s in an item laid in another size; without end where the line does not settle then. */
function fastest(
  { line }: CheckContext,
  pumps: Parameters<typeof lineModel>[1],
  itemId: string,
  { id }: PipeStock,
  at: Found<unknown>["at"],
): number {
  const path = changeItems(line.path, (item) =>
    item.id === itemId && item.kind === "pipe" ? { ...item, stock: id } : item,
  );
  const ready = lineModel({ ...line, path }, pumps);
  if (ready.kind === "refused") return Number.POSITIVE_INFINITY;
  const state = stateOf(ready.model.solve(ready.boundaries[at], ready.states));
  if (!state) return Number.POSITIVE_INFINITY;
  const speeds = ready.line.segments.map((segment, i) =>
    segment.itemId === itemId && segment.kind === "pipe"
      ? meanVelocity(Math.abs(state.bySegment[i] as number), segment.bore)
      : 0,
  );
  return Math.max(...speeds);
}
