import type { Cycle } from "./cycle.ts";

/** What a job over time comes to. SI; what cannot be told is absent. */
export interface Answers {
  /** of the float that switches first */
  switching?: Switching;
  /** with every pump standing, at the greatest inflow of the run: s from the lead float's on and off to the rim, and m³ from its on */
  unpumped?: { inflow: number; fromOn: number; fromOff: number; room: number };
  /** m³/s that comes in at the most, and that the pumps on the mains hold at the rim */
  greatestInflow: number;
  survives?: number;
  /** m above datum: the rim it is held at */
  rim?: number;
  /** over the rim of the source: when first, for how long, and how much */
  wet?: { at: number; lasts: number; spilled: number };
  /** the source has given what it can, or the receiver is full */
  dry?: { at: number; left: number };
  full?: { at: number; spilled: number; room: number };
  /** m³ the line took from the source less what came back, and what came back */
  moved: number;
  /** m³ by which that is reckoned: of the source, or of the receiver where the source stays as it is */
  balance: Balance;
  /** m³ that came into the source meanwhile */
  cameIn: number;
  ranBack: number;
  /** J, where every pump's power is published */
  energy?: number;
  cost?: number;
  /** s the pumps ran, and how often they started */
  runTime: number;
  starts: number;
  battery?: { flatAt?: number; used: number; needed?: number; ran: number };
  /** s until a guard held the pumps because the source was low */
  sourceLow?: number;
  /** where the water is let down slowly: how far each day, m above datum, and s of pumping */
  stages?: { to: number; pumping: number }[];
  /** of a hose that is rolled out, in pieces of 20 ft; and the trips with a wet vacuum that would do the same */
  hose?: { pieces: number; couplings: number; clamps: number };
  vacuum?: { trips: number; each: number };
  /** money for a pump by the day: as many as it takes */
  hire?: number;
  uplift: { body: number; uplift: Uplift }[];
}

export interface Balance {
  of: "source" | "receiver";
  /** that was there, came in by itself or over the rim of others, ran over, is drawn by others, and is still there */
  start: number;
  came: number;
  over: number;
  others: number;
  left: number;
}

export interface Switching {
  pump: string;
  /** at the inflow that makes it start most often, and at the steady inflow */
  worst: Cycle;
  now?: Cycle;
  /** in the worst hour of the run, of the pump that starts most */
  most: number;
  /** m³ between its floats, and what falls back at each stop; pumps that share the starts by turns */
  volume: number;
  fallsBack: number;
  turns: number;
  /** starts an hour the motor bears; assumed where its plate does not say */
  limit: number;
  assumed: boolean;
  /** where it starts too often, m above datum at which the float would keep to it; absent where none here does */
  floatAt?: number;
  /** times the area of this pit, in which one would */
  larger?: number;
}

/** What has to be known before anybody can say whether a shell floats up. */
export type OfUplift = "in-ground" | "groundwater" | "mass";

/** What pushes a shell up out of wet ground, and what holds it down. N and m. */
export interface Uplift {
  /** ρ g (z of the ground water − z of the bottom) A */
  force: number;
  /** its own weight and that of the water left in it */
  holding: number;
  /** m above datum: the water in it must not fall below, for it to stay; absent where even a full one would not */
  keepAbove?: number;
}

/** What is wrong with how a job moves in time, at the field it is about. */
export type Trouble = {
  /** of the document, such as "overTime.controls.0.on" */
  at: string;
  /** nothing can be told before it is mended */
  stops: boolean;
} & (
  | { code: "floats-crossed" | "lag-under-lead"; on: number; off: number }
  | { code: "float-over-rim"; level: number; rim: number }
  | { code: "float-under-bottom"; level: number; bottom: number }
  | { code: "no-area" }
  | { code: "rows-not-rising"; row: number }
  | { code: "power-back-before-cut" }
  | { code: "no-battery" }
);
