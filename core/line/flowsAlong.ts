import { GRAVITY } from "../constants/gravity.ts";
import { type Link, solveNetwork } from "../network/solveNetwork.ts";
import type { CompiledLine, Hole } from "./compileLine.ts";
import { endHead, type LossContext, stretchLoss } from "./lineLoss.ts";
import type { LevelCase } from "./path.ts";

/** Discharge coefficient of a drilled hole with a square edge; the customary textbook value. */
export const HOLE_COEFFICIENT = 0.61;

/** What runs where while the pump passes a flow. */
export interface Flows {
  /** m above datum: total head wanted just after the pump */
  headAfterPump: number;
  /** m³/s through each segment of the line */
  bySegment: number[];
  /** m³/s that reaches the outlet */
  delivered: number;
  /** m³/s lost through each hole */
  lost: { itemId: string; flow: number }[];
}

/** The network of a line with holes did not balance; `solveLine` turns it into a finding. */
export class NotBalanced extends Error {}

/**
 * Flow through every segment while the pump passes `pumpFlow` (m³/s). Without holes that is the same
 * everywhere. With holes the discharge is a network: each hole an orifice into the open, q = Cd A √(2gh),
 * that lets no air in; an outlet into the open gives no water back.
 */
export function flowsAlong(
  line: CompiledLine,
  levelCase: LevelCase,
  pumpFlow: number,
  context: LossContext,
): Flows {
  const { segments, pumpIndex, holes } = line;
  const end = endHead(line, levelCase, context.water);
  if (holes.length === 0) {
    return {
      headAfterPump: end + stretchLoss(segments.slice(pumpIndex), pumpFlow, context),
      bySegment: segments.map(() => pumpFlow),
      delivered: pumpFlow,
      lost: [],
    };
  }
  const places = [...new Set([pumpIndex, ...holes.map((hole) => hole.index)])].sort(
    (a, b) => a - b,
  );
  const junctions = places.length;
  const stretches = places.map((from, i) => segments.slice(from, places[i + 1] ?? segments.length));
  const along = stretches.map((stretch, i): Link => {
    const loss = (q: number) => Math.sign(q) * stretchLoss(stretch, Math.abs(q), context);
    const last = i === junctions - 1;
    // The outlet's fixed head is the first of them.
    return last
      ? { from: i, to: junctions, loss, oneWay: line.outlet.type !== "submerged" }
      : { from: i, to: i + 1, loss };
  });
  const out = holes.map(
    (hole, k): Link => ({
      from: places.indexOf(hole.index),
      to: junctions + 1 + k,
      loss: orificeLoss(hole),
      oneWay: true,
    }),
  );
  const solution = solveNetwork({
    junctions,
    fixedHeads: [end, ...holes.map((hole) => hole.elevation)],
    inflows: places.map((_, i) => (i === 0 ? pumpFlow : 0)),
    links: [...along, ...out],
  });
  if (solution.kind !== "balanced") throw new NotBalanced();
  const { heads, flows } = solution;
  const stretchFlow = flows.slice(0, junctions).map((flow) => Math.max(flow, 0));
  const bySegment = segments.map((_, i) => {
    const stretch = places.findLastIndex((place) => place <= i);
    return stretch < 0 ? pumpFlow : (stretchFlow[stretch] as number);
  });
  return {
    headAfterPump: heads[0] as number,
    bySegment,
    delivered: stretchFlow.at(-1) as number,
    lost: holes.map(({ itemId }, k) => ({
      itemId,
      flow: Math.max(flows[junctions + k] as number, 0),
    })),
  };
}

/** Head in m that drives a flow through a hole: h = q² / (2g (Cd A)²), odd in q. */
function orificeLoss({ bore }: Hole): (flow: number) => number {
  const area = HOLE_COEFFICIENT * (Math.PI / 4) * bore * bore;
  const factor = 1 / (2 * GRAVITY * area * area);
  return (flow) => factor * flow * Math.abs(flow);
}
