import { lineNetwork } from "../hydraulics/flowsAlong.ts";
import { type LossContext, stretchLoss } from "../hydraulics/lineLoss.ts";
import { beforeFork, type CompiledLine, suctionOf } from "../line/compiledLine.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { type Estimate, measuredFlow, rectangular } from "./instruments.ts";
import type { Input } from "./propagation.ts";
import type { Reading } from "./reading.ts";

/** The quantities a total head is made of; each can be doubted on its own. */
export type HeadInput =
  | "flow"
  | "discharge-gauge"
  | "discharge-height"
  | "suction-gauge"
  | "suction-height"
  | "water-level"
  | "line-between"
  | "holes";

/** Half-width in m taken for the height of a gauge measured with a tape. Common practice, no source. */
export const GAUGE_HEIGHT_TOLERANCE = 0.01;

/** Half-width of computed losses between pump and gauge, as a fraction. Common practice, no source. */
export const COMPUTED_LOSS_TOLERANCE = 0.2;

/**
 * The pump's total head as a function of its doubtful inputs:
 * H = (p_d − p_s)/ρg + (z_d − z_s) + (v_d² − v_s²)/2g + losses between the pump and the two taps.
 * Without a suction gauge the water level takes the place of p_s, z_s and v_s, and the whole suction
 * line counts as loss. Source: ISO 9906:2012 definition of pump total head, from memory.
 */
export interface HeadModel {
  inputs: Input<HeadInput>[];
  head: (values: Record<HeadInput, number>) => number;
}

export function headModel(
  line: CompiledLine,
  reading: Reading,
  context: LossContext,
  lost: number,
): HeadModel {
  const { discharge, suction } = reading;
  const flow: Estimate = measuredFlow(reading.flow);
  const perMetre = context.water.density * GRAVITY;
  const between = segmentsToGauge(line, discharge.afterItemId);
  const tap = between.at(-1) ?? beforeFork(line)[0];
  const dischargeBore = tap?.stock.bore as number;
  const suctionBore = suctionOf(line).at(-1)?.stock.bore;
  const suctionLoss = lossBeforePump(line, context);

  const gauge = (
    name: HeadInput,
    m: { pressure: number; fullScale: number; accuracyClass: number },
  ) => ({
    name,
    value: m.pressure,
    standardUncertainty: rectangular(m.fullScale * m.accuracyClass),
  });
  const height = (name: HeadInput, value: number) => ({
    name,
    value,
    standardUncertainty: rectangular(GAUGE_HEIGHT_TOLERANCE),
  });
  const inputs: Input<HeadInput>[] = [
    { name: "flow", ...flow },
    gauge("discharge-gauge", discharge),
    height("discharge-height", discharge.elevation),
    { name: "line-between", value: 1, standardUncertainty: rectangular(COMPUTED_LOSS_TOLERANCE) },
  ];
  if (suction.kind === "gauge") {
    inputs.push(gauge("suction-gauge", suction), height("suction-height", suction.elevation));
  } else {
    const standardUncertainty = rectangular(suction.tolerance);
    inputs.push({ name: "water-level", value: suction.level, standardUncertainty });
  }

  if (lost > 0) {
    inputs.push({ name: "holes", value: lost, standardUncertainty: lostUncertainty(lost) });
  }

  const head = (v: Record<HeadInput, number>) => {
    const q = Math.max(throughPump(v), 0);
    const delivered =
      v["discharge-gauge"] / perMetre + v["discharge-height"] + velocityHead(q, dischargeBore);
    const lostAfter = stretchLoss(between, q, context);
    if (suction.kind === "gauge") {
      const drawn =
        v["suction-gauge"] / perMetre +
        v["suction-height"] +
        (suctionBore ? velocityHead(q, suctionBore) : 0);
      return delivered - drawn + v["line-between"] * lostAfter;
    }
    const lostBefore = suctionLoss(q);
    return delivered - v["water-level"] + v["line-between"] * (lostAfter + lostBefore);
  };
  return { inputs, head };
}

/** Flow through the pump: measured at the outlet, plus what holes let go on the way. */
export function throughPump(values: Partial<Record<HeadInput, number>>): number {
  return (values.flow ?? 0) + (values.holes ?? 0);
}

export function pumpFlow(measured: Estimate, lost: number): Estimate {
  return {
    value: measured.value + lost,
    standardUncertainty: Math.hypot(measured.standardUncertainty, lostUncertainty(lost)),
  };
}

/** A drilled hole's flow is computed, not measured: it is doubted as other computed losses are. */
function lostUncertainty(lost: number): number {
  return lost * rectangular(COMPUTED_LOSS_TOLERANCE);
}

/** m taken on the way to the pump at a flow in m³/s, where suction lines may join. */
function lossBeforePump(line: CompiledLine, context: LossContext): (flow: number) => number {
  const pump = line.pumps[0];
  if (line.single || !pump) {
    const suction = suctionOf(line);
    return (flow) => stretchLoss(suction, flow, context);
  }
  const network = lineNetwork(line, "normal", context);
  return (flow) => {
    const { nodeHeads } = network.flows({ kind: "forced", pump: 0, flow, curves: [] });
    return (nodeHeads[0] as number) - (nodeHeads[pump.inlet] as number);
  };
}

/** The segments the water passes between the pump and a gauge tapped in after an item. */
function segmentsToGauge(line: CompiledLine, afterItemId: string) {
  const after = beforeFork(line);
  const lastIndex = after.findLastIndex((segment) => segment.itemId === afterItemId);
  return after.slice(0, lastIndex + 1).filter((s) => !WAYS_OUT.has(s.kind));
}

const WAYS_OUT: ReadonlySet<string> = new Set(["exit", "nozzle", "emitter"]);
