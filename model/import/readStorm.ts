import type { OverTimeDocument } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { readPairs } from "./readPairs.ts";
import { cellsOf, type Holding, type Refusal, type Table, type Taken } from "./table.ts";

/** Times a usual step that the next row may be away; beyond it one is missing. */
const GAP = 1.5;

const TIME: Holding = {
  id: "time",
  name: "time",
  isCalled: (heading) => /time|minute|hour/i.test(heading),
  quantity: "time",
  usual: { metric: "min", us: "min" },
};
const INFLOW: Holding = {
  id: "inflow",
  name: "inflow",
  isCalled: (heading) => /flow/i.test(heading),
  quantity: "flow",
  usual: { metric: "L/s", us: "gpm" },
};
const RAIN: Holding = {
  id: "rain",
  name: "rain",
  isCalled: (heading) => /rain|depth/i.test(heading),
  quantity: "length",
  usual: { metric: "mm", us: "in" },
};
export const STORM_COLUMNS = [TIME, INFLOW, RAIN] as const;
export const STORM_ORDER = [TIME.id, INFLOW.id];

/**
 * A storm out of a table: time and inflow, or time and the rain that fell from it until the next row. A row that is
 * missing among rows that come at one step is told, not bridged.
 * @param area m² of which all rain runs off, for a table of rain
 */
export function readStorm(
  table: Table,
  area: number,
  system: UnitSystem,
): Taken<NonNullable<OverTimeDocument["hyetograph"]>> {
  const rains = cellsOf(table, INFLOW.id) === undefined;
  const read = readPairs(table, [TIME, rains ? RAIN : INFLOW], system);
  if (read.kind === "refused") return read;
  const pairs = read.value;
  const steps = pairs.slice(1).map(({ a }, i) => a - (pairs[i]?.a as number));
  const usual = steps.toSorted((x, y) => x - y)[Math.floor(steps.length / 2)] as number;
  const refused = steps.flatMap((step, i): Refusal[] =>
    step > GAP * usual
      ? [
          {
            row: pairs[i + 1]?.row as number,
            column: TIME.name,
            why: `${minutes(step)} after the row before it, where rows come every ${minutes(usual)}. Rows are missing.`,
          },
        ]
      : [],
  );
  if (rains && !(area > 0)) {
    refused.push({
      why: "Rain needs something to fall on: give the roofs and yards their areas first.",
    });
  }
  if (refused.length > 0) return { kind: "refused", refused };
  const last = (pairs.at(-1)?.a as number) + usual;
  return {
    kind: "taken",
    value: [
      ...pairs.map(({ a, b }, i) => ({
        from: a,
        inflow: rains ? (b * area) / (steps[i] ?? usual) : b,
      })),
      { from: last, inflow: 0 },
    ],
  };
}

const minutes = (seconds: number) => `${Number((seconds / 60).toFixed(1))} min`;
