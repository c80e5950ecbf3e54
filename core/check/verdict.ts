import type { LevelCase } from "../line/path.ts";

export type Level = "stop" | "watch" | "good";

/**
 * One judgement on a solved line. `value` and `limit` are SI and belong to `quantity`; `extra` holds
 * the other numbers its sentence needs. Where several levels earn the same verdict the worst is kept.
 */
export interface Verdict {
  code: VerdictCode;
  level: Level;
  levelCase: LevelCase;
  itemId?: string;
  quantity: "flow" | "head" | "velocity" | "pressure" | "volume" | "ratio";
  value: number;
  limit?: number;
  extra?: Record<string, number>;
  source: string;
}

export type VerdictCode =
  | "cannot-lift"
  | "below-curve"
  | "beyond-curve"
  | "two-crossings"
  | "pump-held-shut"
  | "backflow-unguarded"
  | "branch-runs-back"
  | "outlets-uneven"
  | "outlet-dry"
  | "siphons"
  | "wanted-flow"
  | "intake-uncovered"
  | "pump-not-under-water"
  | "suction-lift-barometric"
  | "suction-lift-pump"
  | "suction-boils"
  | "npsh-margin"
  | "suction-velocity"
  | "discharge-velocity-high"
  | "discharge-velocity-low"
  | "discharge-velocity"
  | "check-valve-flutters"
  | "pressure-rating"
  | "pressure-rating-unknown"
  | "hole-wastes"
  | "outlet-floods"
  | "surge"
  | "submergence"
  | "loses-prime"
  | "drains-back"
  | "traps-air"
  | "discharge-under-suction"
  | "operating-region"
  | "hazen-williams-range"
  | "schools-disagree";

export interface Wanted {
  /** m³/s */
  wantedFlow?: number | undefined;
}

/** Limits the verdicts use. Velocities in m/s; common practice, no source, unless said. */
export const LIMITS = {
  suctionVelocity: 1.5,
  suctionVelocityStop: 3,
  dischargeVelocityLow: 0.6,
  dischargeVelocityHigh: 2.4,
  /** share of a suction limit that is still comfortable */
  suctionReserve: 0.9,
  npshRatio: 1.1,
  npshMetres: 0.6,
  regionLow: 0.7,
  regionHigh: 1.2,
  schoolsApart: 0.1,
  /** share of the pump's flow a vent hole may waste */
  holeShare: 0.05,
  /** least flow of an outlet as a share of the most, among equal ones */
  evenness: 0.8,
} as const;

export const PRACTICE = "Common practice, no source";
