import type { Water } from "../fluid/water.ts";
import { type Link, type NetworkSolution, solveNetwork } from "../hydraulics/network.ts";
import {
  headLoss,
  type LossContext,
  type Resistance,
  type Tangent,
} from "../hydraulics/resistance.ts";
import type { Method } from "../line/path.ts";
import { meanVelocity, type PipeRun, reynoldsNumber } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { evennessOf } from "./evenness.ts";

/** What one emitter drips: q = flow (p / pressure)^exponent. */
export interface Emitter {
  /** m³/s at a pressure in Pa */
  flow: number;
  pressure: number;
  /** ½ for a plain hole or labyrinth, towards 0 for one that holds its flow; 0.05 to 1 */
  exponent: number;
}

/** Laterals alike, side by side along a submain that is fed at one end. */
export interface DripZone {
  laterals: number;
  /** m between laterals along the submain, and between emitters along a lateral */
  apart: number;
  spacing: number;
  /** on each lateral */
  emitters: number;
  emitter: Emitter;
  lateral: Omit<PipeRun, "length">;
  submain: Omit<PipeRun, "length">;
  /** m of rise for each m along, of a lateral and of the submain; negative falls */
  slope: number;
  submainSlope: number;
}

export interface DripSolved {
  kind: "solved";
  /** m³/s by emitter, lateral by lateral, each from its inlet to its end; and Pa at each */
  flows: number[];
  pressures: number[];
  /** m³/s that the zone takes */
  flow: number;
  /** emission uniformity: mean of the quarter that drips least over the mean of all */
  uniformity: number;
  /** (most − least) / most */
  variation: number;
  least: number;
  most: number;
}

export type DripResult =
  | DripSolved
  | { kind: "refused"; why: "too-many-emitters" | "no-pressure" | "not-balanced" };

const MOST_EMITTERS = 20_000;

/**
 * Flow of every emitter of a zone, by the network solver: a junction at each emitter, pipe between them, and the
 * emitter as the way out.
 * @param pressure Pa (gauge) where the zone begins, more than 0
 */
export function solveDrip(
  zone: DripZone,
  pressure: number,
  water: Water,
  friction: Method["friction"] = "darcy-weisbach",
): DripResult {
  const { laterals, emitters, emitter } = zone;
  const count = laterals * emitters;
  if (count > MOST_EMITTERS) return { kind: "refused", why: "too-many-emitters" };
  if (!(pressure > 0) || count < 1) return { kind: "refused", why: "no-pressure" };
  const { network, start, places } = networkOf(zone, pressure, { water, friction });
  const solution: NetworkSolution = solveNetwork(network, start);
  if (solution.kind !== "balanced") return { kind: "refused", why: "not-balanced" };
  const flows = places.map(({ link }) => solution.flows[link] as number);
  const pressures = places.map(
    ({ node, elevation }) =>
      ((solution.heads[node] as number) - elevation) * water.density * GRAVITY,
  );
  const least = Math.min(...flows);
  const most = Math.max(...flows);
  // Uphill of where the pressure ends nothing drips, and air comes in: that is no working zone.
  if (least <= 0) return { kind: "refused", why: "no-pressure" };
  return {
    kind: "solved",
    ...{ flows, pressures, least, most },
    flow: flows.reduce((sum, own) => sum + own, 0),
    uniformity: evennessOf(flows.map((depth) => ({ depth, weight: 1 }))).lowQuarter,
    variation: (most - least) / most,
  };

  function networkOf(own: DripZone, inlet: number, context: LossContext) {
    const weight = context.water.density * GRAVITY;
    const size = laterals * (emitters + 1);
    const links: Link[] = [];
    const starting: number[] = [];
    const found: { link: number; node: number; elevation: number }[] = [];
    const fixed = [inlet / weight];
    const pipeOf = (run: Omit<PipeRun, "length">, length: number) =>
      pipeLoss({ ...run, length }, context);
    const along = pipeOf(own.lateral, own.spacing);
    const header = pipeOf(own.submain, own.apart);
    const drips = emitterLoss(emitter, weight);
    // Numbered from the end of each lateral to the submain, so that a long chain stays a narrow matrix.
    const junctionOf = (lateral: number, k: number) => lateral * (emitters + 1) + (emitters - k);
    for (let lateral = 0; lateral < laterals; lateral++) {
      const before = lateral === 0 ? size : junctionOf(lateral - 1, 0);
      const base = own.submainSlope * own.apart * (lateral + 1);
      links.push({ from: before, to: junctionOf(lateral, 0), loss: header });
      starting.push((laterals - lateral) * emitters * emitter.flow);
      for (let k = 1; k <= emitters; k++) {
        const node = junctionOf(lateral, k);
        const elevation = base + own.slope * own.spacing * k;
        links.push({ from: junctionOf(lateral, k - 1), to: node, loss: along });
        starting.push((emitters - k + 1) * emitter.flow);
        found.push({ link: links.length, node, elevation });
        links.push({ from: node, to: size + fixed.length, loss: drips });
        starting.push(emitter.flow);
        fixed.push(elevation);
      }
    }
    return {
      network: { junctions: size, fixedHeads: fixed, inflows: new Array(size).fill(0), links },
      start: starting,
      places: found,
    };
  }
}

function pipeLoss(run: PipeRun, { water, friction }: LossContext): Link["loss"] {
  const velocityPerFlow = meanVelocity(1, run.bore);
  const reynoldsPerFlow = reynoldsNumber(water.density, velocityPerFlow, run.bore, water.viscosity);
  const resistance: Resistance = {
    ...{ linear: 0, quadratic: 0 },
    runs: [{ ...run, velocityPerFlow, reynoldsPerFlow }],
  };
  return (flow, tangent) => headLoss(resistance, flow, friction, tangent);
}

/** m of head an emitter takes at a flow, and its slope; backwards it takes as much, so that the solver can pass by. */
function emitterLoss({ flow, pressure, exponent }: Emitter, weight: number): Link["loss"] {
  const power = 1 / exponent;
  return (own, tangent?: Tangent) => {
    const part = Math.abs(own) / flow;
    const loss = (pressure / weight) * part ** power;
    if (tangent) tangent.slope = own === 0 ? 0 : (power * loss) / Math.abs(own);
    return own < 0 ? -loss : loss;
  };
}

/**
 * The grains a drip filter must hold back: a tenth of the emitter's passage. Common practice, no source.
 * @example filterPassage(0.001) // 0.0001
 */
export function filterPassage(passage: number): number {
  return passage / 10;
}

/** m/s over the ground a zone waters. */
export function dripRate(zone: DripZone, flow: number): number {
  return flow / (zone.laterals * zone.apart * zone.emitters * zone.spacing);
}
