import { jetBore, type NozzleOutlet } from "../outlet/gun.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { GRAVITY, WATER_DENSITY } from "../quantity/constants.ts";

/** A big sprinkler: what of it decides flow and throw. */
export type Gun = Omit<NozzleOutlet, "type">;

/** Where a pressure at the base lies against the window the gun is made for; nothing where that is not known. */
export type InWindow = "ring" | "even" | "mist";

export function inWindow(
  { leastPressure, greatestPressure }: Gun,
  pressure: number,
): InWindow | undefined {
  if (leastPressure !== undefined && pressure < leastPressure) return "ring";
  if (greatestPressure !== undefined && pressure > greatestPressure) return "mist";
  return leastPressure === undefined || greatestPressure === undefined ? undefined : "even";
}

/**
 * How far a gun throws in still air, m: R = 1.35 √(d h), d in mm of the range nozzle and h in m of water at the base.
 * Textbook form, from memory; without a tape beside it good to ±45 %. Made for jets that leave at 20° to 30°.
 * @param bore m of the range nozzle
 * @param head m of water a gauge at the base reads
 * @example textbookThrow(0.014, 35) // 29.9
 */
export function textbookThrow(bore: number, head: number): number {
  return 1.35 * Math.sqrt(Math.max(bore * 1000 * head, 0));
}

/** Half-widths of what is not measured, as parts of the throw. Common practice, no source. */
export const TEXTBOOK_UNCERTAINTY = 0.45;
export const CHART_UNCERTAINTY = 0.15;

/**
 * m that the gun's maker, or else the textbook, says it throws. Between the rows of a chart the throw runs straight
 * over √p, beyond them it goes with √p from the last row.
 * @param pressure Pa at its base, not negative
 */
export function expectedThrow(gun: Gun, pressure: number): number {
  const { chart = [] } = gun;
  const root = Math.sqrt(Math.max(pressure, 0));
  const rows = chart.toSorted((a, b) => a.pressure - b.pressure);
  const [first] = rows;
  const last = rows.at(-1);
  if (!first || !last) return textbookThrow(gun.bore, pressure / (WATER_DENSITY * GRAVITY));
  if (pressure <= first.pressure) return (first.radius * root) / Math.sqrt(first.pressure);
  if (pressure >= last.pressure) return (last.radius * root) / Math.sqrt(last.pressure);
  const above = rows.findIndex((row) => row.pressure > pressure);
  const [a, b] = [rows[above - 1] ?? first, rows[above] ?? last];
  const [ra, rb] = [Math.sqrt(a.pressure), Math.sqrt(b.pressure)];
  return a.radius + ((b.radius - a.radius) * (root - ra)) / (rb - ra);
}

/** A throw as it was taken: the pressure in Pa that stood at the base, and how far off the last drops fell. */
export interface MeasuredThrow {
  pressure: number;
  radius: number;
  by: "tape" | "paces";
}

/** What measured throws say of a gun: times what is expected of it. */
export interface Calibration {
  factor: number;
  /** of the factor, one standard deviation */
  standardUncertainty: number;
  used: MeasuredThrow[];
  /** taken outside the gun's window, where it does not throw as it should */
  leftOut: MeasuredThrow[];
}

/** One standard deviation as a part of the throw: where the last drops fall, and the way it is measured. Common practice, no source. */
export const THROW_UNCERTAINTY = { tape: 0.03, paces: 0.07 };

/**
 * The factor between what a gun was expected to throw and what it threw: mean of the throws taken inside its window,
 * weighted by how well each was measured. Where they scatter more than that their doubt is widened to the scatter.
 * Nothing without a throw to go by. It holds for this nozzle at any pressure inside the window, since both throws and
 * expectation go with √p there.
 */
export function calibration(gun: Gun, throws: readonly MeasuredThrow[]): Calibration | undefined {
  const usable = (own: MeasuredThrow) => {
    const window = inWindow(gun, own.pressure);
    return own.pressure > 0 && own.radius > 0 && window !== "ring" && window !== "mist";
  };
  const used = throws.filter(usable);
  if (used.length === 0) return undefined;
  const of = used.map((own) => own.radius / expectedThrow(gun, own.pressure));
  const weights = used.map(({ by }, i) => 1 / ((of[i] as number) * THROW_UNCERTAINTY[by]) ** 2);
  const sum = weights.reduce((all, w) => all + w, 0);
  const factor = of.reduce((all, f, i) => all + f * (weights[i] as number), 0) / sum;
  const misfit = of.reduce((all, f, i) => all + (weights[i] as number) * (f - factor) ** 2, 0);
  const widened = used.length > 1 ? Math.max(1, misfit / (used.length - 1)) : 1;
  return {
    factor,
    standardUncertainty: Math.sqrt(widened / sum),
    used,
    leftOut: throws.filter((own) => !usable(own)),
  };
}

/** How far a gun throws, m, and between what: about nineteen times of twenty where it was calibrated. */
export interface Thrown {
  radius: number;
  low: number;
  high: number;
  by: "measured" | "chart" | "textbook";
}

export type ThrowResult =
  | ({ kind: "throws"; windowKnown: boolean } & Thrown)
  /** under the least pressure the water falls in a ring; over the greatest it goes up as mist */
  | { kind: "ring" | "mist"; limit: number };

/** The throw at a pressure in Pa at the base; none outside the gun's window, where no law holds. */
export function throwAt(gun: Gun, pressure: number, measured?: Calibration): ThrowResult {
  const window = inWindow(gun, pressure);
  if (pressure <= 0 || window === "ring") {
    return { kind: "ring", limit: gun.leastPressure ?? 0 };
  }
  if (window === "mist") return { kind: "mist", limit: gun.greatestPressure ?? 0 };
  const expected = expectedThrow(gun, pressure);
  const known = { kind: "throws", windowKnown: window !== undefined } as const;
  if (measured) {
    const radius = expected * measured.factor;
    const half = 2 * expected * measured.standardUncertainty;
    return { ...known, radius, low: radius - half, high: radius + half, by: "measured" };
  }
  const by = gun.chart && gun.chart.length > 0 ? "chart" : "textbook";
  const half = expected * (by === "chart" ? CHART_UNCERTAINTY : TEXTBOOK_UNCERTAINTY);
  return { ...known, radius: expected, low: expected - half, high: expected + half, by };
}

/**
 * The discharge coefficient a maker's chart implies for the bores it is of: the mean over its rows of
 * q / (A √(2 p/ρ + v²)), v the velocity where the gauge at the base sits. Nothing for a chart without rows.
 * @param inlet m, bore of the gun's base; without it the velocity there is left out
 */
export function coefficientOfChart(gun: Gun, inlet?: number): number | undefined {
  const { chart = [] } = gun;
  if (chart.length === 0) return undefined;
  const area = (Math.PI / 4) * jetBore({ type: "nozzle", ...gun }) ** 2;
  const each = chart.map(({ pressure, flow }) => {
    const head = pressure / (WATER_DENSITY * GRAVITY) + (inlet ? velocityHead(flow, inlet) : 0);
    return flow / (area * Math.sqrt(2 * GRAVITY * head));
  });
  return each.reduce((sum, own) => sum + own, 0) / each.length;
}

/**
 * m² one gun wets standing alone: π R² over the part of the circle it turns through, in degrees.
 * @example wettedArea(20, 180) // 628.3
 */
export function wettedArea(radius: number, arc = 360): number {
  return (Math.PI * radius ** 2 * arc) / 360;
}

/**
 * m/s of water over an area in m²; in US units 96.25 gpm/ft² is inches an hour.
 * @example applicationRate(0.003, 1200) // 2.5e-6
 */
export function applicationRate(flow: number, area: number): number {
  return flow / area;
}
