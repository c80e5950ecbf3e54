import { findPipeStock, nextSizeUp } from "../catalogue/pipes.ts";
import { everyItem } from "../line/path.ts";
import { compareSizes } from "../sizes/sizes.ts";
import type { CheckContext, Found } from "./check.ts";

/** What would mend a pipe that is too fast. */
export interface TooFast {
  /**
   * id of the least larger size of the same pipe that brings it under the limit; else why there is none: no larger one
   * is stocked, none that was tried brings it there, or what runs is not known past the pump's curve. Absent where none
   * was tried
   */
  larger?: { id: string } | "none-stocked" | "none-slower" | "not-known";
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
  const told = (larger: TooFast["larger"]) => ({ ...found, facts: { ...(larger && { larger }) } });
  if (!now || !nextSizeUp(now)) return told("none-stocked");
  let known = false;
  for (let stock = nextSizeUp(now); stock; stock = nextSizeUp(stock)) {
    const [row] = compareSizes(context.line, pumps, [item.id], [stock], at, asked?.wanted).rows;
    known ||= row?.velocity !== undefined;
    if (row?.velocity !== undefined && row.velocity <= limit) return told({ id: stock.id });
  }
  return told(known ? "none-slower" : "not-known");
}
