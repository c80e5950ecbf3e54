import { outOfRange, RANGES } from "#contract/documents/ranges.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import {
  cellsOf,
  type Holding,
  type Refusal,
  readNumber,
  type Table,
  type Taken,
} from "./table.ts";

/** What a column of a surveyed profile, or of a list of runs, may hold. */
const called = (words: RegExp) => (heading: string) => words.test(heading.replaceAll("_", " "));
const HOLDINGS = {
  rise: {
    id: "rise",
    name: "rise of run",
    isCalled: called(/\b(rise|fall|climb|lift|drop)\b/i),
    quantity: "length",
  },
  height: {
    id: "height",
    name: "height or level",
    isCalled: called(/\b(height|elev\w*|level|altitude|rl|z|datum)\b/i),
    quantity: "length",
  },
  distance: {
    id: "distance",
    name: "distance along",
    isCalled: called(/\b(dist\w*|chain\w*|station|along|x)\b/i),
    quantity: "length",
  },
  length: {
    id: "length",
    name: "length of run",
    isCalled: called(/\b(length|len|run)\b/i),
    quantity: "length",
  },
} as const satisfies Record<string, Holding>;
type Held = keyof typeof HOLDINGS;

export const PROFILE_COLUMNS: readonly Holding[] = Object.values(HOLDINGS);
/** Of a survey without headings. */
export const PROFILE_ORDER: readonly string[] = ["distance", "height"];

/** Stretches between surveyed points, or runs as listed. m. */
export interface Run {
  length: number;
  rise: number;
}

/**
 * Runs from a table whose columns hold distance and height of points one after another, or length and rise of each
 * run. Distances are horizontal and may not go back; a run's length is measured along it.
 */
export function runsFrom(table: Table, system: UnitSystem): Taken<Run[]> {
  const has = (id: Held) => cellsOf(table, id) !== undefined;
  const survey = has("distance") && has("height");
  if (!survey && !has("length")) {
    const why =
      "Say which columns hold distance and height, or length and rise: none can be told yet.";
    return { kind: "refused", refused: [{ why }] };
  }
  const refused: Refusal[] = [];
  const number = (cells: readonly string[], id: Held, row: number): number | undefined => {
    const { column, text } = cellsOf(table, id) ?? {};
    if (!column || !text) return 0;
    const parsed = readNumber(text(cells), column, HOLDINGS[id], table, system);
    const why = parsed.ok
      ? id === "distance"
        ? undefined
        : outOfRange(parsed.value, "length", RANGE[id])
      : parsed.message;
    if (why) refused.push({ row, column: column.heading, why });
    return parsed.ok && !why ? parsed.value : undefined;
  };
  const pairs = table.rows.flatMap((cells, i) => {
    const row = table.firstRow + i;
    const a = number(cells, survey ? "distance" : "length", row);
    const b = number(cells, survey ? "height" : "rise", row);
    return a === undefined || b === undefined ? [] : [{ a, b, row }];
  });
  const runs = survey
    ? pairs.slice(1).flatMap(({ a, b, row }, i): Run[] => {
        const before = pairs[i] as (typeof pairs)[number];
        const along = a - before.a;
        if (along < 0) {
          refused.push({ row, why: "the distance goes back. Points follow the line." });
        }
        const rise = b - before.b;
        // The same point surveyed twice adds nothing.
        return along === 0 && rise === 0 ? [] : [{ length: Math.hypot(along, rise), rise }];
      })
    : pairs.map(({ a, b, row }): Run => {
        if (Math.abs(b) > a) refused.push({ row, why: "it rises more than it is long." });
        return { length: a, rise: b };
      });
  if (refused.length === 0 && runs.length === 0) {
    const why = survey ? "A profile needs at least two points." : "There is no row to read yet.";
    refused.push({ why });
  }
  return refused.length > 0 ? { kind: "refused", refused } : { kind: "taken", value: runs };
}

const RANGE = { length: RANGES.length, rise: RANGES.rise, height: RANGES.elevation } as const;
