import Papa from "papaparse";
import { isBareNumber, type Parsed, parseQuantity } from "#contract/units/parse.ts";
import {
  fromUnit,
  type Quantity,
  UNITS,
  type Unit,
  type UnitSystem,
} from "#contract/units/units.ts";
import { cellOf } from "./csv.ts";

/** What a column of a table may hold. */
export interface Holding {
  id: string;
  /** as it is offered to choose from */
  name: string;
  /** whether a heading, in plain words, calls it so */
  isCalled: (heading: string) => boolean;
  /** what its numbers are of; text, or what is read otherwise, where absent */
  quantity?: Quantity;
  /** of what no quantity is for */
  units?: readonly Unit[];
  /** of a number with no unit; that of the reader's own system where absent */
  usual?: Readonly<Record<UnitSystem, string>>;
}

export interface Column {
  heading: string;
  /** id of what it holds; nothing where it is not used */
  holds: string | undefined;
  /** symbols of the units its heading names, or that were said */
  units: readonly string[];
}

export interface Table {
  columns: Column[];
  /** the cells below the heading */
  rows: string[][];
  /** number of the first of them in the text, counted from 1 */
  firstRow: number;
  /** a comma in a number is its decimal: it parts nothing else, where semicolons do that */
  decimalComma: boolean;
}

/** What a person says a column holds, where the heading says otherwise or nothing; "" is not used. */
export interface Said {
  holds?: string;
  unit?: string;
}

/** A row, or a cell of it, that cannot be taken, with a sentence for the person whose table it is. */
export interface Refusal {
  /** number in the text, counted from 1; absent of the table as a whole */
  row?: number;
  /** the heading */
  column?: string;
  why: string;
}

/** What a table comes to: all of it, or every reason why it is none. */
export type Taken<T> = { kind: "taken"; value: T } | { kind: "refused"; refused: Refusal[] };

/**
 * A table pasted from a spreadsheet, or the text of a CSV file: commas, semicolons or tabs. Columns are known by their
 * headings, else by the units those name, else by their order.
 * @param holdings what columns may hold, the most telling first; each is given once
 * @param order ids in which columns come where no heading says what they hold
 * @example readTable("along;height\n0;1,5", []).decimalComma // true
 */
export function readTable(
  text: string,
  holdings: readonly Holding[],
  order: readonly string[] = [],
): Table {
  const { data, meta } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" });
  const rows = data.map((row) => row.map(cellOf));
  const first = rows[0] ?? [];
  const headed = first.length > 0 && !first.some((cell) => /^[-+−]?[.,]?\d/.test(cell));
  const width = rows.reduce((most, row) => Math.max(most, row.length), 0);
  const names = Array.from({ length: width }, (_, i) => (headed ? (first[i] ?? "") : ""));
  const units = names.map(unitsIn);
  const found = columnsByHeading(names, units, holdings);
  fillByOrder(found, order);
  return {
    columns: names.map((name, i) => ({
      heading: name || `Column ${i + 1}`,
      holds: found[i],
      units: units[i] as string[],
    })),
    rows: headed ? rows.slice(1) : rows,
    firstRow: headed ? 2 : 1,
    decimalComma: meta.delimiter === ";",
  };
}

function columnsByHeading(
  names: readonly string[],
  units: readonly string[][],
  holdings: readonly Holding[],
): (string | undefined)[] {
  const open = new Set(holdings);
  const take = (own: Holding | undefined): string | undefined => {
    if (own) open.delete(own);
    return own?.id;
  };
  const called = names.map((name) =>
    take(name === "" ? undefined : [...open].find((own) => own.isCalled(name))),
  );
  // A unit tells by itself what only one of the others could be in.
  return called.map((id, i) => {
    if (id !== undefined) return id;
    const could = [...open].filter((own) => unitOf(own, units[i] as string[]) !== undefined);
    return could.length === 1 ? take(could[0]) : undefined;
  });
}

/** Gives what the order has left to columns that nothing is known of, where there are as many as it has. */
function fillByOrder(found: (string | undefined)[], order: readonly string[]): void {
  const known = found.filter((id) => id !== undefined);
  const all = known.length === 0;
  if (!all && (found.length !== order.length || known.some((id) => !order.includes(id)))) return;
  const left = order.filter((id) => !known.includes(id));
  for (const [i, id] of found.entries()) if (id === undefined) found[i] = left.shift();
}

/** A table with its columns as a person says they are. */
export function asSaid(table: Table, said: Readonly<Record<number, Said>>): Table {
  return {
    ...table,
    columns: table.columns.map((column, i) => {
      const { holds = column.holds, unit } = said[i] ?? {};
      return { ...column, holds: holds || undefined, ...(unit && { units: [unit] }) };
    }),
  };
}

/** The units in "Flow (gpm)", "head, ft" or "Curve: L/s / m / W". */
export function unitsIn(heading: string): string[] {
  const tail = /[([,:]\s*([^)\]]+?)\s*[)\]]?\s*$/.exec(heading)?.[1];
  if (!tail) return [];
  return tail.split(/\s+\/\s+|;|\s+by\s+/).flatMap((text) => {
    const symbol = (text.trim().split(" ").at(-1) as string).toLowerCase();
    const unit = ALL_UNITS.find(
      (own) => own.symbol.toLowerCase() === symbol || own.aliases?.includes(symbol),
    );
    return unit ? [unit.symbol] : [];
  });
}

/** A, of what no quantity is told in here. */
export const AMPERES: readonly Unit[] = [
  { symbol: "A", factor: 1 },
  { symbol: "mA", factor: 1e-3 },
];
const ALL_UNITS: readonly Unit[] = [...Object.values(UNITS).flat(), ...AMPERES];

/** Units what a column holds may be in. */
export const unitsFor = ({ quantity, units }: Holding): readonly Unit[] =>
  quantity ? UNITS[quantity] : (units ?? []);

/** The one of some units that a holding may be in. */
export const unitOf = (own: Holding, symbols: readonly string[]): Unit | undefined =>
  unitsFor(own).find(({ symbol }) => symbols.includes(symbol));

/** Which column holds something, and what its cells are. */
export interface Cells {
  at: number;
  column: Column;
  text: (row: readonly string[]) => string;
}

export function cellsOf({ columns }: Table, id: string): Cells | undefined {
  const at = columns.findIndex(({ holds }) => holds === id);
  const column = columns[at];
  return column && { at, column, text: (row) => row[at] ?? "" };
}

/** The number in a cell, SI: in its own unit, else its heading's, else the usual one, else that of the reader's system. */
export function readNumber(
  text: string,
  { units }: Pick<Column, "units">,
  own: Holding,
  { decimalComma }: Pick<Table, "decimalComma">,
  system: UnitSystem,
): Parsed {
  const unit = unitOf(own, units) ?? unitOf(own, own.usual ? [own.usual[system]] : []);
  const plain = decimalComma ? text.replace(/^([-+]?\d+),(\d+)/, "$1.$2") : text;
  // Most cells of a long table are plain numbers.
  if (unit && /^-?\d+(?:\.\d+)?$/.test(plain)) {
    return { ok: true, value: fromUnit(Number(plain), unit) };
  }
  if (!own.quantity) return { ok: false, message: `“${text}” is not a number.` };
  const whole = unit && isBareNumber(plain) ? `${plain} ${unit.symbol}` : plain;
  return parseQuantity(whole, own.quantity, system);
}
