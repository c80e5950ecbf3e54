import { describe, expect, it } from "vitest";
import { solveLine } from "../hydraulics/solveLine.ts";
import type { CompiledLine } from "../line/compiledLine.ts";
import type { Line } from "../line/path.ts";
import { uniform } from "../numeric/latinHypercube.ts";
import { propagate } from "../numeric/propagation.ts";
import { pumpCurve } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { tablePump } from "../test/fixtures.ts";
import { COVERAGE, compareWithRated, flowAtHead } from "./acceptance.ts";
import { measuredFlow } from "./instruments.ts";
import type { GaugedReading } from "./reading.ts";

const pump = tablePump("p", [0, 1, 2, 3, 4, 5], (q) => ({ head: 24 - 0.8 * q * q }));

const line: Line = {
  source: { kind: "open", level: { low: 0, normal: 0, high: 0 }, intake: -1 },
  path: [
    { kind: "pipe", id: "s", stock: "suction-hose-2in", length: 5, rise: 3 },
    { kind: "pump", id: "p", pump: "p" },
    { kind: "pipe", id: "d1", stock: "pvc-sch40-1-1-2in", length: 2, rise: 1 },
    { kind: "fitting", id: "e", fitting: "elbow-90", count: 2 },
    { kind: "pipe", id: "d2", stock: "pvc-sch40-1-1-2in", length: 40, rise: 6 },
    { kind: "outlet", id: "o", outlet: { type: "free" } },
  ],
  site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
  method: { friction: "darcy-weisbach", fittings: "coefficient" },
};

const result = solveLine(line, [pump]);
if (result.kind !== "solved") throw new Error("fixture must solve");
const { solution } = result;
const running = solution.cases.normal.running;
if (!running) throw new Error("fixture must run");

const held = (given: GaugedReading, lost?: { itemId: string; flow: number }[]) => {
  const compared = compareWithRated(solution.model, pump, given, lost);
  if (!compared) throw new Error("not compared");
  return compared;
};

/** A perfect reading of the fixture with the gauge after the elbows, flow and pressure scaled. */
function reading(
  flowScale = 1,
  pressureScale = 1,
  gaugeClass = 0.01,
  seconds = [0, 0, 0],
): GaugedReading {
  const flow = (running?.duty.flow as number) * flowScale;
  const point = running?.headLine.findLast((p) => p.itemId === "e");
  if (!point) throw new Error("no gauge point");
  const volume = 0.06;
  return {
    flow: {
      method: "bucket",
      volume,
      volumeTolerance: 0.02,
      times: seconds.map((s) => volume / flow + s),
      timingTolerance: 0.3,
    },
    discharge: {
      pressure: point.pressureHead * solution.water.density * GRAVITY * pressureScale,
      fullScale: 4e5,
      accuracyClass: gaugeClass,
      elevation: point.elevation,
      afterItemId: "e",
    },
    suction: { kind: "water-level", level: 0, tolerance: 0.02 },
  };
}

describe("bucket and watch", () => {
  it("doubts a 6 s fill timed half a second off by 8 %", () => {
    // Common practice, no source: the figure fitters are warned with; here as a half-width.
    const { value, standardUncertainty } = measuredFlow({
      method: "bucket",
      volume: 0.012,
      volumeTolerance: 0,
      times: [6],
      timingTolerance: 0.5,
    });
    expect(value).toBeCloseTo(0.002, 12);
    expect((standardUncertainty * Math.sqrt(3)) / value).toBeCloseTo(0.0833, 3);
  });

  it("takes the spread when the repeats spread more than the hand", () => {
    const bucket = {
      method: "bucket",
      volume: 0.01,
      volumeTolerance: 0,
      timingTolerance: 0.1,
    } as const;
    const steady = measuredFlow({ ...bucket, times: [10, 10, 10] });
    const spread = measuredFlow({ ...bucket, times: [8, 10, 12] });
    // Standard deviation 2 s over √3 fills (GUM 4.2.3), and a tenth of the variance of 0.1/√3 s that fills share; on 10 s.
    const expected = Math.hypot(2 / Math.sqrt(3), (Math.sqrt(0.1) * 0.1) / Math.sqrt(3)) / 10;
    expect(spread.standardUncertainty / spread.value).toBeCloseTo(expected, 9);
    expect(steady.standardUncertainty).toBeLessThan(spread.standardUncertainty);
  });
});

it("a hand that errs alike at every fill is not averaged away", () => {
  const bucket = {
    method: "bucket",
    volume: 0.01,
    volumeTolerance: 0,
    timingTolerance: 0.3,
  } as const;
  const doubt = (fills: number) => {
    const flow = measuredFlow({ ...bucket, times: new Array<number>(fills).fill(10) });
    return (flow.standardUncertainty / flow.value) * 10 * Math.sqrt(3);
  };
  expect(doubt(1)).toBeCloseTo(0.3, 9);
  // Fills that agree say nothing of a habit they share.
  expect(doubt(4)).toBeCloseTo(0.3, 9);
  expect(doubt(50)).toBeCloseTo(0.3, 9);
  // Fills that scatter as a hand without one does leave a tenth of its variance, and the spread of the mean.
  const off = 0.3 / Math.sqrt(3);
  const times = Array.from({ length: 40 }, (_, i) => 10 + (i % 2 === 0 ? off : -off));
  const { value, standardUncertainty } = measuredFlow({ ...bucket, times });
  const hand = off ** 2;
  const spread = (40 / 39) * hand;
  expect((standardUncertainty / value) * 10).toBeCloseTo(Math.sqrt(hand / 10 + spread / 40), 9);
});

it.each([
  ["a habit at every fill", true],
  ["a new error at every fill", false],
])("the band of three to five fills holds for %s", (_, habit) => {
  const random = uniform(77);
  const bucket = {
    method: "bucket",
    volume: 0.01,
    volumeTolerance: 0.02,
    timingTolerance: 0.3,
  } as const;
  // Normal, of the deviation the half-width is taken for.
  const off = (half: number) =>
    (half / Math.sqrt(3)) * Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  for (const fills of [3, 5]) {
    let inside = 0;
    const count = 4000;
    for (let i = 0; i < count; i++) {
      // The hand starts and stops with 0.3/√3 s, the mark lies off by 2/√3 %.
      const shared = off(0.3);
      const times = Array.from({ length: fills }, () => 8 + (habit ? shared : off(0.3)));
      const truth = (0.01 * (1 + off(0.02))) / 8;
      const { value, standardUncertainty } = measuredFlow({ ...bucket, times });
      if (Math.abs(value - truth) <= COVERAGE * standardUncertainty) inside++;
    }
    expect(inside / count).toBeGreaterThan(0.93);
    expect(inside / count).toBeLessThan(0.985);
    console.log(
      `${fills} fills, ${habit ? "one habit" : "new each time"}: ${((100 * inside) / count).toFixed(1)} % inside`,
    );
  }
});

describe("uncertainty", () => {
  it("agrees with a Monte Carlo of the same model (GUM supplement 1, JCGM 101)", () => {
    const inputs = [
      { name: "a", value: 10, standardUncertainty: 0.2 },
      { name: "b", value: 3, standardUncertainty: 0.1 },
      { name: "c", value: 0.5, standardUncertainty: 0.02 },
    ];
    const model = (v: Record<string, number>) => (v.a ?? 0) * (v.c ?? 0) + (v.b ?? 0) ** 2;
    const first = propagate(inputs, model);
    let seed = 1;
    const uniform = () => {
      seed = (seed * 48271) % 2147483647;
      return seed / 2147483647;
    };
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const draws = Array.from({ length: 40_000 }, () =>
      model(
        Object.fromEntries(inputs.map((i) => [i.name, i.value + i.standardUncertainty * normal()])),
      ),
    );
    const mean = draws.reduce((s, d) => s + d, 0) / draws.length;
    const spread = Math.sqrt(draws.reduce((s, d) => s + (d - mean) ** 2, 0) / (draws.length - 1));
    expect((first?.standardUncertainty ?? 0) / spread).toBeCloseTo(1, 1.7);
    expect(first?.budget[0]?.name).toBe("b");
    expect(first?.budget.reduce((s, b) => s + b.share, 0)).toBeCloseTo(1, 12);
  });
});

describe("measured against rated", () => {
  it("gives back the head of the duty from a perfect reading, elbows and height counted", () => {
    const compared = held(reading());
    expect(compared.head.value).toBeCloseTo(running.duty.head, 6);
    expect(compared.acceptance).toBe("meets");
    if (compared.atHead.kind === "compared") expect(compared.atHead.value).toBeCloseTo(0, 6);
  });

  it("takes a suction gauge instead of the water level to the same head", () => {
    const inlet = running.headLine.find((p) => p.itemId === "p");
    if (!inlet) throw new Error("no inlet");
    const suction = {
      kind: "gauge",
      pressure: inlet.pressureHead * solution.water.density * GRAVITY,
      fullScale: 1e5,
      accuracyClass: 0.01,
      elevation: inlet.elevation,
    } as const;
    const compared = held({ ...reading(), suction });
    expect(compared.head.value).toBeCloseTo(running.duty.head, 6);
  });

  it("falls short when flow and pressure are both well down", () => {
    const compared = held(reading(0.7, 0.7, 0.005));
    expect(compared.acceptance).toBe("falls-short");
  });

  it("cannot tell with a coarse gauge, and names what to improve", () => {
    const gauge = held(reading(0.9, 0.95, 0.08));
    expect(gauge.acceptance).toBe("cannot-tell");
    expect(gauge.improve).toBe("discharge-gauge");
    const bucket = held(reading(0.9, 0.93, 0.002, [-9, 0, 9]));
    expect(bucket.acceptance).toBe("cannot-tell");
    expect(bucket.improve).toBe("flow");
  });

  it("claims nothing where nothing is published", () => {
    const beyond = held(reading(2.4, 1));
    expect(beyond.atFlow).toMatchObject({ kind: "off-curve", where: "beyond-last-flow" });
    const above = held(reading(1, 4));
    expect(above.atHead).toMatchObject({ kind: "off-curve", where: "above-shutoff" });
  });

  it("adds what holes let go to the flow measured at the outlet, and doubts it", () => {
    const lost = 0.0004;
    const flow = running.duty.flow;
    const measured = reading((flow - lost) / flow);
    const compared = held(measured, [{ itemId: "hole", flow: lost }]);
    expect(compared.flow.value).toBeCloseTo(flow, 9);
    expect(compared.head.value).toBeCloseTo(running.duty.head, 6);
    expect(compared.head.budget.map(({ name }) => name)).toContain("holes");
  });

  it("says when the gauge's place has left the line", () => {
    const { discharge } = reading();
    const lost = { ...reading(), discharge: { ...discharge, afterItemId: "gone" } };
    expect(held(lost).misplaced).toBe("off-the-line");
    expect(held(reading()).misplaced).toBeUndefined();
  });

  it("compares at the speed the engine ran", () => {
    const slow = { ...reading(), speedRatio: 1.15 };
    expect(held(slow).acceptance).not.toBe("meets");
  });

  it("reads the rated curve backwards", () => {
    const curve = pumpCurve(pump);
    expect(flowAtHead(curve, 24 - 0.8 * 9)).toBeCloseTo(0.003, 9);
    expect(flowAtHead(curve, 25)).toBe("above-shutoff");
    expect(flowAtHead(curve, 1)).toBe("below-last-head");
  });
});

describe("a gauge away from the pump", () => {
  const vent = { kind: "orifice", id: "vent", purpose: "vent-hole", bore: 0.006 } as const;
  const reducer = { kind: "fitting", id: "r", fitting: "reducer-tapered", count: 1 } as const;
  /** A perfect reading with the gauge after an item, taken from the running line itself. */
  function perfect(path: Line["path"], afterItemId: string, over: Partial<Line> = {}) {
    const drawn = { ...line, ...over, path };
    const given = solveLine(drawn, [pump]);
    if (given.kind !== "solved") throw new Error(JSON.stringify(given.diagnostics));
    const found = given.solution;
    const at = found.cases.normal.running;
    if (!at) throw new Error("must run");
    const index = (found.line.passed.get(afterItemId) ?? 0) - 1;
    const last = found.line.segments[index];
    const next = found.line.segments[index + 1];
    // The head line gives the pressure in the pipe the gauge stands in, past the item.
    let head = at.state.nodeHeads[found.line.pumps[0]?.outlet ?? 0] as number;
    for (let i = found.line.pumps[0] ? firstAfterPump(found.line) : 0; i <= index; i++) {
      head -= at.ledger.find(({ segment }) => segment === i)?.head ?? 0;
    }
    const own = last?.kind === "bore-change" ? next : last;
    const flow = at.state.bySegment[afterItemId === "vent" ? index + 1 : index] as number;
    const velocity = (4 * flow) / (Math.PI * (own?.stock?.bore ?? 1) ** 2);
    const elevation = last?.endElevation ?? 0;
    const pressure =
      (head - elevation - velocity ** 2 / (2 * GRAVITY)) * found.water.density * GRAVITY;
    const taken: GaugedReading = {
      flow: { method: "meter", flow: at.state.delivered, tolerance: 0.01 },
      discharge: { pressure, fullScale: 4e5, accuracyClass: 0.01, elevation, afterItemId },
      suction: { kind: "water-level", level: 0, tolerance: 0.02 },
    };
    const compared = compareWithRated(found.model, pump, taken, at.state.lost);
    return { made: at.duty.head, compared };
  }
  const firstAfterPump = (own: CompiledLine) =>
    own.stretches.find(({ from }) => from === own.pumps[0]?.outlet)?.start ?? 0;
  const [suction, set_, d1, elbows, d2, out] = line.path as [
    Line["path"][number],
    Line["path"][number],
    Line["path"][number],
    Line["path"][number],
    Line["path"][number],
    Line["path"][number],
  ];
  const wide = { kind: "pipe", id: "wide", stock: "pvc-sch40-3in", length: 3, rise: 0.5 } as const;

  it.each<[string, Line["path"], string]>([
    ["after the elbows", [suction, set_, d1, elbows, d2, out], "e"],
    ["after a hole", [suction, set_, d1, vent, elbows, d2, out], "vent"],
    ["past a hole and the run after it", [suction, set_, d1, vent, elbows, d2, out], "d2"],
    ["after a reducer that widens", [suction, set_, d1, reducer, wide, out], "r"],
    ["after a widening", [suction, set_, d1, wide, out], "wide"],
  ])("%s, finds the pump's head", (_where, path, after) => {
    const { made, compared } = perfect(path, after);
    expect(compared?.misplaced).toBeUndefined();
    expect(compared?.head.value).toBeCloseTo(made, 4);
  });

  it("counts the pressure in a closed source tank when suction is known by its level", () => {
    const source = {
      kind: "tank",
      level: { low: 0, normal: 0, high: 0 },
      intake: -1,
      gasPressure: 40_000,
    } as const;
    const { made, compared } = perfect([suction, set_, d1, elbows, d2, out], "e", { source });
    expect(compared?.head.value).toBeCloseTo(made, 4);
  });

  it("is not judged by where nobody knows it stands", () => {
    const { compared } = perfect([suction, set_, d1, elbows, d2, out], "gone");
    expect(compared).toMatchObject({ misplaced: "off-the-line", acceptance: "cannot-tell" });
  });
});
