import { type Water, waterAt } from "../fluid/water.ts";
import type { CompiledLine, PlacedPump } from "../line/compiledLine.ts";
import { compileLine } from "../line/compileLine.ts";
import type { Finding } from "../line/diagnostic.ts";
import { LEVEL_CASES, type LevelCase, type Line } from "../line/path.ts";
import {
  npshRequiredAt,
  type PumpCurve,
  peakFlow,
  powerAt,
  publishedValue,
  pumpCurve,
} from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { type Flows, type LineNetwork, lineNetwork, NOTHING, NotBalanced } from "./flowsAlong.ts";
import { headLedger, type LedgerEntry } from "./headLedger.ts";
import { type HeadLinePoint, headLine } from "./headLine.ts";
import { type LossContext, segmentLoss, staticHead } from "./lineLoss.ts";
import { type Duty, type Outcome, operatingPoint, settledDuty } from "./operatingPoint.ts";
import { outOfReach } from "./shutHeads.ts";
import { type SuctionState, suctionState } from "./suctionState.ts";

/** A line and its pumps, solved at all three levels. */
export interface Solution {
  line: CompiledLine;
  /** in the order of the path */
  pumps: PumpOnLine[];
  water: Water;
  cases: Record<LevelCase, CaseSolution>;
  /** the normal case by the other school of friction, and by the other of fittings */
  crossChecks: { friction: CrossCheck<"friction">; fittings: CrossCheck<"fittings"> };
}

export interface CrossCheck<S extends keyof Line["method"]> {
  by: Line["method"][S];
  duty?: Duty;
}

export interface PumpOnLine {
  itemId: string;
  pump: Pump;
  curve: PumpCurve;
}

export interface CaseSolution {
  levelCase: LevelCase;
  staticHead: number;
  /** of all pumps together */
  outcome: Outcome;
  /** of each pump, the others running */
  outcomes: Outcome[];
  /** m³/s that would run downhill with no pump at all, where an outlet lies below the water */
  siphonFlow?: number;
  running?: Running;
}

/** The line while water moves. */
export interface Running {
  /** `end-of-curve` when a pump runs out beyond what is published: the least it can be doing */
  basis: "duty" | "end-of-curve";
  /** what the pumps move together, and the head that gives it the same power as theirs */
  duty: Duty;
  pumps: PumpAtWork[];
  /** the flow in every segment, at the outlets and through holes */
  flows: Flows;
  ledger: LedgerEntry[];
  headLine: HeadLinePoint[];
  /** W given to the water */
  hydraulicPower: number;
  /** W the pumps take, and water power over it, where power is published for all */
  power?: number;
  efficiency?: number;
}

export interface PumpAtWork {
  itemId: string;
  /** no flow where the others hold it shut */
  duty: Duty;
  suction: SuctionState;
  power?: number;
  npshRequired?: number;
}

export type SolveResult = { kind: "solved"; solution: Solution } | Refused;

/**
 * Solves a line for its pumps. Quantities are SI; the line is refused, with every reason found, when it
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
    return { kind: "refused", findings: [error.finding] };
  }
}

function solveAllCases(line: Line, pumps: readonly Pump[]): SolveResult {
  const prepared = prepare(line, pumps);
  if (prepared.kind === "refused") return prepared;
  const context: LossContext = { water: prepared.water, friction: line.method.friction };
  const cases = {} as Record<LevelCase, CaseSolution>;
  for (const levelCase of LEVEL_CASES) {
    cases[levelCase] = caseSolution(line, prepared, levelCase, context);
  }
  const { friction, fittings } = otherSchools(line.method);
  const byFriction = workCase(prepared.compiled, prepared.curves, "normal", {
    ...context,
    friction,
  });
  const refitted = compileLine({ ...line, method: { ...line.method, fittings } });
  const byFittings =
    refitted.kind === "compiled"
      ? workCase(refitted.line, prepared.curves, "normal", context)
      : undefined;
  const check = <T>(by: T, worked: WorkedCase | undefined) => {
    const duty = worked && settledDuty(worked.outcome);
    return duty ? { by, duty } : { by };
  };
  const crossChecks = {
    friction: check(friction, byFriction),
    fittings: check(fittings, byFittings),
  };
  const { compiled, on, water } = prepared;
  return { kind: "solved", solution: { line: compiled, pumps: on, water, cases, crossChecks } };
}

function caseSolution(
  line: Line,
  prepared: Prepared,
  levelCase: LevelCase,
  context: LossContext,
): CaseSolution {
  const worked = workCase(prepared.compiled, prepared.curves, levelCase, context);
  const { staticHead: still, outcome, outcomes, siphonFlow } = worked;
  const running = whileRunning(line, prepared, worked, levelCase, context);
  return {
    levelCase,
    staticHead: still,
    outcome,
    outcomes,
    ...(siphonFlow !== undefined && { siphonFlow }),
    ...(running && { running }),
  };
}

/** One case of a line with all that runs in it, where the others are of no interest. */
export function solveCase(
  line: Line,
  pumps: readonly Pump[],
  levelCase: LevelCase,
): { kind: "solved"; line: CompiledLine; water: Water; solved: CaseSolution } | Refused {
  return orRefused(() => {
    const prepared = prepare(line, pumps);
    if (prepared.kind === "refused") return prepared;
    const { compiled, water } = prepared;
    const context: LossContext = { water, friction: line.method.friction };
    const solved = caseSolution(line, prepared, levelCase, context);
    return { kind: "solved" as const, line: compiled, water, solved };
  });
}

/** The school of friction, and that of fittings, a line is not reckoned by. */
export function otherSchools({ friction, fittings }: Line["method"]): Line["method"] {
  return {
    friction: friction === "darcy-weisbach" ? "hazen-williams" : "darcy-weisbach",
    fittings: fittings === "coefficient" ? "equivalent-length" : "coefficient",
  };
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
    const worked = workCase(prepared.compiled, prepared.curves, levelCase, context);
    const { outcome } = worked;
    const flows = worked.flows();
    if (!settledDuty(outcome) || !flows) return { kind: "solved", outcome };
    const taken = (itemId: string) =>
      prepared.compiled.segments.reduce((sum, segment, i) => {
        if (segment.itemId !== itemId) return sum;
        return sum + segmentLoss(segment, Math.abs(flows.bySegment[i] as number), context);
      }, 0);
    return { kind: "solved", outcome, settled: { delivered: flows.delivered, taken } };
  });
}

type OutcomeResult = { kind: "solved"; outcome: Outcome; settled?: Settled } | Refused;

/** What a line does at a duty it settles at. */
interface Settled {
  /** m³/s at the outlets */
  delivered: number;
  /** m the parts of an item of the path take */
  taken: (itemId: string) => number;
}

interface Prepared {
  kind: "ready";
  compiled: CompiledLine;
  on: PumpOnLine[];
  curves: PumpCurve[];
  water: Water;
}

function prepare(line: Line, pumps: readonly Pump[]): Prepared | Refused {
  const compilation = compileLine(line);
  if (compilation.kind === "refused") return compilation;
  const compiled = compilation.line;
  const findings: Finding[] = [];
  const on = compiled.pumps.flatMap(({ item }): PumpOnLine[] => {
    const pump = pumps.find(({ id }) => id === item.pump);
    if (pump) return [{ itemId: item.id, pump, curve: pumpCurve(pump, item.speedRatio ?? 1) }];
    findings.push({ code: "pump-unknown", itemId: item.id });
    return [];
  });
  if (findings.length > 0) return { kind: "refused", findings };
  const water = waterAt(line.site.waterTemperature, line.site.specificGravity);
  return { kind: "ready", compiled, on, curves: on.map(({ curve }) => curve), water };
}

interface WorkedCase {
  staticHead: number;
  outcome: Outcome;
  outcomes: Outcome[];
  siphonFlow?: number;
  /** m³/s at the outlets, while the pumps run at their duty */
  delivered?: number;
  /** while the pumps run at their duty, or the first of them at the end of its curve */
  flows: () => Flows | undefined;
}

/** One case of a line whose pumps have these curves, in the order of the path. */
export function workCase(
  compiled: CompiledLine,
  curves: readonly PumpCurve[],
  levelCase: LevelCase,
  context: LossContext,
): WorkedCase {
  const lift = staticHead(compiled, levelCase, context.water);
  const network = lineNetwork(compiled, levelCase, context);
  if (compiled.single) {
    const [curve] = curves as readonly [PumpCurve];
    const outcome = operatingPoint(curve, (flow) =>
      network.headOf({ kind: "forced", pump: 0, flow, curves }),
    );
    const duty = settledDuty(outcome);
    return {
      staticHead: lift,
      ...(lift < 0 && { siphonFlow: network.flows({ kind: "idle" }).delivered }),
      outcome,
      outcomes: [outcome],
      ...(duty && { delivered: duty.flow }),
      flows: () => flowsAt(network, curves, [outcome]),
    };
  }
  const short = outOfReach(compiled, curves, levelCase, context.water);
  if (short !== undefined) return nothingRuns(compiled, lift, lift - short);
  const direct = atOnce(compiled, network, curves);
  const found =
    direct?.outcomes ??
    curves.map((curve, pump) =>
      operatingPoint(curve, (flow) => network.headOf({ kind: "forced", pump, flow, curves })),
    );
  const flows = direct?.flows ?? flowsAt(network, curves, found);
  const siphonFlow = lift < 0 ? network.flows({ kind: "idle" }).delivered : undefined;
  const base = { staticHead: lift, ...(siphonFlow !== undefined && { siphonFlow }) };
  // Pumps whose water all leaves through holes before the outlet lift nothing, whatever they pass.
  if (flows && flows.delivered <= NOTHING && compiled.holes.length > 0) {
    const best = Math.max(...found.map((outcome) => settledDuty(outcome)?.head ?? 0));
    return { ...base, ...nothingRuns(compiled, lift, best) };
  }
  if (flows) refuseDrooping(compiled, curves, flows);
  const outcome = together(compiled, found, flows);
  const delivered = settledDuty(outcome) && flows ? { delivered: flows.delivered } : {};
  return { ...base, outcome, outcomes: found, ...delivered, flows: () => flows };
}

/** No pump brings water to any outlet: the best head there is, in m, falls short of the static head. */
function nothingRuns({ pumps }: CompiledLine, staticHead: number, bestHead: number): WorkedCase {
  const shortfall = staticHead - bestHead;
  const outcome: Outcome = { kind: "cannot-lift", staticHead, bestHead, shortfall };
  return { staticHead, outcome, outcomes: pumps.map(() => outcome), flows: () => undefined };
}

/**
 * All pumps of a network balanced in one go: good where every curve falls all the way, so that there is one
 * balance only, and where every pump comes to run inside what is published. Otherwise nothing.
 */
function atOnce(line: CompiledLine, network: LineNetwork, curves: readonly PumpCurve[]) {
  if (!network.onCurves || curves.some((curve) => peakFlow(curve) > curve.firstFlow))
    return undefined;
  const flows = network.onCurves(curves);
  const inside = curves.every((curve, i) => {
    const flow = flows.byPump[i] as number;
    return flow > Math.max(curve.firstFlow, NOTHING) && flow <= curve.lastFlow;
  });
  if (!inside) return undefined;
  const outcomes = line.pumps.map((placed, i): Outcome => {
    const duty = { flow: flows.byPump[i] as number, head: headAdded(placed, flows) };
    return { kind: "runs", duty };
  });
  return { flows, outcomes };
}

/** Everything that runs with one pump at its duty, or at the end of its curve, and the others beside it. */
function flowsAt(
  network: LineNetwork,
  curves: readonly PumpCurve[],
  outcomes: readonly Outcome[],
): Flows | undefined {
  const settled = outcomes.findIndex((outcome) => settledDuty(outcome));
  const pump = settled >= 0 ? settled : outcomes.findIndex(({ kind }) => kind === "beyond-curve");
  const outcome = outcomes[pump];
  if (!outcome) return undefined;
  const duty = outcome.kind === "beyond-curve" ? outcome.last : settledDuty(outcome);
  return duty && network.flows({ kind: "forced", pump, flow: duty.flow, curves });
}

/** A pump on the rising part of its curve beside others has no duty of its own to settle at. */
function refuseDrooping(line: CompiledLine, curves: readonly PumpCurve[], { byPump }: Flows): void {
  if (curves.length < 2) return;
  for (const [i, curve] of curves.entries()) {
    const flow = byPump[i] as number;
    const peak = peakFlow(curve);
    if (flow > NOTHING && peak > curve.firstFlow && flow < peak) {
      throw new NotBalanced({ code: "pump-droops", itemId: line.pumps[i]?.item.id as string });
    }
  }
}

/** One outcome for all pumps: that of the only one, the first that is off its curve, or the joint duty. */
function together(compiled: CompiledLine, outcomes: Outcome[], flows: Flows | undefined): Outcome {
  const [first, ...others] = outcomes;
  if (!first || others.length === 0) return first as Outcome;
  const off = outcomes.find(({ kind }) => kind === "beyond-curve" || kind === "below-curve");
  if (off) return off;
  if (!flows || !outcomes.some((outcome) => settledDuty(outcome))) return first;
  return { kind: "runs", duty: jointDuty(compiled, flows) };
}

/** Flow of the pumps that draw from the source, and the head that gives it the power all pumps give. */
function jointDuty({ pumps }: CompiledLine, flows: Flows): Duty {
  let flow = 0;
  let lifted = 0;
  for (const [i, pump] of pumps.entries()) {
    const own = flows.byPump[i] as number;
    if (!pump.fed) flow += own;
    lifted += own * headAdded(pump, flows);
  }
  return { flow, head: flow > 0 ? lifted / flow : 0 };
}

function headAdded({ inlet, outlet }: PlacedPump, { nodeHeads }: Flows): number {
  return (nodeHeads[outlet] as number) - (nodeHeads[inlet] as number);
}

function whileRunning(
  line: Line,
  { compiled, on }: Prepared,
  { outcome, outcomes, flows: find }: WorkedCase,
  levelCase: LevelCase,
  context: LossContext,
): Running | undefined {
  const flows = find();
  if (!flows) return undefined;
  const settled = settledDuty(outcome);
  const { water } = context;
  const points = headLine(compiled, flows, context);
  const pumps = on.map(({ itemId, pump, curve }, i): PumpAtWork => {
    const placed = compiled.pumps[i] as PlacedPump;
    const own = outcomes[i];
    // The flow that was found for one pump is that pump's own, to the last digit.
    const exact = on.length === 1 && own ? (settledDuty(own) ?? endOf(own)) : undefined;
    const duty = exact ?? { flow: flows.byPump[i] as number, head: headAdded(placed, flows) };
    // Published power is for clean water; heavier water takes more in proportion.
    const published = publishedValue(powerAt(curve, duty.flow));
    const npshRequired = publishedValue(npshRequiredAt(curve, duty.flow));
    return {
      itemId,
      duty,
      suction: suctionState(compiled, placed, flows, levelCase, pump, line.site, points, water),
      ...(published !== undefined && { power: published * line.site.specificGravity }),
      ...(npshRequired !== undefined && { npshRequired }),
    };
  });
  const duty = on.length === 1 && pumps[0] ? pumps[0].duty : jointDuty(compiled, flows);
  const hydraulicPower = water.density * GRAVITY * duty.flow * duty.head;
  const known = pumps.every((pump) => pump.power !== undefined || pump.duty.flow <= NOTHING);
  const power = pumps.reduce((sum, pump) => sum + (pump.power ?? 0), 0);
  return {
    basis: settled ? "duty" : "end-of-curve",
    duty,
    pumps,
    flows,
    ledger: headLedger(compiled, levelCase, flows, context),
    headLine: points,
    hydraulicPower,
    ...(known && power > 0 && { power, efficiency: hydraulicPower / power }),
  };
}

function endOf(outcome: Outcome): Duty | undefined {
  return outcome.kind === "beyond-curve" ? outcome.last : undefined;
}
