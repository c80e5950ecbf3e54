import type { PipeStock } from "../catalogue/pipes.ts";
import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import { type LineModel, lineModel, type Running, solveCase } from "../hydraulics/solveLine.ts";
import { changeItems, everyItem, type Line, type WaterLevel } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";

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
      const { outcome, running } = result.solved;
      const row: SizeRow = { stock, outcome: outcome.kind, price: stock.price * length };
      if (!settledDuty(outcome) || !running) return [row];
      const { head } = running.duty;
      const flow = running.state.delivered;
      const pressure = pressureAtOutlet(ready, running);
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
  const knee = rows.some(({ flow }) => flow !== rows[0]?.flow) ? kneeOf(rows) : thriftiest(rows);
  return { rows, ...(knee && { kneeId: knee.stock.id }) };
}

/** Pa just before the outlet, of several the one with least. */
function pressureAtOutlet({ line, water }: LineModel, { headLine }: Running): number | undefined {
  const outlets = new Set(line.outlets.map(({ item }) => item.id));
  const heads = headLine.flatMap(({ itemId }, i) => {
    const before = headLine[i - 1];
    return outlets.has(itemId) && before ? [before.pressureHead] : [];
  });
  return heads.length > 0 ? Math.min(...heads) * water.density * GRAVITY : undefined;
}

/** With the flow given, the smallest size after which one size more gives back less than `KNEE` of the head. */
function thriftiest(rows: readonly SizeRow[]): SizeRow | undefined {
  const settled = rows.filter((row) => row.head !== undefined);
  return settled.find((row, i) => {
    const next = settled[i + 1];
    return next === undefined || (next.head ?? 0) > (row.head ?? 0) * (1 - KNEE);
  });
}

function kneeOf(rows: readonly SizeRow[]): SizeRow | undefined {
  const settled = rows.filter((row) => row.flow !== undefined);
  return settled.find((row, i) => {
    const next = settled[i + 1];
    return next === undefined || (next.flow ?? 0) < (row.flow ?? 0) * (1 + KNEE);
  });
}
