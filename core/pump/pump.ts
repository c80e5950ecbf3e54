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
  /** m, of the hose or pipe it can draw through */
  suctionPort?: number | undefined;
  /** m, the largest body that passes, and what it measures across */
  solids?: number | undefined;
  diameter?: number | undefined;
  /** m of water it needs round it, and bears over it */
  leastDepth?: number | undefined;
  greatestImmersion?: number | undefined;
  /** K */
  greatestTemperature?: number | undefined;
  electric?:
    | {
        volts?: number | undefined;
        phase?: 1 | 3 | undefined;
        direct?: boolean | undefined;
      }
    | undefined;
  /** how often its motor may start */
  startsPerHour?: number | undefined;
  /** kg */
  mass?: number | undefined;
  price?: number | undefined;
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
}

export type ToleranceGrade = "1B" | "2B" | "3B" | "small";

/**
 * How far a sound pump may lie from its rated curve, as fractions of flow and of head.
 * Source: ISO 9906:2012 acceptance grades, from memory; "small" is its allowance for shaft power of
 * 1–10 kW.
 */
export const TOLERANCE: Record<ToleranceGrade, { flow: number; head: number }> = {
  "1B": { flow: 0.05, head: 0.03 },
  "2B": { flow: 0.08, head: 0.05 },
  "3B": { flow: 0.09, head: 0.07 },
  small: { flow: 0.1, head: 0.08 },
};
