import type { CompiledLine, Hole, PlacedPump, Stretch } from "../line/compiledLine.ts";
import type { Diagnostic } from "../line/diagnostic.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { continuedHead, continuedHeadSlope } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { type Boundary, headOutside, type PumpState, staticHead } from "./boundary.ts";
import { type Link, solveNetwork } from "./network.ts";
import { type Duty, type Outcome, operatingPoint, settledDuty } from "./operatingPoint.ts";
import { headLoss, type LossContext, type Resistance, resistanceOf } from "./resistance.ts";
import { outOfReach } from "./shutHeads.ts";

/** Discharge coefficient of a drilled hole with a square edge; the customary textbook value. */
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
    if (direct) return finish(line, pumps, lift, direct.outcomes, direct.state);
  }
  const found = eachOnItsCurve(ways, boundary, pumps);
  if (!found) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
  const { outcomes, states } = found;
  const settled = outcomes.findIndex((outcome) => settledDuty(outcome));
  const moves = settled >= 0 || states.some(({ kind }) => kind === "held");
  if (!moves) return finish(line, states, lift, outcomes, undefined);
  const duty = settled >= 0 ? settledDuty(outcomes[settled] as Outcome) : undefined;
  // The flow that was found for a pump is that pump's own, to the last digit.
  const state = ways.stateOf(
    boundary,
    duty ? states.with(settled, { kind: "held", flow: duty.flow }) : states,
  );
  if (!state) return { kind: "not-balanced", diagnostic: NOT_BALANCED };
  const all = pumps.map((own, i) => heldOutcome(line, own, i, state) ?? (outcomes[i] as Outcome));
  return finish(line, states, lift, all, state);
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
      return operatingPoint(own.curve, (flow) => {
        const held = states.with(pump, { kind: "held", flow });
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
): SteadyResult {
  if (!state) {
    const outcome = outcomes.find(({ kind }) => kind !== "stopped") as Outcome;
    return { kind: "no-duty", staticHead: lift, outcome, outcomes, states: pumps };
  }
  // Pumps whose water all leaves through holes before the outlet lift nothing, whatever they pass.
  if (state.delivered <= NOTHING && line.holes.length > 0 && !spills(line, state)) {
    const best = Math.max(...outcomes.map((outcome) => settledDuty(outcome)?.head ?? 0));
    return nothingRuns(line, pumps, lift, best);
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
    ({ item }, i) => item.outlet.type === "drain" && (byOutlet[i] as number) > NOTHING,
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
): SteadyResult {
  const shortfall = lift - bestHead;
  const short = shortfall > 0 ? "static-head" : "friction";
  const outcome: Outcome = { kind: "cannot-lift", staticHead: lift, bestHead, shortfall, short };
  const outcomes = placed.map(
    (_, i): Outcome => (pumps[i]?.kind === "stopped" ? { kind: "stopped" } : outcome),
  );
  return { kind: "no-duty", staticHead: lift, outcome, outcomes, states: pumps };
}

/**
 * All pumps of a network balanced in one go: good where every curve falls all the way, so that there is one
 * balance only, and where every pump comes to run inside what is published. Otherwise nothing.
 */
function atOnce(
  line: CompiledLine,
  ways: Ways,
  boundary: Boundary,
  pumps: readonly PumpState[],
  start?: SteadyState,
) {
  for (const state of pumps) {
    if (state.kind === "running" && state.curve.peak.flow > state.curve.firstFlow) return undefined;
  }
  const state = ways.stateOf(boundary, pumps, start);
  if (!state) return undefined;
  const inside = pumps.every((own, i) => {
    const flow = state.byPump[i] as number;
    if (own.kind !== "running") return true;
    return flow > Math.max(own.curve.firstFlow, NOTHING) && flow <= own.curve.lastFlow;
  });
  if (!inside) return undefined;
  const outcomes = line.pumps.map((placed, i): Outcome => {
    if (pumps[i]?.kind !== "running") return { kind: "stopped" };
    const flow = state.byPump[i] as number;
    return { kind: "runs", duty: { flow, head: headOver(placed, state) } };
  });
  return { state, outcomes };
}

/** A pump on the rising part of its curve beside others has no duty of its own to settle at. */
function droops(
  line: CompiledLine,
  pumps: readonly PumpState[],
  { byPump }: SteadyState,
): Diagnostic | undefined {
  if (pumps.length < 2) return undefined;
  for (const [i, state] of pumps.entries()) {
    if (state.kind !== "running") continue;
    const flow = byPump[i] as number;
    const peak = state.curve.peak.flow;
    if (flow > NOTHING && peak > state.curve.firstFlow && flow < peak) {
      return { code: "pump-droops", itemId: line.pumps[i]?.item.id as string };
    }
  }
  return undefined;
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
    if (item.outlet.type !== "drain") sum += byOutlet[i] as number;
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
  return {
    headOf: (boundary, pumps, held) => {
      const own = pumps[held];
      const flow = own?.kind === "held" ? own.flow : 0;
      return staticHead(boundary) + headLoss(whole, flow, friction);
    },
    stateOf: (boundary, pumps, _, drawn) => {
      const lift = staticHead(boundary);
      const [own] = pumps;
      const forced = own?.kind === "held" ? own.flow : drawn;
      const flow = forced ?? drivenFlow(line, standing(own), -lift, context);
      const nodeHeads = nodes.map(() => boundary.source);
      if (!pump && forced !== undefined) {
        nodeHeads[0] = boundary.source + lift + headLoss(whole, flow, friction);
      }
      for (const [i, { from, to }] of stretches.entries()) {
        const taken = headLoss(parts[i] as Resistance, flow, friction);
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
      };
    },
  };
}

/** Flow in m³/s at which the line takes exactly the head that falling water gives it; back where nothing holds. */
function drivenFlow(
  { stretches }: CompiledLine,
  resistance: Resistance,
  fall: number,
  { friction }: LossContext,
): number {
  if (fall === 0 || stretches.some(({ shut }) => shut)) return 0;
  if (fall < 0) {
    if (stretches.some(({ oneWay }) => oneWay)) return 0;
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
    const links = [...fixedLinks, ...linked.map((i) => pumpLink(i, pumps[i]))];
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
