import { GRAVITY } from "../constants/gravity.ts";
import { type CompiledLine, compileLine } from "../line/compileLine.ts";
import type { Finding } from "../line/finding.ts";
import { type Flows, flowsAlong, NotBalanced } from "../line/flowsAlong.ts";
import { type HeadLinePoint, headLine } from "../line/headLine.ts";
import { type LossContext, staticHead, stretchLoss } from "../line/lineLoss.ts";
import { LEVEL_CASES, type LevelCase, type Line } from "../line/path.ts";
import { systemHead } from "../line/systemHead.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import {
  npshRequiredAt,
  type PumpCurve,
  powerAt,
  publishedValue,
  pumpCurve,
} from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { type SuctionState, suctionState } from "../suction/suctionState.ts";
import { type Water, waterAt } from "../water/water.ts";
import { headLedger, type LedgerEntry } from "./ledger.ts";
import { type Duty, type Outcome, operatingPoint, settledDuty } from "./operatingPoint.ts";

/** A line and its pump, solved at all three levels. */
export interface Solution {
  line: CompiledLine;
  pump: Pump;
  curve: PumpCurve;
  water: Water;
  cases: Record<LevelCase, CaseSolution>;
  /** the normal case by the other school of friction */
  crossCheck: { friction: Line["method"]["friction"]; duty?: Duty };
}

export interface CaseSolution {
  levelCase: LevelCase;
  staticHead: number;
  outcome: Outcome;
  /** m³/s that would run downhill with no pump at all, where the outlet lies below the water */
  siphonFlow?: number;
  running?: Running;
}

/** The line while water moves. */
export interface Running {
  /** `end-of-curve` when the pump runs out beyond what is published: the least it can be doing */
  basis: "duty" | "end-of-curve";
  duty: Duty;
  /** the flow in every segment, at the outlet and through holes */
  flows: Flows;
  ledger: LedgerEntry[];
  headLine: HeadLinePoint[];
  suction: SuctionState;
  /** W given to the water */
  hydraulicPower: number;
  /** W the pump takes, and water power over it, where power is published */
  power?: number;
  efficiency?: number;
  npshRequired?: number;
}

export type SolveResult = { kind: "solved"; solution: Solution } | Refused;

/**
 * Solves a line for its pump. Quantities are SI; the line is refused, with every reason found, when it
 * cannot be solved as it stands.
 */
export function solveLine(line: Line, pumps: readonly Pump[]): SolveResult {
  return orRefused(() => solveAllCases(line, pumps));
}

type Refused = { kind: "refused"; findings: Finding[] };

/** Rather no answer than a wrong one: a network that does not balance refuses the line. */
function orRefused<T>(solve: () => T): T | Refused {
  try {
    return solve();
  } catch (error) {
    if (!(error instanceof NotBalanced)) throw error;
    return { kind: "refused", findings: [{ code: "not-balanced" }] };
  }
}

function solveAllCases(line: Line, pumps: readonly Pump[]): SolveResult {
  const prepared = prepare(line, pumps);
  if (prepared.kind === "refused") return prepared;
  const { compiled, pump, curve, water } = prepared;
  const context: LossContext = { water, friction: line.method.friction };
  const cases = {} as Record<LevelCase, CaseSolution>;
  for (const levelCase of LEVEL_CASES) {
    const found = caseOutcome(compiled, curve, levelCase, context);
    const running = whileRunning(line, compiled, pump, curve, found, levelCase, context);
    cases[levelCase] = { levelCase, ...found, ...(running && { running }) };
  }
  const other = context.friction === "darcy-weisbach" ? "hazen-williams" : "darcy-weisbach";
  const check = caseOutcome(compiled, curve, "normal", { water, friction: other });
  const duty = settledDuty(check.outcome);
  const crossCheck = { friction: other, ...(duty && { duty }) } as const;
  return { kind: "solved", solution: { line: compiled, pump, curve, water, cases, crossCheck } };
}

/** Only the outcome of one case: what comparing many pumps or sizes needs. */
export function solveOutcome(
  line: Line,
  pumps: readonly Pump[],
  levelCase: LevelCase,
): OutcomeResult {
  return orRefused((): OutcomeResult => {
    const prepared = prepare(line, pumps);
    if (prepared.kind === "refused") return prepared;
    const context = { water: prepared.water, friction: line.method.friction };
    const { outcome } = caseOutcome(prepared.compiled, prepared.curve, levelCase, context);
    const duty = settledDuty(outcome);
    if (!duty) return { kind: "solved", outcome };
    const { delivered } = flowsAlong(prepared.compiled, levelCase, duty.flow, context);
    return { kind: "solved", outcome, delivered };
  });
}

type OutcomeResult = { kind: "solved"; outcome: Outcome; delivered?: number } | Refused;

function prepare(line: Line, pumps: readonly Pump[]) {
  const compilation = compileLine(line);
  if (compilation.kind === "refused") return compilation;
  const { pumpItem } = compilation.line;
  const pump = pumps.find((p) => p.id === pumpItem.pump);
  if (!pump) {
    const findings: Finding[] = [{ code: "pump-unknown", itemId: pumpItem.id }];
    return { kind: "refused" as const, findings };
  }
  return {
    kind: "ready" as const,
    compiled: compilation.line,
    pump,
    curve: pumpCurve(pump, pumpItem.speedRatio ?? 1),
    water: waterAt(line.site.waterTemperature, line.site.specificGravity),
  };
}

function caseOutcome(
  line: CompiledLine,
  curve: PumpCurve,
  levelCase: LevelCase,
  context: LossContext,
): Pick<CaseSolution, "staticHead" | "outcome" | "siphonFlow"> {
  const lift = staticHead(line, levelCase, context.water);
  const found = operatingPoint(curve, (flow) => systemHead(line, levelCase, flow, context));
  const outcome = orNothingDelivered(line, levelCase, found, lift, context);
  // What runs downhill through a line with holes is not worked out, so nothing is said of it.
  if (lift >= 0 || line.holes.length > 0) return { staticHead: lift, outcome };
  return { staticHead: lift, outcome, siphonFlow: downhillFlow(line, -lift, context) };
}

/** A pump whose water all leaves through holes before the outlet lifts nothing, whatever it passes. */
function orNothingDelivered(
  line: CompiledLine,
  levelCase: LevelCase,
  outcome: Outcome,
  lift: number,
  context: LossContext,
): Outcome {
  const duty = settledDuty(outcome);
  if (!duty || line.holes.length === 0) return outcome;
  if (flowsAlong(line, levelCase, duty.flow, context).delivered > NOTHING) return outcome;
  const { head: bestHead } = duty;
  return { kind: "cannot-lift", staticHead: lift, bestHead, shortfall: lift - bestHead };
}

/** m³/s: less than this at an outlet is no flow */
const NOTHING = 1e-7;

/** Flow in m³/s at which the line takes exactly the head that falling water gives it. */
function downhillFlow(line: CompiledLine, fall: number, context: LossContext): number {
  const surplus = (flow: number) => stretchLoss(line.segments, flow, context) - fall;
  let high = 1e-4;
  while (surplus(high) < 0) high *= 2;
  return bracketedRoot(surplus, 0, high, -fall, surplus(high), high * 1e-10);
}

function whileRunning(
  line: Line,
  compiled: CompiledLine,
  pump: Pump,
  curve: PumpCurve,
  { outcome }: Pick<CaseSolution, "outcome">,
  levelCase: LevelCase,
  context: LossContext,
): Running | undefined {
  const settled = settledDuty(outcome);
  const duty = settled ?? (outcome.kind === "beyond-curve" ? outcome.last : undefined);
  if (!duty) return undefined;
  const { flow, head } = duty;
  const { water } = context;
  const flows = flowsAlong(compiled, levelCase, flow, context);
  const points = headLine(compiled, levelCase, flows.bySegment, head, context);
  const hydraulicPower = water.density * GRAVITY * flow * head;
  // Published power is for clean water; heavier water takes more in proportion.
  const published = publishedValue(powerAt(curve, flow));
  const power = published === undefined ? undefined : published * line.site.specificGravity;
  const npshRequired = publishedValue(npshRequiredAt(curve, flow));
  return {
    basis: settled ? "duty" : "end-of-curve",
    duty,
    flows,
    ledger: headLedger(compiled, levelCase, flows, context),
    headLine: points,
    suction: suctionState(compiled, levelCase, flow, pump, line.site, points, context),
    hydraulicPower,
    ...(power !== undefined && { power, efficiency: hydraulicPower / power }),
    ...(npshRequired !== undefined && { npshRequired }),
  };
}
