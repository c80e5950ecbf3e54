import { describe, expect, it } from "vitest";
import type { Verdict, VerdictCode } from "#core/check/verdict.ts";
import type { PathItem } from "#core/line/path.ts";
import type { AxisComparison, Comparison } from "#core/measurement/acceptance.ts";
import { verdictWords } from "./checks.ts";
import { comparisonWords, plusMinus } from "./comparison.ts";
import { findingSentence } from "./diagnostics.ts";
import { itemName } from "./items.ts";

const path: PathItem[] = [
  { kind: "pipe", id: "hose", stock: "suction-hose-2in", length: 6, rise: 2 },
  { kind: "pump", id: "pump", pump: "p" },
  { kind: "fitting", id: "bends", fitting: "elbow-90", count: 3, stock: "pvc-sch40-2in" },
  { kind: "rise", id: "drop", rise: -1.2 },
  {
    kind: "outlet",
    id: "gun",
    outlet: { type: "nozzle", bore: 0.012, dischargeCoefficient: 0.95 },
  },
];

function verdict(code: VerdictCode, over: Partial<Verdict>): Verdict {
  return {
    code,
    level: "stop",
    levelCase: "low",
    quantity: "head",
    value: 7.9,
    limit: 6.4,
    source: "s",
    ...over,
  };
}

describe("verdicts in words", () => {
  it("say what, how much, and what to do, in the reader's units", () => {
    const lift = verdict("suction-lift-pump", { itemId: "pump" });
    expect(verdictWords(lift, path, "metric")).toEqual({
      title: "Suction lift too high for the pump",
      sentence:
        "Suction lifts 7.90 m at low water, friction counted; at this altitude and water temperature the pump holds 6.40 m.",
      mend: "Lower the pump by 2.14 m, cut suction friction, or move to a submersible.",
    });
    expect(verdictWords(lift, path, "us").sentence).toContain("25.9 ft");
  });

  it("name the next size where one is stocked", () => {
    const fast = verdict("suction-velocity", {
      quantity: "velocity",
      value: 1.9,
      limit: 1.5,
      itemId: "hose",
      level: "watch",
    });
    expect(verdictWords(fast, path, "metric").mend).toBe("Lay it in 3 in.");
  });

  it("leave out the mending where all is well", () => {
    expect(
      verdictWords(verdict("npsh-margin", { level: "good" }), path, "us").mend,
    ).toBeUndefined();
  });

  it("never show a broken number, whatever the verdict", () => {
    const codes: VerdictCode[] = [
      "cannot-lift",
      "below-curve",
      "beyond-curve",
      "two-crossings",
      "siphons",
      "wanted-flow",
      "intake-uncovered",
      "pump-not-under-water",
      "suction-boils",
      "discharge-velocity-high",
      "discharge-velocity-low",
      "discharge-velocity",
      "check-valve-flutters",
      "pressure-rating",
      "pressure-rating-unknown",
      "operating-region",
      "hazen-williams-range",
      "schools-disagree",
      "surge",
      "hole-wastes",
      "submergence",
      "loses-prime",
      "drains-back",
      "traps-air",
      "discharge-under-suction",
      "pump-held-shut",
      "backflow-unguarded",
      "branch-runs-back",
      "outlets-uneven",
      "outlet-dry",
      "outlet-floods",
    ];
    for (const code of codes) {
      for (const quantity of ["flow", "head", "velocity", "pressure", "ratio"] as const) {
        const { title, sentence, mend } = verdictWords(verdict(code, { quantity }), path, "metric");
        expect(`${title}${sentence}${mend}`).not.toMatch(/NaN|undefined(?!$)|\[object/);
        expect(sentence).toMatch(/\.$/);
      }
    }
  });
});

it("items are called what a fitter calls them", () => {
  expect(path.map(({ id }) => itemName(path, id, "us"))).toEqual([
    "19.7 ft of 2 in suction hose",
    "Pump",
    "3 × Elbow 90°, 2 in",
    "Drop of 3.9 ft",
    "Nozzle or gun",
  ]);
  expect(itemName(path, "nobody", "us")).toBe("the line");
});

it("a finding says what to do about it", () => {
  expect(findingSentence({ code: "pump-not-chosen" })).toMatch(/Pick one/);
});

describe("comparisons in words", () => {
  const axis: AxisComparison = {
    kind: "compared",
    value: -0.094,
    standardUncertainty: 0.041,
    budget: [{ name: "discharge-gauge", share: 1 }],
    rated: 0.00342,
    allowed: -0.08,
    judgement: "cannot-tell",
  };
  const comparison: Comparison = {
    flow: { value: 0.0031, standardUncertainty: 0.000035 },
    head: { value: 16.8, standardUncertainty: 0.57, budget: [] },
    atHead: axis,
    atFlow: { kind: "off-curve", where: "beyond-last-flow", hopeless: false },
    judgement: "cannot-tell",
    gaugeMisplaced: false,
    improve: "discharge-gauge",
  };

  it("give the value as finely as its doubt", () => {
    expect(plusMinus(0.0031, 0.000035, "flow", "metric")).toBe("3.10 ± 0.07 L/s");
    expect(plusMinus(0.0031, 0.000035, "flow", "us")).toBe("49.1 ± 1.1 gpm");
  });

  it("say which instrument to improve, and what is not published", () => {
    const words = comparisonWords(comparison, "metric");
    expect(words.title).toBe("Cannot tell");
    expect(words.atHead).toBe(
      "At the measured head the curve gives 3.42 L/s; measured 9.4 % less, ± 8.2 %. 8 % less would still pass.",
    );
    expect(words.atFlow).toContain("past the end of the curve");
    expect(words.mend).toContain("discharge gauge");
    const { improve: _, ...nowhere } = comparison;
    expect(comparisonWords(nowhere, "us").mend).toContain("nothing is published");
  });
});
