import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { format, formatNumber, formatPercent, formatUncertain } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { type AxisComparison, COVERAGE, type Comparison } from "#core/measurement/acceptance.ts";
import type { Kept, PredictionComparison, Slip } from "#core/measurement/prediction.ts";
import type { HeadInput, Misplaced } from "#core/measurement/totalHead.ts";

export const ACCEPTANCE = {
  meets: "Meets its curve",
  "falls-short": "Falls short of its curve",
  "cannot-tell": "Cannot tell",
  "beyond-curve": "Beyond the published curve",
  "cannot-be": "Cannot be",
  "as-promised": "As promised",
  less: "Less than promised",
  more: "More than promised",
} as const;

const IMPROVE: Record<HeadInput, string> = {
  flow: "the flow: use a larger bucket, time more fills, or fit a meter",
  "discharge-gauge":
    "the discharge gauge: use one of a finer class, still reading over what the pump makes with the line shut",
  "discharge-height": "the height of the discharge gauge: measure it with a tape",
  "suction-gauge":
    "the suction gauge: use one of a finer class, or a compound gauge that ends nearer to what it reads",
  "suction-height": "the height of the suction gauge: measure it with a tape",
  "water-level": "the water level: measure it while the pump runs",
  holes: "what the holes let go: plug them for the test, or measure it with a jug",
  "line-between": "the losses counted between pump and gauge: move the gauge to the pump's port",
  speed: "the speed: use a tachometer with a finer class, or read it twice",
  curve: "the curve: get the maker’s table or chart, the sticker alone is too rough",
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
  speed: "Speed",
  curve: "The published curve itself",
};

/** A comparison as it is kept with the reading: what was said that day, in the reader's units of that day. */
export function judgementOf(
  comparison: Comparison,
  on: string,
  system: UnitSystem,
): NonNullable<ReadingDocument["judged"]> {
  const { acceptance, flow, head } = comparison;
  const { measured, atHead, atFlow, misplaced } = comparisonWords(comparison, system);
  return {
    on,
    acceptance,
    flow: flow.value,
    flowUncertainty: flow.standardUncertainty,
    head: head.value,
    headUncertainty: head.standardUncertainty,
    sentences: [measured, atHead, atFlow, ...(misplaced ? [misplaced] : [])],
  };
}

/** What was said of a flow alone, as it is kept with the reading. */
export function keptPrediction(
  compared: PredictionComparison,
  on: string,
  system: UnitSystem,
): NonNullable<ReadingDocument["judged"]> {
  const { kept, flow, promised, likely } = compared;
  const { sentence, advice } = predictionWords(compared, system);
  return {
    ...{ on, acceptance: kept, promised, low: likely.low, high: likely.high },
    flow: flow.value,
    flowUncertainty: flow.standardUncertainty,
    sentences: [sentence, advice],
  };
}

/** A flow held against what the line was promised, in words. */
export function predictionWords(promise: PredictionComparison, system: UnitSystem) {
  const { kept, flow, promised, likely, ran, beyondCurve, slip } = promise;
  const measured = formatUncertain(flow.value, COVERAGE * flow.standardUncertainty, "flow", system);
  const range = `${formatNumber(likely.low, "flow", system)} to ${format(likely.high, "flow", system)}`;
  const past = beyondCurve ? " That is beyond the published curve of the pump." : "";
  const advices: Record<Kept, string> = {
    "as-promised": "Line and pump together do what was worked out.",
    less: "Look at the levels, the strainer, the valves and the line first, then at the pump. A gauge beside the pump tells them apart.",
    more: "The line takes less than was worked out, or the pump makes more: check that the lengths, sizes and levels are those of this job.",
    "cannot-tell": slip
      ? SLIPS[slip]
      : "The reading is too doubtful to say whether that is as promised: use a larger bucket, or time more fills.",
    "cannot-be": `No line like this passes that much. ${slip ? SLIPS[slip] : "Check what was typed, and that this is the job and the outlet."}`,
  };
  return {
    title: ACCEPTANCE[kept],
    sentence: `${measured} where ${format(promised, "flow", system)} was promised${ran ? ` with ${ran.count} of ${ran.of} pumps running` : ""}, ${range} likely.${past}`,
    advice: advices[kept],
  };
}

const SLIPS: Record<Slip, string> = {
  "gallons-for-litres": "Was it litres that were typed as gallons? Taken as litres it fits.",
  "a-fill-miscounted": "Was one bucket too many counted? With one less it fits.",
  "a-fill-cut-short":
    "One fill took far less time than the others: leave it out, or time it again.",
  "minutes-for-seconds": "Were minutes typed as seconds? Taken as minutes it fits.",
};

/** A comparison in words. */
export function comparisonWords(c: Comparison, system: UnitSystem) {
  const advices: Record<Comparison["acceptance"], string> = {
    meets: "The pump is sound. If the job is still short of water, look at the line.",
    "falls-short":
      "Check the line and the levels first: a shortfall is more often the line than the pump. Then speed, rotation, air, and wear.",
    "beyond-curve":
      "The pump moves more than its maker tells of. Throttle the discharge until the reading lies on the curve, and read again; left so it may wear and overload.",
    "cannot-be":
      c.slip === "psi-for-bar"
        ? "It makes more head than shut off. Is the dial in psi? It was typed as bar; taken as psi it fits."
        : "It makes more head than shut off, by more than curve and reading may be off. Check the dial, its unit and its height, and which pump this is.",
    "cannot-tell": c.misplaced
      ? MISPLACED[c.misplaced].advice
      : c.improve
        ? `The doubt is too wide to decide. Improve ${IMPROVE[c.improve]}.`
        : "The reading lies where nothing is published. Throttle or open the discharge and read again.",
  };
  return {
    title: ACCEPTANCE[c.acceptance],
    misplaced: c.misplaced && MISPLACED[c.misplaced].why,
    measured:
      c.atHead.kind === "off-curve" && c.atHead.where === "shut"
        ? `Shut off it makes ${formatUncertain(c.head.value, COVERAGE * c.head.standardUncertainty, "head", system)}.`
        : `Measured ${formatUncertain(c.flow.value, COVERAGE * c.flow.standardUncertainty, "flow", system)} at ${formatUncertain(c.head.value, COVERAGE * c.head.standardUncertainty, "head", system)} of total head.`,
    atHead: axisSentence(c.atHead, "flow", system),
    atFlow: axisSentence(c.atFlow, "head", system),
    advice: advices[c.acceptance],
  };
}

const MISPLACED: Record<Misplaced, { why: string; advice: string }> = {
  "off-the-line": {
    why: "The gauge’s place is no longer on the line, so nothing can be told from it.",
    advice: "Say where on the line the gauge stands now, and the reading can be judged.",
  },
  "past-the-valve": {
    why: "The gauge stands past the valve that was throttled, so what the pump makes is not what it shows.",
    advice: "Move the gauge between pump and valve, or read with the valve open.",
  },
};

function axisSentence(axis: AxisComparison, what: "flow" | "head", system: UnitSystem): string {
  const where = what === "flow" ? "At the measured head" : "At the measured flow";
  if (axis.kind === "off-curve" && axis.where === "shut") return "Shut, only the head is compared.";
  if (axis.kind === "off-curve") return `${where} nothing is published: ${OFF[axis.where]}.`;
  const expanded = COVERAGE * axis.standardUncertainty;
  const part = (fraction: number) => formatPercent(fraction, 1);
  // A doubt wider than the difference is no difference: then only where it may lie is told.
  const off =
    Math.abs(axis.value) < expanded
      ? `between ${part(expanded - axis.value)} less and ${part(expanded + axis.value)} more`
      : `${part(Math.abs(axis.value))} ${axis.value >= 0 ? "more" : "less"}, ± ${part(expanded)}`;
  return `${where} the curve gives ${format(axis.rated, what, system)}; measured ${off}. ${formatPercent(-axis.allowed)} less would still pass.`;
}

const OFF = {
  shut: "nothing runs",
  "beyond-last-flow": "the flow is past the end of the curve",
  "above-shutoff": "the head is above shut-off",
  "below-first-flow": "the flow is below the first point of the curve",
  "below-last-head": "the head is below the end of the curve",
} as const;
