import type { PipeStock } from "../catalogue/pipes.ts";
import type { WaterLevel } from "../fluid/levels.ts";
import { leastOutletPressure } from "../hydraulics/headLine.ts";
import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import { lineModel, solveCase } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem, type Line } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { Pump } from "../pump/pump.ts";

/** What the whole job does with some runs of it laid in one size. SI. */
export interface SizeRow {
  stock: PipeStock;
  outcome: Outcome["kind"];
  /** m³/s at the outlet, m at the pump: absent where the pump does not settle */
  flow?: number;
  head?: number;
  /** m/s in the size itself */
  velocity?: number;
  /** m taken by the runs compared */
  runHead?: number;
  /** W, where published */
  power?: number;
  /** Pa just before the outlet */
  outletPressure?: number;
  /** for the length of the runs, invented */
  price: number;
}

export interface SizeComparison {
  /** small to large */
  rows: SizeRow[];
  /** the smallest size after which one size more brings less than `KNEE` more flow */
  kneeId?: string;
}

/** Extra flow, as a fraction, below which one size more is not worth its price. Common practice, no source. */
export const KNEE = 0.05;

/**
 * Tries sizes on one or more runs of pipe at the real operating point of each: the duty is solved anew
 * for every size, and fittings that follow the pipe change with it. With a `wanted` flow in m³/s and no pump yet each
 * size says the head that flow takes.
 */
export function compareSizes(
  line: Line,
  pumps: readonly Pump[],
  itemIds: readonly string[],
  sizes: readonly PipeStock[],
  at: WaterLevel,
  wanted?: number,
): SizeComparison {
  const runs = new Set(itemIds);
  const length = everyItem(line.path).reduce(
    (sum, item) => (item.kind === "pipe" && runs.has(item.id) ? sum + item.length : sum),
    0,
  );
  let flowGiven = false;
  const rows = [...sizes]
    .sort((a, b) => a.bore - b.bore)
    .flatMap((stock): SizeRow[] => {
      const path = changeItems(line.path, (item) =>
        item.kind === "pipe" && runs.has(item.id) ? { ...item, stock: stock.id } : item,
      );
      const changed = { ...line, path };
      const ready = lineModel(changed, pumps, wanted);
      const result = ready.kind === "ready" ? solveCase(ready, changed, at) : ready;
      if (ready.kind === "refused" || result.kind === "refused") return [];
      flowGiven = ready.asked !== undefined;
      const { outcome, running } = result.solved;
      const row: SizeRow = { stock, outcome: outcome.kind, price: stock.price * length };
      if (!settledDuty(outcome) || !running) return [row];
      const { head } = running.duty;
      const flow = running.state.delivered;
      const pressure = leastOutletPressure(ready.line, running.headLine, ready.water);
      const inRun = ready.line.segments.findIndex(
        (segment) => segment.kind === "pipe" && runs.has(segment.itemId),
      );
      return [
        {
          ...row,
          flow,
          head,
          velocity: meanVelocity(Math.abs(running.state.bySegment[inRun] ?? 0), stock.bore),
          runHead: running.ledger
            .filter((entry) => entry.itemId !== undefined && runs.has(entry.itemId))
            .reduce((sum, entry) => sum + entry.head, 0),
          ...(running.power !== undefined && { power: running.power }),
          ...(pressure !== undefined && { outletPressure: pressure }),
        },
      ];
    });
  const knee = kneeOf(rows, flowGiven);
  return { rows, ...(knee && { kneeId: knee.stock.id }) };
}

/** The smallest size after which one size more brings little: of flow, or, where the flow is given, off the head. */
function kneeOf(rows: readonly SizeRow[], flowGiven: boolean): SizeRow | undefined {
  const settled = rows.filter((row) => row.flow !== undefined);
  return settled.find(({ flow = 0, head = 0 }, i) => {
    const next = settled[i + 1];
    if (!next) return true;
    return flowGiven ? (next.head ?? 0) > head * (1 - KNEE) : (next.flow ?? 0) < flow * (1 + KNEE);
  });
}
