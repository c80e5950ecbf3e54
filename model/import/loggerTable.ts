import {
  CHANNEL_NAMES,
  CHANNELS,
  type ChannelName,
  type Sample,
} from "#contract/streams/stream.ts";
import { shownUnit } from "#contract/units/units.ts";
import {
  AMPERES,
  asSaid,
  type Column,
  cellsOf,
  type Holding,
  type Refusal,
  readNumber,
  readTable,
  type Said,
  type Table,
} from "./table.ts";

/** Words of headings by which a column is known, the most telling first. */
const CALLED: Record<ChannelName, RegExp> = {
  suction: /suction|inlet|vacuum/i,
  discharge: /discharge|pressure|outlet|gauge/i,
  flow: /flow|rate/i,
  level: /level|depth/i,
  power: /power|watt/i,
  current: /current|amp/i,
  speed: /speed|rpm/i,
};

const TIME: Holding = {
  id: "time",
  name: "the time",
  isCalled: (heading) => /time|date|clock|zeit|stamp/i.test(heading),
};

/** What a column of a logger's file may hold; its numbers are metric unless it says otherwise. */
export const LOGGER_COLUMNS: readonly Holding[] = [
  TIME,
  ...(Object.keys(CALLED) as ChannelName[]).map((id): Holding => {
    const { quantity, name } = CHANNELS[id];
    const unit = quantity ? shownUnit(quantity, "metric").symbol : "A";
    return {
      ...{ id, name, isCalled: (heading) => CALLED[id].test(heading) },
      ...(quantity ? { quantity } : { units: AMPERES }),
      usual: { metric: unit, us: unit },
    };
  }),
];

const isChannel = (id: string | undefined): id is ChannelName =>
  (CHANNEL_NAMES as readonly (string | undefined)[]).includes(id);

export interface LoggerSamples {
  channels: ChannelName[];
  samples: Sample[];
  refused: Refusal[];
}

/**
 * The samples of a logger's table, numbered by their rows, so that the same file sent twice is one. A moment is a date
 * with a time, seconds since 1970, or seconds from `start`; `ahead` is by how many s the logger's clock is fast.
 */
export function loggerSamples(
  table: Table,
  start: Date,
  ahead: number,
  progress: (done: number) => void = () => undefined,
): LoggerSamples {
  const used = table.columns.flatMap((column, i) => {
    const own = LOGGER_COLUMNS.find(({ id }) => id === column.holds);
    return own && isChannel(own.id) ? [{ own, reads: own.id, column, i }] : [];
  });
  const clock = cellsOf(table, TIME.id);
  const found: LoggerSamples = {
    channels: used.map(({ reads }) => reads),
    samples: [],
    refused: [],
  };
  for (const [k, cells] of table.rows.entries()) {
    if (k % 5000 === 0) progress(k / table.rows.length);
    const row = table.firstRow + k;
    const moment = clock?.text(cells) ?? "";
    const at = momentOf(moment, start);
    if (at === undefined || Number.isNaN(at)) {
      const why = `“${moment}” is no moment that can be read for sure; write 2026-11-20 08:00:00.`;
      found.refused.push({ row, why });
      continue;
    }
    let why: string | undefined;
    const values = used.map(({ own, column, i }) => {
      const text = cells[i] ?? "";
      if (text === "") return null;
      const parsed = readNumber(text, column, own, table, "metric");
      if (!parsed.ok) why ??= `${column.heading}: ${parsed.message}`;
      return parsed.ok ? parsed.value : Number.NaN;
    });
    if (why !== undefined) {
      found.refused.push({ row, why });
      continue;
    }
    if (values.every((value) => value === null)) continue;
    found.samples.push({ n: k, at: new Date(at - 1000 * ahead).toISOString(), values });
  }
  return found;
}

/** A logger's file as it would be taken in. */
export interface LoggerRead extends LoggerSamples {
  columns: Column[];
  /** its first row */
  first: string[];
}

/**
 * Reads a logger's file.
 * @param said what its columns hold where that was said otherwise than their headings do
 * @param progress hears now and then how much is done, 0 to 1
 */
export function readLogger(
  text: string,
  said: Readonly<Record<number, Said>>,
  start: Date,
  ahead: number,
  progress: (done: number) => void,
): LoggerRead {
  const table = asSaid(readTable(text, LOGGER_COLUMNS), said);
  return {
    ...loggerSamples(table, start, ahead, progress),
    columns: table.columns,
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
