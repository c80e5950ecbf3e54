import { describe, expect, it } from "vitest";
import { type Condition, conditioned } from "../condition/condition.ts";
import { USUAL_UNCERTAINTY } from "../condition/uncertainty.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { pumpCurve } from "../pump/curve.ts";
import { gradeApplies, type Pump, TOLERANCE } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  fitting,
  levels,
  lineOf,
  open,
  pipe,
  pumpOf,
  set,
  solved,
  split,
} from "../test/fixtures.ts";
import { measuredInput } from "./electric.ts";
import { measuredFlow } from "./instruments.ts";
import { judgeTest, type TestJudgement } from "./judgeTest.ts";
import { fitTest } from "./pumpOrLine.ts";
import type { Reading } from "./reading.ts";
import { nextPoint, throttling } from "./sweep.ts";

const pump = pumpOf("one", 30, 0.006);
const path = [
  set("p"),
  pipe("riser", "pvc-sch40-1-1-2in", 3, 2),
  fitting("v", "gate-valve"),
  pipe("main", "pvc-sch40-1-1-2in", 40, 4),
  open("o"),
];
const on = solved(lineOf(path), [pump]);

/** What is read at the port of a pump of a strength, on a line with something wrong with it, valve open or to parts of it. */
function readings(
  strength: number,
  wrong: Condition,
  parts: readonly number[],
  { gauge = true, doubt = 0.004 } = {},
): Reading[] {
  const { model, boundaryAt } = conditioned(on, wrong);
  const curve = pumpCurve(pump);
  const made = (flow: number) => strength * evaluate(curve.head, flow);
  const system = model.systemHead(boundaryAt("normal"));
  const surplus = (flow: number) => made(flow) - (system(flow) as number);
  const last = curve.lastFlow;
  const openFlow = bracketedRoot(surplus, 0, last, surplus(0), surplus(last), 1e-12);
  const bore = on.line.segments[0]?.bore as number;
  return parts.map((part): Reading => {
    const flow = part * openFlow;
    const pressure = (made(flow) - velocityHead(flow, bore)) * on.water.density * GRAVITY;
    return {
      flow: part === 0 ? { method: "shut" } : { method: "meter", flow, tolerance: doubt },
      ...(part > 0 && part < 1 && { throttled: true }),
      suction: { kind: "water-level", level: 0, tolerance: 0.005 },
      ...(gauge && {
        discharge: {
          pressure,
          fullScale: 4e5,
          accuracyClass: doubt,
          elevation: 0,
          afterItemId: "p",
        },
      }),
    };
  });
}

const judge = (given: Reading[], over: Partial<Pump> = {}): TestJudgement =>
  judgeTest(
    { on, pump: { ...pump, ...over }, at: 0, readings: given, uncertainty: USUAL_UNCERTAINTY },
    true,
  );
const SOUND: Condition = {};
const SILTED: Condition = { items: { main: { boreFactor: 0.8 } } };

describe("pump or line", () => {
  it.each([
    ["a sound pump on its line", 1, SOUND, "sound", "as-worked-out"],
    ["a worn pump on its line", 0.85, SOUND, "weak", "as-worked-out"],
    ["a sound pump on a silted line", 1, SILTED, "sound", "tight"],
    ["a worn pump on a silted line", 0.85, SILTED, "weak", "tight"],
  ] as const)("tells %s", (_name, strength, wrong, pumpIs, lineIs) => {
    const { parting, whole } = judge(readings(strength, wrong, [1, 0.6, 0.3, 0]));
    if (parting.kind !== "parted") throw new Error(parting.kind);
    expect([parting.pump.is, parting.line.is]).toEqual([pumpIs, lineIs]);
    expect(parting.pump.value).toBeCloseTo(strength, 3);
    expect(whole?.acceptance).toBe(pumpIs === "sound" ? "meets" : "falls-short");
    expect(whole?.headFactor.value).toBeCloseTo(strength, 3);
  });

  it("finds how much of the bore is left, and what that would be as pipe and as a valve", () => {
    const { parting } = judge(readings(1, SILTED, [1]));
    if (parting.kind !== "parted" || !parting.sameAs) throw new Error(parting.kind);
    const { itemId, bore, length, valve } = parting.sameAs;
    const main = on.line.segments.find((own) => own.itemId === "main");
    expect(itemId).toBe("main");
    expect((bore?.value as number) / (main?.bore as number)).toBeCloseTo(0.8, 2);
    // Friction goes about as the fifth power of the bore.
    expect(length.value / 40).toBeCloseTo(0.8 ** -5 - 1, 0);
    expect(valve.opening.value).toBeGreaterThan(0);
    expect(valve.opening.value).toBeLessThan(0.5);
  });

  it("says of a flow alone that it may be either, and that a gauge parts them", () => {
    const { parting, whole } = judge(readings(0.85, SOUND, [1], { gauge: false }));
    if (parting.kind !== "either") throw new Error(parting.kind);
    expect(whole).toBeUndefined();
    expect(parting.pump.value).toBeCloseTo(0.85, 2);
    expect(parting.line?.value).toBeGreaterThan(1.2);
    expect(parting.gains[0]?.extra).toBe("gauge-at-pump");
  });

  it("is unclear while the band straddles the limit, and names what helps most", () => {
    const rough = judge(readings(0.93, SOUND, [1], { doubt: 0.05 }));
    if (rough.parting.kind !== "parted") throw new Error(rough.parting.kind);
    const { pump: found, gains } = rough.parting;
    expect(found.is).toBe("unclear");
    expect(gains[0]?.after).toBeLessThan(found.standardUncertainty);
  });

  it("marks the one reading that lies off the others, and no other", () => {
    const given = readings(1, SOUND, [1, 0.75, 0.5, 0.25, 0]);
    const wrong = given[2]?.discharge;
    if (!wrong) throw new Error("fixture");
    const slipped = given.with(2, {
      ...given[2],
      discharge: { ...wrong, pressure: wrong.pressure * 0.8 },
    } as Reading);
    expect(judge(given).outliers).toEqual([]);
    expect(judge(slipped).outliers.map(({ reading }) => reading)).toEqual([2]);
    expect(judge(slipped).whole?.scatter).toBeGreaterThan(2);
    expect(judge(given).whole?.scatter).toBe(1);
  });

  it("decides by the limits the parties agreed on, not by the grade", () => {
    const given = readings(0.93, SOUND, [1, 0.6, 0.3, 0]);
    expect(judge(given).whole?.acceptance).not.toBe("meets");
    expect(judge(given, { limits: { flow: 0.1, head: 0.1 } }).whole?.acceptance).toBe("meets");
    expect(judge(given, { limits: { flow: 0.02, head: 0.02 } }).whole?.acceptance).toBe(
      "falls-short",
    );
  });

  it("does not fail a pump by a curve that is only roughly known", () => {
    const given = readings(0.85, SOUND, [1, 0.6, 0.3, 0]);
    expect(judge(given).whole?.acceptance).toBe("falls-short");
    expect(judge(given, { curveDoubt: 0.2 }).whole?.acceptance).toBe("cannot-tell");
    const point = judge(given, { curveDoubt: 0.2 }).points[0]?.comparison;
    expect(point?.acceptance).toBe("cannot-tell");
    expect(point?.improve).toBe("curve");
  });
});

it("tells the water's level less surely by a table that is only a band", () => {
  const [given] = readings(1, SOUND, [0.8]);
  const { suction: _, ...blind } = given as Reading;
  const level = (curveDoubt: number) => {
    const found = fitTest(
      {
        on,
        pump: { ...pump, curveDoubt },
        at: 0,
        readings: [blind],
        uncertainty: USUAL_UNCERTAINTY,
      },
      ["level"],
    );
    if (found.kind !== "found" || !found.values.level) throw new Error(found.kind);
    return found.values.level;
  };
  expect(level(0).value).toBeCloseTo(0, 2);
  const head = evaluate(pumpCurve(pump).head, measuredFlow(blind.flow).value);
  const band = (0.1 + TOLERANCE["2B"].head) / Math.sqrt(3);
  // A band of ± 10 % and the grade's ± 5 % of the head there.
  expect(level(0.1).standardUncertainty / head).toBeCloseTo(band, 1);
  expect(level(0.1).standardUncertainty).toBeGreaterThan(2 * level(0).standardUncertainty);
});

it("has no ISO grade under 1 kW at the shaft", () => {
  const of = (...powers: number[]) => ({
    points: powers.map((power, flow) => ({ flow, head: 1, power })),
  });
  expect(gradeApplies(of(300, 500, 999))).toBe(false);
  expect(gradeApplies(of(300, 500, 1000))).toBe(true);
});

describe("a sweep", () => {
  const cool = 288.15;
  it("may go to shut-off while every pipe up to the valve bears it, and no further than one does", () => {
    const laid = (shutoff: number, stock: string) => {
      const line = [set("p"), pipe("riser", stock, 3, 2), fitting("v", "gate-valve"), open("o")];
      return solved(lineOf(line), [pumpOf("one", shutoff, 0.006)]);
    };
    const rated = throttling(laid(30, "pvc-sch40-1-1-2in"), 0, cool);
    expect(rated.kind).toBe("to-shut");
    if (rated.kind !== "to-shut" || !rated.tightest) throw new Error("no rating");
    // The shut-off head that just fills the rating, the pump as strong as its grade lets it be.
    const { rating } = rated.tightest;
    const most = rating / on.water.density / GRAVITY / 1.05;
    expect(throttling(laid(most * 0.999, "pvc-sch40-1-1-2in"), 0, cool).kind).toBe("to-shut");
    const over = throttling(laid(most * 1.02, "pvc-sch40-1-1-2in"), 0, cool);
    expect(over).toMatchObject({ kind: "down-to", itemId: "riser" });
    if (over.kind === "down-to") {
      expect(over.flow).toBeGreaterThan(0);
      expect(over.atPort / rating).toBeCloseTo(1, 2);
    }
  });

  it("counts the pipe past the valve for nothing, and asks for a rating that is not known", () => {
    const line = (before: string, after: string) =>
      solved(
        lineOf([
          set("p"),
          pipe("a", before, 3, 2),
          fitting("v", "gate-valve"),
          pipe("b", after, 3, 0),
          open("o"),
        ]),
        [pump],
      );
    expect(throttling(line("pvc-sch40-1-1-2in", "thin-drain-4in"), 0, cool).kind).toBe("to-shut");
    expect(throttling(line("thin-drain-4in", "pvc-sch40-1-1-2in"), 0, cool)).toMatchObject({
      kind: "unknown",
      why: "rating",
      itemId: "a",
    });
  });

  it("counts what lies past a fork where no valve is before it", () => {
    const branch = (id: string, stock: string) => [pipe(id, stock, 3, 1), open(`${id}-out`)];
    const line = [
      set("p"),
      pipe("riser", "pvc-sch40-1-1-2in", 3, 2),
      split("s", branch("a", "pvc-sch40-1-1-2in"), branch("b", "thin-drain-4in")),
    ];
    expect(throttling(solved(lineOf(line), [pump]), 0, cool)).toMatchObject({
      kind: "unknown",
      itemId: "b",
    });
  });

  it("takes the highest water inside and the lowest outside", () => {
    const at = (low: number, high: number) => {
      const source = { kind: "open", level: levels(low, low, high), intake: -6 } as const;
      const line = [
        set("p"),
        pipe("riser", "pvc-sch40-1-1-2in", 12, 8),
        fitting("v", "gate-valve"),
        open("o"),
      ];
      const found = throttling(solved(lineOf(line, { source }), [pump]), 0, cool);
      return found.kind === "to-shut" ? (found.tightest?.pressure as number) : Number.NaN;
    };
    expect(at(-1, -1)).toBeLessThan(at(-1, 0));
    expect(at(-2, 0)).toBeGreaterThan(at(-1, 0));
  });

  it("never shuts a positive-displacement pump", () => {
    const screw: Pump = { ...pump, family: "positive-displacement" };
    const laid = solved(lineOf(path), [screw]);
    expect(throttling(laid, 0, cool)).toEqual({ kind: "never" });
    expect(nextPoint(pumpCurve(screw), [0.004], 0.004, { kind: "never" })).toEqual({
      kind: "done",
    });
  });

  it("proposes the open point, then points along the curve, shut-off last, then nothing", () => {
    const curve = pumpCurve(pump);
    const taken: number[] = [];
    const seen: string[] = [];
    for (let n = 0; n < 9; n++) {
      const next = nextPoint(curve, taken, taken[0], { kind: "to-shut" });
      seen.push(next.kind);
      if (next.kind === "done") break;
      taken.push(next.kind === "open" ? 0.0055 : next.kind === "shut" ? 0 : next.flow);
    }
    expect(seen).toEqual(["open", "throttle", "throttle", "throttle", "shut", "done"]);
    expect(taken).toEqual(taken.toSorted((a, b) => b - a));
    // A reading taken near a proposed place counts for it.
    const near = nextPoint(curve, [0.0055, (taken[1] as number) * 0.97], 0.0055, {
      kind: "to-shut",
    });
    expect(near.kind === "throttle" && near.flow < (taken[1] as number) * 0.97).toBe(true);
  });
});

describe("the supply", () => {
  it("takes the power off the meter, or from volts, amps and power factor", () => {
    const plate = { volts: 400, phase: 3, runningCurrent: 5 } as const;
    const read = measuredInput({ volts: 400, currents: [4, 4.2, 4.4], powerFactor: 0.8 }, plate);
    expect(read.power?.value).toBeCloseTo(Math.sqrt(3) * 400 * 4.2 * 0.8, 6);
    expect(read.unbalance).toBeCloseTo(0.2 / 4.2, 9);
    expect(read.ofPlate).toBeCloseTo(4.2 / 5, 9);
    const unknown = measuredInput({ volts: 400, currents: [4.2] }, { phase: 3 });
    expect(unknown.power?.from).toBe("usual-power-factor");
    const relative = (of: typeof unknown) =>
      (of.power?.standardUncertainty ?? 0) / (of.power?.value ?? 1);
    expect(relative(unknown)).toBeGreaterThan(2 * relative(read));
    expect(measuredInput({ currents: [4] }).power).toBeUndefined();
  });
});
