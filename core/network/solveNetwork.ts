import { factorize, solveFactorized } from "../numeric/skyline.ts";

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
  /** m lost from `from` to `to` at a flow in m³/s; odd and rising (a pump's gain is a negative loss) */
  loss: (flow: number) => number;
  /** passes water only from `from` to `to` */
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

/** m³/s: a shut one-way link may still show this much, far below anything measurable. */
const SHUT_SLOPE = 1e10;
const LEAST_SLOPE = 1e-3;
const MOST_STEPS = 200;
/** m: a thousandth of a millimetre of water is balanced, where the steps have come to rest as well */
const HEAD_TOLERANCE = 1e-6;
/** fraction of the largest flow, or m³/s, by which a flow may still move */
const FLOW_TOLERANCE = 1e-9;
const LEAST_CHANGE = 1e-9;

/**
 * Heads and flows by the global gradient method: each step linearises every link about its flow and
 * solves the junctions' mass balance for the heads, so mass is balanced at every step and energy at the
 * end. Steps are shortened while they do not bring the energies closer.
 *
 * Source: E. Todini, S. Pilati, A gradient algorithm for the analysis of pipe networks, in Computer
 * Applications in Water Supply vol. 1 (1988) 1–20.
 */
export function solveNetwork(network: Network): NetworkSolution {
  const { junctions, links, fixedHeads } = network;
  const flows = links.map(() => startingFlow(network));
  let heads = new Array<number>(junctions).fill(0);
  let worstBefore = Number.POSITIVE_INFINITY;
  let relax = 1;
  const headAt = (node: number) =>
    node < junctions ? (heads[node] as number) : (fixedHeads[node - junctions] as number);

  for (let step = 1; step <= MOST_STEPS; step++) {
    const losses = links.map((link, k) => lossAt(link, flows[k] as number));
    const slopes = links.map((link, k) => slopeAt(link, flows[k] as number));
    const next = junctions === 0 ? [] : junctionHeads(network, flows, losses, slopes);
    if (!next) return { kind: "cut-off" };
    heads = next;
    let worst = 0;
    let change = 0;
    let scale = 0;
    const aims = links.map((link, k) => {
      const drop = headAt(link.from) - headAt(link.to);
      const residual = drop - (losses[k] as number);
      worst = Math.max(worst, Math.abs(residual));
      return (flows[k] as number) + residual / (slopes[k] as number);
    });
    relax = worst > worstBefore ? Math.max(relax / 2, 1 / 16) : Math.min(1, relax * 1.5);
    worstBefore = worst;
    for (const [k, aim] of aims.entries()) {
      const flow = flows[k] as number;
      change = Math.max(change, Math.abs(aim - flow));
      scale = Math.max(scale, Math.abs(aim));
      flows[k] = flow + relax * (aim - flow);
    }
    const still = change <= Math.max(FLOW_TOLERANCE * scale, LEAST_CHANGE);
    if (still && worst <= HEAD_TOLERANCE) {
      return { kind: "balanced", heads, flows: aims, steps: step };
    }
  }
  const errors = links.map((link, k) =>
    Math.abs(headAt(link.from) - headAt(link.to) - lossAt(link, flows[k] as number)),
  );
  const residual = Math.max(...errors);
  return { kind: "not-balanced", residual, link: errors.indexOf(residual) };
}

/** A guess of the right order: what is put in, shared by no one, or a litre a second. */
function startingFlow({ inflows }: Network): number {
  const most = Math.max(0, ...inflows.map(Math.abs));
  return most > 0 ? most / 2 : 1e-3;
}

/** Shut one-way links oppose reversed flow steeply, instead of being taken out: the balance stays smooth. */
function lossAt({ loss, oneWay }: Link, flow: number): number {
  return oneWay && flow < 0 ? flow * SHUT_SLOPE : loss(flow);
}

function slopeAt({ loss, oneWay }: Link, flow: number): number {
  if (oneWay && flow < 0) return SHUT_SLOPE;
  const h = Math.max(Math.abs(flow) * 1e-4, 1e-9);
  return Math.max((loss(flow + h) - loss(flow - h)) / (2 * h), LEAST_SLOPE);
}

/** Heads that balance every junction's mass with the links linearised; undefined when one is cut off. */
function junctionHeads(
  { junctions, fixedHeads, inflows, links }: Network,
  flows: readonly number[],
  losses: readonly number[],
  slopes: readonly number[],
): number[] | undefined {
  const entries = new Map<number, number>();
  const add = (row: number, column: number, value: number) => {
    if (column > row) return;
    const key = row * junctions + column;
    entries.set(key, (entries.get(key) ?? 0) + value);
  };
  const right = inflows.slice(0, junctions);
  for (const [k, { from, to }] of links.entries()) {
    const conductance = 1 / (slopes[k] as number);
    // q = flow + (H_from − H_to − loss) · conductance
    const constant = (flows[k] as number) - (losses[k] as number) * conductance;
    for (const [node, other, sign] of [
      [from, to, 1],
      [to, from, -1],
    ] as const) {
      if (node >= junctions) continue;
      right[node] = (right[node] as number) - sign * constant;
      add(node, node, conductance);
      if (other < junctions) add(node, other, -conductance);
      else {
        const fixed = fixedHeads[other - junctions] as number;
        right[node] = (right[node] as number) + conductance * fixed;
      }
    }
  }
  const factor = factorize(junctions, entries);
  return factor && solveFactorized(factor, right);
}
