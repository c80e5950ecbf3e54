import { findFitting } from "../catalogue/fittings.ts";
import type { PipeStock } from "../catalogue/pipes.ts";
import { lossCoefficient } from "../fitting/resistance.ts";
import type { Water } from "../fluid/water.ts";
import { type Outcome, operatingPoint, settledDuty } from "../hydraulics/operatingPoint.ts";
import { monotoneCubic } from "../numeric/monotoneCubic.ts";
import { darcyWeisbachLoss, meanVelocity, velocityHead } from "../pipe/darcyWeisbach.ts";
import { type PumpCurve, pumpCurve } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";

/** What feeds the hose. */
export type HoseSupply =
  | { kind: "pump"; pump: Pump }
  /** a house tap: Pa with it shut, and m³/s with it wide open and no hose on it */
  | { kind: "tap"; pressure: number; openFlow: number };

export interface HoseRun {
  /** m, of the whole way */
  length: number;
  /** m, outlet above the tap or above the water the pump stands in */
  rise: number;
  /** m, of one piece of hose */
  section: number;
  /** id of the fitting at every joint */
  joint: string;
}

export interface HoseRow {
  stock: PipeStock;
  outcome: Outcome["kind"];
  /** m³/s and m/s; absent where the supply does not settle */
  flow?: number;
  velocity?: number;
  /** fraction of the hose's whole loss that its joints take */
  jointShare?: number;
  sections: number;
  couplings: number;
  clamps: number;
  /** of the hose, invented */
  price: number;
}

/**
 * Hoses side by side on one supply, each at its own flow, with what has to be brought along: pieces of
 * hose, a coupling at every joint, two clamps a coupling and one where the hose goes on.
 */
export function compareHoses(
  supply: HoseSupply,
  run: HoseRun,
  hoses: readonly PipeStock[],
  water: Water,
): HoseRow[] {
  const curve = supply.kind === "pump" ? pumpCurve(supply.pump) : tapCurve(supply, water);
  const joint = findFitting(run.joint);
  return hoses.map((stock): HoseRow => {
    const sections = Math.max(1, Math.ceil(run.length / run.section - 1e-9));
    const couplings = sections - 1;
    const jointK = joint ? couplings * lossCoefficient(joint, stock.bore) : 0;
    const friction = (flow: number) =>
      darcyWeisbachLoss(
        {
          length: run.length,
          bore: stock.bore,
          roughness: stock.roughness,
          hazenWilliamsC: stock.hazenWilliamsC,
        },
        flow,
        water,
      );
    const speed = (flow: number) => velocityHead(flow, stock.bore);
    const asks = (flow: number) => run.rise + friction(flow) + (jointK + 1) * speed(flow);
    const outcome = operatingPoint(curve, asks);
    const duty = settledDuty(outcome);
    const base = {
      stock,
      outcome: outcome.kind,
      sections,
      couplings,
      clamps: 2 * couplings + 1,
      price: stock.price * run.length,
    };
    if (!duty) return base;
    const { flow } = duty;
    const joints = jointK * speed(flow);
    return {
      ...base,
      flow,
      velocity: meanVelocity(flow, stock.bore),
      jointShare: joints / (joints + friction(flow)),
    };
  });
}

/** A tap gives its pressure when shut and its open flow when free; between them the plumbing takes ∝ Q². */
function tapCurve({ pressure, openFlow }: { pressure: number; openFlow: number }, water: Water) {
  const shut = pressure / (water.density * GRAVITY);
  const steps = Array.from({ length: 41 }, (_, i) => i / 40);
  const flows = steps.map((part) => part * openFlow);
  const head = monotoneCubic(
    flows,
    steps.map((part) => shut * (1 - part * part)),
  );
  return { firstFlow: 0, lastFlow: openFlow, head } satisfies PumpCurve;
}
