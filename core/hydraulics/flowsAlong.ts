import type { CompiledLine, Hole } from "../line/compiledLine.ts";
import type { Finding } from "../line/diagnostic.ts";
import type { LevelCase } from "../line/path.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { continuedHead, type PumpCurve } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { endHead, type LossContext, sourceHead, staticHead, stretchLoss } from "./lineLoss.ts";
import { type Link, solveNetwork } from "./network.ts";

/** Discharge coefficient of a drilled hole with a square edge; the customary textbook value. */
export const HOLE_COEFFICIENT = 0.61;

/** What runs where. Flows in m³/s, positive along the path; heads in m above datum. */
export interface Flows {
  /** total head at every node of the line */
  nodeHeads: number[];
  bySegment: number[];
  byPump: number[];
  byOutlet: number[];
  /** what reaches the outlets together */
  delivered: number;
  /** what is lost through each hole */
  lost: { itemId: string; flow: number }[];
}

/**
 * What drives the water: one pump held at a flow, the others on their curves; all on their curves; or
 * nothing, with the pumps standing open.
 */
type Drive = Forced | Idle | { kind: "curves"; curves: readonly PumpCurve[] };
type Forced = { kind: "forced"; pump: number; flow: number; curves: readonly PumpCurve[] };
type Idle = { kind: "idle" };

/** The network of a line did not balance; `solveLine` turns it into a finding. */
export class NotBalanced extends Error {
  constructor(readonly finding: Finding = { code: "not-balanced" }) {
    super(finding.code);
  }
}

/** Flows and heads of a line in one case, asked for again and again: each starts from the last answer. */
export interface LineNetwork {
  flows: (drive: Forced | Idle) => Flows;
  /** every pump on its continued curve at once; a single path has no need of it */
  onCurves?: (curves: readonly PumpCurve[]) => Flows;
  /** m the forced pump must add */
  headOf: (drive: Forced) => number;
}

/**
 * A line as a network in one case. A single path has no need to be balanced: what the pump passes runs
 * everywhere. Otherwise stretches, pumps on their curves and holes are links between nodes: each hole an
 * orifice into the open, q = Cd A √(2gh), that lets no air in; an outlet into the open and a check valve
 * let no water back, and a pump does not run backwards.
 */
export function lineNetwork(
  line: CompiledLine,
  levelCase: LevelCase,
  context: LossContext,
): LineNetwork {
  const { water } = context;
  if (line.single) return singlePath(line, levelCase, context);
  const source = sourceHead(line.source, levelCase, water);
  const fixed = new Map<number, number>([[0, source]]);
  for (const outlet of line.outlets) fixed.set(outlet.node, endHead(outlet, levelCase, water));
  const junctionNodes = line.nodes.map((_, node) => node).filter((node) => !fixed.has(node));
  const fixedNodes = [...fixed.keys()];
  const junctions = junctionNodes.length;
  const place = new Array<number>(line.nodes.length);
  for (const [i, node] of junctionNodes.entries()) place[node] = i;
  for (const [i, node] of fixedNodes.entries()) place[node] = junctions + i;
  const at = (node: number) => place[node] as number;
  const fixedHeads = [...fixed.values(), ...line.holes.map((hole) => hole.elevation)];

  const open = line.stretches.filter((stretch) => !stretch.shut);
  const stretchLinks = open.map(({ from, to, start, end, oneWay }): Link => {
    const own = line.segments.slice(start, end);
    return {
      from: at(from),
      to: at(to),
      oneWay,
      loss:
        own.length === 0
          ? (q) => q * NO_RESISTANCE
          : (q) => (q < 0 ? -stretchLoss(own, -q, context) : stretchLoss(own, q, context)),
    };
  });
  const holeLinks = line.holes.map((hole, k): Link => {
    const to = junctions + fixedNodes.length + k;
    return { from: at(hole.node), to, oneWay: true, loss: orificeLoss(hole) };
  });
  const pumpLink = (index: number, loss: Link["loss"]): Link => {
    const { inlet, outlet } = line.pumps[index] as CompiledLine["pumps"][number];
    return { from: at(inlet), to: at(outlet), oneWay: true, loss };
  };
  let last: { kind: Drive["kind"]; pump: number; flows: readonly number[] } | undefined;

  function solve(drive: Drive) {
    const inflows = new Array<number>(junctions).fill(0);
    const links = [...stretchLinks, ...holeLinks];
    const onCurve = line.pumps
      .map((_, i) => i)
      .filter((i) => drive.kind !== "forced" || i !== drive.pump);
    for (const i of onCurve) {
      const curve = drive.kind === "idle" ? undefined : drive.curves[i];
      links.push(pumpLink(i, curve ? (q) => -continuedHead(curve, q) : (q) => q * NO_RESISTANCE));
    }
    if (drive.kind === "forced") {
      const { inlet, outlet } = line.pumps[drive.pump] as CompiledLine["pumps"][number];
      for (const [node, sign] of [
        [inlet, -1],
        [outlet, 1],
      ] as const) {
        const i = at(node);
        if (i < junctions) inflows[i] = (inflows[i] as number) + sign * drive.flow;
      }
    }
    const pump = drive.kind === "forced" ? drive.pump : -1;
    const start = last?.kind === drive.kind && last.pump === pump ? last.flows : undefined;
    const network = { junctions, fixedHeads, inflows, links };
    let solution = solveNetwork(network, start);
    // A guess far off may lead astray where a plain start does not.
    if (solution.kind !== "balanced" && start) solution = solveNetwork(network);
    if (solution.kind !== "balanced") throw new NotBalanced();
    last = { kind: drive.kind, pump, flows: solution.flows };
    return { solution, onCurve };
  }
  const nodeHead = (heads: readonly number[], node: number) =>
    fixed.get(node) ?? (heads[at(node)] as number);

  return {
    onCurves: (curves) => flowsOf({ kind: "curves", curves }),
    flows: flowsOf,
    headOf: (drive) => {
      const { heads } = solve(drive).solution;
      const { inlet, outlet } = line.pumps[drive.pump] as CompiledLine["pumps"][number];
      return nodeHead(heads, outlet) - nodeHead(heads, inlet);
    },
  };

  function flowsOf(drive: Drive): Flows {
    const { solution, onCurve } = solve(drive);
    const { heads, flows } = solution;
    const flowIn = (link: number) => {
      const flow = flows[link] as number;
      return Math.abs(flow) < SEEPAGE ? 0 : flow;
    };
    const byStretch = new Map(open.map((stretch, k) => [stretch, flowIn(k)]));
    const bySegment = line.stretches.flatMap((stretch) =>
      new Array<number>(stretch.end - stretch.start).fill(byStretch.get(stretch) ?? 0),
    );
    const firstHole = open.length;
    const firstPump = firstHole + line.holes.length;
    const byOutlet = line.outlets.map(({ node }) => {
      const into = line.stretches.find((stretch) => stretch.to === node);
      return (into && byStretch.get(into)) ?? 0;
    });
    return {
      nodeHeads: line.nodes.map((_, node) => nodeHead(heads, node)),
      bySegment,
      byPump: line.pumps.map((_, i) =>
        drive.kind === "forced" && i === drive.pump
          ? drive.flow
          : flowIn(firstPump + onCurve.indexOf(i)),
      ),
      byOutlet,
      delivered: byOutlet.reduce((sum, flow) => sum + flow, 0),
      lost: line.holes.map(({ itemId }, k) => ({
        itemId,
        flow: Math.max(flowIn(firstHole + k), 0),
      })),
    };
  }
}

/** m per m³/s: a way with nothing on it */
const NO_RESISTANCE = 1e-3;

/** m³/s: what a shut link may still show in a balance */
const SEEPAGE = 5e-10;

/** m³/s: less than this is no flow */
export const NOTHING = 1e-7;

function singlePath(line: CompiledLine, levelCase: LevelCase, context: LossContext): LineNetwork {
  const { segments, stretches, nodes } = line;
  const source = sourceHead(line.source, levelCase, context.water);
  const lift = staticHead(line, levelCase, context.water);
  return {
    headOf: ({ flow }) => lift + stretchLoss(segments, flow, context),
    flows: (drive) => {
      const flow = drive.kind === "forced" ? drive.flow : downhillFlow(line, -lift, context);
      const pump = line.pumps[0] as CompiledLine["pumps"][number];
      const nodeHeads = nodes.map(() => source);
      for (const { from, to, start, end } of stretches) {
        const taken = stretchLoss(segments.slice(start, end), flow, context);
        if (from === pump.outlet) {
          nodeHeads[from] =
            drive.kind === "idle" ? (nodeHeads[pump.inlet] as number) : source + lift + taken;
        }
        nodeHeads[to] = (nodeHeads[from] as number) - taken;
      }
      return {
        nodeHeads,
        bySegment: segments.map(() => flow),
        byPump: [flow],
        byOutlet: [flow],
        delivered: flow,
        lost: [],
      };
    },
  };
}

/** Flow in m³/s at which the line takes exactly the head that falling water gives it. */
function downhillFlow(line: CompiledLine, fall: number, context: LossContext): number {
  if (fall <= 0) return 0;
  const surplus = (flow: number) => stretchLoss(line.segments, flow, context) - fall;
  let high = 1e-4;
  while (surplus(high) < 0) high *= 2;
  return bracketedRoot(surplus, 0, high, -fall, surplus(high), high * 1e-10);
}

/** Head in m that drives a flow through a hole: h = q² / (2g (Cd A)²), odd in q. */
function orificeLoss({ bore }: Hole): (flow: number) => number {
  const area = HOLE_COEFFICIENT * (Math.PI / 4) * bore * bore;
  const factor = 1 / (2 * GRAVITY * area * area);
  return (flow) => factor * flow * Math.abs(flow);
}
