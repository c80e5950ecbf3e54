import { evaluate } from "../numeric/monotoneCubic.ts";
import { pumpCurve } from "../pump/curve.ts";
import { headFactorUncertainty, type Pump, toleranceOf } from "../pump/pump.ts";
import {
  type Acceptance,
  COVERAGE,
  type Comparison,
  compareWithRated,
  flowAtHead,
} from "./acceptance.ts";
import { extraReadings, type Gain } from "./extraReading.ts";
import { type SameAs, sameAs } from "./extraResistance.ts";
import type { Estimate } from "./instruments.ts";
import { lostDuring } from "./lostWater.ts";
import { type FitResult, type Found, fitTest, lineUncertainty, type Test } from "./pumpOrLine.ts";
import { isGauged } from "./reading.ts";

/** What a test of a pump on its line says. */
export interface TestJudgement {
  /** each reading against the curve, by its number in the test; those that cannot be are absent */
  points: { reading: number; comparison: Comparison }[];
  /** all readings together, where there are several with a gauge */
  whole?: Whole;
  parting: Parting;
  outliers: Found["outliers"];
}

/** The pump by all its readings together. */
export interface Whole {
  acceptance: Acceptance;
  /** its heads over the published ones */
  headFactor: Estimate;
  /** of its speed over the speed it was taken to run at, where that says it as well */
  speed?: Estimate;
  /** by how much the readings scatter more than their instruments explain */
  scatter: number;
  budget: NonNullable<Found["budgets"]["pump"]>;
}

/** Pump or line: which of them is short. */
export type Parting =
  | {
      kind: "parted";
      pump: Estimate & { is: PumpIs };
      line: Estimate & { is: LineIs };
      correlation: number;
      /** m³/s at which the line was read; m it takes beyond what was worked out, and what that would be like */
      at: number;
      extra: Estimate;
      sameAs?: SameAs;
      /** what one reading more would make of the doubt in the one that is less sure */
      gains: Gain[];
    }
  /** the readings tell of the pump and of nothing past it */
  | { kind: "pump-only"; pump: Estimate & { is: PumpIs }; gains: Gain[] }
  /** a shortfall would be either's: the pump's if the line is as worked out, the line's if the pump is as published */
  | {
      kind: "either";
      pump: Estimate;
      line?: Estimate;
      at: number;
      extra?: Estimate;
      sameAs?: SameAs;
      gains: Gain[];
    }
  | { kind: "nothing" };

/** Against what its tolerance allows: weaker, as published, stronger, or too doubtful to say. */
export type PumpIs = "weak" | "sound" | "strong" | "unclear";
/** Against what is in doubt about it: takes more, as worked out, takes less, or too doubtful to say. */
export type LineIs = "tight" | "as-worked-out" | "free" | "unclear";

/**
 * Judges the readings of one pump together: each against the curve, all of them against it, and what is short.
 * @param shutAllowed whether the discharge may be shut for a further reading
 */
export function judgeTest(test: Test, shutAllowed: boolean): TestJudgement {
  const { on, pump, at, readings } = test;
  const points = readings.flatMap((reading, number) => {
    if (!isGauged(reading)) return [];
    const lost = lostDuring(on, reading, at);
    const comparison = compareWithRated(on.model, pump, reading, lost, at);
    return comparison ? [{ reading: number, comparison }] : [];
  });
  const pumpAlone = fitTest(test, ["pump"]);
  const whole = points.length > 1 ? wholeOf(test, points, pumpAlone) : undefined;
  return {
    points,
    ...(whole && { whole }),
    parting: partingOf(test, pumpAlone, shutAllowed),
    outliers: pumpAlone.kind === "found" ? pumpAlone.outliers : [],
  };
}

/**
 * The whole is decided by the one curve that fits all points: at every one of them it is held against the tolerance,
 * along either axis, as a point alone would be. More than the pump can make at every point cannot be.
 */
function wholeOf(all: Test, every: TestJudgement["points"], alone: FitResult): Whole | undefined {
  // A point that cannot be is no part of the whole, as long as others are left to make one.
  const possible = every.filter(({ comparison }) => comparison.acceptance !== "cannot-be");
  const some = possible.length > 0 && possible.length < every.length;
  const points = some ? possible : every;
  const left = new Set(every.filter((own) => !points.includes(own)).map(({ reading }) => reading));
  const test = some
    ? { ...all, readings: all.readings.filter((_, number) => !left.has(number)) }
    : all;
  const fit = some ? fitTest(test, ["pump"]) : alone;
  const strength = fit.kind === "found" ? fit.values.pump : undefined;
  if (fit.kind !== "found" || !strength) return undefined;
  const byGauges = (fit.budgets.pump ?? [])
    .filter(({ of }) => of === "discharge-gauge" || of === "suction-gauge")
    .reduce((sum, { share }) => sum + share, 0);
  const speed = fitTest(test, ["speed"]);
  const decisions = points.flatMap(
    ({ reading, comparison: { flow, acceptance } }): Acceptance[] => {
      if (acceptance === "cannot-be") return [acceptance];
      const speedRatio =
        all.readings[reading]?.speedRatio ?? test.on.line.pumps[test.at]?.item.speedRatio ?? 1;
      const decided = decidedAt(test.pump, speedRatio, flow.value, strength, byGauges);
      return decided ? [decided] : [];
    },
  );
  const says = (acceptance: Acceptance) => decisions.includes(acceptance);
  const beyond = points.every(({ comparison }) => comparison.acceptance === "beyond-curve");
  return {
    acceptance: says("cannot-be")
      ? "cannot-be"
      : says("falls-short")
        ? "falls-short"
        : decisions.length > 0 && decisions.every((own) => own === "meets")
          ? "meets"
          : beyond
            ? "beyond-curve"
            : "cannot-tell",
    headFactor: strength,
    ...(speed.kind === "found" && speed.values.speed && { speed: speed.values.speed }),
    scatter: fit.scatter,
    budget: fit.budgets.pump ?? [],
  };
}

/**
 * A pump of a strength against its tolerance at one flow; nothing where nothing is published. A gauge may be off by all
 * of its class, all through a visit: on less than that and the other doubts together no pump is called short.
 * @param byGauges part of the variance of its strength that gauges bring
 */
function decidedAt(
  pump: Pump,
  speedRatio: number,
  flow: number,
  headFactor: Estimate,
  byGauges: number,
): Acceptance | undefined {
  const curve = pumpCurve(pump, speedRatio);
  if (flow < curve.firstFlow || flow > curve.lastFlow) return undefined;
  const tolerance = toleranceOf(pump);
  const u = headFactor.standardUncertainty;
  const curveDoubt = (pump.curveDoubt ?? 0) / Math.sqrt(3);
  const expanded = COVERAGE * Math.hypot(u, curveDoubt);
  const accused =
    Math.sqrt(3 * byGauges) * u + COVERAGE * Math.hypot(Math.sqrt(1 - byGauges) * u, curveDoubt);
  const passes = (factor: number) => {
    if (factor - 1 >= -tolerance.head) return true;
    const rated = flowAtHead(curve, factor * evaluate(curve.head, flow));
    return typeof rated === "number" && flow / rated - 1 >= -tolerance.flow;
  };
  if (passes(headFactor.value - expanded)) return "meets";
  return passes(headFactor.value + accused) ? "cannot-tell" : "falls-short";
}

function partingOf(test: Test, pumpAlone: FitResult, shutAllowed: boolean): Parting {
  const { on, at } = test;
  const gauged = test.readings.some(({ discharge }) => discharge);
  const both = fitTest(test, ["pump", "line"]);
  if (both.kind === "found" && both.ofLine && both.values.pump && both.values.line) {
    const { pump, line } = both.values;
    const { flow, losses } = both.ofLine;
    const pumpIs = pumpStands(test.pump, pump);
    const lineIs = lineStands(line, lineUncertainty(test));
    const extra = {
      value: (line.value - 1) * losses,
      standardUncertainty: line.standardUncertainty * losses,
    };
    const like = lineIs === "tight" ? sameAs(on, at, flow, extra) : undefined;
    const unsure = pumpIs === "unclear" ? "pump" : "line";
    return {
      kind: "parted",
      pump: { ...pump, is: pumpIs },
      line: { ...line, is: lineIs },
      correlation: both.correlations[0]?.value ?? 0,
      at: flow,
      extra,
      ...(like && { sameAs: like }),
      gains:
        pumpIs === "unclear" || lineIs === "unclear"
          ? extraReadings(test, ["pump", "line"], unsure, shutAllowed)
          : [],
    };
  }
  const pump = pumpAlone.kind === "found" ? pumpAlone.values.pump : undefined;
  if (!pump || pumpAlone.kind !== "found") return { kind: "nothing" };
  if (gauged) {
    const is = pumpStands(test.pump, pump);
    const gains = is === "unclear" ? extraReadings(test, ["pump"], "pump", shutAllowed) : [];
    return { kind: "pump-only", pump: { ...pump, is }, gains };
  }
  const lineAlone = fitTest(test, ["line"]);
  const line = lineAlone.kind === "found" ? lineAlone.values.line : undefined;
  const where = pumpAlone.ofLine;
  const gains = extraReadings(test, ["pump", "line"], "pump", shutAllowed);
  const base = { kind: "either", pump, at: where?.flow ?? 0, gains } as const;
  if (!line || !where) return base;
  const extra = {
    value: (line.value - 1) * where.losses,
    standardUncertainty: line.standardUncertainty * where.losses,
  };
  const like = extra.value > 0 ? sameAs(on, at, where.flow, extra) : undefined;
  return { ...base, line, extra, ...(like && { sameAs: like }) };
}

function pumpStands(pump: Pump, { value, standardUncertainty }: Estimate): PumpIs {
  const expanded = COVERAGE * standardUncertainty;
  const { head } = headFactorUncertainty(pump);
  if (value + expanded < 1 - head) return "weak";
  if (value - expanded > 1 + head) return "strong";
  return value - expanded >= 1 - head ? "sound" : "unclear";
}

function lineStands({ value, standardUncertainty }: Estimate, doubt: number): LineIs {
  const expanded = COVERAGE * standardUncertainty;
  const [least, most] = [1 / (1 + doubt), 1 + doubt];
  if (value - expanded > most) return "tight";
  if (value + expanded < least) return "free";
  return value + expanded <= most ? "as-worked-out" : "unclear";
}
