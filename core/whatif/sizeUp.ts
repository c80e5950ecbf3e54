import { findPipeStock, nextSizeUp, type PipeStock } from "../catalogue/pipes.ts";
import { solveOutcome } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem, type LevelCase, type Line } from "../line/path.ts";
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

/**
 * For every run of pipe, the duty with that run alone one stocked size larger. Fittings that take
 * their size from the run grow with it. Runs already at the largest size, and lines that do not settle,
 * give no row.
 */
export function sizeUps(line: Line, pumps: readonly Pump[], levelCase: LevelCase): SizeUp[] {
  const settledOf = (candidate: Line) => {
    const solved = solveOutcome(candidate, pumps, levelCase);
    return solved.kind === "solved" ? solved.settled : undefined;
  };
  const now = settledOf(line);
  if (!now) return [];
  return everyItem(line.path).flatMap((item) => {
    const stock = item.kind === "pipe" ? findPipeStock(item.stock) : undefined;
    const larger = stock && nextSizeUp(stock);
    if (!larger || item.kind !== "pipe") return [];
    const path = changeItems(line.path, (other) =>
      other.id === item.id ? { ...item, stock: larger.id } : other,
    );
    const then = settledOf({ ...line, path });
    if (!then) return [];
    const flowGain = then.delivered - now.delivered;
    const headGain = now.taken(item.id) - then.taken(item.id);
    return [{ itemId: item.id, larger, flow: then.delivered, flowGain, headGain }];
  });
}
