import { describe, expect, it } from "vitest";
import { format, formatUncertain } from "#contract/units/format.ts";
import type { CheckCode, Judgement } from "#core/check/registry.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import type { Line, PathItem } from "#core/line/path.ts";
import type { AxisComparison, Comparison } from "#core/measurement/acceptance.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { GALLON } from "#core/quantity/constants.ts";
import { WEIGHINGS } from "#core/selection/weights.ts";
import { checkWords } from "./checks.ts";
import { comparisonWords } from "./comparison.ts";
import { diagnosticSentence } from "./diagnostics.ts";
import { findingWords } from "./findings.ts";
import { itemName } from "./items.ts";
import { ledgerName } from "./ledger.ts";
import { type Reasoned, reasonOf } from "./selection.ts";
import { amountOf, clockOf, formatDuration, inBuckets } from "./simulation.ts";

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

function judgement<C extends CheckCode>(
  code: C,
  over: Omit<Extract<Judgement, { code: C }>, "code" | "at" | "source" | "severity"> &
    Partial<Pick<Judgement, "severity">>,
): Judgement {
  return { severity: "stop", at: "low", source: "s", ...over, code } as Judgement;
}

/** A line with nothing on it, where no item is named. */
const NOWHERE = { path: [], source: { kind: "open" } };

describe("judgements in words", () => {
  it("say what, how much, and what to do, in the reader's units", () => {
    const lift = judgement("suction-lift-pump", {
      itemId: "pump",
      quantity: "head",
      value: 7.9,
      limit: 6.4,
      facts: { staticLift: 7, friction: 0.9 },
    });
    expect(checkWords(lift, { path, source: { kind: "open" } }, "metric")).toEqual({
      title: "Suction lift too high for the pump",
      sentence:
        "Suction lifts 7.90 m at low water, friction counted; at this altitude and water temperature the pump holds 6.40 m.",
      advice: "Lower the pump by 2.14 m, cut suction friction, or move to a submersible.",
    });
    expect(checkWords(lift, { path, source: { kind: "open" } }, "us").sentence).toContain(
      "25.9 ft",
    );
  });

  it("name the next size where one is stocked", () => {
    const fast = judgement("suction-velocity", {
      quantity: "velocity",
      value: 1.9,
      limit: 1.5,
      itemId: "hose",
      severity: "watch",
      facts: { larger: { id: "suction-hose-3in" } },
    });
    expect(checkWords(fast, { path, source: { kind: "open" } }, "metric").advice).toBe(
      "Lay it in 3 in.",
    );
  });

  it("leave out the mending where all is well", () => {
    const good = judgement("npsh-margin", {
      quantity: "head",
      value: 7,
      limit: 3,
      severity: "good",
      facts: {},
    });
    expect(checkWords(good, { path, source: { kind: "open" } }, "us").advice).toBeUndefined();
  });

  it("say what falls short when it is friction and not height", () => {
    const facts = { staticHead: 21.4, bestHead: 22, short: "friction" } as const;
    const short = judgement("cannot-lift", {
      ...{ quantity: "head", value: 1.17, facts, itemId: "pump" },
    });
    const { sentence } = checkWords(short, { path, source: { kind: "open" } }, "metric");
    expect(sentence).toContain("lift and friction");
    expect(sentence).toContain("1.17 m short");
    const high = judgement("cannot-lift", {
      itemId: "pump",
      quantity: "head",
      value: 4.35,
      facts: { staticHead: 26.35, bestHead: 22, short: "static-head" },
    });
    expect(checkWords(high, { path, source: { kind: "open" } }, "metric").advice).toContain(
      "4.35 m short",
    );
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

it("every entry of the ledger has a name of its own", () => {
  const line: Line = {
    source: {
      kind: "well",
      level: { low: -9, normal: -8, high: -7 },
      intake: -20,
      drawdown: { linear: 300, quadratic: 0 },
    },
    path: [
      { kind: "pump", id: "p", pump: "deep" },
      { kind: "pipe", id: "d", stock: "pe100-sdr11-40mm", length: 20, rise: 20 },
      {
        kind: "split",
        id: "s",
        branches: [
          [
            { kind: "pipe", id: "a", stock: "pe100-sdr11-32mm", length: 5, rise: 0 },
            { kind: "outlet", id: "x", outlet: { type: "free" } },
          ],
          [
            { kind: "pipe", id: "b", stock: "pe100-sdr11-32mm", length: 9, rise: 0 },
            { kind: "outlet", id: "y", outlet: { type: "pressure", pressure: 5e4 } },
          ],
        ],
      },
    ],
    site: { altitude: 0, waterTemperature: 285, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
  };
  const points = [0, 1, 2, 3].map((q) => ({ flow: q / 1000, head: 50 - 4 * q * q }));
  const plate = { drive: "electric", submersible: true, tolerance: "2B" } as const;
  const result = solveLine(line, [{ id: "deep", points, ratedSpeedRpm: 2900, ...plate }]);
  if (result.kind !== "solved") throw new Error("refused");
  const { ledger = [] } = result.solution.cases.normal.running ?? {};
  const names = ledger.map((entry) => ledgerName(entry, line, "metric"));
  expect(names).toContain("Drawdown of the well");
  expect(names).toContain("Lift from water to outlet 2");
  expect(names).toContain("Pressure kept at the outlet 2");
  expect(names).not.toContain("the line");
  expect(new Set(names).size).toBe(names.length);
});

it("a diagnostic says what to do about it", () => {
  expect(diagnosticSentence({ code: "pump-not-chosen" })).toMatch(/Pick one/);
});

describe("comparisons in words", () => {
  const axis: AxisComparison = {
    kind: "compared",
    value: -0.094,
    standardUncertainty: 0.041,
    budget: [{ name: "discharge-gauge", share: 1 }],
    effects: {},
    rated: 0.00342,
    allowed: -0.08,
    acceptance: "cannot-tell",
  };
  const comparison: Comparison = {
    flow: { value: 0.0031, standardUncertainty: 0.000035 },
    head: { value: 16.8, standardUncertainty: 0.57, budget: [], effects: {} },
    correlation: 0,
    atHead: axis,
    atFlow: { kind: "off-curve", where: "beyond-last-flow", hopeless: false },
    acceptance: "cannot-tell",
    improve: "discharge-gauge",
  };

  it("give the value as finely as its doubt", () => {
    expect(formatUncertain(0.0031, 0.00007, "flow", "metric")).toBe("3.100 ± 0.070 L/s");
    expect(formatUncertain(0.0031, 0.00007, "flow", "us")).toBe("49.1 ± 1.1 gpm");
    // A litre a minute typed as 1.65 gpm, known to a hundredth: never "± 0.0".
    expect(formatUncertain(1.65 * 6.30901964e-5, 0.02 * 6.30901964e-5, "flow", "us")).toBe(
      "1.650 ± 0.020 gpm",
    );
  });

  it("tell no doubt wider than its number: what may be none is at most so much", () => {
    expect(formatUncertain(0.4, 0.5, "head", "metric")).toBe("at most 0.90 m");
    expect(formatUncertain(0, 0.5, "head", "metric")).toBe("at most 0.50 m");
    expect(formatUncertain(0.51, 0.5, "head", "metric")).toBe("0.51 ± 0.50 m");
    // What lies under nothing, such as suction, has no most that says anything.
    expect(formatUncertain(-0.4, 0.5, "head", "metric")).toBe("−0.40 ± 0.50 m");
  });

  it("hold a reading against the curve by where it may lie where that says more than the difference", () => {
    const { atHead } = comparison;
    if (atHead.kind === "off-curve") throw new Error("fixture lies on its curve");
    const said = (value: number, standardUncertainty = 0.02) =>
      comparisonWords(
        { ...comparison, atHead: { ...atHead, value, standardUncertainty } },
        "metric",
      ).atHead;
    const of2 = COVERAGE * 0.02;
    expect(said(-of2 * 0.9)).toContain("measured between 7.6 % less and 0.4 % more.");
    expect(said(of2 * 0.5)).toContain("measured between 2.0 % less and 6.0 % more.");
    expect(said(-of2 * 1.1)).toContain("measured 4.4 % less, ± 4.0 %.");
    expect(said(of2 * 1.1)).toContain("measured 4.4 % more, ± 4.0 %.");
  });

  it("say which instrument to improve, and what is not published", () => {
    const words = comparisonWords(comparison, "metric");
    expect(words.title).toBe("Cannot tell");
    expect(words.atHead).toBe(
      "At the measured head the curve gives 3.42 L/s; measured 9.4 % less, ± 8.2 %. 8 % less would still pass.",
    );
    expect(words.atFlow).toContain("past the end of the curve");
    expect(words.advice).toContain("discharge gauge");
    const { improve: _, ...nowhere } = comparison;
    expect(comparisonWords(nowhere, "us").advice).toContain("nothing is published");
  });
});

describe("water over time in words", () => {
  it("a flow in drums and buckets a minute", () => {
    const drum = (55 * GALLON) / 60;
    expect(inBuckets(drum, "us")).toBe("1.0 drums (55 gal) or 11 buckets (5 gal) a minute");
    expect(inBuckets(0.001, "metric")).toBe("0.3 drums (200 L) or 6.0 buckets (10 L) a minute");
    expect(inBuckets(drum / 200, "us")).toContain("0.005 drums");
  });

  it("times as a watch shows them, days only once there are two", () => {
    expect([65, 3725, 172_799, 180_000].map(clockOf)).toEqual([
      "1:05",
      "1:02:05",
      "47:59:59",
      "2 d 2:00",
    ]);
    expect([59, 119, 120, 260, 599, 600, 7200].map(formatDuration)).toEqual([
      ...["59 s", "119 s", "2 min", "4 min 20 s", "9 min 59 s", "10 min", "2 h 0 min"],
    ]);
  });

  it("volumes in litres while they are few, and kilowatt-hours to what is known", () => {
    expect(amountOf(9.4, "metric")).toBe("9400 L");
    expect(amountOf(17.9, "metric")).toBe("17.9 m³");
    expect(amountOf(17.9, "us")).toMatch(/gal$/);
    expect([3.6e5, 3.6e6 * 8.144, 3.6e6 * 812.6].map((j) => format(j, "energy", "us"))).toEqual([
      "0.10 kWh",
      "8.14 kWh",
      "813 kWh",
    ]);
  });

  it("what a wet floor needs is told by what comes in: more pump, or a float that calls for it", () => {
    const wet = {
      ...({ code: "floor-wet", context: "run", severity: "stop", source: "" } as const),
      ...{ at: 60, lasts: 30, spilled: 0.02 },
    };
    const said = (inflow: number) =>
      findingWords({ ...wet, inflow, survives: 0.004 }, { system: "metric" });
    expect(said(0.005).advice).toContain("hold 5.00 L/s at the rim, where these hold 4.00 L/s");
    expect(said(0.003).advice).toContain("could hold it");
  });
});

describe("why a pump is not the best", () => {
  const parts = (over: object) => ({
    ...{ flow: 1, efficiency: 1, energy: 1, weight: 1, price: 1, van: 0, spares: 0.5 },
    ...over,
  });
  const weights = WEIGHINGS.balanced;
  const best: Reasoned = {
    ...{ kind: "one" as const, looked: true, flow: 0.003, work: 3e5, price: 300, mass: 12 },
    fit: { kind: "ranked", score: 0.9, parts: parts({}) },
  };
  const behind = (over: Partial<Reasoned>, merits: object, units: "us" | "metric" = "metric") =>
    reasonOf(
      { ...best, ...over, fit: { kind: "ranked", score: 0.5, parts: parts(merits) } },
      best,
      weights,
      NOWHERE,
      units,
    );

  it("names what it is furthest behind in, by the weights, and by how much", () => {
    expect(behind({ work: 3.9e5 }, { energy: 0.77 })).toBe(
      "takes 30 % more energy for the same water",
    );
    expect(behind({ price: 385 }, { price: 0.78 })).toBe("dearer by 85");
    expect(behind({ mass: 20 }, { weight: 0.6 }, "us")).toBe("heavier by 18 lb");
    expect(behind({ flow: 0.0045 }, { flow: 0.4 })).toContain("4.50 L/s: more than is wanted");
    // A little behind in what counts much is said before much in what counts little.
    expect(behind({ price: 700, mass: 13 }, { price: 0.43, weight: 0.92 })).toBe("dearer by 400");
    expect(
      reasonOf(
        (({ price: _, ...rest }) => ({
          ...rest,
          fit: { kind: "ranked" as const, score: 0.5, parts: parts({ price: 0.5 }) },
        }))(best),
        best,
        weights,
        NOWHERE,
        "metric",
      ),
    ).toBe("its price is not known");
    expect(behind({}, {})).toBe("as good as the best");
  });

  it("says what stands against it where something does, and nothing of the best itself", () => {
    const of = (fit: object) =>
      reasonOf({ ...best, fit } as never, best, weights, NOWHERE, "metric");
    expect(of({ kind: "too-weak", short: 1.9 })).toBe("too weak by 1.90 m");
    expect(of({ kind: "too-weak" })).toBe("too weak");
    expect(of({ kind: "too-strong" })).toContain("past its published curve");
    expect(behind({}, { flow: 0 })).toBe(
      "moves more than twice what is wanted: throttle it, or let it start and stop, or take a smaller one",
    );
    expect(reasonOf(best, best, weights, NOWHERE, "metric")).toBeUndefined();
  });
});
