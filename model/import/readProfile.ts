import Papa from "papaparse";
import { outOfRange, RANGES } from "#contract/documents/ranges.ts";
import { isBareNumber, parseQuantity } from "#contract/units/parse.ts";
import { UNITS, type UnitSystem } from "#contract/units/units.ts";

/** What a column of a surveyed profile, or of a list of runs, holds. */
export const ROLES = ["distance", "height", "length", "rise", "ignored"] as const;
export type Role = (typeof ROLES)[number];

export interface Column {
  name: string;
  role: Role;
  /** symbol of a length unit, where the heading names one */
  unit?: string;
}

export interface Table {
  columns: Column[];
  /** the cells below the heading */
  rows: string[][];
  /** number of the first of them in the text, counted from 1 */
  firstRow: number;
}

/** Stretches between surveyed points, or runs as listed. m. */
export interface Run {
  length: number;
  rise: number;
}

export type Reading =
  | { kind: "runs"; runs: Run[] }
  /** every row that cannot be read, with a sentence for the person who typed it */
  | { kind: "problems"; problems: string[] };

/**
 * A table pasted from a spreadsheet, or the text of a CSV file: commas, semicolons or tabs. Columns are
 * recognised by their headings, or by their order where there are none; the roles may be changed.
 */
export function readTable(text: string): Table {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" });
  const rows = data.map((row) => row.map((cell) => cell.trim()));
  const first = rows[0] ?? [];
  const headed = first.length > 0 && !first.some((cell) => /^[-+−]?\.?\d/.test(cell));
  const width = Math.max(0, ...rows.map((row) => row.length));
  const names = Array.from({ length: width }, (_, i) => (headed ? (first[i] ?? "") : ""));
  const found = names.map(roleOf);
  // Without headings the order of a survey is taken: distance, then height.
  const roles: Role[] = found.some((role) => role !== "ignored")
    ? onlyOnce(found)
    : names.map((_, i) => (["distance", "height"] as const)[i] ?? "ignored");
  return {
    columns: names.map((name, i) => {
      const unit = unitOf(name);
      const role = roles[i] as Role;
      return { name: name || `Column ${i + 1}`, role, ...(unit && { unit }) };
    }),
    rows: headed ? rows.slice(1) : rows,
    firstRow: headed ? 2 : 1,
  };
}

const HEADINGS: readonly [Role, RegExp][] = [
  ["rise", /\b(rise|fall|climb|lift|drop)\b/i],
  ["height", /\b(height|elev\w*|level|altitude|rl|z|datum)\b/i],
  ["distance", /\b(dist\w*|chain\w*|station|along|x)\b/i],
  ["length", /\b(length|len|run)\b/i],
];

function roleOf(heading: string): Role {
  const words = heading.replaceAll("_", " ");
  return HEADINGS.find(([, pattern]) => pattern.test(words))?.[0] ?? "ignored";
}

/** A role can be given once: the first column that looks like it keeps it. */
function onlyOnce(roles: readonly Role[]): Role[] {
  return roles.map((role, i) => (roles.indexOf(role) === i ? role : "ignored"));
}

/** The unit in "Height (ft)", "distance [m]" or "length, yd". */
function unitOf(heading: string): string | undefined {
  const symbol = /[([,]\s*([a-z'"″′]+)\s*[)\]]?\s*$/i.exec(heading)?.[1]?.toLowerCase();
  return UNITS.length.some((unit) => unit.symbol === symbol) ? symbol : undefined;
}

/**
 * Runs from a table whose columns have roles: distance and height of points one after another, or length
 * and rise of each run. Distances are horizontal and may not go back; a run's length is measured along it.
 * Cells without a unit take their heading's, else that of `system`.
 */
export function runsFrom({ columns, rows, firstRow }: Table, system: UnitSystem): Reading {
  const at = (role: Role) => columns.findIndex((column) => column.role === role);
  const survey = at("distance") >= 0 && at("height") >= 0;
  if (!survey && at("length") < 0) {
    const problem =
      "Say which columns hold distance and height, or length and rise: none can be told yet.";
    return { kind: "problems", problems: [problem] };
  }
  const problems: string[] = [];
  const cell = (row: readonly string[], role: Role, index: number): number | undefined => {
    const column = columns[at(role)];
    if (!column) return 0;
    const text = row[at(role)] ?? "";
    const parsed = parseQuantity(
      column.unit && isBareNumber(text) ? `${text} ${column.unit}` : text,
      "length",
      system,
    );
    const range =
      role === "length" ? RANGES.length : role === "rise" ? RANGES.rise : RANGES.elevation;
    const problem = parsed.ok
      ? role === "distance"
        ? undefined
        : outOfRange(parsed.value, "length", range)
      : parsed.message;
    if (problem) problems.push(`Row ${firstRow + index}, ${column.name}: ${problem}`);
    return parsed.ok && !problem ? parsed.value : undefined;
  };
  const pairs = rows.flatMap((row, index) => {
    const a = cell(row, survey ? "distance" : "length", index);
    const b = cell(row, survey ? "height" : "rise", index);
    return a === undefined || b === undefined ? [] : [{ a, b, index }];
  });
  const runs = survey
    ? pairs.slice(1).flatMap(({ a, b, index }, i): Run[] => {
        const before = pairs[i] as (typeof pairs)[number];
        const along = a - before.a;
        if (along < 0) {
          problems.push(`Row ${firstRow + index}: the distance goes back. Points follow the line.`);
        }
        const rise = b - before.b;
        // The same point surveyed twice adds nothing.
        return along === 0 && rise === 0 ? [] : [{ length: Math.hypot(along, rise), rise }];
      })
    : pairs.map(({ a, b, index }): Run => {
        if (Math.abs(b) > a)
          problems.push(`Row ${firstRow + index}: it rises more than it is long.`);
        return { length: a, rise: b };
      });
  if (problems.length === 0 && runs.length === 0) {
    problems.push(survey ? "A profile needs at least two points." : "There is no row to read yet.");
  }
  return problems.length > 0 ? { kind: "problems", problems } : { kind: "runs", runs };
}
