import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lineModel } from "../hydraulics/solveLine.ts";
import { compileLine } from "../line/compileLine.ts";
import { everyItem, type PathItem } from "../line/path.ts";
import { BAR } from "../quantity/constants.ts";
import { gun, lineOf, one, pipe, pumpOf, running, set, solved, split } from "../test/fixtures.ts";
import {
  type Calibration,
  calibration,
  coefficientOfChart,
  expectedThrow,
  type Gun,
  TEXTBOOK_UNCERTAINTY,
  textbookThrow,
  throwAt,
} from "./gun.ts";
import { GUNS } from "./guns.ts";
import { gunsAtWork, gunsOf, withGuns, withOneGun, withSecondGun } from "./gunsOnLine.ts";
import {
  halvingOf,
  headFactorFrom,
  headFactorTogether,
  nozzleArea,
  pressureFromThrow,
} from "./infer.ts";

const plain: Gun = { bore: 0.014, dischargeCoefficient: 0.95 };
const windowed: Gun = { ...plain, leastPressure: 2.5 * BAR, greatestPressure: 6 * BAR };
const charted: Gun = {
  ...windowed,
  chart: [
    { pressure: 3 * BAR, flow: 3.4e-3, radius: 21 },
    { pressure: 4 * BAR, flow: 3.93e-3, radius: 23.5 },
    { pressure: 5 * BAR, flow: 4.4e-3, radius: 25 },
  ],
};

describe("throw", () => {
  it("is 1.35 √(d h) until it is measured, within 45 %", () => {
    expect(textbookThrow(0.014, 30)).toBeCloseTo(27.67, 2);
    const found = throwAt(windowed, 3 * BAR);
    if (found.kind !== "throws") throw new Error(found.kind);
    expect([found.low, found.high].map((r) => r / found.radius)).toEqual([
      expect.closeTo(0.55, 12),
      expect.closeTo(1.45, 12),
    ]);
    expect(found.by).toBe("textbook");
  });

  it("is a chart's rows, straight over √p between them, √p beyond them", () => {
    for (const { pressure, radius } of charted.chart ?? []) {
      expect(expectedThrow(charted, pressure)).toBeCloseTo(radius, 9);
    }
    expect(expectedThrow(charted, 6 * BAR)).toBeCloseTo(25 * Math.sqrt(6 / 5), 9);
    fc.assert(
      fc.property(fc.double({ min: 1, max: 8e5, noNaN: true }), (p) => {
        expect(expectedThrow(charted, p + 100)).toBeGreaterThan(expectedThrow(charted, p));
      }),
    );
    // The chart's flows say what coefficient its bore has.
    expect(coefficientOfChart({ ...charted, bore: 0.0135 })).toBeCloseTo(0.969, 2);
  });

  it("is none outside the window: a ring below, mist above, and both limits are inside", () => {
    expect(throwAt(windowed, 2.5 * BAR - 1)).toEqual({ kind: "ring", limit: 2.5 * BAR });
    expect(throwAt(windowed, 2.5 * BAR).kind).toBe("throws");
    expect(throwAt(windowed, 6 * BAR).kind).toBe("throws");
    expect(throwAt(windowed, 6 * BAR + 1)).toEqual({ kind: "mist", limit: 6 * BAR });
    expect(throwAt(plain, 3 * BAR)).toMatchObject({ kind: "throws", windowKnown: false });
  });

  it("is measured once and carried by √p; what was measured outside the window is left out", () => {
    const inside = { pressure: 3 * BAR, radius: 20, by: "tape" } as const;
    const outside = { pressure: 1 * BAR, radius: 20, by: "tape" } as const;
    const found = calibration(windowed, [inside, outside]) as Calibration;
    expect(found.leftOut).toEqual([outside]);
    const at = (p: number) => {
      const thrown = throwAt(windowed, p, found);
      return thrown.kind === "throws" ? thrown : undefined;
    };
    expect(at(3 * BAR)?.radius).toBeCloseTo(20, 9);
    expect(at(5 * BAR)?.radius).toBeCloseTo(20 * Math.sqrt(5 / 3), 9);
    expect((at(3 * BAR)?.high ?? 0) - 20).toBeCloseTo(20 * 0.06, 9);
    expect(calibration(windowed, [outside])).toBeUndefined();
    // Throws that do not agree leave more doubt than one alone.
    const scattered = calibration(windowed, [inside, { ...inside, radius: 26 }]) as Calibration;
    expect(scattered.standardUncertainty).toBeGreaterThan(found.standardUncertainty);
  });
});

describe("guns on a line", () => {
  const engine = pumpOf("engine", 60, 0.014);
  const big = (id: string): PathItem => ({
    ...{ kind: "outlet", id },
    outlet: {
      type: "nozzle",
      ...windowed,
      bore: 0.016,
      leastPressure: 1 * BAR,
      greatestPressure: 7 * BAR,
    },
  });
  const path = [
    pipe("s", "suction-hose-2in", 6, 1),
    set("p", "engine"),
    pipe("d", "lay-flat-2in", 60, 4),
    big("g"),
  ];
  const two = withSecondGun(path) as PathItem[];
  const work = (items: PathItem[], measured?: Calibration) => {
    const own = lineOf(items);
    return gunsAtWork(solved(own, [engine]), running(own, [engine]), () => measured);
  };

  it("a range and a spreader nozzle together pass what one of both areas does", () => {
    const spreads = path.map(
      (item): PathItem =>
        item.id === "g"
          ? ({ ...item, outlet: { type: "nozzle", ...plain, spreaderBore: 0.007 } } as PathItem)
          : item,
    );
    const joined = path.map(
      (item): PathItem =>
        item.id === "g"
          ? ({
              ...item,
              outlet: { type: "nozzle", ...plain, bore: Math.hypot(0.014, 0.007) },
            } as PathItem)
          : item,
    );
    const [a, b] = [work(spreads)[0], work(joined)[0]];
    expect(a?.flow).toBeCloseTo(b?.flow ?? 0, 12);
    // q = Cd A √(2p/ρ), the nozzles seeing the velocity head beside the gauge's.
    const { water, line } = solved(lineOf(spreads), [engine]);
    const bore = line.segments.findLast(({ kind }) => kind === "pipe")?.bore ?? 0;
    const v = (a?.flow ?? 0) / ((Math.PI / 4) * bore ** 2);
    const area = (Math.PI / 4) * (0.014 ** 2 + 0.007 ** 2);
    expect(a?.flow).toBeCloseTo(
      0.95 * area * Math.sqrt((2 * (a?.pressure ?? 0)) / water.density + v * v),
      9,
    );
  });

  it("a second one takes pressure from both, and going back to one gives it back", () => {
    const [alone] = work(path);
    const both = work(two);
    expect(both).toHaveLength(2);
    for (const own of both) expect(own.pressure).toBeLessThan((alone?.pressure ?? 0) * 0.75);
    const back = withOneGun(two) as PathItem[];
    expect(gunsOf(back)).toHaveLength(1);
    expect(work(back)[0]?.pressure).toBeCloseTo(alone?.pressure ?? 0, -4);
    expect(compileLine(lineOf(back)).kind).toBe("compiled");
    expect(withSecondGun(two)).toBeUndefined();
    const three = [
      ...path.slice(0, 3),
      split("y", [big("g")], [big("h")], [pipe("x", "lay-flat-2in", 9), big("i")]),
    ];
    expect(gunsOf(withGuns(three, 2) ?? []).map(({ id }) => id)).toEqual(["g", "h"]);
    expect(compileLine(lineOf(withGuns(three, 1) as PathItem[])).kind).toBe("compiled");
    expect(withGuns(three, 4)).toBeUndefined();
    expect(withOneGun([pipe("a", "pvc-sch40-2in", 3)])).toBeUndefined();
    expect(new Set(everyItem(two).map(({ id }) => id)).size).toBe(everyItem(two).length);
  });

  // A gun calibrated alone: with two on the same pump the pressure falls, and the throw with its root.
  it("calibrated by one gun, the throw of two follows from their pressure alone", () => {
    const [alone] = work(path);
    const truth = 0.82;
    const seen = truth * expectedThrow(alone?.gun as Gun, alone?.pressure ?? 0);
    const found = calibration(alone?.gun as Gun, [
      { pressure: alone?.pressure ?? 0, radius: seen, by: "tape" },
    ]);
    for (const { gun: own, pressure, thrown } of work(two, found)) {
      if (thrown.kind !== "throws") throw new Error(thrown.kind);
      expect(thrown.radius).toBeCloseTo(seen * Math.sqrt(pressure / (alone?.pressure ?? 1)), 6);
      expect(thrown.radius).toBeCloseTo(truth * expectedThrow(own, pressure), 6);
      expect(thrown.by).toBe("measured");
    }
  });

  // Common practice, no source: a trash pump made for volume leaves a gun in a ring where a pressure pump throws.
  it("a pump without pressure leaves it in a ring", () => {
    const weak = pumpOf("engine", 18, 0.02);
    const own = lineOf(
      path.map((item) =>
        item.id === "g"
          ? ({ ...big("g"), outlet: { type: "nozzle", ...windowed } } as PathItem)
          : item,
      ),
    );
    const [found] = gunsAtWork(solved(own, [weak]), running(own, [weak]));
    expect(found?.thrown.kind).toBe("ring");
  });
});

describe("worked back", () => {
  it("the nozzles' area from flow and pressure, and which of them to read better", () => {
    const area = 0.95 * (Math.PI / 4) * 0.014 ** 2;
    const flow = area * Math.sqrt((2 * 3 * BAR) / 1000);
    const found = nozzleArea(
      { value: flow, standardUncertainty: 0.05 * flow },
      { value: 3 * BAR, standardUncertainty: 0.02 * 3 * BAR },
      1000,
    );
    expect(found?.value).toBeCloseTo(area, 12);
    // √(5² + 1²) %: pressure counts half.
    expect((found?.standardUncertainty ?? 0) / area).toBeCloseTo(Math.hypot(0.05, 0.01), 4);
    expect(found?.halving?.name).toBe("flow");
    // To halve 5.1 %, with 1 % of it from the gauge: √(2.55² − 1²) of 5 %.
    const half = Math.hypot(5, 1) / 2;
    expect(found?.halving?.toHalf).toBeCloseTo(Math.sqrt(half ** 2 - 1) / 5, 3);
  });

  it("no one reading halves it where two share the doubt", () => {
    expect(
      halvingOf({
        budget: [
          { name: "a", share: 0.6 },
          { name: "b", share: 0.4 },
        ],
      }),
    ).toEqual({
      ...{ name: "a", left: expect.closeTo(Math.sqrt(0.4), 12) },
    });
  });

  it("the pressure from the throw: there and back, with twice the doubt", () => {
    for (const own of [windowed, charted]) {
      const found = pressureFromThrow(
        own,
        { value: 0.9 * expectedThrow(own, 3.3 * BAR), standardUncertainty: 0.2 },
        { factor: 0.9, standardUncertainty: 0.018, used: [], leftOut: [] },
      );
      expect(found?.value).toBeCloseTo(3.3 * BAR, -1);
    }
    const loose = pressureFromThrow(windowed, { value: 20, standardUncertainty: 0.01 });
    expect((loose?.standardUncertainty ?? 0) / (loose?.value ?? 1)).toBeGreaterThan(0.4);
    expect(loose?.halving?.name).toBe("calibration");
  });

  describe("the pump's strength", () => {
    const worn = 0.87;
    const pump = pumpOf("one", 60, 0.014);
    const truly = pumpOf("one", 60 * worn, 0.014);
    const path = [
      pipe("s", "suction-hose-2in", 6, 1),
      set("p"),
      pipe("d", "lay-flat-2in", 60, 4),
      gun("g"),
    ];
    const two = withSecondGun(path) as PathItem[];
    const strength = (items: PathItem[], guns: number, by = 1) => {
      const [seen] = gunsAtWork(solved(lineOf(items), [truly]), running(lineOf(items), [truly]));
      const ready = lineModel(lineOf(items), [pump]);
      if (ready.kind !== "ready") throw new Error("refused");
      const pressure = { value: by * (seen?.pressure ?? 0), standardUncertainty: 0.05 * BAR };
      return headFactorFrom({ ready, gunId: "g", guns, pressure });
    };

    it("comes back from one gun's pressure, and from two", () => {
      for (const [items, guns] of [
        [path, 1],
        [two, 2],
      ] as const) {
        const found = strength(items, guns);
        expect(found?.value).toBeCloseTo(worn, 3);
        expect(found?.standardUncertainty).toBeGreaterThan(0.005);
      }
    });

    it("together is at least as sure as either, and no surer than what both rest on allows", () => {
      const [one, both] = [strength(path, 1), strength(two, 2)];
      if (!one || !both) throw new Error("none");
      const found = headFactorTogether(one, both);
      expect(found?.value).toBeCloseTo(worn, 3);
      expect(found?.agree).toBe(true);
      const least = Math.min(one.standardUncertainty, both.standardUncertainty);
      expect(found?.standardUncertainty).toBeLessThanOrEqual(least * (1 + 1e-9));
      expect(found?.standardUncertainty).toBeGreaterThan(least / 2);
    });

    it("says when one and two do not agree: more is lost with more flow than the line says", () => {
      const [one, both] = [strength(path, 1), strength(two, 2, 0.6)];
      expect(one && both && headFactorTogether(one, both)?.agree).toBe(false);
    });

    it("has none where the curve does not reach", () => {
      const ready = lineModel(lineOf([...path.slice(0, 3), gun("g", 0.045)]), [one]);
      if (ready.kind !== "ready") throw new Error("refused");
      const pressure = { value: 20 * BAR, standardUncertainty: 1 };
      expect(headFactorFrom({ ready, gunId: "g", guns: 1, pressure })).toBeUndefined();
    });
  });
});

describe("the guns there are to choose from", () => {
  it.each(GUNS.map((own) => [own.model, own] as const))(
    "%s: chart, bores and coefficient agree",
    (_, own) => {
      const implied = coefficientOfChart(own, own.inlet) ?? 0;
      expect(Math.abs(implied / own.dischargeCoefficient - 1)).toBeLessThan(0.02);
      for (const { pressure, radius } of own.chart) {
        // No chart throws farther than the textbook's best, or less than half of it.
        const textbook = textbookThrow(own.bore, pressure / 9797.8);
        expect(radius / textbook).toBeGreaterThan(1 - TEXTBOOK_UNCERTAINTY);
        expect(radius / textbook).toBeLessThan(1 + TEXTBOOK_UNCERTAINTY);
      }
    },
  );
});
