import type { CompiledLine, Hole, PlacedPump, Stretch } from "../line/compiledLine.ts";
import type { Diagnostic } from "../line/diagnostic.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { delivers, receivingWater } from "../outlet/outlets.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { continuedHead, continuedHeadSlope, type PumpCurve } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { type Boundary, headOutside, type PumpState, staticHead } from "./boundary.ts";
import { type Link, solveNetwork } from "./network.ts";
import { type Duty, type Outcome, operatingPoint, settledDuty } from "./operatingPoint.ts";
import { headLoss, type LossContext, type Resistance, resistanceOf } from "./resistance.ts";
import { outOfReach } from "./shutHeads.ts";

/** Discharge coefficient of a drilled hole with a square edge; as textbooks have it, from memory. */
export const HOLE_COEFFICIENT = 0.61;

/** m³/s: less than this is no flow */
export const NOTHING = 1e-7;

/** What runs where. Flows in m³/s, positive along the path; heads in m above datum. */
export interface SteadyState {
  /** total head at every node of the line */
  nodeHeads: number[];
  bySegment: number[];
  /** of stretches too that have no segment on them */
  byStretch: number[];
  byPump: number[];
  byOutlet: number[];
  /** what reaches the outlets meant; what comes up at open drains does not count */
  delivered: number;
  /** the column of water breaks after a segment, at the vapour pressure: m of head that are lost there */
  broken?: { segment: number; drop: number };
  /** what is lost through each hole */
  lost: { itemId: string; flow: number }[];
  /** flows of the network's links: a later solution of the same model may start from them */
  links: readonly number[];
}

/** What came of the pumps, beside the state they bring about. */
export interface PumpOutcomes {
  /** m, to the lowest outlet */
  staticHead: number;
  /** of all pumps together */
  outcome: Outcome;
  /** of each pump, the others as they are */
  outcomes: Outcome[];
  /** of each pump as it came to be: one that runs past its published curve is held at its last flow */
  states: readonly PumpState[];
}

export type SteadyResult =
  | ({ kind: "steady"; state: SteadyState } & PumpOutcomes)
  /** no pump settles; `atCurveEnd` is the least that runs when one is past its published curve */
  | ({ kind: "no-duty"; atCurveEnd?: SteadyState } & PumpOutcomes)
  | { kind: "not-balanced"; diagnostic: Diagnostic };

/** A state with a flow imposed on it, and the head in m that has to be added there to have it so. */
export type ImposedResult =
  | { kind: "steady"; state: SteadyState; head: number }
  | { kind: "not-balanced"; diagnostic: Diagnostic };

/**
 * A line made ready to be solved again and again: for other levels, pump states and flows. `start` is a
 * state of the same model to set out from.
 */
export interface HydraulicModel {
  line: CompiledLine;
  context: LossContext;
  solve: (boundary: Boundary, pumps: readonly PumpState[], start?: SteadyState) => SteadyResult;
  /**
   * The system curve as one pump meets it, the others as they are: m it must add to pass a flow in m³/s.
   * Undefined at a flow where the network does not balance.
   */
  systemHead: (
    boundary: Boundary,
    pumps?: readonly PumpState[],
    pump?: number,
  ) => (flow: number) => number | undefined;
  /** with a flow in m³/s held at pump number `pump` or, where the line has none, drawn from its source */
  imposed: (
    boundary: Boundary,
    flow: number,
    pumps?: readonly PumpState[],
    pump?: number,
  ) => ImposedResult;
}

const NOT_BALANCED: Diagnostic = { code: "not-balanced" };

/** `network` takes a single path the general way as well, to hold its fast lane against. */
export function hydraulicModel(
  line: CompiledLine,
  context: LossContext,
  network = false,
): HydraulicModel {
  const ways = line.single && !network ? singlePath(line, context) : pipeNetwork(line, context);
  const withHeld = (pumps: readonly PumpState[], pump: number, flow: number) =>
    line.pumps.map(
      (_, i): PumpState =>
        i === pump ? { kind: "held", flow } : (pumps[i] ?? { kind: "stopped" }),
    );
  return {
    line,
    context,
    solve: (boundary, pumps, start) => solveSteady(line, ways, boundary, pumps, start),
    systemHead:
      (boundary, pumps = [], pump = 0) =>
      (flow) => {
        const head = ways.headOf(boundary, withHeld(pumps, pump, flow), pump);
        return Number.isNaN(head) ? undefined : head;
      },
    imposed: (boundary, flow, pumps = [], pump = 0) => {
      const placed = line.pumps[pump];
      const state = placed
        ? ways.stateOf(boundary, withHeld(pumps, pump, flow))
        : ways.stateOf(boundary, [], undefined, flow);
      if (!state) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
      const head = placed
        ? headOver(placed, state)
        : (state.nodeHeads[0] as number) - boundary.source;
      return { kind: "steady", state, head };
    },
  };
}

/** The two ways to find a state: nothing where the flows do not balance. */
interface Ways {
  /** `drawn`: a flow in m³/s forced from the source of a line that has no pump */
  stateOf: (
    boundary: Boundary,
    pumps: readonly PumpState[],
    start?: SteadyState,
    drawn?: number,
  ) => SteadyState | undefined;
  /** m that a pump held at a flow must add; the cheap half of `stateOf`, NaN where it does not balance */
  headOf: (boundary: Boundary, pumps: readonly PumpState[], held: number) => number;
}

function solveSteady(
  line: CompiledLine,
  ways: Ways,
  boundary: Boundary,
  pumps: readonly PumpState[],
  start?: SteadyState,
): SteadyResult {
  const lift = staticHead(boundary);
  if (!pumps.some(({ kind }) => kind === "running")) {
    return ungoverned(line, ways, boundary, pumps, lift, start);
  }
  const forced = pumps.some(({ kind }) => kind === "held");
  if (!line.single && !forced) {
    const short = outOfReach(line, boundary, pumps);
    if (short !== undefined) return nothingRuns(line, pumps, lift, lift - short);
    const direct = atOnce(line, ways, boundary, pumps, start);
    if (direct) return finish(line, direct.states, lift, direct.outcomes, direct.state, boundary);
    const drooping = pumps.length > 1 && pumps.some((own) => own.kind === "running" && droopy(own));
    const rested = drooping ? oneAfterAnother(line, ways, boundary, pumps) : undefined;
    if (rested) return finish(line, rested.states, lift, rested.outcomes, rested.state, boundary);
  }
  const found = eachOnItsCurve(ways, boundary, pumps);
  if (!found) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
  const { outcomes, states } = found;
  const settled = outcomes.findIndex((outcome) => settledDuty(outcome));
  const moves = settled >= 0 || states.some(({ kind }) => kind === "held");
  if (!moves) return finish(line, states, lift, outcomes, undefined, boundary);
  const duty = settled >= 0 ? settledDuty(outcomes[settled] as Outcome) : undefined;
  // The flow that was found for a pump is that pump's own, to the last digit.
  const state = ways.stateOf(
    boundary,
    duty ? states.with(settled, { kind: "held", flow: duty.flow }) : states,
  );
  if (!state) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
  const all = pumps.map((own, i) => heldOutcome(line, own, i, state) ?? (outcomes[i] as Outcome));
  return finish(line, states, lift, all, state, boundary);
}

/** What comes of a pump whose flow is imposed. */
function heldOutcome(
  line: CompiledLine,
  own: PumpState,
  index: number,
  state: SteadyState,
): Outcome | undefined {
  if (own.kind !== "held") return undefined;
  const head = headOver(line.pumps[index] as PlacedPump, state);
  return { kind: "runs", duty: { flow: own.flow, head } };
}

/**
 * Each pump against what the line asks of it, the others as they are. One that runs past its published curve is
 * held at its last flow, the least it can be doing, and the others are asked again; undefined where a flow does
 * not balance.
 */
function eachOnItsCurve(ways: Ways, boundary: Boundary, pumps: readonly PumpState[]) {
  let states = [...pumps];
  let outcomes: Outcome[] = pumps.map(() => ({ kind: "stopped" }));
  for (;;) {
    let balanced = true;
    outcomes = states.map((own, pump): Outcome => {
      if (own.kind !== "running") return outcomes[pump] as Outcome;
      // One list for every flow that is tried: nobody keeps it.
      const imposed = { kind: "held" as const, flow: 0 };
      const held = states.with(pump, imposed);
      return operatingPoint(own.curve, (flow) => {
        imposed.flow = flow;
        const head = ways.headOf(boundary, held, pump);
        balanced &&= !Number.isNaN(head);
        return head;
      });
    });
    if (!balanced) return undefined;
    const past = states.map((own, i): PumpState => {
      const outcome = outcomes[i] as Outcome;
      return own.kind === "running" && outcome.kind === "beyond-curve"
        ? { kind: "held", flow: outcome.last.flow }
        : own;
    });
    const more = past.some((own, i) => own !== states[i]);
    states = past;
    if (!more || !states.some(({ kind }) => kind === "running")) return { outcomes, states };
  }
}

/** Puts together what was found, and refuses what has no answer. */
function finish(
  line: CompiledLine,
  pumps: readonly PumpState[],
  lift: number,
  outcomes: Outcome[],
  state: SteadyState | undefined,
  boundary: Boundary,
): SteadyResult {
  if (!state) {
    const outcome = outcomes.find(({ kind }) => kind !== "stopped") as Outcome;
    return { kind: "no-duty", staticHead: lift, outcome, outcomes, states: pumps };
  }
  // Pumps whose water all leaves through holes before the outlet lift nothing, whatever they pass.
  if (state.delivered <= NOTHING && line.holes.length > 0 && !spills(line, state)) {
    const best = Math.max(...outcomes.map((outcome) => settledDuty(outcome)?.head ?? 0));
    return nothingRuns(line, pumps, lift, best, missingAtOutlet(line, boundary, state));
  }
  const drooping = droops(line, pumps, state);
  if (drooping) return { kind: "not-balanced", diagnostic: drooping };
  const outcome = together(line, outcomes, state);
  const base = { staticHead: lift, outcome, outcomes, states: pumps };
  return settledDuty(outcome)
    ? { kind: "steady", state, ...base }
    : { kind: "no-duty", atCurveEnd: state, ...base };
}

function spills(line: CompiledLine, { byOutlet }: SteadyState): boolean {
  return line.outlets.some(
    ({ item }, i) => !delivers(item.outlet) && (byOutlet[i] as number) > NOTHING,
  );
}

/** No pump runs: water goes where the ends of the line drive it. */
function ungoverned(
  line: CompiledLine,
  ways: Ways,
  boundary: Boundary,
  pumps: readonly PumpState[],
  lift: number,
  start?: SteadyState,
): SteadyResult {
  const state = ways.stateOf(boundary, pumps, start);
  if (!state) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
  const outcomes = pumps.map(
    (own, i): Outcome => heldOutcome(line, own, i, state) ?? { kind: "stopped" },
  );
  const flow = state.delivered;
  if (flow > NOTHING || line.pumps.length > 0) {
    const held = pumps.some(({ kind }) => kind === "held");
    const duty = held ? jointDuty(line, state) : { flow, head: 0 };
    const outcome: Outcome = { kind: "runs", duty };
    return { kind: "steady", state, staticHead: lift, outcome, outcomes, states: pumps };
  }
  return nothingRuns(line, pumps, lift, 0);
}

/** No pump brings water to any outlet: the best head there is, in m, falls short of the static head. */
function nothingRuns(
  { pumps: placed }: CompiledLine,
  pumps: readonly PumpState[],
  lift: number,
  bestHead: number,
  /** m missing at the outlet nearest to their reach, where holes on the way take all they move */
  missing?: number,
): SteadyResult {
  const above = lift - bestHead;
  const shortfall = above > 0 ? above : (missing ?? above);
  const short = above > 0 ? "static-head" : "holes";
  const outcome: Outcome = { kind: "cannot-lift", staticHead: lift, bestHead, shortfall, short };
  const outcomes = placed.map(
    (_, i): Outcome => (pumps[i]?.kind === "stopped" ? { kind: "stopped" } : outcome),
  );
  return { kind: "no-duty", staticHead: lift, outcome, outcomes, states: pumps };
}

/** m by which the head where the way to an outlet leaves falls short of what that asks, of several the least. */
function missingAtOutlet(
  { outlets, stretches }: CompiledLine,
  boundary: Boundary,
  { nodeHeads }: SteadyState,
): number {
  const each = outlets.map(({ node }, i) => {
    const from = stretches.find(({ to }) => to === node)?.from ?? 0;
    return (boundary.outlets[i] as number) - (nodeHeads[from] as number);
  });
  return Math.max(Math.min(...each), 0);
}

const droopy = ({ curve }: Extract<PumpState, { kind: "running" }>): boolean =>
  curve.peak.flow > curve.firstFlow;

/** times each pump is asked again as the others are by then */
const MOST_ROUNDS = 200;

/**
 * Pumps of which some droop, started one after another from rest: each goes from the flow it has to the nearest at which
 * it meets the line, the others held at theirs, and so round until none moves any more. Where one cannot get past the
 * head the others hold it stays shut. Nothing where the flows do not come to rest.
 */
function oneAfterAnother(
  line: CompiledLine,
  ways: Ways,
  boundary: Boundary,
  pumps: readonly PumpState[],
) {
  const flows = pumps.map(() => 0);
  const held = () =>
    pumps.map(
      (own, i): PumpState =>
        own.kind === "running" ? { kind: "held", flow: flows[i] as number } : own,
    );
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let moved = 0;
    for (const [i, own] of pumps.entries()) {
      if (own.kind !== "running") continue;
      const others = held();
      let balanced = true;
      const surplus = (flow: number) => {
        const head = ways.headOf(boundary, others.with(i, { kind: "held", flow }), i);
        balanced &&= !Number.isNaN(head);
        return evaluate(own.curve.head, Math.max(flow, own.curve.firstFlow)) - head;
      };
      const next = nearestMeeting(own.curve, flows[i] as number, surplus);
      if (!balanced) return undefined;
      moved = Math.max(moved, Math.abs(next - (flows[i] as number)));
      flows[i] = next;
    }
    if (moved > 1e-10) continue;
    const states = held();
    const state = ways.stateOf(boundary, states);
    if (!state) return undefined;
    const outcomes = pumps.map((own, i): Outcome => {
      if (own.kind !== "running") return { kind: "stopped" };
      const { curve } = own;
      const flow = flows[i] as number;
      const asked = headOver(line.pumps[i] as PlacedPump, state);
      if (flow <= NOTHING) {
        const bestHead = curve.head.y[0] as number;
        const shortfall = Math.max(asked - bestHead, 0);
        return {
          kind: "cannot-lift",
          staticHead: asked,
          bestHead,
          shortfall,
          short: "static-head",
        };
      }
      const head = evaluate(curve.head, Math.max(flow, curve.firstFlow));
      return flow >= curve.lastFlow && head > asked + 1e-6
        ? { kind: "beyond-curve", last: { flow, head }, headNeeded: asked }
        : { kind: "runs", duty: { flow, head: asked } };
    });
    return {
      state,
      outcomes,
      states: pumps.map((own, i) =>
        outcomes[i]?.kind === "beyond-curve" ? (states[i] as PumpState) : own,
      ),
    };
  }
  return undefined;
}

/** The flow a pump comes to from another: up while it makes more than is asked, down while it makes less. */
function nearestMeeting(
  { lastFlow }: PumpCurve,
  from: number,
  surplus: (flow: number) => number,
): number {
  const steps = 24;
  let at = from;
  let here = surplus(at);
  if (here === 0) return from;
  const rises = here > 0;
  const span = rises ? lastFlow - from : from;
  for (let i = 1; i <= steps && span > 0; i++) {
    const next = rises ? from + (span * i) / steps : from - (span * i) / steps;
    const there = surplus(next);
    if (rises ? there <= 0 : there >= 0) {
      return rises
        ? bracketedRoot(surplus, at, next, here, there, lastFlow * 1e-11)
        : bracketedRoot(surplus, next, at, there, here, lastFlow * 1e-11);
    }
    [at, here] = [next, there];
  }
  return rises ? lastFlow : 0;
}

/**
 * All pumps of a network balanced in one go: good where every curve falls all the way, so that there is one
 * balance only. A pump that would run past its last published flow is held at that, the one furthest past first, and
 * the others are balanced anew. Nothing where one comes to stand, or runs below what is published.
 */
function atOnce(
  line: CompiledLine,
  ways: Ways,
  boundary: Boundary,
  pumps: readonly PumpState[],
  start?: SteadyState,
) {
  if (pumps.some((own) => own.kind === "running" && droopy(own))) return undefined;
  let states = [...pumps];
  let state: SteadyState | undefined;
  for (let held = 0; held <= pumps.length; held++) {
    state = ways.stateOf(boundary, states, held === 0 ? start : undefined);
    if (!state) return undefined;
    const past = states.map((own, i) =>
      own.kind === "running" ? (state?.byPump[i] as number) / own.curve.lastFlow : 0,
    );
    const most = Math.max(...past);
    if (most <= 1 + 1e-12) break;
    const worst = past.indexOf(most);
    const own = states[worst];
    if (own?.kind === "running") {
      states = states.with(worst, { kind: "held", flow: own.curve.lastFlow });
    }
  }
  const balanced = state as SteadyState;
  const inside = states.every((own, i) => {
    if (own.kind !== "running") return true;
    return (balanced.byPump[i] as number) > Math.max(own.curve.firstFlow, NOTHING);
  });
  if (!inside) return undefined;
  const outcomes = line.pumps.map((placed, i): Outcome => {
    const own = pumps[i];
    if (own?.kind !== "running") return { kind: "stopped" };
    const head = headOver(placed, balanced);
    if (states[i]?.kind !== "held") {
      return { kind: "runs", duty: { flow: balanced.byPump[i] as number, head } };
    }
    const { lastFlow } = own.curve;
    const last = { flow: lastFlow, head: evaluate(own.curve.head, lastFlow) };
    return { kind: "beyond-curve", last, headNeeded: head };
  });
  return { state: balanced, outcomes, states };
}

/** Pumps on the rising parts of their curves beside each other have no duty of their own to settle at. */
function droops(
  line: CompiledLine,
  pumps: readonly PumpState[],
  { byPump }: SteadyState,
): Diagnostic | undefined {
  const rising = pumps.flatMap((state, i) => {
    if (state.kind !== "running") return [];
    const flow = byPump[i] as number;
    const { peak, firstFlow } = state.curve;
    return flow > NOTHING && peak.flow > firstFlow && flow < peak.flow ? [i] : [];
  });
  const [, second] = rising;
  return second === undefined
    ? undefined
    : { code: "pump-droops", itemId: line.pumps[second]?.item.id as string };
}

/** One outcome for all pumps: that of the only one, the first that is off its curve, or the joint duty. */
function together(line: CompiledLine, outcomes: Outcome[], state: SteadyState): Outcome {
  const [first, ...others] = outcomes;
  if (first && others.length === 0) return first;
  const off = outcomes.find(({ kind }) => kind === "beyond-curve" || kind === "below-curve");
  if (off) return off;
  if (!outcomes.some((outcome) => settledDuty(outcome))) return first as Outcome;
  return { kind: "runs", duty: jointDuty(line, state) };
}

/** Flow of the pumps that draw from the source, and the head that gives it the power all pumps give. */
export function jointDuty({ pumps }: CompiledLine, state: SteadyState): Duty {
  let flow = 0;
  let lifted = 0;
  for (const [i, pump] of pumps.entries()) {
    const own = state.byPump[i] as number;
    if (!pump.fed) flow += own;
    lifted += own * headOver(pump, state);
  }
  return { flow, head: flow > 0 ? lifted / flow : 0 };
}

/** m a pump adds to the water. */
export function headOver({ inlet, outlet }: PlacedPump, { nodeHeads }: SteadyState): number {
  return (nodeHeads[outlet] as number) - (nodeHeads[inlet] as number);
}

/** Of flows by outlet, what reaches those that are meant to have it. */
function deliveredOf({ outlets }: CompiledLine, byOutlet: readonly number[]): number {
  let sum = 0;
  for (const [i, { item }] of outlets.entries()) {
    if (delivers(item.outlet)) sum += byOutlet[i] as number;
  }
  return sum;
}

/** One way from end to end: what passes at one place passes everywhere, and nothing has to be balanced. */
function singlePath(line: CompiledLine, context: LossContext): Ways {
  const { segments, stretches, nodes } = line;
  const { friction } = context;
  const whole = resistanceOf(segments, context);
  const parts = stretches.map(({ start, end }) =>
    resistanceOf(segments.slice(start, end), context),
  );
  const standing = (own: PumpState | undefined): Resistance => {
    const k = own?.kind === "stopped" ? (own.k ?? 0) : 0;
    return k > 0 ? { ...whole, quadratic: whole.quadratic + k } : whole;
  };
  const pump = line.pumps[0];
  const crests = crestsOf(line, context);
  /** whether the pressure over a crest would fall under that of vapour at a flow, were the line full beyond it */
  const breaks = (own: Crest, boundary: Boundary, flow: number) => {
    const beyond = headLoss(whole, flow, friction) - headLoss(own.before, flow, friction);
    const full = (boundary.outlets[0] as number) + beyond;
    return full - own.elevation - velocityHead(flow, own.bore) < -(context.barometric ?? 0);
  };
  /** m above datum: a column that broke lets go of what lies beyond, and is lifted to its crest as to an open end */
  const openAt = (own: Crest, flow: number) => own.elevation + velocityHead(flow, own.bore);
  /** the crest over which the column breaks at a flow, if over one, and the head in m a pump must add then */
  const breaking = (boundary: Boundary, flow: number) => {
    let most = Number.NEGATIVE_INFINITY;
    let found: { segment: number; head: number } | undefined;
    for (const own of crests) {
      const head = openAt(own, flow) - boundary.source + headLoss(own.before, flow, friction);
      if (head <= most || !breaks(own, boundary, flow)) continue;
      most = head;
      found = { segment: own.segment, head };
    }
    return found;
  };
  /** m³/s that falling water drives where the column breaks: what runs to the crest alone, if anything does */
  const overCrests = (boundary: Boundary, flow: number) => {
    if (flow < 0) {
      const high = (boundary.outlets[0] as number) + (context.barometric ?? 0);
      return crests.some(({ elevation }) => elevation >= high) ? 0 : flow;
    }
    let least = flow;
    for (const own of crests) {
      if (least === 0 || !breaks(own, boundary, flow)) continue;
      const short = (q: number) =>
        openAt(own, q) - boundary.source + headLoss(own.before, q, friction);
      if (short(0) >= 0) return 0;
      if (short(least) > 0) {
        least = bracketedRoot(short, 0, least, short(0), short(least), least * 1e-10);
      }
    }
    return least;
  };
  return {
    headOf: (boundary, pumps, held) => {
      const own = pumps[held];
      const flow = own?.kind === "held" ? own.flow : 0;
      return (
        breaking(boundary, flow)?.head ?? staticHead(boundary) + headLoss(whole, flow, friction)
      );
    },
    stateOf: (boundary, pumps, _, drawn) => {
      const lift = staticHead(boundary);
      const [own] = pumps;
      const forced = own?.kind === "held" ? own.flow : drawn;
      const bare = boundary.bare?.[0] ?? false;
      const flow =
        forced ?? overCrests(boundary, drivenFlow(line, standing(own), -lift, context, bare));
      const over = flow > 0 ? breaking(boundary, flow) : undefined;
      const taken = lift + headLoss(whole, flow, friction);
      // Driven by its own fall the line spends all of that; a pump adds just what the crest asks.
      const drop = over ? (forced === undefined ? -taken : over.head - taken) : 0;
      const broken = over && drop > 0 ? { segment: over.segment, drop } : undefined;
      const lostIn = ({ start, end }: Stretch) =>
        broken && broken.segment >= start && broken.segment < end ? broken.drop : 0;
      const nodeHeads = nodes.map(() => boundary.source);
      if (!pump && forced !== undefined) {
        nodeHeads[0] = boundary.source + taken + (broken?.drop ?? 0);
      }
      for (const [i, stretch] of stretches.entries()) {
        const { from, to } = stretch;
        const taken = headLoss(parts[i] as Resistance, flow, friction) + lostIn(stretch);
        if (from === pump?.outlet) {
          const k = own?.kind === "stopped" ? (own.k ?? 0) : 0;
          nodeHeads[from] =
            forced === undefined
              ? (nodeHeads[pump.inlet] as number) - k * flow * Math.abs(flow)
              : boundary.source + lift + taken;
        }
        nodeHeads[to] = (nodeHeads[from] as number) - taken;
      }
      return {
        nodeHeads,
        bySegment: segments.map(() => flow),
        byStretch: stretches.map(() => flow),
        byPump: line.pumps.map(() => flow),
        byOutlet: [flow],
        delivered: deliveredOf(line, [flow]),
        lost: [],
        links: [],
        ...(broken && { broken }),
      };
    },
  };
}

/** A hill on the discharge of a single way that its outlet lies far enough under to break the column over it. */
interface Crest {
  /** after which it is highest */
  segment: number;
  elevation: number;
  bore: number;
  /** of all before it */
  before: Resistance;
}

/** Hills so high over the outlet that air pressure might not hold the water together over them. */
function crestsOf({ segments, outlets }: CompiledLine, context: LossContext): Crest[] {
  const { barometric } = context;
  const outlet = outlets[0];
  if (barometric === undefined || !outlet) return [];
  const low = receivingWater(outlet.item.outlet) ? Number.NEGATIVE_INFINITY : outlet.elevation;
  return segments.flatMap(({ side, endElevation, bore, kind }, segment): Crest[] => {
    const next = segments[segment + 1];
    if (side !== "discharge" || kind === "supply" || !next) return [];
    if (next.endElevation >= endElevation || endElevation < low + barometric - NEAR) return [];
    const before = resistanceOf(segments.slice(0, segment + 1), context);
    return [{ segment, elevation: endElevation, bore, before }];
  });
}
/** m of velocity head a crest is looked at from */
const NEAR = 2;

/** Flow in m³/s at which the line takes exactly the head that falling water gives it; back where nothing holds. */
function drivenFlow(
  { stretches }: CompiledLine,
  resistance: Resistance,
  fall: number,
  { friction }: LossContext,
  /** its mouth hangs over the water: nothing comes back through it */
  bare: boolean,
): number {
  if (fall === 0 || stretches.some(({ shut }) => shut)) return 0;
  if (fall < 0) {
    if (bare || stretches.some(({ oneWay }) => oneWay)) return 0;
    return -flowAt(resistance, -fall, friction);
  }
  return flowAt(resistance, fall, friction);
}

function flowAt(resistance: Resistance, fall: number, friction: LossContext["friction"]): number {
  const surplus = (flow: number) => headLoss(resistance, flow, friction) - fall;
  let high = 1e-4;
  while (surplus(high) < 0) high *= 2;
  return bracketedRoot(surplus, 0, high, -fall, surplus(high), high * 1e-10);
}

/**
 * Stretches, pumps on their curves and holes as links between nodes: each hole an orifice, q = Cd A √(2gh),
 * that lets nothing in; an outlet into the open and a check valve let no water back, and a
 * running pump does not run backwards.
 */
function pipeNetwork(line: CompiledLine, context: LossContext): Ways {
  const { friction } = context;
  const outletNodes = line.outlets.map(({ node }) => node);
  const ends = new Set([0, ...outletNodes]);
  const inner = line.nodes.map((_, node) => node).filter((node) => !ends.has(node));
  const openAt = line.stretches.flatMap(({ shut }, i) => (shut ? [] : [i]));
  const open = openAt.map((i) => line.stretches[i] as Stretch);
  const resistances = open.map(({ start, end }) =>
    resistanceOf(line.segments.slice(start, end), context),
  );

  /** Nodes numbered for the solver: junctions first. The source is one of them where its flow is imposed. */
  function numbering(sourceIsJunction: boolean) {
    const junctions = sourceIsJunction ? [0, ...inner] : inner;
    const fixed = sourceIsJunction ? outletNodes : [0, ...outletNodes];
    const place = new Array<number>(line.nodes.length);
    for (const [i, node] of junctions.entries()) place[node] = i;
    for (const [i, node] of fixed.entries()) place[node] = junctions.length + i;
    const at = (node: number) => place[node] as number;
    const links = open.map(({ from, to, oneWay, start, end }, i): Link => {
      const resistance = resistances[i] as Resistance;
      const empty = start === end;
      return {
        from: at(from),
        to: at(to),
        oneWay,
        loss: empty ? straightThrough : (q, tangent) => headLoss(resistance, q, friction, tangent),
      };
    });
    for (const [k, hole] of line.holes.entries()) {
      const to = junctions.length + fixed.length + k;
      links.push({ from: at(hole.node), to, oneWay: true, loss: orificeLoss(hole) });
    }
    return { at, junctions: junctions.length, links };
  }
  const usual = numbering(false);
  const fromSource = line.pumps.length === 0 ? numbering(true) : usual;
  const pumpLink = (index: number, state: PumpState | undefined): Link => {
    const { inlet, outlet } = line.pumps[index] as PlacedPump;
    const base = { from: usual.at(inlet), to: usual.at(outlet) };
    if (state?.kind === "running") {
      const { curve } = state;
      return {
        ...base,
        oneWay: true,
        loss: (q, tangent) => {
          if (tangent) tangent.slope = -continuedHeadSlope(curve, q);
          return -continuedHead(curve, q);
        },
      };
    }
    const k = state?.kind === "stopped" ? (state.k ?? 0) : 0;
    return {
      ...base,
      loss: (q, tangent) => {
        if (tangent) tangent.slope = NO_RESISTANCE + 2 * k * Math.abs(q);
        return q * (NO_RESISTANCE + k * Math.abs(q));
      },
    };
  };
  let last: { key: string; flows: readonly number[] } | undefined;

  function balance(
    boundary: Boundary,
    pumps: readonly PumpState[],
    from?: readonly number[],
    drawn?: number,
  ) {
    const { at, junctions, links: fixedLinks } = drawn === undefined ? usual : fromSource;
    const fixedHeads = [
      ...(drawn === undefined ? [boundary.source] : []),
      ...boundary.outlets,
      ...line.holes.map((hole) => headOutside(hole, boundary)),
    ];
    const inflows = new Array<number>(junctions).fill(0);
    const put = (node: number, flow: number) => {
      const i = at(node);
      if (i < junctions) inflows[i] = (inflows[i] as number) + flow;
    };
    const linked: number[] = [];
    for (const [i, { inlet, outlet }] of line.pumps.entries()) {
      const own = pumps[i];
      if (own?.kind !== "held") linked.push(i);
      else {
        put(inlet, -own.flow);
        put(outlet, own.flow);
      }
    }
    if (drawn !== undefined) put(0, drawn);
    const bare = boundary.bare?.some(Boolean) ? boundary.bare : undefined;
    const ways = bare
      ? fixedLinks.map((link, i) =>
          bare[outletNodes.indexOf(open[i]?.to ?? -1)] ? { ...link, oneWay: true } : link,
        )
      : fixedLinks;
    const links = [...ways, ...linked.map((i) => pumpLink(i, pumps[i]))];
    const key = `${drawn === undefined} ${linked}`;
    const start = from && from.length === links.length ? from : last?.key === key && last.flows;
    const network = { junctions, fixedHeads, inflows, links };
    let solution = solveNetwork(network, start || undefined);
    // A guess far off may lead astray where a plain start does not.
    if (solution.kind !== "balanced" && start) solution = solveNetwork(network);
    if (solution.kind !== "balanced") return undefined;
    last = { key, flows: solution.flows };
    return { solution, at, junctions, fixedHeads, linked };
  }
  type Balance = NonNullable<ReturnType<typeof balance>>;
  const headAt = ({ solution, at, junctions, fixedHeads }: Balance, node: number) => {
    const i = at(node);
    return (i < junctions ? solution.heads[i] : fixedHeads[i - junctions]) as number;
  };

  return {
    headOf: (boundary, pumps, held) => {
      const found = balance(boundary, pumps);
      if (!found) return Number.NaN;
      const { inlet, outlet } = line.pumps[held] as PlacedPump;
      return headAt(found, outlet) - headAt(found, inlet);
    },
    stateOf: (boundary, pumps, start, drawn) => {
      const found = balance(boundary, pumps, start?.links, drawn);
      if (!found) return undefined;
      const { flows } = found.solution;
      const flowIn = (link: number) => {
        const flow = flows[link] as number;
        return Math.abs(flow) < SEEPAGE ? 0 : flow;
      };
      const bySegment = new Array<number>(line.segments.length).fill(0);
      const byStretch = new Array<number>(line.stretches.length).fill(0);
      const byOutlet = line.outlets.map(() => 0);
      for (const [i, stretch] of open.entries()) {
        const { to, start: first, end } = stretch;
        bySegment.fill(flowIn(i), first, end);
        byStretch[openAt[i] as number] = flowIn(i);
        const outlet = outletNodes.indexOf(to);
        if (outlet >= 0) byOutlet[outlet] = flowIn(i);
      }
      const firstPump = open.length + line.holes.length;
      return {
        nodeHeads: line.nodes.map((_, node) => headAt(found, node)),
        bySegment,
        byStretch,
        byPump: line.pumps.map((_, i) => {
          const own = pumps[i];
          return own?.kind === "held" ? own.flow : flowIn(firstPump + found.linked.indexOf(i));
        }),
        byOutlet,
        delivered: deliveredOf(line, byOutlet),
        lost: line.holes.map(({ itemId }, k) => ({
          itemId,
          flow: Math.max(flowIn(open.length + k), 0),
        })),
        links: flows,
      };
    },
  };
}

/** m per m³/s: a way with nothing on it */
const NO_RESISTANCE = 1e-3;

const straightThrough: Link["loss"] = (q, tangent) => {
  if (tangent) tangent.slope = NO_RESISTANCE;
  return q * NO_RESISTANCE;
};

/** m³/s: what a shut link may still show in a balance */
const SEEPAGE = 5e-10;

/** Head in m that drives a flow through a hole: h = q² / (2g (Cd A)²), odd in q. */
function orificeLoss({ bore }: Hole): Link["loss"] {
  const area = HOLE_COEFFICIENT * (Math.PI / 4) * bore * bore;
  const factor = 1 / (2 * GRAVITY * area * area);
  return (flow, tangent) => {
    if (tangent) tangent.slope = 2 * factor * Math.abs(flow);
    return factor * flow * Math.abs(flow);
  };
}

/** Flow in m³/s through a hole of a bore in m under a head in m: q = Cd (π/4) d² √(2 g h). */
export function orificeFlow(coefficient: number, bore: number, head: number): number {
  return coefficient * (Math.PI / 4) * bore * bore * Math.sqrt(2 * GRAVITY * head);
}
