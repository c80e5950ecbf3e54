import { type Condition, conditioned } from "../condition/condition.ts";
import type { Spread, Uncertainty } from "../condition/uncertainty.ts";
import type { SteadyState } from "../hydraulics/hydraulicModel.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import type { LineModel, Solution } from "../hydraulics/solveLine.ts";
import { receivingWater } from "../outlet/outlets.ts";
import type { PumpCondition } from "../pump/curve.ts";
import { headFactorUncertainty } from "../pump/pump.ts";
import { GALLON } from "../quantity/constants.ts";
import { COVERAGE } from "./acceptance.ts";
import { type Estimate, measuredFlow } from "./instruments.ts";
import { type FlowMeasurement, isOpen, type Reading } from "./reading.ts";

/**
 * A flow against what the line was promised there. `cannot-be`: more than this line passes with every doubtful input
 * at its most favourable, by more than the reading may be off.
 */
export type Kept = "as-promised" | "less" | "more" | "cannot-tell" | "cannot-be";

/** What most often makes a flow too large to be true. */
export type Slip =
  | "gallons-for-litres"
  | "a-fill-miscounted"
  | "a-fill-cut-short"
  | "minutes-for-seconds";

export interface PredictionComparison {
  /** at the outlet, m³/s */
  flow: Estimate;
  /** m³/s the line was promised at that outlet, at the speed the reading was taken at */
  promised: number;
  /** where nineteen of twenty would lie, if what is known of the line is right */
  likely: Spread;
  kept: Kept;
  /** how many of the line's pumps ran, where not all did */
  ran?: { count: number; of: number };
  /** the pump runs past the last flow of its published curve there */
  beyondCurve: boolean;
  slip?: Slip;
}

/**
 * Holds a flow measured at an outlet against the duty of the line. No gauge is needed, so the pump is not told from
 * the line: a short flow may be either's.
 * @param likely of the flow at that outlet, at the job's own speed
 * @returns nothing where no water is promised at that outlet
 */
export function compareWithPrediction(
  solution: Solution,
  reading: Reading,
  likely: Spread,
  uncertainty: Uncertainty,
): PredictionComparison | undefined {
  const outlet = outletOf(solution, reading.outletId);
  // Nothing was promised with the valve part shut.
  if (!isOpen(reading)) return undefined;
  const own = solution.cases.normal.running?.state.byOutlet[outlet];
  const taken = asTaken(solution, reading);
  const state = stateAsTaken(solution, reading);
  const promised = state?.byOutlet[outlet];
  if (!own || !promised || !state) return undefined;
  const flow = measuredFlow(reading.flow);
  const there = promised / own;
  const range: Spread = {
    low: likely.low * there,
    middle: likely.middle * there,
    high: likely.high * there,
  };
  const expanded = COVERAGE * flow.standardUncertainty;
  const best = stateUnder(solution, favourable(solution, uncertainty, taken));
  const most = Math.max(range.high, best?.byOutlet[outlet] ?? 0);
  const kept = judged(flow.value, expanded, range, most);
  const found: PredictionComparison = {
    flow,
    promised,
    likely: range,
    kept,
    beyondCurve: pastCurve(solution, flow.value / promised, state, taken),
  };
  const standing = standingDuring(solution, reading).length;
  const of = solution.pumps.length;
  if (standing > 0) found.ran = { count: of - standing, of };
  const slip =
    (flow.value > range.high ? cutShort(reading.flow, flow, range) : undefined) ??
    (kept === "cannot-be" ? slipOf(reading.flow, flow, range) : undefined);
  return slip ? { ...found, slip } : found;
}

function judged(flow: number, expanded: number, { low, high }: Spread, most: number): Kept {
  if (flow >= low && flow <= high) return "as-promised";
  if (flow < low) return flow + expanded < low ? "less" : "cannot-tell";
  if (flow - expanded <= high) return "cannot-tell";
  return flow - expanded > most ? "cannot-be" : "more";
}

export function outletOf({ line }: Pick<Solution, "line">, outletId: string | undefined): number {
  return Math.max(
    line.outlets.findIndex(({ item }) => item.id === outletId),
    0,
  );
}

/** Items of the pumps that stood while a reading was taken. */
export function standingDuring({ pumps }: LineModel, { running }: Reading): string[] {
  if (!running) return [];
  return pumps.map(({ itemId }) => itemId).filter((id) => !running.includes(id));
}

/** The line as it ran during a reading, by normal water; undefined where it moves nothing. */
export function stateAsTaken(solution: Solution, reading: Reading): SteadyState | undefined {
  const taken = asTaken(solution, reading);
  return taken ? stateUnder(solution, taken) : solution.cases.normal.running?.state;
}

/** The speed and the pumps a reading was taken with, as a condition; nothing where they are the job's own. */
function asTaken(solution: Solution, reading: Reading): Condition | undefined {
  const { speedRatio } = reading;
  const standing = standingDuring(solution, reading);
  if (speedRatio === undefined && standing.length === 0) return undefined;
  const pumps = solution.pumps.map(({ itemId }): [string, PumpCondition] => [
    itemId,
    standing.includes(itemId) ? { stopped: true } : { ...(speedRatio && { speedRatio }) },
  ]);
  return { pumps: Object.fromEntries(pumps) };
}

/** Every doubtful input where it lets most through: the widest the likely range could ever be. */
function favourable(
  { pumps, line }: LineModel,
  uncertainty: Uncertainty,
  taken?: Condition,
): Condition {
  const outlets = line.outlets.filter(({ item }) => receivingWater(item.outlet));
  return {
    everywhere: {
      roughnessFactor: 1 / uncertainty.roughnessFactor,
      hazenWilliamsFactor: 1 + uncertainty.hazenWilliamsC,
      lossFactor: 1 - uncertainty.fittings,
    },
    levels: {
      source: uncertainty.level,
      outlets: Object.fromEntries(outlets.map(({ item }) => [item.id, -uncertainty.level])),
    },
    pumps: Object.fromEntries(
      pumps.map(({ itemId, pump }) => {
        const { flow, head } = headFactorUncertainty(pump);
        const factors = { flowFactor: 1 + flow, headFactor: 1 + head };
        return [itemId, { ...factors, ...taken?.pumps?.[itemId] }];
      }),
    ),
  };
}

function stateUnder(solution: Solution, condition: Condition): SteadyState | undefined {
  const { model, states, boundaryAt } = conditioned(solution, condition);
  const result = model.solve(boundaryAt("normal"), states);
  if (result.kind === "steady") return settledDuty(result.outcome) && result.state;
  return result.kind === "no-duty" ? result.atCurveEnd : undefined;
}

/** Whether a pump passes more than its curve tells, when the outlet passes `times` what was promised. */
function pastCurve(
  { pumps, line }: Solution,
  times: number,
  { byPump }: SteadyState,
  taken?: Condition,
): boolean {
  return pumps.some(({ itemId, curve }, i) => {
    const job = line.pumps[i]?.item.speedRatio ?? 1;
    const speed = (taken?.pumps?.[itemId]?.speedRatio ?? job) / job;
    return (byPump[i] as number) * times > curve.lastFlow * speed;
  });
}

/** Whether a flow, times a factor, lies where it was promised. */
function fitting({ value, standardUncertainty }: Estimate, { low, high }: Spread) {
  return (factor: number) => {
    const expanded = COVERAGE * standardUncertainty * factor;
    return value * factor + expanded >= low && value * factor - expanded <= high;
  };
}

/** One fill far shorter than the others, without which the flow is as promised. */
function cutShort(measured: FlowMeasurement, flow: Estimate, likely: Spread): Slip | undefined {
  if (measured.method !== "bucket" || measured.times.length < 3) return undefined;
  const sorted = measured.times.toSorted((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)] as number;
  const mean = sorted.reduce((sum, time) => sum + time, 0) / sorted.length;
  const short = (sorted[0] as number) < 0.6 * middle;
  return short && fitting(flow, likely)(mean / middle) ? "a-fill-cut-short" : undefined;
}

/** The slip that would put a flow that cannot be where it was promised. */
function slipOf(measured: FlowMeasurement, flow: Estimate, likely: Spread): Slip | undefined {
  const fits = fitting(flow, likely);
  if (measured.method === "meter") {
    return fits(1e-3 / GALLON) ? "gallons-for-litres" : undefined;
  }
  if (fits(1e-3 / GALLON)) return "gallons-for-litres";
  if (measured.method === "timed") {
    for (let buckets = 2; buckets <= 6; buckets++) {
      if (fits((buckets - 1) / buckets)) return "a-fill-miscounted";
    }
  }
  return fits(1 / 60) ? "minutes-for-seconds" : undefined;
}
