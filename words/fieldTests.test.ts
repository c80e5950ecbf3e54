import { describe, expect, it } from "vitest";
import type { Estimate } from "#core/measurement/instruments.ts";
import type { LineIs, Parting, PumpIs, Whole } from "#core/measurement/judgeTest.ts";
import type { FlowMeasurement } from "#core/measurement/reading.ts";
import type { Throttling } from "#core/measurement/sweep.ts";
import type { Crossing } from "#core/measurement/trend.ts";
import { pumpOf, set } from "#core/test/fixtures.ts";
import {
  crossingWords,
  doubtfulPercent,
  electricWords,
  levelWords,
  nextPointWords,
  parted,
  partingWords,
  shrinkWords,
  wholeWords,
} from "./fieldTests.ts";

const estimate = (value: number, standardUncertainty = 0.01): Estimate => ({
  value,
  standardUncertainty,
});
const path = [set("p")] as Parameters<typeof partingWords>[1];

describe("pump or line in words", () => {
  const told = (
    pump: PumpIs,
    line: LineIs,
    over: Partial<Extract<Parting, { kind: "parted" }>> = {},
  ) =>
    partingWords(
      {
        kind: "parted",
        pump: { ...estimate(0.9), is: pump },
        line: { ...estimate(1.5, 0.05), is: line },
        ...{ correlation: 0, at: 0.003, extra: estimate(2, 0.2), gains: [], ...over },
      },
      path,
      true,
      "metric",
    );

  it.each([
    ["weak", "as-worked-out", /pump is short, not the line/],
    ["sound", "tight", /line is short, not the pump/],
    ["weak", "tight", /both short/],
    ["sound", "as-worked-out", /Neither pump nor line is short/],
    ["unclear", "unclear", /Neither can be told yet/],
  ] as const)("a pump that is %s on a line that is %s", (pump, line, title) => {
    expect(told(pump, line)?.title).toMatch(title);
  });

  it("never says of a sound line that it takes more, nor sends anyone to look for a shut valve in it", () => {
    const fine = told("weak", "as-worked-out")?.sentences.join(" ");
    expect(fine).not.toMatch(/more|kink|valve not fully open/);
    expect(told("sound", "tight")?.sentences.join(" ")).toMatch(/2\.00 ± 0\.40 m more/);
    expect(told("sound", "free", { extra: estimate(-2, 0.2) })?.sentences.join(" ")).toMatch(
      /2\.00 ± 0\.40 m less/,
    );
  });

  it("names one reading more only where it is worth the walk, and shutting only where that is allowed", () => {
    const gains = [
      { extra: "shut", after: 0.002 },
      { extra: "throttled", after: 0.004 },
    ] as const;
    expect(told("unclear", "unclear", { gains: [...gains] })?.next).toContain("valve shut");
    const kept = partingWords(
      {
        kind: "pump-only",
        pump: { ...estimate(0.97, 0.02), is: "unclear" },
        gains: [...gains],
      },
      path,
      false,
      "metric",
    );
    expect(kept?.next).toContain("half shut");
    const little = told("unclear", "unclear", { gains: [{ extra: "level", after: 0.0095 }] });
    expect(little?.next).toBeUndefined();
  });

  it("says of a flow alone that it is either's", () => {
    const either = partingWords(
      {
        ...{ kind: "either", pump: estimate(0.8), line: estimate(1.6), at: 0.003 },
        ...{ extra: estimate(2), gains: [{ extra: "gauge-at-pump", after: 0.002 }] },
      },
      path,
      true,
      "metric",
    );
    expect(either?.title).toContain("cannot part them");
    expect(either?.sentences[0]).toMatch(/^If the line is as worked out/);
    expect(either?.next).toContain("One gauge at the pump’s port");
  });
});

describe("the whole in words", () => {
  const pump = pumpOf("one", 30, 0.006);
  const whole = (over: Partial<Whole> = {}): Whole => ({
    ...{ acceptance: "falls-short", headFactor: estimate(0.9), scatter: 1, budget: [] },
    speed: estimate(0.95),
    ...over,
  });
  const said = (own: Whole, of = pump) => wholeWords(own, 4, of, "metric").sentences.join(" ");

  it("speaks of a lower speed only where heads are short beyond doubt", () => {
    expect(said(whole())).toContain("2755 rpm");
    expect(said(whole({ headFactor: estimate(0.99) }))).not.toContain("rpm");
  });

  it("says by what it is held: the grade, what was agreed, or that no grade applies", () => {
    expect(said(whole())).toContain("ISO 9906");
    const agreed = { ...pump, limits: { flow: 0.1, head: 0.08 } };
    expect(said(whole(), agreed)).toMatch(/Agreed: 10\.0 % of flow or 8\.0 % of head/);
    const small = { ...pump, points: pump.points.map((point) => ({ ...point, power: 400 })) };
    expect(said(whole(), small)).toContain("Under 1 kW no ISO grade applies");
  });

  it("owns up to readings that scatter more than their instruments explain", () => {
    expect(said(whole())).not.toContain("scatter");
    expect(said(whole({ scatter: 2.3 }))).toContain("2.3 times");
  });
});

describe("the next point in words", () => {
  const open = { kind: "to-shut" } as const;
  it.each([
    [{ kind: "open" }, /First with the valve open/],
    [{ kind: "throttle", flow: 0.002, head: 20 }, /gauge shows about 180 kPa/],
    [{ kind: "shut", head: 23 }, /Last with the valve shut/],
    [{ kind: "done" }, /sweep is complete/],
  ] as const)("%o", (next, title) => {
    expect(nextPointWords(next, open, path, 180_000, "metric").title).toMatch(title);
  });

  it("warns where shutting could hurt, and only says so much where it may be done", () => {
    const shut = nextPointWords({ kind: "shut", head: 23 }, open, path, undefined, "metric");
    expect(shut.caution).toMatch(/scald/);
    const throttle = { kind: "throttle", flow: 0.002, head: 20 } as const;
    expect(nextPointWords(throttle, open, path, undefined, "metric").caution).toBeUndefined();
    const limit: Throttling = {
      kind: "down-to",
      flow: 0.001,
      atPort: 300_000,
      itemId: "p",
      pressure: 500_000,
      rating: 300_000,
    };
    const limited = nextPointWords(throttle, limit, path, undefined, "metric");
    expect(limited.caution).toMatch(/Never past 300 kPa at the pump’s port.*would feel 500 kPa/);
    const never = nextPointWords({ kind: "done" }, { kind: "never" }, path, undefined, "metric");
    expect(never.title).toBe("No sweep for this pump");
    expect(never.caution).toMatch(/must not be throttled/);
  });
});

describe("the supply in words", () => {
  const at = (ofPlate: number, over = {}) =>
    electricWords({ current: estimate(5), ofPlate, ...over }, undefined, "metric").join(" ");
  it("flips at the plate, with a licensed electrician where it is over", () => {
    expect(at(1.01)).toContain("101 % of its plate");
    expect(at(1.03)).toMatch(/3 % over its plate.*licensed electrician/);
    expect(at(0.9, { unbalance: 0.04 })).not.toContain("phase");
    expect(at(0.9, { unbalance: 0.06 })).toMatch(/One phase is 6 % off/);
    expect(at(0.9, { voltsOff: -0.09 })).not.toContain("voltage");
    expect(at(0.9, { voltsOff: -0.11 })).toMatch(/11 % under/);
  });
  it("holds the power against what is published, as far as the instruments can tell", () => {
    const power = { ...estimate(1000, 20), from: "meter" } as const;
    const published = (watts: number) =>
      electricWords({ power }, undefined, "metric", watts).join(" ");
    expect(published(1030)).toContain("no difference");
    expect(published(800)).toContain("it takes 25 % more");
    expect(published(1250)).toContain("it takes 20 % less");
  });
  it("owns up to a power factor that nobody measured", () => {
    const power = { ...estimate(900, 50), from: "usual-power-factor" } as const;
    expect(electricWords({ power }, estimate(0.5, 0.03), "metric")[0]).toMatch(
      /usual power factor.*50\.0 ± 6\.0 %/,
    );
  });
});

it("a level is above or below, never minus so much below", () => {
  expect(levelWords(estimate(-1.2, 0.1), "metric")).toContain("1.20 ± 0.20 m below");
  expect(levelWords(estimate(0.4, 0.1), "metric")).toContain("0.40 ± 0.20 m above");
  // Within the doubt it is not told as a height, but by where it may stand.
  expect(levelWords(estimate(0.1, 0.1), "metric")).toMatch(
    /between 0\.1\d* m below and 0\.3\d* m above the job’s usual level/,
  );
});

it("a part is as fine as its doubt", () => {
  expect(doubtfulPercent(estimate(0.9317, 0.0055))).toBe("93.2 ± 1.1 %");
  expect(doubtfulPercent(estimate(0.93, 0.06))).toBe("93 ± 12 %");
});

describe("what would shrink the doubt", () => {
  const flow: FlowMeasurement = {
    method: "bucket",
    volume: 0.02,
    volumeTolerance: 0.01,
    times: [6],
    timingTolerance: 0.3,
  };
  it("takes the flow apart, and names what the firm owns only where that is better", () => {
    const budget = parted(
      [
        { name: "flow", share: 0.9 },
        { name: "discharge-gauge", share: 0.1 },
      ],
      flow,
    );
    expect(budget[0]?.of).toBe("timing");
    const own = (volume: number) => [
      { id: "d", name: "Blue drum", kind: "bucket" as const, volume, tolerance: 0.01 },
    ];
    expect(shrinkWords(budget, { flow: flow }, own(0.12))).toMatch(
      /The timing is \d+ % of the doubt: use “Blue drum”/,
    );
    expect(shrinkWords(budget, { flow: flow }, own(0.01))).toMatch(/larger bucket/);
    expect(shrinkWords([{ of: "timing", share: 0.2 }], { flow: flow }, [])).toBeUndefined();
  });
  it("names no gauge that ends under what the pump makes shut off", () => {
    const doubt = [{ of: "discharge-gauge" as const, share: 0.9 }];
    const own = (fullScale: number) => [
      { id: "g", name: "Small dial", kind: "gauge" as const, fullScale, tolerance: 0.01 },
    ];
    const said = (fullScale: number, strongest?: number) =>
      shrinkWords(
        doubt,
        { flow, discharge: { fullScale: 2e6, accuracyClass: 0.016 } },
        own(fullScale),
        strongest === undefined ? {} : { gauge: { most: 1.4e6, strongest, published: true } },
      );
    expect(said(1.6e6, 1.5e6)).toMatch(/use “Small dial”/);
    expect(said(1.4e6, 1.5e6)).toMatch(/finer class, still reading over what the pump makes/);
    // Nobody knows what it makes: no smaller dial is named.
    expect(said(1.6e6)).not.toMatch(/Small dial/);
  });
  it("names no bucket that fills too fast, and no meter past its range", () => {
    const timing = [{ of: "timing" as const, share: 0.9 }];
    const fast: FlowMeasurement = { ...flow, times: [1.6] };
    const drum = (volume: number) => [
      { id: "d", name: "Drum", kind: "bucket" as const, volume, tolerance: 0.01 },
    ];
    // 12.5 L/s fill 0.1 m³ in 8 s, and 0.2 m³ in 16.
    expect(shrinkWords(timing, { flow: fast }, drum(0.1))).not.toMatch(/Drum/);
    expect(shrinkWords(timing, { flow: fast }, drum(0.2))).toMatch(/use “Drum”/);
    const meter: FlowMeasurement = { method: "meter", flow: 0.01, tolerance: 0.05 };
    const made = (greatestFlow: number) => [
      { id: "m", name: "Meter", kind: "flow-meter" as const, greatestFlow, tolerance: 0.01 },
    ];
    const said = (most: number) =>
      shrinkWords([{ of: "meter", share: 0.9 }], { flow: meter }, made(most));
    expect(said(0.02)).toMatch(/use “Meter”/);
    expect(said(0.009)).not.toMatch(/use “Meter”/);
  });
});

describe("where it is going", () => {
  const day = (text: string) => Date.parse(text) / 86_400_000;
  const trend = (crossing: Crossing, slope = -3e-5) => ({
    slope: estimate(slope, 5e-6),
    crossing,
  });
  it.each([
    [{ kind: "not-falling" }, /does not fall by more/],
    [{ kind: "below" }, /below 95 % already, and falls/],
    [{ kind: "too-far", on: day("2050-01-01") }, /further off than these visits can say/],
    [
      {
        kind: "crosses",
        on: day("2028-06-01"),
        earliest: day("2027-09-01"),
        latest: day("2030-02-01"),
      },
      /about 2028-06: not before 2027-09, by 2030-02 at the latest/,
    ],
    [
      { kind: "crosses", on: day("2028-06-01"), earliest: day("2027-09-01") },
      /how late cannot be said/,
    ],
  ] as const)("%o", (crossing, words) => {
    expect(crossingWords(4, 0.95, trend(crossing))).toMatch(words);
  });
  it("does not say that it falls where it rises, and needs three visits", () => {
    expect(crossingWords(4, 0.95, trend({ kind: "below" }, 2e-5))).toContain("and rises");
    expect(crossingWords(4, 0.95, trend({ kind: "not-falling" }, 2e-5))).toMatch(/^It rises by/);
    expect(crossingWords(4, 0.95, trend({ kind: "below" }, -5e-6))).toContain("cannot say");
    expect(crossingWords(2, 0.95, undefined)).toMatch(/^2 visits tell.*From three on/);
    expect(crossingWords(0, 0.95, undefined)).toContain("a gauge is needed");
  });
});
