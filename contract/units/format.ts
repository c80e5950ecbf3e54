import { INCH } from "#core/quantity/constants.ts";
import { type Quantity, shownUnit, toUnit, type UnitSystem } from "./units.ts";

/** Decimals that a fitter's inputs deserve, by the size of the number shown. */
function decimalsFor(quantity: Quantity, system: UnitSystem, magnitude: number): number {
  switch (quantity) {
    case "flow":
      if (magnitude < 10) return 2;
      return system === "us" && magnitude >= 100 ? 0 : 1;
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
    case "area":
    case "volume":
      return magnitude < 100 ? 1 : 0;
    case "time":
      return magnitude < 100 ? 2 : 0;
    case "length":
    case "head":
      return magnitude < 10 && system === "metric" ? 2 : 1;
    case "density":
    case "acceleration":
    case "modulus":
      return magnitude < 100 ? 2 : 0;
    case "viscosity":
      return 3;
    case "energy":
      return magnitude < 0.1 ? 3 : magnitude < 10 ? 2 : magnitude < 100 ? 1 : 0;
    case "ratio":
      return magnitude < 0.1 ? 4 : magnitude < 10 ? 3 : magnitude < 1000 ? 1 : 0;
  }
}

/** The number alone, in the unit its system shows. */
export function formatNumber(si: number, quantity: Quantity, system: UnitSystem): string {
  const value = toUnit(si, shownUnit(quantity, system));
  const text = value.toFixed(decimalsFor(quantity, system, Math.abs(value)));
  return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
}

/**
 * Number and unit, such as "2.43 L/s".
 * @example format(0.005, "flow", "us") // "79.3 gpm"
 */
export function format(si: number, quantity: Quantity, system: UnitSystem): string {
  return `${formatNumber(si, quantity, system)} ${shownUnit(quantity, system).symbol}`.trimEnd();
}

export function formatPercent(fraction: number, decimals = 0): string {
  const text = (fraction * 100).toFixed(decimals);
  return `${Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−")} %`;
}

/**
 * A number as finely as its doubt: the doubt has two figures, and the value ends where the doubt does.
 * "2.43 ± 0.08" with the unit after it. Of what may as well be nothing only the most it can be is told.
 */
export function formatUncertain(
  si: number,
  doubt: number,
  quantity: Quantity,
  system: UnitSystem,
): string {
  const unit = shownUnit(quantity, system);
  const spread = Math.abs(doubt / unit.factor);
  const decimals =
    spread > 0 ? Math.min(Math.max(1 - Math.floor(Math.log10(spread) + 1e-9), 0), 6) : 2;
  return `${withUncertainty(toUnit(si, unit), spread, decimals)} ${unit.symbol}`;
}

/** A value and its doubt, both in the unit they are shown in: "2.43 ± 0.08", or "at most 0.11" where it may be none. */
export function withUncertainty(value: number, spread: number, decimals: number): string {
  return value >= 0 && spread > value
    ? `at most ${(value + spread).toFixed(decimals)}`
    : `${value.toFixed(decimals).replace("-", "−")} ± ${spread.toFixed(decimals)}`;
}

/**
 * A size as the trade says it: in US units a fraction of an inch ("3/8 in", "1 1/2 in"), in sixteenths, below a
 * quarter in thirty-seconds. `down` for what must pass: never more than there is.
 */
export function formatSize(si: number, system: UnitSystem, rounding: "nearest" | "down"): string {
  if (system === "metric") {
    const mm = si * 1000;
    return `${Number(mm.toFixed(1))} mm`;
  }
  const inches = si / INCH;
  const parts = inches < 0.25 ? 32 : 16;
  const exact = inches * parts;
  const count = Math.max(rounding === "down" ? Math.floor(exact + 1e-6) : Math.round(exact), 1);
  const whole = Math.floor(count / parts);
  let top = count % parts;
  let bottom = parts;
  while (top > 0 && top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  const fraction = top > 0 ? `${top}/${bottom}` : "";
  return `${[whole > 0 ? String(whole) : "", fraction].filter(Boolean).join(" ")} in`;
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
  density: { metric: 1, us: 2 },
  viscosity: { metric: 4, us: 4 },
  acceleration: { metric: 4, us: 4 },
  modulus: { metric: 2, us: 0 },
  energy: { metric: 3, us: 3 },
  area: { metric: 2, us: 1 },
  ratio: { metric: 4, us: 4 },
};

/** Figures within which a number somebody typed in this unit comes back as it was typed. */
const TYPED_FIGURES = 7;

/**
 * A number for an entry field: as it was typed, or, where it was typed in another unit, rounded for reading.
 * No trailing zeros and a plain minus sign; the document keeps the value it has until someone types another.
 */
export function formatForEntry(si: number, quantity: Quantity, system: UnitSystem): string {
  const value = toUnit(si, shownUnit(quantity, system));
  const typed = Number(value.toPrecision(TYPED_FIGURES));
  const asTyped = Math.abs(typed - value) <= 1e-12 * Math.max(Math.abs(value), 1);
  if (quantity === "diameter" && system === "us" && isFraction(value)) {
    return formatSize(si, system, "nearest").replace(/ in$/, "");
  }
  const text = String(asTyped ? typed : Number(value.toFixed(ENTRY_DECIMALS[quantity][system])));
  return text === "-0" ? "0" : text;
}

/** Inches that are read as a fraction: sixteenths up to a foot, below a quarter thirty-seconds. */
function isFraction(inches: number): boolean {
  const count = inches * (inches < 0.25 ? 32 : 16);
  return (
    inches > 0 &&
    inches < 12 &&
    !Number.isInteger(inches) &&
    Math.abs(count - Math.round(count)) < 1e-9
  );
}
