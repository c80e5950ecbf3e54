import { addEntry, type Skyline, skyline, solveSkyline } from "../numeric/skyline.ts";
import type { Tangent } from "./resistance.ts";

/**
 * A pipe network: junctions whose head is sought, points of fixed head, and links between them. Nodes
 * are numbered, junctions first: 0 … junctions − 1, then one for each entry of `fixedHeads`. SI.
 */
export interface Network {
  junctions: number;
  /** m above datum */
  fixedHeads: readonly number[];
  /** m³/s put into each junction from outside; negative where taken out */
  inflows: readonly number[];
  links: readonly Link[];
}

export interface Link {
  from: number;
  to: number;
  /**
   * m lost from `from` to `to` at a flow in m³/s, rising with it (a pump's gain is a negative loss). Where
   * it knows the slope it writes that into `tangent`.
   */
  loss: (flow: number, tangent?: Tangent) => number;
  /** passes water only from `from` to `to`; shut while the heads and `loss(0)` would drive it back */
  oneWay?: boolean;
}

export type NetworkSolution =
  | {
      kind: "balanced";
      /** m above datum, by junction */
      heads: number[];
      /** m³/s, by link */
      flows: number[];
      steps: number;
    }
  /** a junction without a way to any fixed head */
  | { kind: "cut-off" }
  /** `residual` in m is the largest error of energy left */
  | { kind: "not-balanced"; residual: number; link: number };

/** m per m³/s against reversed flow: what a shut link still shows is far below anything measurable. */
const SHUT_SLOPE = 1e9;
/** the same once the balance is found */
const WALL_SLOPE = 1e12;
/** m: less head than this opens no shut link; at that slope rounding alone may show so much */
const OPENING_HEAD = 1e-5;
/**
 * The least slope a link is given, in m per m³/s. Beside shut links a very easy one costs digits of the heads;
 * where that keeps the balance from coming to rest, easy links are stiffened for the later steps.
 */
const LEAST_SLOPES = [1e-3, 0.1, 10] as const;
const STEPS_EACH = 67;
const MOST_STEPS = 200;
/** m: a thousandth of a millimetre of water is balanced, where the steps have come to rest as well */
const HEAD_TOLERANCE = 1e-6;
/** fraction of the largest head that rounding may leave where links differ a billionfold */
const HEAD_ROUNDING = 1e-9;
/** fraction of the largest flow, or m³/s, by which a flow may still move */
const FLOW_TOLERANCE = 1e-9;
const LEAST_CHANGE = 1e-9;
/** A step is good that leaves at most this part of the slope it started down. */
const LINE_SEARCH = 0.3;
const LINE_SEARCH_STEPS = 40;
/** W over ρg: a fall so slight is rounding, and is not searched along */
const LEAST_DESCENT = 1e-12;

/**
 * Heads and flows by the global gradient method: each step linearises every link about its flow and
 * solves the junctions' mass balance for the heads, so mass is balanced at every step and energy at the
 * end. `start` (m³/s, by link) is a guess of the flows, such as those of a network much like this one.
 *
 * The balance is the lowest point of a convex function of the flows, Σ ∫ loss dq − Σ H q over the fixed
 * heads, since every loss rises with its flow. A step that would overshoot that function's lowest point
 * along its direction is cut back to it, so that no network can cycle.
 *
 * Source: E. Todini, S. Pilati, A gradient algorithm for the analysis of pipe networks, in Computer
 * Applications in Water Supply vol. 1 (1988) 1–20; the convex function: M. Collins et al., Solving the pipe
 * network analysis problem using optimization techniques, Management Science 24 (1978) 747–760, from memory.
 */
export function solveNetwork(network: Network, start?: readonly number[]): NetworkSolution {
  const { junctions, links, fixedHeads } = network;
  const count = links.length;
  const flows = Float64Array.from(start ?? new Array<number>(count).fill(startingFlow(network)));
  const losses = new Float64Array(count);
  const slopes = new Float64Array(count);
  const aims = new Float64Array(count);
  const trial = new Float64Array(count);
  const heads = new Float64Array(junctions + fixedHeads.length);
  heads.set(fixedHeads, junctions);
  const matrix = skyline(junctions, pairsOf(network));
  const lineariseAll = (least: number) => {
    for (let k = 0; k < count; k++) {
      linearise(links[k] as Link, flows[k] as number, k, losses, slopes, least);
    }
  };

  for (let step = 1; step <= MOST_STEPS; step++) {
    const least = LEAST_SLOPES[Math.floor((step - 1) / STEPS_EACH)] as number;
    if (step === 1 || (step - 1) % STEPS_EACH === 0) lineariseAll(least);
    if (!junctionHeads(network, matrix, flows, losses, slopes, heads)) return { kind: "cut-off" };
    let worst = 0;
    let change = 0;
    let scale = 0;
    let descent = 0;
    for (let k = 0; k < count; k++) {
      const { from, to } = links[k] as Link;
      const flow = flows[k] as number;
      const residual = (heads[from] as number) - (heads[to] as number) - (losses[k] as number);
      const move = residual / (slopes[k] as number);
      const aim = flow + move;
      const shut = slopes[k] === SHUT_SLOPE && aim * SHUT_SLOPE < OPENING_HEAD;
      if (!shut) worst = Math.max(worst, Math.abs(residual));
      aims[k] = aim;
      change = Math.max(change, Math.abs(move));
      scale = Math.max(scale, Math.abs(aim));
      descent += move * residual;
    }
    const still = change <= Math.max(FLOW_TOLERANCE * scale, LEAST_CHANGE);
    if (still && worst <= Math.max(HEAD_TOLERANCE, HEAD_ROUNDING * largest(heads))) {
      tighten(network, matrix, flows, losses, slopes, heads, aims);
      return {
        kind: "balanced",
        heads: [...heads.subarray(0, junctions)],
        flows: [...aims],
        steps: step,
      };
    }
    // Mass is balanced from the first step on; the rest keep it so, whatever part of them is gone.
    const part =
      step === 1 || descent <= LEAST_DESCENT
        ? 1
        : partOfStep(network, flows, aims, heads, trial, descent);
    for (let k = 0; k < count; k++) {
      const flow = flows[k] as number;
      flows[k] = part === 1 ? (aims[k] as number) : flow + part * ((aims[k] as number) - flow);
    }
    lineariseAll(least);
  }
  const errors = links.map((link, k) =>
    Math.abs(
      (heads[link.from] as number) - (heads[link.to] as number) - lossAt(link, flows[k] as number),
    ),
  );
  const residual = Math.max(...errors);
  return { kind: "not-balanced", residual, link: errors.indexOf(residual) };
}

/**
 * The part of a step, 0 … 1, after which the convex function hardly falls any more. `descent` is how steeply
 * it falls at the start. Its slope along the step is Σ (loss − ΔH) Δq, the same for any heads of the junctions.
 */
function partOfStep(
  { links }: Network,
  flows: Float64Array,
  aims: Float64Array,
  heads: Float64Array,
  trial: Float64Array,
  descent: number,
): number {
  const slopeAt = (part: number) => {
    let slope = 0;
    for (let k = 0; k < links.length; k++) {
      const link = links[k] as Link;
      const flow = flows[k] as number;
      const move = (aims[k] as number) - flow;
      trial[k] = flow + part * move;
      const residual =
        lossAt(link, trial[k] as number) -
        (heads[link.from] as number) +
        (heads[link.to] as number);
      slope += move * residual;
    }
    return slope;
  };
  const whole = slopeAt(1);
  if (whole <= LINE_SEARCH * descent) return 1;
  let low = 0;
  let high = 1;
  let atLow = -descent;
  let atHigh = whole;
  for (let i = 0; i < LINE_SEARCH_STEPS; i++) {
    // Secant towards the zero of the slope; every third time the middle, for losses with a kink.
    const secant = low - (atLow * (high - low)) / (atHigh - atLow);
    const inside = secant > low && secant < high;
    const part = inside && i % 3 !== 2 ? secant : (low + high) / 2;
    const slope = slopeAt(part);
    if (Math.abs(slope) <= LINE_SEARCH * descent) return part;
    if (slope < 0) {
      low = part;
      atLow = slope;
    } else {
      high = part;
      atHigh = slope;
    }
  }
  return low > 0 ? low : high;
}

/**
 * One more step with the shut links as good as walls: what still seeps through them while the balance is
 * sought is taken out of it, to well under 1e-9 m³/s.
 */
function tighten(
  network: Network,
  matrix: Skyline,
  flows: Float64Array,
  losses: Float64Array,
  slopes: Float64Array,
  heads: Float64Array,
  aims: Float64Array,
): void {
  const { links } = network;
  if (!slopes.includes(SHUT_SLOPE)) return;
  for (const [k, link] of links.entries()) {
    const flow = flows[k] as number;
    linearise(link, flow, k, losses, slopes, LEAST_SLOPES[0]);
    if (slopes[k] !== SHUT_SLOPE) continue;
    losses[k] = link.loss(0) + flow * WALL_SLOPE;
    slopes[k] = WALL_SLOPE;
  }
  const before = heads.slice();
  if (!junctionHeads(network, matrix, flows, losses, slopes, heads)) {
    heads.set(before);
    return;
  }
  for (const [k, { from, to }] of links.entries()) {
    const residual = (heads[from] as number) - (heads[to] as number) - (losses[k] as number);
    aims[k] = (flows[k] as number) + residual / (slopes[k] as number);
  }
}

function largest(values: Float64Array): number {
  let most = 0;
  for (const value of values) most = Math.max(most, Math.abs(value));
  return most;
}

/** A guess of the right order: what is put in, shared by no one, or a litre a second. */
function startingFlow({ inflows }: Network): number {
  const most = Math.max(0, ...inflows.map(Math.abs));
  return most > 0 ? most / 2 : 1e-3;
}

/**
 * Shut one-way links oppose reversed flow steeply, instead of being taken out: the balance stays smooth. What
 * a link gives at no flow, such as a pump's shut-off head, it gives there too.
 */
function lossAt({ loss, oneWay }: Link, flow: number): number {
  return oneWay && flow < 0 ? loss(0) + flow * SHUT_SLOPE : loss(flow);
}

/** Loss of a link at a flow and its slope there; where the link knows none, one more evaluation steers as well. */
function linearise(
  link: Link,
  flow: number,
  k: number,
  losses: Float64Array,
  slopes: Float64Array,
  least: number,
): void {
  if (link.oneWay && flow < 0) {
    losses[k] = link.loss(0) + flow * SHUT_SLOPE;
    slopes[k] = SHUT_SLOPE;
    return;
  }
  TANGENT.slope = Number.NaN;
  const loss = link.loss(flow, TANGENT);
  let { slope } = TANGENT;
  if (Number.isNaN(slope)) {
    const h = Math.max(Math.abs(flow) * 1e-5, 1e-9) * (flow < 0 ? -1 : 1);
    slope = (link.loss(flow + h) - loss) / h;
  }
  losses[k] = loss;
  slopes[k] = Math.max(slope, least);
}

/** Written and read again within `linearise` only. */
const TANGENT: Tangent = { slope: Number.NaN };

function* pairsOf({ junctions, links }: Network): Iterable<readonly [number, number]> {
  for (const { from, to } of links) if (from < junctions && to < junctions) yield [from, to];
}

/**
 * Puts into `heads` those that balance every junction's mass with the links linearised; false when a
 * junction is cut off.
 */
function junctionHeads(
  { junctions, inflows, links }: Network,
  matrix: Skyline,
  flows: Float64Array,
  losses: Float64Array,
  slopes: Float64Array,
  heads: Float64Array,
): boolean {
  if (junctions === 0) return true;
  matrix.values.fill(0);
  const right = new Float64Array(junctions);
  for (let i = 0; i < junctions; i++) right[i] = inflows[i] as number;
  for (let k = 0; k < links.length; k++) {
    const { from, to } = links[k] as Link;
    const conductance = 1 / (slopes[k] as number);
    // q = flow + (H_from − H_to − loss) · conductance
    const constant = (flows[k] as number) - (losses[k] as number) * conductance;
    if (from < junctions) {
      const known = to < junctions ? 0 : conductance * (heads[to] as number);
      right[from] = (right[from] as number) - constant + known;
      addEntry(matrix, from, from, conductance);
      if (to < junctions) addEntry(matrix, from, to, -conductance);
    }
    if (to < junctions) {
      const known = from < junctions ? 0 : conductance * (heads[from] as number);
      right[to] = (right[to] as number) + constant + known;
      addEntry(matrix, to, to, conductance);
    }
  }
  if (!solveSkyline(matrix, right)) return false;
  heads.set(right);
  return true;
}
