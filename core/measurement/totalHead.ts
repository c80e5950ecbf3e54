import { pressureHead, sourcePressure } from "../hydraulics/boundary.ts";
import type { HydraulicModel, SteadyState } from "../hydraulics/hydraulicModel.ts";
import { headLoss, type Resistance, resistanceOf } from "../hydraulics/resistance.ts";
import {
  beforeFork,
  type CompiledLine,
  type PlacedPump,
  type Segment,
  suctionOf,
} from "../line/compiledLine.ts";
import type { Input } from "../numeric/propagation.ts";
import { isWayOut } from "../outlet/outlets.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { type Estimate, measuredFlow, rectangular } from "./instruments.ts";
import { type GaugedReading, isOpen } from "./reading.ts";

/** The quantities a comparison is made of; each can be doubted on its own. */
export type HeadInput =
  | "flow"
  | "discharge-gauge"
  | "discharge-height"
  | "suction-gauge"
  | "suction-height"
  | "water-level"
  | "line-between"
  | "holes"
  | "speed"
  | "curve";

/** Half-width in m taken for the height of a gauge measured with a tape. Common practice, no source. */
export const GAUGE_HEIGHT_TOLERANCE = 0.01;

/** Half-width of computed losses between pump and gauge, as a fraction. Common practice, no source. */
export const COMPUTED_LOSS_TOLERANCE = 0.2;

/**
 * The pump's total head as a function of its doubtful inputs:
 * H = (p_d − p_s)/ρg + (z_d − z_s) + (v_d² − v_s²)/2g + losses between the pump and the two taps.
 * Without a suction gauge the water level, and what presses on it in a closed tank, takes the place of p_s, z_s
 * and v_s, and the whole suction line counts as loss. Source: ISO 9906:2012 definition of pump total head, from
 * memory. No value where the suction lines of a fork do not balance at a flow.
 */
export interface HeadModel {
  inputs: Input<HeadInput>[];
  head: (values: Record<HeadInput, number>) => number | undefined;
  /** m above datum: total head of the water that passes the gauge */
  atGauge: (values: Record<HeadInput, number>) => number;
  /** m reckoned to be lost between the pump's port and the gauge */
  between: (values: Record<HeadInput, number>) => number;
  /** nothing can be told from the gauge; it is reckoned as if it were at the pump's port, or as it stands */
  misplaced?: Misplaced;
}

/** Where a gauge tells nothing: its place is no longer on the line before it parts, or lies past the valve that was throttled. */
export type Misplaced = "off-the-line" | "past-the-valve";

/** `lost`: what each hole lets go at the duty, m³/s. `at`: which of the line's pumps ran, the others standing. */
export function headModel(
  model: HydraulicModel,
  reading: GaugedReading,
  lost: SteadyState["lost"],
  at = 0,
): HeadModel {
  const { line, context } = model;
  const { water, friction } = context;
  const { discharge, suction } = reading;
  const flow: Estimate = measuredFlow(reading.flow);
  const pump = line.pumps[at];
  const tap = tapAt(line, pump, discharge.afterItemId, lost, (segments) =>
    resistanceOf(segments, context),
  );
  const suctionBore = suctionOf(line, pump).findLast(({ stock }) => stock)?.stock?.bore;
  const suctionLoss = lossBeforePump(model, at);
  const all = lost.reduce((sum, hole) => sum + hole.flow, 0);

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
  if (all > 0) {
    inputs.push({ name: "holes", value: all, standardUncertainty: lostUncertainty(all) });
  }
  if (reading.speedRatio !== undefined && reading.speedTolerance) {
    const { speedRatio: value, speedTolerance } = reading;
    inputs.push({ name: "speed", value, standardUncertainty: value * rectangular(speedTolerance) });
  }

  /** What runs where holes on the way have let a share of all they lose go. */
  const passing = (v: Record<HeadInput, number>, share: number) =>
    Math.max(throughPump(v) - share * (v.holes ?? 0), 0);
  const atGauge = (v: Record<HeadInput, number>) =>
    pressureHead(v["discharge-gauge"], water) +
    v["discharge-height"] +
    (tap.bore ? velocityHead(passing(v, tap.lostShare), tap.bore) : 0);
  const between = (v: Record<HeadInput, number>) =>
    tap.between.reduce(
      (sum, { resistance, lostShare }) =>
        sum + headLoss(resistance, passing(v, lostShare), friction),
      0,
    );

  const head = (v: Record<HeadInput, number>): number | undefined => {
    const q = Math.max(throughPump(v), 0);
    const delivered = atGauge(v);
    const lostAfter = between(v);
    if (suction.kind === "gauge") {
      const drawn =
        pressureHead(v["suction-gauge"], water) +
        v["suction-height"] +
        (suctionBore ? velocityHead(q, suctionBore) : 0);
      return delivered - drawn + v["line-between"] * lostAfter;
    }
    const lostBefore = suctionLoss(q);
    if (lostBefore === undefined) return undefined;
    const surface = v["water-level"] + pressureHead(sourcePressure(line.source), water);
    return delivered - surface + v["line-between"] * (lostAfter + lostBefore);
  };
  const misplaced = tap.misplaced
    ? "off-the-line"
    : tap.pastValve && !isOpen(reading)
      ? "past-the-valve"
      : undefined;
  return { inputs, head, atGauge, between, ...(misplaced && { misplaced }) };
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
export function lossBeforePump(
  model: HydraulicModel,
  at: number,
): (flow: number) => number | undefined {
  const { line, context } = model;
  const pump = line.pumps[at];
  if (line.single || !pump) {
    const suction = resistanceOf(suctionOf(line), context);
    return (flow) => headLoss(suction, flow, context.friction);
  }
  const boundary = { source: 0, outlets: line.outlets.map(({ elevation }) => elevation) };
  return (flow) => {
    const imposed = model.imposed(boundary, flow, [], at);
    if (imposed.kind !== "steady") return undefined;
    const { nodeHeads } = imposed.state;
    return (nodeHeads[0] as number) - (nodeHeads[pump.inlet] as number);
  };
}

/** Where a gauge is tapped in: the bore there, and what the water passes between it and the pump. */
interface Tap {
  /** how many segments of the line lie before it */
  end: number;
  bore: number | undefined;
  /** share of all that holes let go that has left by then */
  lostShare: number;
  between: { resistance: Resistance; lostShare: number }[];
  misplaced: boolean;
  /** a valve lies between pump and gauge */
  pastValve: boolean;
}

export function tapAt(
  line: CompiledLine,
  pump: PlacedPump | undefined,
  afterItemId: string,
  lost: SteadyState["lost"],
  resistance: (segments: readonly Segment[]) => Resistance,
): Tap {
  const after = beforeFork(line, pump).filter((i) => !isWayOut(line.segments[i] as Segment));
  const first = after[0] ?? 0;
  const passed = line.passed.get(afterItemId);
  const atPort = afterItemId === pump?.item.id;
  // What ends where the pump's line begins and is more than a point lies before it, or on another pump's leg.
  const isPoint = !line.segments.some(({ itemId }) => itemId === afterItemId);
  const onLine =
    passed !== undefined && (after.includes(passed - 1) || (passed === first && isPoint));
  const end = atPort || !onLine ? first : passed;
  const place = line.holes.find(({ itemId }) => itemId === afterItemId);
  const all = lost.reduce((sum, hole) => sum + hole.flow, 0);
  /** what has left before segment number `i`; a gauge after a hole stands past it */
  const shareBefore = (i: number, past: boolean) => {
    if (all <= 0) return 0;
    const gone = line.holes.reduce((sum, hole) => {
      const by = hole.index < i || (hole.index === i && (past || hole.index < end));
      return by ? sum + (lost.find(({ itemId }) => itemId === hole.itemId)?.flow ?? 0) : sum;
    }, 0);
    return gone / all;
  };
  // Legs of other pumps lie in between where several push into one main.
  const behind = after.filter((i) => i < end);
  const between = behind.map((i) => ({
    resistance: resistance([line.segments[i] as Segment]),
    lostShare: shareBefore(i, true),
  }));
  // The pipe the gauge stands in: past a change of bore that is the next one.
  const before = line.segments[behind.at(-1) ?? -1];
  const next = line.segments[after[behind.length] ?? end];
  const own = before && before.kind !== "bore-change" ? before : next;
  return {
    end,
    bore: own?.stock?.bore,
    lostShare: shareBefore(end, place !== undefined),
    between,
    misplaced: !atPort && !onLine,
    pastValve: behind.some((i) => (line.segments[i] as Segment).fitting?.throttles),
  };
}
