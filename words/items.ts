import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { FAMILIES, findPipeStock } from "#core/catalogue/pipes.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import { sizeOfFitting } from "#core/line/fittingLoss.ts";
import {
  everyItem,
  locate,
  type PathItem,
  type Standing,
  type Supply,
  type WaterKind,
} from "#core/line/path.ts";

/** "1-1/2 in PVC schedule 40" */
export function stockName(stockId: string): string {
  const stock = findPipeStock(stockId);
  return stock ? `${stock.nominal} ${FAMILIES[stock.family].label}` : `unknown size “${stockId}”`;
}

/** What a fitter would call an item of the path. */
export function itemName(path: readonly PathItem[], id: string, system: UnitSystem): string {
  const found = locate(path, id);
  const item = found?.list[found.index];
  if (!found || !item) return "the line";
  switch (item.kind) {
    case "pipe":
      return `${format(item.length, "length", system)} of ${stockName(item.stock)}${item.age ? `, ${AGES[item.age]}` : ""}`;
    case "fitting": {
      const label = findFitting(item.fitting)?.label ?? `unknown fitting “${item.fitting}”`;
      const size = sizeOfFitting(found.list, found.index)?.nominal;
      const count = item.count === 1 ? "" : `${item.count} × `;
      const open =
        item.opening === undefined || item.opening === 1 ? "" : `, ${openingName(item.opening)}`;
      return `${count}${label}${size ? `, ${size}` : ""}${open}`;
    }
    case "rise":
      return `${item.rise < 0 ? "Drop" : "Rise"} of ${format(Math.abs(item.rise), "length", system)}`;
    case "pump": {
      const all = everyItem(path).filter(({ kind }) => kind === "pump");
      return all.length < 2 ? "Pump" : `Pump ${all.findIndex((p) => p.id === id) + 1}`;
    }
    case "outlet":
      return OUTLETS[item.outlet.type];
    case "split":
      return `Split in ${item.branches.length}`;
    case "orifice":
      return `${item.purpose === "leak" ? "Leak" : "Vent hole"}, ${formatSize(item.bore, system, "nearest")}`;
  }
}

/** Pumps of a path that run together, as they are said. */
export function pumpsName(
  path: readonly PathItem[],
  ids: readonly string[],
  system: UnitSystem,
): string {
  const names = ids.map((id) => itemName(path, id, system));
  return [names.slice(0, -1).join(", "), names.at(-1)].filter(Boolean).join(" and ");
}

const AGES = { new: "new", aged: "old" } as const;

/** How far a valve is open, as it is said. */
export function openingName(opening: number): string {
  if (opening === 0) return "shut";
  if (opening === 1) return "open";
  return `${Math.round(opening * 100)} % open`;
}

export const OUTLETS = {
  free: "Outlet into the open",
  submerged: "Outlet under water",
  drain: "Open drain on the line",
  pressure: "Outlet under pressure",
  nozzle: "Nozzle or gun",
  emitter: "Sprinkler or emitter",
} as const;

/** Where a pump stands, after "The pump stands". */
export const STANDS: Record<Standing, string> = {
  "open-ground": "on open ground",
  bank: "on the bank",
  indoors: "indoors",
  pit: "in a pit",
  "crawl-space": "in a crawl space",
  casing: "in a casing",
};

export const WATER_IN: Record<WaterKind, string> = {
  clear: "clear",
  gritty: "grit or sand",
  stringy: "strings, leaves",
  foul: "foul",
  chlorinated: "chlorine",
};

/** The power a place may have, in the order it is offered; another stands in the job file. */
export const SUPPLIES: readonly { name: string; is: Supply[] }[] = [
  { name: "none", is: [] },
  { name: "12 V battery", is: [{ volts: 12, direct: true }] },
  { name: "120 V", is: [{ volts: 120, phase: 1 }] },
  { name: "230 V", is: [{ volts: 230, phase: 1 }] },
  { name: "208 V, three phases", is: [{ volts: 208, phase: 3 }] },
  {
    name: "400 V, three phases",
    is: [
      { volts: 400, phase: 3 },
      { volts: 230, phase: 1 },
    ],
  },
  { name: "480 V, three phases", is: [{ volts: 480, phase: 3 }] },
  {
    name: "120 V, and a 12 V battery",
    is: [
      { volts: 120, phase: 1 },
      { volts: 12, direct: true },
    ],
  },
  {
    name: "230 V, and a 12 V battery",
    is: [
      { volts: 230, phase: 1 },
      { volts: 12, direct: true },
    ],
  },
];

const WATER: Record<WaterLevel, string> = {
  low: "low water",
  normal: "normal water",
  high: "high water",
};
/** A well goes by its seasons. */
const WELL_WATER: Record<WaterLevel, string> = {
  low: "dry-season water",
  normal: "usual water",
  high: "wet-season water",
};

/** The three states of a job's water, as they are told of its source. */
export const waterOf = ({ kind }: { kind: string }): Record<WaterLevel, string> =>
  kind === "well" ? WELL_WATER : WATER;

/** In place of a flow in a table, where a pump does not settle at one. */
export const UNSETTLED = {
  runs: "",
  "two-crossings": "",
  "cannot-lift": "none",
  "below-curve": "off curve",
  "beyond-curve": "past curve",
  stopped: "off",
} as const;

export const PUMP_KINDS: Record<PumpDocument["kind"], string> = {
  sump: "Sump",
  effluent: "Effluent",
  puddle: "Puddle",
  battery: "Battery",
  transfer: "Transfer",
  jet: "Jet",
  well: "Well",
  circulation: "Circulation",
  "engine-pressure": "Engine, pressure",
  "engine-trash": "Engine, trash",
};
