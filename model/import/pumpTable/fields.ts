import { PUMP_FAMILIES, type PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { Quantity } from "#contract/units/units.ts";
import { TOLERANCE } from "#core/pump/pump.ts";

/**
 * Every field of a pump's plate, declared once: the editor, the comparison and the tables that are read in and written
 * out follow from it.
 */
export interface PlateField {
  /** where it stands in the document, such as "electric.volts" */
  path: string;
  /** what a person calls it, and what else a heading may call it, lower case */
  name: string;
  also?: readonly string[];
  kind:
    | { is: "quantity"; quantity: Quantity; range: (typeof RANGES)[keyof typeof RANGES] }
    | { is: "text"; longest: number }
    | { is: "number"; most: number; whole?: boolean }
    | { is: "yes-no" }
    | { is: "choice"; of: readonly string[] };
  /** the part of the plate it stands in */
  part: "name" | "size" | "limits" | "electric" | "engine" | "firm";
  /** asked of what is driven so */
  only?: PumpDocument["drive"];
}

const quantity = (
  of: Quantity,
  range: (typeof RANGES)[keyof typeof RANGES],
): PlateField["kind"] => ({ is: "quantity", quantity: of, range });

export const PLATE_FIELDS: readonly PlateField[] = [
  {
    path: "maker",
    name: "Maker",
    also: ["make", "brand"],
    kind: { is: "text", longest: 80 },
    part: "name",
  },
  {
    path: "model",
    name: "Model",
    also: ["type", "pump"],
    kind: { is: "text", longest: 80 },
    part: "name",
  },
  {
    path: "kind",
    name: "Kind",
    also: ["family"],
    kind: { is: "choice", of: PUMP_FAMILIES },
    part: "name",
  },
  {
    path: "drive",
    name: "Driven by",
    also: ["drive"],
    kind: { is: "choice", of: ["electric", "engine"] },
    part: "name",
  },
  {
    path: "submersible",
    name: "Stands in the water",
    also: ["submersible"],
    kind: { is: "yes-no" },
    part: "name",
  },
  {
    path: "tolerance",
    name: "Tolerance grade",
    also: ["grade"],
    kind: { is: "choice", of: Object.keys(TOLERANCE) },
    part: "name",
  },
  {
    path: "ratedSpeedRpm",
    name: "Rated speed",
    also: ["speed", "rpm"],
    kind: quantity("speed", RANGES.speed),
    part: "size",
  },
  {
    path: "suctionPort",
    name: "Suction port",
    also: ["inlet"],
    kind: quantity("diameter", RANGES.bore),
    part: "size",
  },
  {
    path: "dischargePort",
    name: "Discharge port",
    also: ["port", "outlet"],
    kind: quantity("diameter", RANGES.bore),
    part: "size",
  },
  {
    path: "solids",
    name: "Passes",
    also: ["passage", "solids"],
    kind: quantity("diameter", RANGES.solids),
    part: "size",
  },
  {
    path: "diameter",
    name: "Width outside",
    also: ["diameter", "width"],
    kind: quantity("diameter", RANGES.bore),
    part: "size",
  },
  {
    path: "mass",
    name: "Weight",
    also: ["mass"],
    kind: quantity("mass", RANGES.mass),
    part: "size",
  },
  {
    path: "maxSuctionLift",
    name: "Greatest suction lift",
    also: ["suction lift", "lift"],
    kind: quantity("head", RANGES.lift),
    part: "limits",
  },
  {
    path: "leastDepth",
    name: "Least depth of water",
    also: ["least depth"],
    kind: quantity("length", RANGES.depth),
    part: "limits",
  },
  {
    path: "greatestDepth",
    name: "Greatest depth it hangs",
    also: ["greatest depth"],
    kind: quantity("length", RANGES.depth),
    part: "limits",
  },
  {
    path: "greatestImmersion",
    name: "Greatest water over it",
    also: ["immersion"],
    kind: quantity("length", RANGES.depth),
    part: "limits",
  },
  {
    path: "film",
    name: "Leaves on a floor",
    also: ["film"],
    kind: quantity("diameter", RANGES.solids),
    part: "limits",
  },
  {
    path: "greatestTemperature",
    name: "Warmest water",
    also: ["temperature"],
    kind: quantity("temperature", RANGES.waterTemperature),
    part: "limits",
  },
  {
    path: "leastFlow",
    name: "Least flow",
    also: ["minimum flow"],
    kind: quantity("flow", RANGES.flow),
    part: "limits",
  },
  {
    path: "startsPerHour",
    name: "Starts an hour",
    also: ["starts"],
    kind: { is: "number", most: 3600 },
    part: "limits",
  },
  {
    path: "electric.volts",
    name: "Volts",
    also: ["voltage"],
    kind: { is: "number", most: 1000 },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.phase",
    name: "Phases",
    also: ["phase"],
    kind: { is: "choice", of: ["1", "3"] },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.direct",
    name: "Direct current",
    also: ["dc"],
    kind: { is: "yes-no" },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.runningCurrent",
    name: "Running current, A",
    also: ["running current", "amps", "current"],
    kind: { is: "number", most: 5000 },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.startingCurrent",
    name: "Starting current, A",
    also: ["starting current"],
    kind: { is: "number", most: 20_000 },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.powerFactor",
    name: "Power factor",
    also: ["cos phi", "pf"],
    kind: { is: "number", most: 1 },
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.cord",
    name: "Cord",
    also: ["cord length"],
    kind: quantity("length", RANGES.length),
    part: "electric",
    only: "electric",
  },
  {
    path: "electric.plug",
    name: "Plug",
    kind: { is: "text", longest: 40 },
    part: "electric",
    only: "electric",
  },
  {
    path: "switch.kind",
    name: "Its switch",
    also: ["switch"],
    kind: {
      is: "choice",
      of: ["none", "tethered-float", "vertical-float", "sensor", "pressure-switch"],
    },
    part: "electric",
    only: "electric",
  },
  {
    path: "switch.band",
    name: "Switches within",
    also: ["switch band", "band"],
    kind: quantity("length", RANGES.depth),
    part: "electric",
    only: "electric",
  },
  {
    path: "speeds.least",
    name: "Slowest its drive turns it",
    also: ["least speed"],
    kind: quantity("speed", RANGES.speed),
    part: "electric",
  },
  {
    path: "speeds.most",
    name: "Fastest its drive turns it",
    also: ["most speed"],
    kind: quantity("speed", RANGES.speed),
    part: "electric",
  },
  {
    path: "engine.power",
    name: "Engine power",
    kind: quantity("power", RANGES.power),
    part: "engine",
    only: "engine",
  },
  {
    path: "engine.fuel",
    name: "Fuel",
    kind: { is: "choice", of: ["petrol", "diesel", "gas"] },
    part: "engine",
    only: "engine",
  },
  {
    path: "engine.tank",
    name: "Tank",
    also: ["fuel tank"],
    kind: quantity("volume", RANGES.volume),
    part: "engine",
    only: "engine",
  },
  { path: "price", name: "Price", also: ["cost"], kind: { is: "number", most: 1e7 }, part: "firm" },
  {
    path: "owned",
    name: "How many you own",
    also: ["owned"],
    kind: { is: "number", most: 10_000, whole: true },
    part: "firm",
  },
  {
    path: "inVan",
    name: "One is in the van",
    also: ["in van", "van"],
    kind: { is: "yes-no" },
    part: "firm",
  },
  {
    path: "spares",
    name: "Spares can be had",
    also: ["spares"],
    kind: { is: "yes-no" },
    part: "firm",
  },
  {
    path: "note",
    name: "Note",
    also: ["notes", "remark"],
    kind: { is: "text", longest: 2000 },
    part: "firm",
  },
];

type Tree = Record<string, unknown>;

/** What stands in a field of a document; undefined where nothing does. */
export function valueAt(document: object, path: string): unknown {
  let at: unknown = document;
  for (const key of path.split(".")) {
    if (typeof at !== "object" || at === null) return undefined;
    at = (at as Tree)[key];
  }
  return at;
}

/** The document with a value in a field; undefined takes it out, and with the last of its group the group. */
export function withValue<T extends object>(document: T, path: string, value: unknown): T {
  const [key = "", ...rest] = path.split(".");
  const { [key]: before, ...others } = document as Tree;
  if (rest.length === 0) {
    return (value === undefined ? others : { ...document, [key]: value }) as T;
  }
  const inner = withValue((before as Tree | undefined) ?? {}, rest.join("."), value);
  return (Object.keys(inner).length === 0 ? others : { ...document, [key]: inner }) as T;
}
