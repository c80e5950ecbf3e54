import type { HydraulicModel, SteadyState } from "../hydraulics/hydraulicModel.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { type Input, type Propagated, propagate } from "../numeric/propagation.ts";
import { headAt, type PumpCurve, publishedValue, pumpCurve } from "../pump/curve.ts";
import { type Pump, toleranceOf } from "../pump/pump.ts";
import { GRAVITY, PSI } from "../quantity/constants.ts";
import { type Estimate, measuredFlow, rectangular } from "./instruments.ts";
import type { GaugedReading } from "./reading.ts";
import { type HeadInput, headModel, type Misplaced, pumpFlow, throughPump } from "./totalHead.ts";

/** Coverage factor: expanded uncertainties hold for about 95 % (GUM 6.3.3). */
export const COVERAGE = 2;

/** Whether a pump does what its curve says, along one axis. */
type Decision = "meets" | "falls-short" | "cannot-tell";

/**
 * Whether a pump does what its curve says. `beyond-curve`: it runs where nothing is published. `cannot-be`: more head
 * than it makes shut off, by more than curve and reading may be off together.
 */
export type Acceptance = Decision | "beyond-curve" | "cannot-be";

/** Measured against rated along one axis, as fractions of the rated value. */
export interface Deviation extends Propagated<HeadInput> {
  /** what the curve gives there: m³/s for flow, m for head */
  rated: number;
  /** the least deviation the tolerance grade lets pass, e.g. −0.08 */
  allowed: number;
  acceptance: Decision;
}

export type AxisComparison =
  | ({ kind: "compared" } & Deviation)
  /** nothing is published at the measured value, so nothing is claimed */
  | {
      kind: "off-curve";
      where: "shut" | "beyond-last-flow" | "above-shutoff" | "below-first-flow" | "below-last-head";
      /** true when even the nearest published value is out of reach, so this axis cannot save the pump */
      hopeless: boolean;
    };

export interface Comparison {
  /** through the pump: what was measured, and what holes let go before */
  flow: Estimate;
  head: Propagated<HeadInput>;
  /** between the errors of the two, −1 to 1: a flow read too high finds too much lost before the gauge */
  correlation: number;
  /** head the pump makes against the curve's head at the measured flow */
  atFlow: AxisComparison;
  /** flow the pump makes against the curve's flow at the measured head */
  atHead: AxisComparison;
  acceptance: Acceptance;
  /** W it gives the water; absent where nothing runs */
  waterPower?: Estimate;
  /** why nothing can be told from the gauge where it stands */
  misplaced?: Misplaced;
  /** the input whose doubt weighs most in the deciding comparison, when it cannot be told */
  improve?: HeadInput;
  /** what most likely went wrong where the reading cannot be: the dial is in psi and was typed as bar */
  slip?: "psi-for-bar";
}

/**
 * Holds a reading against the rated curve at the speed it was taken at.
 *
 * The tolerance is a cross around each rated point: a pump meets its curve when the measured point,
 * moved by no more than the allowance along either axis, touches it. Each axis has three outcomes:
 * the whole expanded interval on the good side of the limit, the whole on the bad side, or across it.
 * A pump falls short only when neither axis can save it.
 *
 * `lost` is what each hole between the pump and the outlet lets go at the duty; it is added to the flow
 * measured at the outlet, with its doubt. Undefined where suction lines that join cannot be balanced at the
 * measured flow. Of several pumps on a line just one may have run, number `at`: none can be told from a common flow.
 */
export function compareWithRated(
  model: HydraulicModel,
  pump: Pump,
  reading: GaugedReading,
  lost: SteadyState["lost"] = [],
  at = 0,
): Comparison | undefined {
  const speedRatio = reading.speedRatio ?? model.line.pumps[at]?.item.speedRatio ?? 1;
  const curve = pumpCurve(pump, speedRatio);
  const curveAt = ({ speed = speedRatio }: Partial<Record<HeadInput, number>>) =>
    speed === speedRatio ? curve : pumpCurve(pump, speed);
  const tolerance = toleranceOf(pump);
  const total = headModel(model, reading, lost, at);
  const { curveDoubt = 0 } = pump;
  // A curve that is only roughly known is an instrument like the others.
  const inputs: Input<HeadInput>[] =
    curveDoubt > 0
      ? [...total.inputs, { name: "curve", value: 1, standardUncertainty: rectangular(curveDoubt) }]
      : total.inputs;
  const wasted = lost.reduce((sum, hole) => sum + hole.flow, 0);
  const flow = pumpFlow(measuredFlow(reading.flow), wasted);
  const head = propagate(total.inputs, total.head);
  if (!head) return undefined;

  const ratedHead = publishedValue(headAt(curve, flow.value));
  const headDeviation = propagate(inputs, (values) => {
    const published = publishedValue(headAt(curveAt(values), throughPump(values)));
    const rated = published && published * (values.curve ?? 1);
    const made = total.head(values);
    return rated === undefined || rated <= 0 || made === undefined ? undefined : made / rated - 1;
  });
  const ratedFlow = flowAtHead(curve, head.value);
  const flowDeviation = propagate(inputs, (values) => {
    const made = total.head(values);
    const rated =
      made === undefined ? undefined : flowAtHead(curveAt(values), made / (values.curve ?? 1));
    return typeof rated === "number" && rated > 0 ? throughPump(values) / rated - 1 : undefined;
  });

  const atFlow: AxisComparison =
    ratedHead !== undefined && headDeviation
      ? judged(headDeviation, ratedHead, -tolerance.head)
      : offCurve(flow.value > curve.lastFlow ? "beyond-last-flow" : "below-first-flow", false);
  // With nothing running the head alone can be compared.
  const shut = reading.flow.method === "shut" || flow.value <= 0;
  const atHead: AxisComparison = shut
    ? offCurve("shut", true)
    : typeof ratedFlow === "number" && flowDeviation
      ? judged(flowDeviation, ratedFlow, -tolerance.flow)
      : offCurve(
          typeof ratedFlow === "string" ? ratedFlow : "above-shutoff",
          // Below the last published head a falling curve can only promise more than its last flow.
          ratedFlow === "below-last-head" &&
            (flow.value + COVERAGE * flow.standardUncertainty) / curve.lastFlow - 1 <
              -tolerance.flow,
        );

  const { misplaced } = total;
  // Nothing stands on a gauge whose place is not known.
  const decision = misplaced ? "cannot-tell" : overall(atFlow, atHead);
  const most = Math.max(curve.peak.head, 0) * (1 + tolerance.head + curveDoubt);
  const impossible =
    !misplaced && head.value - COVERAGE * head.standardUncertainty > most + LEAST_OVER;
  const beyond =
    decision === "cannot-tell" &&
    !misplaced &&
    atFlow.kind === "off-curve" &&
    atFlow.where === "beyond-last-flow";
  const acceptance = impossible ? "cannot-be" : beyond ? "beyond-curve" : decision;
  const improve =
    acceptance === "cannot-tell" && !misplaced ? weightiest(atFlow, atHead) : undefined;
  const together = ["flow", "holes"].reduce((sum, name) => {
    const own = total.inputs.find((input) => input.name === name);
    return sum + (own?.standardUncertainty ?? 0) * (head.effects[name as HeadInput] ?? 0);
  }, 0);
  const both = flow.standardUncertainty * head.standardUncertainty;
  const correlation = both > 0 ? together / both : 0;
  const found: Comparison = { flow, head, correlation, atFlow, atHead, acceptance };
  if (misplaced) found.misplaced = misplaced;
  const given = propagate(inputs, (values) => {
    const made = total.head(values);
    return made === undefined ? undefined : throughPump(values) * made;
  });
  if (given && !shut && !misplaced) {
    const weight = model.context.water.density * GRAVITY;
    found.waterPower = {
      value: weight * given.value,
      standardUncertainty: weight * given.standardUncertainty,
    };
  }
  if (improve) found.improve = improve;
  if (impossible) {
    const values = valuesOf(total.inputs);
    const inPsi = total.head({
      ...values,
      "discharge-gauge": (values["discharge-gauge"] * PSI) / BAR,
    });
    const fits = Math.abs((inPsi ?? 0) / (ratedHead ?? most) - 1) < NEAR_ENOUGH;
    if (fits) found.slip = "psi-for-bar";
  }
  return found;
}

/** m: a head this little over the most is still the most */
const LEAST_OVER = 1e-6;
const BAR = 1e5;
/** share of the curve's head by which a reading put right may be off it, to be taken for the likely one */
const NEAR_ENOUGH = 0.25;

function valuesOf(inputs: readonly { name: HeadInput; value: number }[]) {
  return Object.fromEntries(inputs.map(({ name, value }) => [name, value])) as Record<
    HeadInput,
    number
  >;
}

function judged(deviation: Propagated<HeadInput>, rated: number, allowed: number): AxisComparison {
  const expanded = COVERAGE * deviation.standardUncertainty;
  const acceptance: Decision =
    deviation.value - expanded >= allowed
      ? "meets"
      : deviation.value + expanded < allowed
        ? "falls-short"
        : "cannot-tell";
  return { kind: "compared", ...deviation, rated, allowed, acceptance };
}

type OffCurve = Extract<AxisComparison, { kind: "off-curve" }>;

function offCurve(where: OffCurve["where"], hopeless: boolean): OffCurve {
  return { kind: "off-curve", where, hopeless };
}

function overall(atFlow: AxisComparison, atHead: AxisComparison): Decision {
  const axes = [atFlow, atHead];
  const says = (axis: AxisComparison, acceptance: Decision) =>
    axis.kind === "compared" && axis.acceptance === acceptance;
  if (axes.some((axis) => says(axis, "meets"))) return "meets";
  const lost = (axis: AxisComparison) =>
    axis.kind === "compared" ? axis.acceptance === "falls-short" : axis.hopeless;
  // More head than shut-off is more than the curve promises at any flow: that axis decides nothing.
  const silent = (axis: AxisComparison) =>
    axis.kind === "off-curve" && axis.where === "above-shutoff";
  const lostAny = axes.some((axis) => says(axis, "falls-short"));
  return lostAny && axes.every((axis) => lost(axis) || silent(axis))
    ? "falls-short"
    : "cannot-tell";
}

function weightiest(atFlow: AxisComparison, atHead: AxisComparison): HeadInput | undefined {
  const undecided = [atHead, atFlow].filter(
    (axis) => axis.kind === "compared" && axis.acceptance === "cannot-tell",
  );
  const axis = undecided[0];
  return axis?.kind === "compared" ? axis.budget[0]?.name : undefined;
}

/** Largest flow at which the curve gives a head, or on which side of the curve the head lies. */
export function flowAtHead(
  curve: PumpCurve,
  head: number,
): number | "above-shutoff" | "below-last-head" {
  const { x, y } = curve.head;
  if (head < (y.at(-1) as number)) return "below-last-head";
  for (let i = x.length - 2; i >= 0; i--) {
    const [low, high] = [x[i] as number, x[i + 1] as number];
    const surplusLow = (y[i] as number) - head;
    const surplusHigh = (y[i + 1] as number) - head;
    if (surplusLow >= 0 && surplusHigh <= 0) {
      if (surplusLow === 0 && surplusHigh === 0) return high;
      const surplus = (flow: number) => evaluate(curve.head, flow) - head;
      return bracketedRoot(surplus, low, high, surplusLow, surplusHigh, high * 1e-12);
    }
  }
  return "above-shutoff";
}
