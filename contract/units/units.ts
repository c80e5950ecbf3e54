import {
  BAR,
  FOOT,
  GALLON,
  GRAVITY,
  INCH,
  POUND,
  PSI,
  ZERO_CELSIUS,
} from "#core/quantity/constants.ts";
import type { Quantity } from "#core/quantity/quantity.ts";

export type { Quantity };

/**
 * Units at the edge. Inside, every quantity is SI (m, m³/s, m of water, Pa, m³, W, K, s); what a person
 * reads or types is converted here and nowhere else.
 *
 * Factors are exact by definition (international inch, US gallon, pound-force) unless said.
 * Source: NIST SP 811 (2008), appendix B.
 */
export type UnitSystem = "us" | "metric";

export interface Unit {
  /** as shown beside a number */
  symbol: string;
  /** SI = typed × factor + offset */
  factor: number;
  offset?: number;
  /** other spellings people type, lower case */
  aliases?: readonly string[];
}

/**
 * Pa per metre of water for turning a gauge pressure into a head at entry, at 15 °C
 * (999.1 kg/m³ × 9.80665 m/s²): 1 psi is 2.31 ft. Results use the job's own water.
 */
export const PASCAL_PER_METRE = 999.1 * GRAVITY;

const length: Unit[] = [
  { symbol: "m", factor: 1, aliases: ["metre", "metres", "meter", "meters"] },
  { symbol: "ft", factor: FOOT, aliases: ["foot", "feet", "'", "′"] },
  { symbol: "in", factor: INCH, aliases: ["inch", "inches", '"', "″"] },
  { symbol: "mm", factor: 1e-3 },
  { symbol: "cm", factor: 1e-2 },
  { symbol: "km", factor: 1e3 },
  { symbol: "yd", factor: 0.9144, aliases: ["yard", "yards"] },
];

const pressure: Unit[] = [
  { symbol: "kPa", factor: 1e3 },
  { symbol: "bar", factor: BAR },
  { symbol: "psi", factor: PSI, aliases: ["psig", "lb"] },
  { symbol: "Pa", factor: 1 },
  { symbol: "MPa", factor: 1e6 },
  { symbol: "mbar", factor: 100 },
];

/** Units each quantity can be typed in. A head may be typed as a pressure and the other way round. */
export const UNITS: Record<Quantity, readonly Unit[]> = {
  flow: [
    { symbol: "L/s", factor: 1e-3, aliases: ["lps", "l/sec"] },
    { symbol: "gpm", factor: GALLON / 60, aliases: ["usgpm", "us gpm", "gal/min"] },
    { symbol: "L/min", factor: 1e-3 / 60, aliases: ["lpm"] },
    { symbol: "m³/h", factor: 1 / 3600, aliases: ["m3/h", "m3/hr", "cmh"] },
    { symbol: "m³/s", factor: 1, aliases: ["m3/s"] },
    { symbol: "gph", factor: GALLON / 3600, aliases: ["gal/h"] },
    { symbol: "L/h", factor: 1e-3 / 3600, aliases: ["lph"] },
  ],
  length,
  diameter: length,
  head: [
    ...length,
    ...pressure.map((unit) => ({ ...unit, factor: unit.factor / PASCAL_PER_METRE })),
  ],
  pressure: [
    ...pressure,
    ...length.slice(0, 3).map((unit) => ({ ...unit, factor: unit.factor * PASCAL_PER_METRE })),
  ],
  velocity: [
    { symbol: "m/s", factor: 1 },
    { symbol: "ft/s", factor: FOOT, aliases: ["fps"] },
  ],
  volume: [
    { symbol: "L", factor: 1e-3, aliases: ["litre", "litres", "liter", "liters"] },
    { symbol: "gal", factor: GALLON, aliases: ["us gal", "gallon", "gallons"] },
    { symbol: "m³", factor: 1, aliases: ["m3"] },
    { symbol: "mL", factor: 1e-6 },
    { symbol: "qt", factor: GALLON / 4, aliases: ["quart", "quarts"] },
    { symbol: "pt", factor: GALLON / 8, aliases: ["pint", "pints"] },
    { symbol: "cup", factor: GALLON / 16, aliases: ["cups"] },
    {
      symbol: "fl oz",
      factor: GALLON / 128,
      aliases: ["floz", "fl. oz", "fluid ounce", "fluid ounces"],
    },
    { symbol: "ft³", factor: FOOT ** 3, aliases: ["ft3", "cu ft"] },
  ],
  power: [
    { symbol: "W", factor: 1 },
    { symbol: "kW", factor: 1e3 },
    { symbol: "hp", factor: 550 * FOOT * POUND * GRAVITY },
  ],
  temperature: [
    { symbol: "°C", factor: 1, offset: ZERO_CELSIUS, aliases: ["c", "degc"] },
    { symbol: "°F", factor: 5 / 9, offset: 459.67 * (5 / 9), aliases: ["f", "degf"] },
    { symbol: "K", factor: 1 },
  ],
  time: [
    { symbol: "s", factor: 1, aliases: ["sec", "secs", "second", "seconds"] },
    { symbol: "min", factor: 60, aliases: ["mins", "minute", "minutes"] },
    { symbol: "h", factor: 3600, aliases: ["hr", "hour", "hours"] },
  ],
  mass: [
    { symbol: "kg", factor: 1 },
    { symbol: "lb", factor: POUND, aliases: ["lbs"] },
  ],
  speed: [{ symbol: "rpm", factor: 1, aliases: ["rev/min", "1/min", "/min"] }],
  density: [
    { symbol: "kg/m³", factor: 1 },
    { symbol: "lb/ft³", factor: POUND / FOOT ** 3 },
  ],
  viscosity: [{ symbol: "mPa·s", factor: 1e-3, aliases: ["cp"] }],
  acceleration: [
    { symbol: "m/s²", factor: 1 },
    { symbol: "ft/s²", factor: FOOT },
  ],
  modulus: [
    { symbol: "GPa", factor: 1e9 },
    { symbol: "ksi", factor: 1e3 * PSI },
  ],
  energy: [
    { symbol: "kWh", factor: 3.6e6 },
    { symbol: "MJ", factor: 1e6 },
    { symbol: "J", factor: 1 },
  ],
  area: [
    { symbol: "m²", factor: 1, aliases: ["m2", "sqm"] },
    { symbol: "ft²", factor: FOOT ** 2, aliases: ["ft2", "sq ft", "sqft"] },
    { symbol: "ha", factor: 1e4, aliases: ["hectare", "hectares"] },
    { symbol: "acre", factor: 43_560 * FOOT ** 2, aliases: ["acres"] },
  ],
  ratio: [{ symbol: "", factor: 1 }],
};

/** The SI unit a number is held in, as it is written beside one. */
export const SI_SYMBOLS: Record<Quantity, string> = {
  flow: "m³/s",
  length: "m",
  diameter: "m",
  head: "m",
  pressure: "Pa",
  velocity: "m/s",
  volume: "m³",
  power: "W",
  temperature: "K",
  time: "s",
  mass: "kg",
  speed: "rpm",
  density: "kg/m³",
  viscosity: "Pa·s",
  acceleration: "m/s²",
  modulus: "Pa",
  energy: "J",
  area: "m²",
  ratio: "",
};

/** The unit shown for a quantity in each system, and the one a bare number is read in. */
export const SHOWN: Record<UnitSystem, Record<Quantity, string>> = {
  us: {
    flow: "gpm",
    length: "ft",
    diameter: "in",
    head: "ft",
    pressure: "psi",
    velocity: "ft/s",
    volume: "gal",
    power: "hp",
    temperature: "°F",
    time: "s",
    mass: "lb",
    speed: "rpm",
    density: "lb/ft³",
    viscosity: "mPa·s",
    acceleration: "ft/s²",
    modulus: "ksi",
    energy: "kWh",
    area: "ft²",
    ratio: "",
  },
  metric: {
    flow: "L/s",
    length: "m",
    diameter: "mm",
    head: "m",
    pressure: "kPa",
    velocity: "m/s",
    volume: "L",
    power: "kW",
    temperature: "°C",
    time: "s",
    mass: "kg",
    speed: "rpm",
    density: "kg/m³",
    viscosity: "mPa·s",
    acceleration: "m/s²",
    modulus: "GPa",
    energy: "kWh",
    area: "m²",
    ratio: "",
  },
};

export function unitOf(quantity: Quantity, symbol: string): Unit {
  const unit = UNITS[quantity].find((u) => u.symbol === symbol);
  if (!unit) throw new RangeError(`${quantity} has no unit ${symbol}`);
  return unit;
}

export function shownUnit(quantity: Quantity, system: UnitSystem): Unit {
  return unitOf(quantity, SHOWN[system][quantity]);
}

export function toUnit(si: number, unit: Unit): number {
  return (si - (unit.offset ?? 0)) / unit.factor;
}

export function fromUnit(typed: number, unit: Unit): number {
  return typed * unit.factor + (unit.offset ?? 0);
}

/** What people measure with when no tape is at hand, m: theirs to set. Common practice, no source. */
export const USUAL_STEPS = { pace: 0.9144, brick: 0.075 } as const;
export type Steps = Record<keyof typeof USUAL_STEPS, number>;

/** Those as units of length: "25 paces", "6 bricks" (a course with its joint). */
export const stepUnits = ({ pace, brick }: Steps): readonly Unit[] => [
  { symbol: "pace", factor: pace, aliases: ["paces", "step", "steps"] },
  { symbol: "brick", factor: brick, aliases: ["bricks", "course", "courses"] },
];
