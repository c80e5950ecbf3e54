import Papa from "papaparse";

/** Text that a spreadsheet would take for a formula and work out; a number with its sign is none. */
const FORMULA = /^(?:[=@\t\r]|[+-](?![\d.,]+(?:[eE][+-]?\d+)?$)).*/s;

/** Rows as CSV that no spreadsheet works anything out of: what would be a formula has an apostrophe before it. */
export const csvOf = (rows: readonly (readonly unknown[])[]): string =>
  Papa.unparse(rows as unknown[][], { escapeFormulae: FORMULA });

/** A cell as it was before it was written by `csvOf`. */
export const cellOf = (cell: string): string => cell.trim().replace(/^'(?=[=@+-])/, "");
