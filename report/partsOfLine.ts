import type { JobPathItem } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { everyItem } from "#core/line/path.ts";
import { isPart } from "#core/outlet/outlets.ts";
import { itemName, stockName } from "#words/items.ts";

/**
 * What the line is made of, each thing once in the order it is first met: pipe by its size with all of its length,
 * fittings by kind and size with their number. What is no part to fetch, such as a rise, is left out.
 * @returns rows of what and how much
 */
export function partsOfLine(path: readonly JobPathItem[], system: UnitSystem): string[][] {
  const lengths = new Map<string, number>();
  const counts = new Map<string, number>();
  const order: { kind: "length" | "count"; name: string }[] = [];
  const add = (kind: "length" | "count", name: string, much: number) => {
    const all = kind === "length" ? lengths : counts;
    if (!all.has(name)) order.push({ kind, name });
    all.set(name, (all.get(name) ?? 0) + much);
  };
  for (const item of everyItem<JobPathItem>(path)) {
    if (item.kind === "pipe") add("length", stockName(item.stock), item.length);
    if (item.kind === "fitting") {
      add("count", itemName(path, item.id, system).replace(/^\d+ × /, ""), item.count);
    }
    if (item.kind === "orifice") add("count", itemName(path, item.id, system), 1);
    if (item.kind === "outlet" && isPart(item.outlet)) {
      add("count", itemName(path, item.id, system), 1);
    }
  }
  return order.map(({ kind, name }) => [
    name,
    kind === "length" ? format(lengths.get(name) ?? 0, "length", system) : String(counts.get(name)),
  ]);
}
