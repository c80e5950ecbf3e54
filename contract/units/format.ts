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
      return magnitude < 10 ? 2 : magnitude < 100 ? 1 : 0;
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

/** Decimals of an entry field: finer than anything measured at a pit, without digits that mean nothing. */
const ENTRY_DECIMALS: Record<Quantity, Record<UnitSystem, number>> = {
  flow: { metric: 3, us: 1 },
  length: { metric: 3, us: 2 },
  head: { metric: 3, us: 2 },
  diameter: { metric: 1, us: 3 },
  pressure: { metric: 1, us: 1 },
  velocity: { metric: 2, us: 2 },
  volume: { metric: 2, us: 2 },
  power: { metric: 3, us: 3 },
  temperature: { metric: 1, us: 1 },
  time: { metric: 2, us: 2 },
  mass: { metric: 1, us: 1 },
  speed: { metric: 0, us: 0 },
};

/**
 * A number for an entry field: no trailing zeros and a plain minus sign. Rounded for reading; the
 * document keeps the value it has until someone types another.
 */
export function formatForEntry(si: number, quantity: Quantity, system: UnitSystem): string {
  const value = toUnit(si, shownUnit(quantity, system));
  const text = String(Number(value.toFixed(ENTRY_DECIMALS[quantity][system])));
  return text === "-0" ? "0" : text;
}
