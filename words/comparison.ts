import { format, formatNumber, formatPercent } from "#contract/units/format.ts";
import { shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { type AxisComparison, COVERAGE, type Comparison } from "#core/measurement/acceptance.ts";
import type { HeadInput } from "#core/measurement/totalHead.ts";

export const JUDGEMENTS = {
  meets: "Meets its curve",
  "falls-short": "Falls short of its curve",
  "cannot-tell": "Cannot tell",
} as const;

const IMPROVE: Record<HeadInput, string> = {
  flow: "the flow: use a larger bucket, time more fills, or fit a meter",
  "discharge-gauge": "the discharge gauge: use one of a finer class, or with a lower full scale",
  "discharge-height": "the height of the discharge gauge: measure it with a tape",
  "suction-gauge": "the suction gauge: use one of a finer class, or with a lower full scale",
  "suction-height": "the height of the suction gauge: measure it with a tape",
  "water-level": "the water level: measure it while the pump runs",
  holes: "what the holes let go: plug them for the test, or measure it with a jug",
  "line-between": "the losses counted between pump and gauge: move the gauge to the pump's port",
};

export const INPUT_NAMES: Record<HeadInput, string> = {
  flow: "Flow",
  "discharge-gauge": "Discharge gauge",
  "discharge-height": "Height of discharge gauge",
  "suction-gauge": "Suction gauge",
  "suction-height": "Height of suction gauge",
  "water-level": "Water level",
  "line-between": "Losses between pump and gauge",
  holes: "Flow through holes",
};

/** A comparison in words. */
export function comparisonWords(c: Comparison, system: UnitSystem) {
  const mends: Record<Comparison["judgement"], string> = {
    meets: "The pump is sound. If the job is still short of water, look at the line.",
    "falls-short":
      "Check the line and the levels first: a shortfall is more often the line than the pump. Then speed, rotation, air, and wear.",
    "cannot-tell": c.improve
      ? `The doubt is too wide to decide. Improve ${IMPROVE[c.improve]}.`
      : "The reading lies where nothing is published. Throttle or open the discharge and read again.",
  };
  return {
    title: JUDGEMENTS[c.judgement],
    misplaced: c.gaugeMisplaced
      ? "The gauge’s place is no longer on the line; it is taken to be at the pump’s port."
      : undefined,
    measured: `Measured ${plusMinus(c.flow.value, c.flow.standardUncertainty, "flow", system)} at ${plusMinus(c.head.value, c.head.standardUncertainty, "head", system)} of total head.`,
    atHead: axisSentence(c.atHead, "flow", system),
    atFlow: axisSentence(c.atFlow, "head", system),
    mend: mends[c.judgement],
  };
}

/** "2.43 ± 0.08 L/s", expanded to about 95 %. */
export function plusMinus(
  value: number,
  standardUncertainty: number,
  quantity: "flow" | "head",
  system: UnitSystem,
): string {
  const unit = shownUnit(quantity, system);
  const expanded = formatNumber(COVERAGE * standardUncertainty, quantity, system);
  // The value is given as finely as its doubt, no finer and no coarser.
  const decimals = expanded.split(".")[1]?.length ?? 0;
  return `${toUnit(value, unit).toFixed(decimals).replace("-", "−")} ± ${expanded} ${unit.symbol}`;
}

function axisSentence(axis: AxisComparison, what: "flow" | "head", system: UnitSystem): string {
  const where = what === "flow" ? "At the measured head" : "At the measured flow";
  if (axis.kind === "off-curve") return `${where} nothing is published: ${OFF[axis.where]}.`;
  const expanded = COVERAGE * axis.standardUncertainty;
  const sign = axis.value >= 0 ? "more" : "less";
  return `${where} the curve gives ${format(axis.rated, what, system)}; measured ${formatPercent(Math.abs(axis.value), 1)} ${sign}, ± ${formatPercent(expanded, 1)}. ${formatPercent(-axis.allowed)} less would still pass.`;
}

const OFF = {
  "beyond-last-flow": "the flow is past the end of the curve",
  "above-shutoff": "the head is above shut-off",
  "below-first-flow": "the flow is below the first point of the curve",
  "below-last-head": "the head is below the end of the curve",
} as const;
