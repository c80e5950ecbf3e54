import type { OverTimeDocument } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { readPairs } from "./readPairs.ts";

export type ReadStorm =
  | { kind: "rows"; rows: NonNullable<OverTimeDocument["hyetograph"]> }
  | { kind: "problems"; problems: string[] };

/** Times a usual step that the next row may be away; beyond it one is missing. */
const GAP = 1.5;

/**
 * A storm out of a CSV file: time and inflow, or time and the rain that fell from it until the next row. A row that is
 * missing among rows that come at one step is told, not bridged.
 * @param area m² of which all rain runs off, for a file of rain
 */
export function readStorm(text: string, area: number, system: UnitSystem): ReadStorm {
  const us = system === "us";
  const read = readPairs(
    text,
    { name: "time", as: [{ quantity: "time", unit: "min" }] },
    {
      name: "inflow or rain",
      as: [
        { quantity: "flow", unit: us ? "gpm" : "L/s" },
        { quantity: "length", unit: us ? "in" : "mm" },
      ],
    },
    system,
  );
  if (read.kind === "problems") return read;
  const { pairs, second } = read;
  const steps = pairs.slice(1).map(({ a }, i) => a - (pairs[i]?.a as number));
  const usual = steps.toSorted((x, y) => x - y)[Math.floor(steps.length / 2)] as number;
  const problems = steps.flatMap((step, i) =>
    step > GAP * usual
      ? [
          `Row ${pairs[i + 1]?.row}, time: ${minutes(step)} after the row before it, where rows come every ${minutes(usual)}. Rows are missing.`,
        ]
      : [],
  );
  if (second === "length" && !(area > 0)) {
    problems.push("Rain needs something to fall on: give the roofs and yards their areas first.");
  }
  if (problems.length > 0) return { kind: "problems", problems };
  const last = (pairs.at(-1)?.a as number) + usual;
  return {
    kind: "rows",
    rows: [
      ...pairs.map(({ a, b }, i) => ({
        from: a,
        inflow: second === "flow" ? b : (b * area) / (steps[i] ?? usual),
      })),
      { from: last, inflow: 0 },
    ],
  };
}

const minutes = (seconds: number) => `${Number((seconds / 60).toFixed(1))} min`;
