import type { UnitSystem } from "#contract/units/units.ts";
import { readPairs } from "./readPairs.ts";
import type { Holding, Table, Taken } from "./table.ts";

const DEPTH: Holding = {
  id: "depth",
  name: "depth",
  isCalled: (heading) => /depth|height|level/i.test(heading),
  quantity: "length",
  usual: { metric: "m", us: "ft" },
};
const AREA: Holding = {
  id: "area",
  name: "area",
  isCalled: (heading) => /area|surface/i.test(heading),
  quantity: "area",
  usual: { metric: "m²", us: "ft²" },
};
export const AREA_COLUMNS = [DEPTH, AREA] as const;
export const AREA_ORDER = [DEPTH.id, AREA.id];

/** Depths from the bottom up, with the area of the water at each. */
export function readAreas(
  table: Table,
  system: UnitSystem,
): Taken<{ depth: number; area: number }[]> {
  const read = readPairs(table, AREA_COLUMNS, system);
  if (read.kind === "refused") return read;
  return { kind: "taken", value: read.value.map(({ a, b }) => ({ depth: a, area: b })) };
}
