import Papa from "papaparse";
import { isBareNumber, parseQuantity } from "#contract/units/parse.ts";
import { type Quantity, UNITS, type UnitSystem } from "#contract/units/units.ts";

/** One of two columns: what it holds, with the quantities it may be in. */
export interface PairColumn {
  name: string;
  /** the first whose units the heading names, else the first; with the unit of a bare number */
  as: readonly { quantity: Quantity; unit: string }[];
}

export type Pairs =
  | {
      kind: "pairs";
      /** SI, with the number of the row in the text */
      pairs: { a: number; b: number; row: number }[];
      /** what the second column turned out to hold */
      second: Quantity;
    }
  | { kind: "problems"; problems: string[] };

/**
 * Two columns of numbers out of a CSV file, with or without a heading, units in the heading ("time (min)") or in the
 * cells. Every cell that is empty or no number is told with its row.
 */
export function readPairs(
  text: string,
  first: PairColumn,
  second: PairColumn,
  system: UnitSystem,
): Pairs {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" });
  const rows = data.map((cells) => cells.map((cell) => cell.trim()));
  const headed = rows.length > 0 && !rows[0]?.some((cell) => /^[-+−]?\.?\d/.test(cell));
  const headings = headed ? (rows[0] as string[]) : [];
  const columns = [first, second].map((column, i) => inUnits(column, headings[i] ?? ""));
  const problems: string[] = [];
  const pairs = rows.slice(headed ? 1 : 0).flatMap((cells, i) => {
    const row = i + (headed ? 2 : 1);
    const [a, b] = columns.map(({ name, quantity, unit }, n) => {
      const cell = cells[n] ?? "";
      if (cell === "") {
        problems.push(`Row ${row}, ${name}: nothing is written there.`);
        return undefined;
      }
      const parsed = parseQuantity(isBareNumber(cell) ? `${cell} ${unit}` : cell, quantity, system);
      if (!parsed.ok) problems.push(`Row ${row}, ${name}: ${parsed.message}`);
      else if (parsed.value < 0) problems.push(`Row ${row}, ${name}: it cannot be negative.`);
      return parsed.ok && parsed.value >= 0 ? parsed.value : undefined;
    });
    return a === undefined || b === undefined ? [] : [{ a, b, row }];
  });
  for (const [i, { a, row }] of pairs.entries()) {
    if (i > 0 && a <= (pairs[i - 1]?.a as number)) {
      problems.push(`Row ${row}, ${first.name}: it does not come after the row before it.`);
    }
  }
  if (problems.length === 0 && pairs.length < 2) problems.push("There are not two rows to read.");
  return problems.length > 0
    ? { kind: "problems", problems }
    : { kind: "pairs", pairs, second: columns[1]?.quantity as Quantity };
}

/** A column in the units its heading names: "Rain [mm]", "flow, gpm". */
function inUnits({ name, as }: PairColumn, heading: string) {
  const symbol = /[([,]\s*([^\s()[\]]+)\s*[)\]]?\s*$/.exec(heading)?.[1]?.toLowerCase();
  for (const { quantity } of as) {
    const unit = UNITS[quantity].find(
      (each) => each.symbol.toLowerCase() === symbol || each.aliases?.includes(symbol ?? ""),
    );
    if (symbol && unit) return { name, quantity, unit: unit.symbol };
  }
  const [usual] = as as [PairColumn["as"][number]];
  return { name, ...usual };
}
