import { COVERAGE } from "./acceptance.ts";
import {
  type Estimate,
  type FlowUncertaintyOf,
  flowUncertainties,
  HALF,
  LEAST_HABIT,
  rectangular,
} from "./instruments.ts";
import type { Reading } from "./reading.ts";

/** What two set-ups are held against each other by. */
export type Compared = "flow" | "pressure" | "throw";

/** A quantity of one set-up: its value, and its doubt as parts that repeat with the same instrument and that do not. */
interface Measured {
  value: number;
  /** what is the same at every reading with the same instrument */
  alike: number;
  own: number;
  instrument: string;
  /** the common error is a part of the value, or an amount of its unit */
  scales: boolean;
}

/** One set-up over the other. */
export interface SideBySide {
  of: Compared;
  first: Estimate;
  second: Estimate;
  /** second over first; what one instrument does alike to both cancels */
  ratio: Estimate;
  /** the two differ by more than the readings may be off */
  differs: boolean;
}

/**
 * Two set-ups measured at one place, by everything both were read for. Of several readings the mean is taken, which
 * does not make what repeats any smaller. Readings with the valve throttled or shut tell nothing here.
 */
export function sideBySide(first: readonly Reading[], second: readonly Reading[]): SideBySide[] {
  return (["flow", "pressure", "throw"] as const).flatMap((of): SideBySide[] => {
    const [a, b] = [meanOf(first, of), meanOf(second, of)];
    if (!a || !b || a.value === 0 || b.value === 0) return [];
    const value = b.value / a.value;
    const same = a.instrument === b.instrument;
    const own = Math.hypot(a.own / a.value, b.own / b.value);
    // One error common to both moves a ratio by what it does to one less what it does to the other.
    const alike = !same
      ? Math.hypot(a.alike / a.value, b.alike / b.value)
      : a.scales
        ? 0
        : Math.abs(a.alike * (1 / a.value - 1 / b.value));
    const standardUncertainty = Math.abs(value) * Math.hypot(own, alike);
    const estimate = ({ value: mean, own: u, alike: common }: Measured): Estimate => ({
      value: mean,
      standardUncertainty: Math.hypot(u, common),
    });
    return [
      {
        of,
        first: estimate(a),
        second: estimate(b),
        ratio: { value, standardUncertainty },
        differs: Math.abs(value - 1) > COVERAGE * standardUncertainty,
      },
    ];
  });
}

function meanOf(readings: readonly Reading[], of: Compared): Measured | undefined {
  const all = readings
    .filter(({ throttled, flow }) => !throttled && flow.method !== "shut")
    .flatMap((reading) => measured(reading, of) ?? []);
  const [first] = all;
  if (!first) return undefined;
  const n = all.length;
  const mean = (pick: (one: Measured) => number) =>
    all.reduce((sum, one) => sum + pick(one), 0) / n;
  const instruments = new Set(all.map(({ instrument }) => instrument));
  return {
    value: mean(({ value }) => value),
    alike: mean(({ alike }) => alike),
    own: Math.sqrt(all.reduce((sum, { own }) => sum + own ** 2, 0)) / n,
    // Taken with several, nothing is sure to repeat.
    instrument: instruments.size === 1 ? first.instrument : [...instruments].join(" and "),
    scales: first.scales,
  };
}

function measured(reading: Reading, of: Compared): Measured | undefined {
  const { flow, discharge, throwDistance, throwTolerance = USUAL_THROW } = reading;
  switch (of) {
    case "flow": {
      const { value, doubts } = flowUncertainties(flow);
      // Held against each other, what is not sure to repeat is taken to differ: a hand's habit, a needle.
      const repeats = ({ of, common = HALF }: FlowUncertaintyOf) =>
        of === "timing" ? Math.min(common, LEAST_HABIT) : common;
      const part = (share: (common: number) => number) =>
        Math.sqrt(
          doubts.reduce((sum, own) => sum + share(repeats(own)) * own.standardUncertainty ** 2, 0),
        );
      const size =
        "volume" in flow ? `${flow.volume}` : "tolerance" in flow ? `${flow.tolerance}` : "";
      return {
        value,
        alike: part((common) => common),
        own: part((common) => 1 - common),
        instrument: `${flow.method} ${size}`,
        scales: true,
      };
    }
    case "pressure": {
      if (!discharge) return undefined;
      const { pressure, fullScale, accuracyClass, elevation, afterItemId } = discharge;
      const u = rectangular(fullScale * accuracyClass);
      return {
        value: pressure,
        alike: Math.sqrt(HALF) * u,
        own: Math.sqrt(1 - HALF) * u,
        instrument: `${fullScale} ${accuracyClass} ${elevation} ${afterItemId}`,
        scales: false,
      };
    }
    case "throw": {
      if (throwDistance === undefined) return undefined;
      const u = throwDistance * rectangular(throwTolerance);
      return {
        value: throwDistance,
        alike: Math.sqrt(HALF) * u,
        own: Math.sqrt(1 - HALF) * u,
        instrument: "throw",
        scales: true,
      };
    }
  }
}

/** Half-width of a paced or taped throw, as a part: the edge of the wet ring is not sharp. Common practice, no source. */
const USUAL_THROW = 0.05;
