import type { Water } from "../fluid/water.ts";
import type { Segment } from "../line/compiledLine.ts";
import type { Method } from "../line/path.ts";
import {
  coefficientLoss,
  darcyWeisbach,
  meanVelocity,
  reynoldsNumber,
} from "../pipe/darcyWeisbach.ts";
import { frictionFactor, lossExponent } from "../pipe/frictionFactor.ts";
import { hazenWilliams } from "../pipe/hazenWilliams.ts";
import { pressureHead } from "./boundary.ts";

/** What a loss depends on beside the segment and the flow. */
export interface LossContext {
  water: Water;
  friction: Method["friction"];
  /** m of water that air pressure holds up here; where it is told, a line over a hill breaks under the vapour pressure */
  barometric?: number;
}

/**
 * What segments one after another take, summed up once so that it can be asked for thousands of flows:
 * everything that goes with the flow or its square in two numbers, and straight runs of one bore and
 * roughness as one run, since they share a friction factor at every flow.
 */
export interface Resistance {
  /** m per m³/s */
  linear: number;
  /** m per (m³/s)² */
  quadratic: number;
  runs: FrictionRun[];
}

interface FrictionRun {
  /** m */
  length: number;
  bore: number;
  roughness: number;
  hazenWilliamsC: number;
  /** m/s per m³/s */
  velocityPerFlow: number;
  /** Re per m³/s */
  reynoldsPerFlow: number;
}

/** Receives dh/dq in m per m³/s beside the loss. */
export interface Tangent {
  slope: number;
}

export function resistanceOf(segments: readonly Segment[], { water }: LossContext): Resistance {
  const found: Resistance = { linear: 0, quadratic: 0, runs: [] };
  for (const segment of segments) addTo(found, segment, water);
  return found;
}

function addTo(found: Resistance, { run, k, bore, emitter, drawdown }: Segment, water: Water) {
  if (run) {
    const same = found.runs.find(
      (other) =>
        other.bore === run.bore &&
        other.roughness === run.roughness &&
        other.hazenWilliamsC === run.hazenWilliamsC,
    );
    if (same) same.length += run.length;
    else {
      const velocityPerFlow = meanVelocity(1, run.bore);
      found.runs.push({
        length: run.length,
        bore: run.bore,
        roughness: run.roughness,
        hazenWilliamsC: run.hazenWilliamsC,
        velocityPerFlow,
        reynoldsPerFlow: reynoldsNumber(water.density, velocityPerFlow, run.bore, water.viscosity),
      });
    }
  }
  if (k > 0) found.quadratic += coefficientLoss(k, meanVelocity(1, bore));
  if (emitter) {
    found.quadratic += pressureHead(emitter.pressure, water) / emitter.flow ** 2;
  }
  if (drawdown) {
    found.linear += drawdown.linear;
    found.quadratic += drawdown.quadratic;
  }
}

/** Head in m taken at a flow in m³/s; negative flow gives the head back. `tangent` receives the slope. */
export function headLoss(
  { linear, quadratic, runs }: Resistance,
  flow: number,
  friction: Method["friction"],
  tangent?: Tangent,
): number {
  const q = Math.abs(flow);
  // Through a valve that is shut nothing runs, and nothing is lost.
  if (q === 0) {
    if (tangent) tangent.slope = linear;
    return 0;
  }
  let loss = (linear + quadratic * q) * q;
  let slope = linear + 2 * quadratic * q;
  for (const run of runs) {
    if (friction === "darcy-weisbach") {
      const reynolds = run.reynoldsPerFlow * q;
      const relative = run.roughness / run.bore;
      const factor = frictionFactor(reynolds, relative);
      const own = darcyWeisbach(factor, run.length, run.bore, run.velocityPerFlow * q);
      loss += own;
      if (tangent) slope += (own / q) * lossExponent(factor, reynolds, relative);
    } else {
      const own = hazenWilliams(run.length, q, run.hazenWilliamsC, run.bore);
      loss += own;
      slope += (1.852 * own) / q;
    }
  }
  if (tangent) tangent.slope = slope;
  return flow < 0 ? -loss : loss;
}

/** Head in m a single segment takes at a flow in m³/s. */
export function segmentLoss(segment: Segment, flow: number, context: LossContext): number {
  return headLoss(resistanceOf([segment], context), flow, context.friction);
}
