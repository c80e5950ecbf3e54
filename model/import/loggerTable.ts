import Papa from "papaparse";
import { CHANNELS, type ChannelName, type Sample } from "#contract/streams/stream.ts";
import { fromUnit, shownUnit, UNITS, type Unit } from "#contract/units/units.ts";

/** A column of a logger's file. */
export interface LoggerColumn {
  heading: string;
  /** what it holds; nothing where it is not used */
  reads: ChannelName | "time" | undefined;
  /** symbol of the unit its numbers are in */
  unit: string;
}

export interface LoggerTable {
  columns: LoggerColumn[];
  rows: string[][];
  /** number of the first row in the text, counted from 1 */
  firstRow: number;
}

/** Words of headings by which a column is guessed, the most telling first. */
const SAYS: Record<ChannelName | "time", RegExp> = {
  time: /time|date|clock|zeit|stamp/i,
  suction: /suction|inlet|vacuum/i,
  discharge: /discharge|pressure|outlet|gauge/i,
  flow: /flow|rate/i,
  level: /level|depth/i,
  power: /power|watt/i,
  current: /current|amp/i,
  speed: /speed|rpm/i,
};

const AMPERES: readonly Unit[] = [
  { symbol: "A", factor: 1 },
  { symbol: "mA", factor: 1e-3 },
];

/** Units a column may be in. */
export function unitsOf(reads: ChannelName): readonly Unit[] {
  const { quantity } = CHANNELS[reads];
  return quantity ? UNITS[quantity] : AMPERES;
}

const usualUnit = (reads: ChannelName) => {
  const { quantity } = CHANNELS[reads];
  return quantity ? shownUnit(quantity, "metric").symbol : "A";
};

/** A logger's CSV with what its headings say of its columns; each quantity is guessed once. */
export function readLoggerTable(text: string): LoggerTable {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" });
  const [head = [], ...rest] = data;
  const headed = head.some((cell) => /[a-z]/i.test(cell) && Number.isNaN(Date.parse(cell)));
  const taken = new Set<string>();
  const columns = head.map((cell, i): LoggerColumn => {
    const heading = headed ? cell.trim() : `Column ${i + 1}`;
    const reads = (Object.keys(SAYS) as (ChannelName | "time")[]).find(
      (name) => !taken.has(name) && SAYS[name].test(heading),
    );
    if (reads) taken.add(reads);
    const named = /[([]([^)\]]+)[)\]]\s*$/.exec(heading)?.[1]?.trim().toLowerCase();
    const unit =
      reads && reads !== "time"
        ? (unitsOf(reads).find(
            ({ symbol, aliases }) =>
              symbol.toLowerCase() === named || aliases?.includes(named ?? ""),
          )?.symbol ?? usualUnit(reads))
        : "";
    return { heading, reads, unit };
  });
  return { columns, rows: headed ? rest : data, firstRow: headed ? 2 : 1 };
}

/** A column taken for something else, in its usual unit. */
export function retaken(
  column: LoggerColumn,
  reads: ChannelName | "time" | undefined,
): LoggerColumn {
  return { ...column, reads, unit: reads && reads !== "time" ? usualUnit(reads) : "" };
}

export interface LoggerSamples {
  channels: ChannelName[];
  samples: Sample[];
  /** rows that cannot be taken, by their number in the file, and why */
  refused: { row: number; why: string }[];
}

/**
 * The samples of a logger's table, numbered by their rows, so that the same file sent twice is one. A moment is a date
 * with a time, seconds since 1970, or seconds from `start`; `ahead` is by how many s the logger's clock is fast.
 */
export function loggerSamples(
  table: LoggerTable,
  start: Date,
  ahead: number,
  progress: (done: number) => void = () => undefined,
): LoggerSamples {
  const used = table.columns.flatMap(({ reads, unit }, i) =>
    reads && reads !== "time"
      ? [{ reads, i, unit: unitsOf(reads).find((own) => own.symbol === unit) }]
      : [],
  );
  const clock = table.columns.findIndex(({ reads }) => reads === "time");
  const found: LoggerSamples = {
    channels: used.map(({ reads }) => reads),
    samples: [],
    refused: [],
  };
  for (const [k, cells] of table.rows.entries()) {
    if (k % 5000 === 0) progress(k / table.rows.length);
    const row = table.firstRow + k;
    const at = momentOf(cells[clock] ?? "", start);
    if (at === undefined || Number.isNaN(at)) {
      found.refused.push({
        row,
        why: `“${cells[clock] ?? ""}” is no moment that can be read for sure; write 2026-11-20 08:00:00.`,
      });
      continue;
    }
    const values = used.map(({ i, unit }) => {
      const text = (cells[i] ?? "").trim();
      if (text === "") return null;
      const number = Number(text.replace(/^(-?\d+),(\d+)$/, "$1.$2"));
      return Number.isFinite(number) && unit ? fromUnit(number, unit) : Number.NaN;
    });
    const wrong = values.findIndex((value) => Number.isNaN(value));
    if (wrong >= 0) {
      const cell = cells[used[wrong]?.i ?? 0] ?? "";
      found.refused.push({ row, why: `“${cell}” is not a number.` });
      continue;
    }
    if (values.every((value) => value === null)) continue;
    found.samples.push({ n: k, at: new Date(at - 1000 * ahead).toISOString(), values });
  }
  return found;
}

/** A logger's file as it would be taken in. */
export interface LoggerRead extends LoggerSamples {
  columns: LoggerColumn[];
  /** its first row */
  first: string[];
}

/**
 * Reads a logger's file.
 * @param said its columns where they were said otherwise than its headings do
 * @param progress hears now and then how much is done, 0 to 1
 */
export function readLogger(
  text: string,
  said: LoggerColumn[] | undefined,
  start: Date,
  ahead: number,
  progress: (done: number) => void,
): LoggerRead {
  const table = readLoggerTable(text);
  const columns = said ?? table.columns;
  return {
    ...loggerSamples({ ...table, columns }, start, ahead, progress),
    columns,
    first: table.rows[0] ?? [],
  };
}

/** ms since 1970, or nothing where it cannot be told for sure. */
function momentOf(text: string, start: Date): number | undefined {
  const tidy = text.trim();
  if (/^\d+([.,]\d+)?$/.test(tidy)) {
    const number = Number(tidy.replace(",", "."));
    if (number > 1e11) return number;
    return number > 1e8 ? 1000 * number : start.getTime() + 1000 * number;
  }
  if (/^\d{4}-\d\d-\d\d[ T]\d\d:\d\d/.test(tidy)) {
    const parsed = Date.parse(tidy.replace(" ", "T"));
    return Number.isNaN(parsed) ? undefined : parsed;
  }
  const day = /^(\d{1,2})\.(\d{1,2})\.(\d{4})[ ,T]+(\d{1,2}:\d\d(?::\d\d(?:[.,]\d+)?)?)$/.exec(
    tidy,
  );
  if (day) {
    const [, d = "", m = "", year = "", time = ""] = day;
    const iso = `${year}-${m.padStart(2, "0")}-${d.padStart(2, "0")}T${time.padStart(5, "0").replace(",", ".")}`;
    const parsed = Date.parse(iso);
    return Number.isNaN(parsed) ? undefined : parsed;
  }
  return undefined;
}
