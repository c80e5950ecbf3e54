import type { Judgement } from "#core/check/registry.ts";
import type { GunFacts } from "#core/finding/irrigation.ts";
import type { Finding } from "#core/finding/registry.ts";

/**
 * How a decision stands: nothing to decide it by yet; taken as it usually is until somebody confirms it; taken by
 * whoever does the job; or taken so that there is something to stop for.
 */
export type DecisionState = "open" | "advised" | "chosen" | "stopped";

/** What there is to stop for. */
export type Stop = { of: "line"; judgement: Judgement } | { of: "beside"; finding: Finding };

/** What has to be decided on a job, each with what is chosen or advised and the figures that say why. SI. */
interface Facts {
  /** m³/s it moves, and that are wanted */
  pump: { itemId: string; pumps: string[]; flow?: number; wanted?: number; takes?: number };
  /** the run that takes most on that side of the pump; m/s in it, and m of head it takes */
  suction: PipeFacts;
  discharge: PipeFacts;
  /** m above datum; starts an hour at the worst and what the motor bears */
  floats: { on?: number; off?: number; starts?: number; limit?: number };
  /** s until the floor is wet, or m the water stays under the rim */
  "stays-dry": { wetAt?: number; under?: number } & Waits;
  /** s from the lead float until the floor is wet with no pump running */
  "power-cut": { floods?: number } & Waits;
  backup: { has: "battery" | "second-pump" | "overflow" | "none"; flatAt?: number };
  /** part of what the drain that is fullest carries */
  drains: { fullest?: number; runs: number };
  /** s until it is dry, or full */
  "dry-after": { dry?: number } & Waits;
  "full-after": { full?: number } & Waits;
  /** m down, and between what it may hang */
  hang: { depth: number; from: number; to: number };
  /** Pa it is rated for at this temperature, and the most that stands across its wall */
  "drop-pipe": { stock?: string; rating?: number; pressure?: number };
  /** part of the voltage it takes */
  cable: { conductor?: string; part?: number };
  /** Pa of air, and at which the switch starts the pump */
  "pre-charge": { preCharge?: number; cutIn?: number };
  /** m³; starts an hour at the worst and what the plate allows */
  tank: { volume?: number; starts?: number; limit?: number };
  gun: { itemId?: string; gun?: GunFacts; guns: number };
  /** how many, s of one and of all with the moves */
  sets: { sets?: number; perSet?: number; whole?: number };
  /** s from midnight of the first stop for fuel; how many there are */
  fuel: { first?: number; stops?: number };
}

/** what keeps the job from being run over time: the line does not stand, or a float or a body is wrong */
interface Waits {
  waitsFor?: "line" | "floats";
}

interface PipeFacts {
  itemId?: string;
  stock?: string;
  velocity?: number;
  head?: number;
}

export type DecisionId = keyof Facts;

export type Decision = {
  [D in DecisionId]: {
    id: D;
    state: DecisionState;
    /** of one that is stopped, the first there is to stop for */
    stop?: Stop;
  } & Facts[D];
}[DecisionId];

/** One decision's facts with its state. */
export type Decided<D extends DecisionId> = Extract<Decision, { id: D }>;
