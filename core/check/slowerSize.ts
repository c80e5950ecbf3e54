import { findPipeStock, nextSizeUp } from "../catalogue/pipes.ts";
import { everyItem } from "../line/path.ts";
import { compareSizes } from "../whatif/sizes.ts";
import type { CheckContext, Found } from "./check.ts";

/** What would mend a pipe that is too fast. */
export interface TooFast {
  /**
   * id of the least larger size of the same pipe that brings it under the limit; null where none stocked does,
   * absent where none was tried
   */
  larger?: string | null;
}

/**
 * A larger size lets more water through, at times so much more that it runs no slower: each size is tried on the
 * line, at the state of the water that was judged.
 */
export function withSlowerSize(found: Found<TooFast>, context: CheckContext): Found<TooFast> {
  const { at, itemId, limit = 0, severity } = found;
  const item = everyItem(context.line.path).find(({ id }) => id === itemId);
  if (severity === "good" || item?.kind !== "pipe") return found;
  const { pumps: on, asked } = context.solution;
  const pumps = on.map(({ pump }) => pump);
  const now = findPipeStock(item.stock);
  for (let stock = now && nextSizeUp(now); stock; stock = nextSizeUp(stock)) {
    const [row] = compareSizes(context.line, pumps, [item.id], [stock], at, asked?.wanted).rows;
    if (row?.velocity !== undefined && row.velocity <= limit) {
      return { ...found, facts: { larger: stock.id } };
    }
  }
  return { ...found, facts: { larger: null } };
}
