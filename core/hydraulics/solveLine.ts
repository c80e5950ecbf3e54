import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import type { Water } from "../fluid/water.ts";
import { waterAt } from "../fluid/water.ts";
import type { CompiledLine, PlacedPump } from "../line/compiledLine.ts";
import { compileLine } from "../line/compileLine.ts";
import type { Diagnostic } from "../line/diagnostic.ts";
import { withFittingsBy } from "../line/fittingLoss.ts";
import type { Line, Method } from "../line/path.ts";
import {
  npshRequiredAt,
  type PumpCurve,
  powerAt,
  publishedValue,
  pumpCurve,
} from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import type { PumpState } from "./boundary.ts";
import { type Boundary, boundariesOf } from "./boundary.ts";
import { flowToDeliver } from "./flowToDeliver.ts";
import { headLedger, type LedgerEntry } from "./headLedger.ts";
import { type HeadLinePoint, headLine } from "./headLine.ts";
import {
  type HydraulicModel,
  headOver,
  hydraulicModel,
  jointDuty,
  NOTHING,
  type SteadyResult,
  type SteadyState,
} from "./hydraulicModel.ts";
import { type Duty, type Outcome, settledDuty } from "./operatingPoint.ts";
import { segmentLoss } from "./resistance.ts";
import { barometricLimit } from "./suctionLimits.ts";
import { type SuctionState, suctionState } from "./suctionState.ts";

/** A line ready to be asked: compiled once, its pumps on their curves, and the boundaries of its levels. */
export interface LineModel {
  kind: "ready";
  line: CompiledLine;
  /** in the order of the path */
  pumps: PumpOnLine[];
  states: PumpState[];
  water: Water;
  model: HydraulicModel;
  boundaries: Record<WaterLevel, Boundary>;
  /** set while its one pump is still to be chosen: a stand-in moves what is wanted, and has no curve of its own */
  asked?: AskedFlow;
}

/** What a line whose pump is still to be chosen is to do. */
export interface AskedFlow {
  /** where the pump will stand */
  itemId: string;
  /** m³/s at the outlets */
  wanted: number;
}

export interface PumpOnLine {
  itemId: string;
  pump: Pump;
  curve: PumpCurve;
}

/** A line and its pumps, solved at all three levels. */
export interface Solution extends LineModel {
  cases: Record<WaterLevel, SolvedCase>;
  /** normal water by the other school of friction, and by the other of fittings */
  crossChecks: { friction: CrossCheck<"friction">; fittings: CrossCheck<"fittings"> };
}

export interface CrossCheck<S extends keyof Method> {
  by: Method[S];
  duty?: Duty;
}

export interface SolvedCase {
  at: WaterLevel;
  boundary: Boundary;
  staticHead: number;
  /** of all pumps together */
  outcome: Outcome;
  /** of each pump, the others running */
  outcomes: Outcome[];
  /** of each pump as it came to be: one that runs past its published curve is held at its last flow */
  states: readonly PumpState[];
  /** m³/s that would run downhill with every pump standing, where an outlet lies below the water */
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
  state: SteadyState;
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

/** `sketch` is as much of the line as can be drawn. */
export type Refused = { kind: "refused"; diagnostics: Diagnostic[]; sketch: CompiledLine };
export type SolveResult = { kind: "solved"; solution: Solution } | Refused;

/**
 * Solves a line for its pumps. Quantities are SI; the line is refused, with every reason found, when it
 * cannot be solved as it stands.
 */
export function solveLine(line: Line, pumps: readonly Pump[], wanted?: number): SolveResult {
  const ready = lineModel(line, pumps, wanted);
  return ready.kind === "refused" ? ready : solveModel(ready, line);
}

/**
 * Compiles a line and puts its pumps on it.
 * @param wanted m³/s at the outlets: with it a line whose one pump is not chosen yet is ready too, asked for the head
 * that takes
 */
export function lineModel(
  line: Line,
  pumps: readonly Pump[],
  wanted?: number,
): LineModel | Refused {
  const compilation = compileLine(line);
  const compiled = compilation.kind === "compiled" ? compilation.line : compilation.sketch;
  const diagnostics = compilation.kind === "compiled" ? [] : [...compilation.diagnostics];
  if (compiled.pumps.length === 0 && line.source.kind !== "mains") {
    diagnostics.push({ code: "no-pump" });
  }
  const isAsked = wanted !== undefined && wanted > 0 && compiled.pumps.length === 1;
  const on = compiled.pumps.flatMap(({ item }): PumpOnLine[] => {
    const standIn = isAsked && item.pump === null ? STAND_IN : undefined;
    const pump = standIn ?? pumps.find(({ id }) => id === item.pump);
    if (pump) return [{ itemId: item.id, pump, curve: pumpCurve(pump, item.speedRatio ?? 1) }];
    const code = item.pump === null ? "pump-not-chosen" : "pump-unknown";
    diagnostics.push({ code, itemId: item.id });
    return [];
  });
  if (diagnostics.length > 0) return { kind: "refused", diagnostics, sketch: compiled };
  const water = waterAt(line.site.waterTemperature, line.site.specificGravity);
  const ready: LineModel = {
    kind: "ready",
    line: compiled,
    pumps: on,
    states: on.map(({ curve }): PumpState => ({ kind: "running", curve })),
    water,
    model: hydraulicModel(compiled, {
      ...{ water, friction: line.method.friction },
      barometric: barometricLimit(line.site.altitude, water),
    }),
    boundaries: boundariesOf(compiled, water),
  };
  const [first] = on;
  return first?.pump === STAND_IN && wanted !== undefined
    ? asked(ready, { itemId: first.itemId, wanted })
    : ready;
}

/** Holds the place of a pump that is still to be chosen. Its flow is imposed, so nothing is read off its curve. */
const STAND_IN: Pump = {
  id: "(to be chosen)",
  points: [0, 1, 2].map((flow) => ({ flow, head: 0 })),
  ratedSpeedRpm: 2900,
  drive: "electric",
  submersible: false,
  tolerance: "small",
};

/** A ready line with what its pump has to move for the wanted flow at normal water: more, where holes let some out. */
function asked(ready: LineModel, wish: AskedFlow): LineModel | Refused {
  const { model, boundaries, line } = ready;
  const flow = flowToDeliver(model, boundaries.normal, wish.wanted);
  if (flow === undefined) {
    return { kind: "refused", diagnostics: [{ code: "not-balanced" }], sketch: line };
  }
  return { ...ready, states: [{ kind: "held", flow }], asked: wish };
}

/** A model solved at the three levels of its line, and at normal water by the other schools. */
export function solveModel(ready: LineModel, line: Line): SolveResult {
  const cases = {} as Record<WaterLevel, SolvedCase>;
  for (const at of WATER_LEVELS) {
    const solved = solveCase(ready, line, at);
    if (solved.kind === "refused") return solved;
    cases[at] = solved.solved;
  }
  const { friction, fittings } = otherMethods(line.method);
  const { line: compiled, states, boundaries } = ready;
  const dutyOf = (model: HydraulicModel) => {
    const result = model.solve(boundaries.normal, states);
    return result.kind === "not-balanced" ? undefined : settledDuty(result.outcome);
  };
  const check = <T>(by: T, model: HydraulicModel): { by: T; duty?: Duty } => {
    const duty = dutyOf(model);
    return duty ? { by, duty } : { by };
  };
  const refitted = hydraulicModel(withFittingsBy(compiled, fittings), ready.model.context);
  const crossChecks = {
    friction: check(friction, hydraulicModel(compiled, { ...ready.model.context, friction })),
    fittings: check(fittings, refitted),
  };
  return { kind: "solved", solution: { ...ready, cases, crossChecks } };
}

/** The model at one level with all that runs in it. */
export function solveCase(
  ready: LineModel,
  line: Line,
  at: WaterLevel,
): { kind: "solved"; solved: SolvedCase } | Refused {
  const { model, states, boundaries } = ready;
  const boundary = boundaries[at];
  const result = model.solve(boundary, states);
  if (result.kind === "not-balanced") {
    return { kind: "refused", diagnostics: [result.diagnostic], sketch: ready.line };
  }
  const { staticHead, outcome, outcomes, states: held } = result;
  const siphonFlow = staticHead < 0 ? siphon(ready, boundary) : undefined;
  const running = whileRunning(ready, line, boundary, result);
  const solved: SolvedCase = { at, boundary, staticHead, outcome, outcomes, states: held };
  if (siphonFlow !== undefined) solved.siphonFlow = siphonFlow;
  if (running) solved.running = running;
  return { kind: "solved", solved };
}

/** m³/s that runs with every pump standing. */
function siphon({ model, states }: LineModel, boundary: Boundary): number | undefined {
  if (states.length === 0) return undefined;
  const standing = states.map((): PumpState => ({ kind: "stopped" }));
  const result = model.solve(boundary, standing);
  return result.kind === "steady" ? result.state.delivered : undefined;
}

/** The school of friction, and that of fittings, a line is not reckoned by. */
export function otherMethods({ friction, fittings }: Method): Method {
  return {
    friction: friction === "darcy-weisbach" ? "hazen-williams" : "darcy-weisbach",
    fittings: fittings === "coefficient" ? "equivalent-length" : "coefficient",
  };
}

/** The state a result stands for, whether the pumps settle or run off their curves. */
export function stateOf(result: SteadyResult): SteadyState | undefined {
  if (result.kind === "steady") return result.state;
  return result.kind === "no-duty" ? result.atCurveEnd : undefined;
}

function whileRunning(
  ready: LineModel,
  line: Line,
  boundary: Boundary,
  result: Exclude<SteadyResult, { kind: "not-balanced" }>,
): Running | undefined {
  const state = stateOf(result);
  if (!state) return undefined;
  const { line: compiled, pumps: on, water, model } = ready;
  const losses = compiled.segments.map((segment, i) =>
    segmentLoss(segment, state.bySegment[i] as number, model.context),
  );
  // What a broken column falls is spent after the hill it broke over.
  const { broken } = state;
  if (broken) losses[broken.segment + 1] = (losses[broken.segment + 1] as number) + broken.drop;
  const points = headLine(compiled, state, losses);
  const pumps = on.map(({ itemId, pump, curve }, i): PumpAtWork => {
    const placed = compiled.pumps[i] as PlacedPump;
    const own = result.outcomes[i];
    // The flow that was found for one pump is that pump's own, to the last digit.
    const exact = on.length === 1 && own ? (settledDuty(own) ?? endOf(own)) : undefined;
    const duty = exact ?? { flow: state.byPump[i] as number, head: headOver(placed, state) };
    // Published power is for clean water; heavier water takes more in proportion.
    const published = publishedValue(powerAt(curve, duty.flow));
    const npshRequired = publishedValue(npshRequiredAt(curve, duty.flow));
    const atWork: PumpAtWork = {
      itemId,
      duty,
      suction: suctionState(compiled, placed, state, pump, line.site, points, water),
    };
    if (published !== undefined) atWork.power = published * line.site.specificGravity;
    if (npshRequired !== undefined) atWork.npshRequired = npshRequired;
    return atWork;
  });
  const [only] = pumps;
  const duty = pumps.length === 1 && only ? only.duty : dutyOf(compiled, state);
  const hydraulicPower = water.density * GRAVITY * duty.flow * duty.head;
  const known = pumps.every((pump) => pump.power !== undefined || pump.duty.flow <= NOTHING);
  const power = pumps.reduce((sum, pump) => sum + (pump.power ?? 0), 0);
  const running: Running = {
    basis: result.kind === "steady" ? "duty" : "end-of-curve",
    duty,
    pumps,
    state,
    ledger: headLedger(compiled, boundary, state, losses, water),
    headLine: points,
    hydraulicPower,
  };
  if (known && power > 0) {
    running.power = power;
    running.efficiency = hydraulicPower / power;
  }
  return running;
}

/** A line without a pump moves what its source drives through it. */
function dutyOf(line: CompiledLine, state: SteadyState): Duty {
  return line.pumps.length > 0 ? jointDuty(line, state) : { flow: state.delivered, head: 0 };
}

function endOf(outcome: Outcome): Duty | undefined {
  return outcome.kind === "beyond-curve" ? outcome.last : undefined;
}
