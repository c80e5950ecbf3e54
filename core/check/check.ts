import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import type { Derivation } from "../formula/formula.ts";
import type {
  PumpAtWork,
  PumpOnLine,
  Running,
  Solution,
  SolvedCase,
} from "../hydraulics/solveLine.ts";
import type { PlacedPump } from "../line/compiledLine.ts";
import type { Line } from "../line/path.ts";
import type { bestEfficiencyFlow } from "../pump/curve.ts";
import type { Quantity } from "../quantity/quantity.ts";

/** `unknown`: what it needs is not known, so it neither passes nor stops. */
export type Severity = "stop" | "watch" | "unknown" | "good";

/** What every check is given. */
export interface CheckContext {
  solution: Solution;
  line: Line;
  /** m³/s the job is there for */
  wantedFlow?: number | undefined;
  /** of each pump on the line */
  best: readonly ReturnType<typeof bestEfficiencyFlow>[];
}

/** What a check found at one state of the water. Numbers are SI. */
export interface Found<Facts> {
  severity: Severity;
  at: WaterLevel;
  /** the item of the path it is about */
  itemId?: string;
  /** the number it stands on, and what that is held against */
  value: number;
  limit?: number;
  source: string;
  /** the other numbers and reasons its sentence needs */
  facts: Facts;
}

/** A judgement, declared once: how it is found, which of two is worse, and how its number comes about. */
export interface Check<Facts> {
  quantity: Quantity;
  /** said of each pump, outlet or hump on its own, or once for the whole line */
  each: "item" | "line";
  find: (context: CheckContext) => Found<Facts>[];
  /** larger is worse, between two of one severity */
  rank: (found: Found<Facts>) => number;
  /** adds what has to be tried on the line to be known, such as a size that mends it */
  complete?: (found: Found<Facts>, context: CheckContext) => Found<Facts>;
  /** ends with `value`; never empty */
  derive: (found: Found<Facts>, context: CheckContext) => Derivation;
}

/** Lets the compiler find the facts of a check from how it is written. */
export function check<Facts>(own: Check<Facts>): Check<Facts> {
  return own;
}

/** Nothing beside the number and its limit. */
export type NoFacts = Record<string, never>;
export const NO_FACTS: NoFacts = {};

/** Ranks by how far past a limit that must not be exceeded, or by the value where there is none. */
export function moreIsWorse({ value, limit }: Found<unknown>): number {
  return limit === undefined || limit === 0 ? value : value / Math.abs(limit);
}

/** Ranks by how far short of a limit that must be reached. */
export function lessIsWorse({ value, limit }: Found<unknown>): number {
  return limit === undefined || limit === 0 ? -value : -value / Math.abs(limit);
}

/** All three states, hardest first. */
export function inEachCase<F>(
  { solution }: CheckContext,
  find: (solved: SolvedCase) => Found<F>[],
): Found<F>[] {
  return WATER_LEVELS.flatMap((at) => find(solution.cases[at]));
}

/** The states in which water moves, hardest first. */
export function whileRunning<F>(
  context: CheckContext,
  find: (running: Running, solved: SolvedCase) => Found<F>[],
): Found<F>[] {
  return inEachCase(context, (solved) => (solved.running ? find(solved.running, solved) : []));
}

/** Every pump at work in every state in which water moves. */
export function eachPump<F>(
  context: CheckContext,
  find: (pump: PumpInCase) => Found<F>[],
): Found<F>[] {
  const { solution } = context;
  return whileRunning(context, (running, solved) =>
    running.pumps.flatMap((atWork, index) =>
      find({
        index,
        atWork,
        running,
        solved,
        on: solution.pumps[index] as PumpOnLine,
        placed: solution.line.pumps[index] as PlacedPump,
      }),
    ),
  );
}

export interface PumpInCase {
  index: number;
  atWork: PumpAtWork;
  running: Running;
  solved: SolvedCase;
  on: PumpOnLine;
  placed: PlacedPump;
}

/** The same pump again, when the number of a finding is derived; nothing where no water moves. */
export function pumpOf(
  { solution }: CheckContext,
  { at, itemId }: Pick<Found<unknown>, "at" | "itemId">,
): PumpInCase | undefined {
  const solved = solution.cases[at];
  const { running } = solved;
  const index = Math.max(
    solution.pumps.findIndex((pump) => pump.itemId === itemId),
    0,
  );
  const atWork = running?.pumps[index];
  const on = solution.pumps[index];
  const placed = solution.line.pumps[index];
  if (!running || !atWork || !on || !placed) return undefined;
  return { index, atWork, running, solved, on, placed };
}

/** Limits the checks use. Velocities in m/s; common practice, no source, unless said. */
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
  /** m of water over its intake at its lowest that surely cover a pump of any height, so that no air gathers in it */
  waterOverPump: 0.6,
  /** share of a pressure rating that is still comfortable */
  pressureReserve: 0.9,
} as const;

/** m³/s that is worth a word: under it a line passes no water anybody would see. Common practice, no source. */
export const WORTH_SAYING = 1e-5;

export const PRACTICE = "Common practice, no source";
