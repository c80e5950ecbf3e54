import type { CompiledLine, Segment, Stretch } from "./compiledLine.ts";
import type { Diagnostic } from "./diagnostic.ts";

/** Pumps that no water can reach, or that have nowhere to send it: one diagnostic for each valve in the way. */
export function blockedWays(line: CompiledLine): Diagnostic[] {
  const outlets = new Set(line.outlets.map(({ node }) => node));
  const diagnostics = line.pumps.flatMap(({ inlet, outlet }): Diagnostic[] => [
    ...inTheWay(line, outlet, "from", "to", (node) => outlets.has(node)).map(
      ({ itemId }): Diagnostic => ({ code: "pump-faces-shut-valve", itemId }),
    ),
    ...inTheWay(line, inlet, "to", "from", (node) => node === 0).map(
      ({ itemId }): Diagnostic => ({ code: "suction-shut", itemId }),
    ),
  ]);
  return [...new Map(diagnostics.map((diagnostic) => [diagnostic.itemId, diagnostic])).values()];
}

/** Valves that are shut on the edge of what can be reached, where no end can be. */
function inTheWay(
  line: CompiledLine,
  start: number,
  near: "from" | "to",
  far: "from" | "to",
  isEnd: (node: number) => boolean,
): Segment[] {
  const seen = new Set([start]);
  const blocked = new Set<Stretch>();
  for (const node of seen) {
    if (isEnd(node)) return [];
    for (const stretch of line.stretches) {
      if (stretch[near] === node && stretch.shut) blocked.add(stretch);
      else if (stretch[near] === node) seen.add(stretch[far]);
      // Through pipe without a check valve water may also run back into a loop.
      else if (stretch[far] === node && !stretch.oneWay && !stretch.shut) seen.add(stretch[near]);
    }
    const through =
      near === "from" ? (["inlet", "outlet"] as const) : (["outlet", "inlet"] as const);
    for (const pump of line.pumps) if (pump[through[0]] === node) seen.add(pump[through[1]]);
  }
  return [...blocked].flatMap(({ start: first, end }) =>
    line.segments.slice(first, end).filter((segment) => segment.shut),
  );
}
