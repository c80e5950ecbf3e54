import type { Quantity } from "#contract/units/units.ts";
import type { Holding } from "../table.ts";
import { PLATE_FIELDS } from "./fields.ts";

/** What a column of a table of pumps may hold beside the fields of the plate. */
export const CURVE_COLUMNS = [
  { path: "curve", name: "Curve, points in one cell", also: ["curve", "points"] },
  { path: "shutOff", name: "Shut-off head", also: ["shut off head", "shutoff"], quantity: "head" },
  { path: "bestFlow", name: "Best flow", also: ["flow at best"], quantity: "flow" },
  { path: "bestHead", name: "Best head", also: ["head at best"], quantity: "head" },
  { path: "lastFlow", name: "Last flow", also: ["run-out flow"], quantity: "flow" },
  { path: "lastHead", name: "Last head", also: ["run-out head"], quantity: "head" },
  {
    path: "mostFlow",
    name: "Most flow on the sticker",
    also: ["max flow", "maximum flow"],
    quantity: "flow",
  },
  {
    path: "mostHead",
    name: "Most head on the sticker",
    also: ["max head", "maximum head"],
    quantity: "head",
  },
  { path: "id", name: "Its id here", also: ["id"] },
] as const satisfies readonly {
  path: string;
  name: string;
  also: readonly string[];
  quantity?: Quantity;
}[];
export type CurveColumn = (typeof CURVE_COLUMNS)[number]["path"];

const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[([].*$/, "")
    .replace(/:.*$/, "")
    .replace(/[_\s]+/g, " ")
    .replace(/,[^,]*$/, (tail) => (/,\s*a$/.test(tail) ? tail : ""))
    .trim();

/** Everything a column of a table of pumps may hold, by its path in the document. */
export const PUMP_COLUMNS: readonly Holding[] = [...PLATE_FIELDS, ...CURVE_COLUMNS].map(
  (own): Holding => {
    const also: readonly string[] = own.also ?? [];
    const names = new Set([plain(own.name), ...also]);
    return {
      id: own.path,
      name: own.name,
      isCalled: (heading) => heading.trim() === own.path || names.has(plain(heading)),
    };
  },
);
