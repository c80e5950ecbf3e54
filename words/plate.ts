import type { CurveWay, PumpDocument } from "#contract/documents/pump.ts";
import { format, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { PUMP_KINDS } from "./items.ts";

/** A field's value as it is read; what it may be comes with the field. */
export function plateValue(
  kind: { is: string; quantity?: Parameters<typeof format>[1] },
  path: string,
  value: unknown,
  system: UnitSystem,
): string {
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (kind.is === "quantity" && kind.quantity && typeof value === "number") {
    return kind.quantity === "diameter"
      ? formatSize(value, system, path === "solids" ? "down" : "nearest")
      : format(value, kind.quantity, system);
  }
  if (kind.is === "choice") return choiceName(path, String(value));
  return String(value);
}

/** How a choice of the plate is called. */
export function choiceName(path: string, value: string): string {
  if (path === "kind") return PUMP_KINDS[value as PumpDocument["kind"]];
  return CHOICES[path]?.[value] ?? value.replaceAll("-", " ");
}

const CHOICES: Record<string, Record<string, string>> = {
  drive: { electric: "Electric motor", engine: "Engine" },
  tolerance: { small: "small pump" },
  "electric.phase": { "1": "one", "3": "three" },
};

export const CURVE_WAY_NAMES: Record<CurveWay, string> = {
  table: "Points of a table",
  "three-points": "Three points",
  sticker: "The sticker alone",
  "chart-rows": "Rows of a printed chart, with ranges",
  traced: "Traced from a picture",
};
