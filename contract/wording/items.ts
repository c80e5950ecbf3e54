import { findFitting } from "#core/fitting/stock.ts";
import { sizeOfFitting } from "#core/line/compileLine.ts";
import type { LevelCase, PathItem } from "#core/line/path.ts";
import { FAMILIES, findPipeStock } from "#core/pipe/stock.ts";
import { format } from "../units/format.ts";
import type { UnitSystem } from "../units/units.ts";

/** "1-1/2 in PVC schedule 40" */
export function stockName(stockId: string): string {
  const stock = findPipeStock(stockId);
  return stock ? `${stock.nominal} ${FAMILIES[stock.family].label}` : `unknown size “${stockId}”`;
}

/** What a fitter would call an item of the path. */
export function itemName(path: readonly PathItem[], id: string, system: UnitSystem): string {
  const index = path.findIndex((item) => item.id === id);
  const item = path[index];
  if (!item) return "the line";
  switch (item.kind) {
    case "pipe":
      return `${format(item.length, "length", system)} of ${stockName(item.stock)}`;
    case "fitting": {
      const label = findFitting(item.fitting)?.label ?? `unknown fitting “${item.fitting}”`;
      const size = sizeOfFitting(path, index)?.nominal;
      const count = item.count === 1 ? "" : `${item.count} × `;
      return `${count}${label}${size ? `, ${size}` : ""}`;
    }
    case "rise":
      return `${item.rise < 0 ? "Drop" : "Rise"} of ${format(Math.abs(item.rise), "length", system)}`;
    case "pump":
      return "Pump";
    case "outlet":
      return OUTLETS[item.outlet.type];
    case "split":
      return "Split";
    case "orifice":
      return `${item.purpose === "leak" ? "Leak" : "Vent hole"}, ${format(item.bore, "diameter", system)}`;
  }
}

export const OUTLETS = {
  free: "Outlet into the open",
  submerged: "Outlet under water",
  pressure: "Outlet under pressure",
  nozzle: "Nozzle or gun",
} as const;

export const CASES: Record<LevelCase, string> = {
  low: "low water",
  normal: "normal water",
  high: "high water",
};
