import { type Quantity, shownUnit, toUnit, type UnitSystem } from "./units.ts";

/** Decimals that a fitter's inputs deserve, by the size of the number shown. */
function decimalsFor(quantity: Quantity, system: UnitSystem, magnitude: number): number {
  switch (quantity) {
    case "flow":
      return system === "us" ? (magnitude < 10 ? 1 : 0) : magnitude < 10 ? 2 : 1;
    case "diameter":
      return system === "us" ? 3 : 1;
    case "velocity":
      return system === "us" ? 1 : 2;
    case "power":
      return magnitude < 1 ? 2 : magnitude < 100 ? 1 : 0;
    case "pressure":
      return system === "us" ? (magnitude < 10 ? 1 : 0) : magnitude < 10 ? 1 : 0;
    case "temperature":
    case "speed":
    case "mass":
      return 0;
    case "volume":
      return magnitude < 100 ? 1 : 0;
    case "time":
      return magnitude < 100 ? 2 : 0;
    case "length":
    case "head":
      return magnitude < 10 && system === "metric" ? 2 : 1;
  }
}

/** The number alone, in the unit its system shows. */
export function formatNumber(si: number, quantity: Quantity, system: UnitSystem): string {
  const value = toUnit(si, shownUnit(quantity, system));
  const text = value.toFixed(decimalsFor(quantity, system, Math.abs(value)));
  return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
}

/** Number and unit, such as "2.43 L/s". */
export function format(si: number, quantity: Quantity, system: UnitSystem): string {
  return `${formatNumber(si, quantity, system)} ${shownUnit(quantity, system).symbol}`;
}

export function formatPercent(fraction: number, decimals = 0): string {
  const text = (fraction * 100).toFixed(decimals);
  return `${Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−")} %`;
}

/**
 * A number for an entry field: enough digits that typing it back changes nothing a fitter could
 * measure, no trailing zeros, and a plain minus sign.
 */
export function formatForEntry(si: number, quantity: Quantity, system: UnitSystem): string {
  const value = toUnit(si, shownUnit(quantity, system));
  return String(Number(value.toPrecision(6)));
}
