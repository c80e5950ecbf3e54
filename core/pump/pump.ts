/** What the core needs of a pump. The full document of the contract is a superset. SI units. */
export interface Pump {
  id: string;
  /** rising flow; at least three points */
  points: PumpPoint[];
  ratedSpeedRpm: number;
  drive: "electric" | "engine";
  /** stands in the water rather than drawing it up */
  submersible: boolean;
  /** m, the maker's greatest suction lift at sea level with cold water */
  maxSuctionLift?: number | undefined;
  tolerance: ToleranceGrade;
  /** what the parties agreed on instead of a grade */
  limits?: Tolerance | undefined;
  /** half-width of the published heads where the curve itself is only roughly known, as a fraction */
  curveDoubt?: number | undefined;
  /** how its power goes with flow, and whether a shut valve hurts it */
  family?: "radial" | "mixed" | "axial" | "regenerative" | "positive-displacement" | undefined;
  /** m, of the hose or pipe it can draw through */
  suctionPort?: number | undefined;
  /** m, the largest body that passes, and what it measures across */
  solids?: number | undefined;
  diameter?: number | undefined;
  /** m of water it needs round it, and bears over it */
  leastDepth?: number | undefined;
  greatestImmersion?: number | undefined;
  /** m below the top of its pit or well, as far as its cord reaches */
  greatestDepth?: number | undefined;
  /** m³/s under which its motor is not cooled */
  leastFlow?: number | undefined;
  /** K */
  greatestTemperature?: number | undefined;
  electric?: Plate | undefined;
  /** how often its motor may start */
  startsPerHour?: number | undefined;
  /** kg */
  mass?: number | undefined;
  price?: number | undefined;
  /** how many the firm has, whether one is in the van, and whether wearing parts can be had */
  owned?: number | undefined;
  inVan?: boolean | undefined;
  spares?: boolean | undefined;
  /** rpm between which its drive can turn it, and what was read of it at several speeds */
  speeds?: { least: number; most: number; sweep?: readonly SweptSpeed[] | undefined } | undefined;
  /** W at sea level in cool air, and m³ of fuel its tank holds */
  engine?: { power?: number | undefined; tank?: number | undefined } | undefined;
}

/** One row of a sweep through the speeds of a drive: rpm, and W where they were read. */
export interface SweptSpeed {
  speed: number;
  flow?: number | undefined;
  power?: number | undefined;
  current?: number | undefined;
}

/** What the plate of a motor says: V, A and m. */
export interface Plate {
  volts?: number | undefined;
  phase?: 1 | 3 | undefined;
  direct?: boolean | undefined;
  runningCurrent?: number | undefined;
  startingCurrent?: number | undefined;
  powerFactor?: number | undefined;
  cord?: number | undefined;
}

/** One row of the rated curve, at rated speed. */
export interface PumpPoint {
  /** m³/s */
  flow: number;
  /** m, total head */
  head: number;
  /** W, as the maker publishes it: at the shaft, or at the terminals of a close-coupled pump */
  power?: number | undefined;
  /** m, NPSH required */
  npshRequired?: number | undefined;
  /** A, of its motor */
  current?: number | undefined;
}

export type ToleranceGrade = "1B" | "2B" | "3B" | "small";

/** How far a pump may lie from its curve, as fractions. */
export interface Tolerance {
  flow: number;
  head: number;
}

/**
 * How far a sound pump may lie from its rated curve, as fractions of flow and of head.
 * Source: ISO 9906:2012 acceptance grades, from memory; "small" is its allowance for shaft power of
 * 1–10 kW.
 */
export const TOLERANCE: Record<ToleranceGrade, Tolerance> = {
  "1B": { flow: 0.05, head: 0.03 },
  "2B": { flow: 0.08, head: 0.05 },
  "3B": { flow: 0.09, head: 0.07 },
  small: { flow: 0.1, head: 0.08 },
};

/** How far a pump may lie from its curve: as agreed, or else by its grade. */
export function toleranceOf({ limits, tolerance }: Pick<Pump, "limits" | "tolerance">): Tolerance {
  return limits ?? TOLERANCE[tolerance];
}

/**
 * Whether an ISO 9906 grade applies: under 1 kW at the shaft none does, and the parties agree on limits (ISO 9906:2012,
 * from memory). Taken to apply where no power is published.
 */
export function gradeApplies({ points }: Pick<Pump, "points">): boolean {
  const powers = points.flatMap(({ power }) => (power === undefined ? [] : [power]));
  return powers.length === 0 || Math.max(...powers) >= LEAST_GRADED;
}
/** W */
const LEAST_GRADED = 1000;

/** Half-widths of what a sound pump makes, of flow and of head: its tolerance, and the doubt of a curve that is rough. */
export function headFactorUncertainty(
  pump: Pick<Pump, "limits" | "tolerance" | "curveDoubt">,
): Tolerance {
  const { flow, head } = toleranceOf(pump);
  return { flow, head: head + (pump.curveDoubt ?? 0) };
}
