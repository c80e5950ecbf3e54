import type { UnitSystem } from "#contract/units/units.ts";
import {
  cellsOf,
  type Holding,
  type Refusal,
  readNumber,
  type Table,
  type Taken,
} from "./table.ts";

/** Rows of two numbers that grow with the first. SI, with the number of the row in the text. */
export type Pairs = { a: number; b: number; row: number }[];

/**
 * Two columns of numbers out of a table, none of them negative. Every cell that is empty or no number, and every row
 * that does not come after the one before it, is told.
 */
export function readPairs(
  table: Table,
  [first, second]: readonly [Holding, Holding],
  system: UnitSystem,
): Taken<Pairs> {
  const refused: Refusal[] = [];
  const number = (own: Holding, cells: readonly string[], row: number): number | undefined => {
    const { column, text } = cellsOf(table, own.id) ?? {};
    const refuse = (why: string) => void refused.push({ row, column: own.name, why });
    const cell = text?.(cells) ?? "";
    if (!column || cell === "") return refuse("nothing is written there.") as undefined;
    const parsed = readNumber(cell, column, own, table, system);
    if (!parsed.ok) refuse(parsed.message);
    else if (parsed.value < 0) refuse("it cannot be negative.");
    return parsed.ok && parsed.value >= 0 ? parsed.value : undefined;
  };
  const pairs = table.rows.flatMap((cells, i) => {
    const row = table.firstRow + i;
    const a = number(first, cells, row);
    const b = number(second, cells, row);
    return a === undefined || b === undefined ? [] : [{ a, b, row }];
  });
  for (const [i, { a, row }] of pairs.entries()) {
    if (i > 0 && a <= (pairs[i - 1]?.a as number)) {
      refused.push({ row, column: first.name, why: "it does not come after the row before it." });
    }
  }
  if (refused.length === 0 && pairs.length < 2) {
    refused.push({ why: "There are not two rows to read." });
  }
  return refused.length > 0 ? { kind: "refused", refused } : { kind: "taken", value: pairs };
}
