import { describe, expect, it } from "vitest";
import { dutyBand, type Spread, USUAL_UNCERTAINTY } from "../condition/uncertainty.ts";
import { lineModel, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import { GALLON, PSI } from "../quantity/constants.ts";
import { check, hole, lineOf, open, pipe, pumpOf, set, split } from "../test/fixtures.ts";
import { compareWithRated } from "./acceptance.ts";
import { compareWithPrediction, type Kept, type PredictionComparison } from "./prediction.ts";
import type { FlowMeasurement, GaugedReading } from "./reading.ts";

const pump = pumpOf("one", 12, 0.006);
const line = lineOf([
  set("p"),
  hole("vent"),
  check("c"),
  pipe("riser", "pvc-sch40-1-1-2in", 3, 3),
  pipe("run", "pvc-sch40-1-1-2in", 20),
  open("o"),
]);
function solved(of = line, pumps = [pump]): { solution: Solution; likely: Spread[] } {
  const result = solveLine(of, pumps);
  const band = dutyBand(lineModel(of, pumps), USUAL_UNCERTAINTY, 400);
  if (result.kind !== "solved" || band.kind !== "band") throw new Error("fixture must solve");
  return { solution: result.solution, likely: band.byOutlet };
}
const { solution, likely } = solved();
const promised = solution.cases.normal.running?.state.byOutlet[0] as number;
const range = likely[0] as Spread;
const meter = (flow: number, tolerance = 0.001): FlowMeasurement => ({
  ...{ method: "meter", flow, tolerance },
});
const said = (flow: FlowMeasurement, more = {}): PredictionComparison => {
  const found = compareWithPrediction(solution, { flow, ...more }, range, USUAL_UNCERTAINTY);
  if (!found) throw new Error("not compared");
  return found;
};

describe("a flow held against what the line was promised", () => {
  it("is promised what reaches the outlet, not what the pump moves", () => {
    const found = said(meter(promised));
    expect(found.promised).toBe(promised);
    expect(promised).toBeLessThan(solution.cases.normal.running?.duty.flow as number);
    expect(found.likely).toEqual(range);
    expect(range.low).toBeLessThan(promised);
    expect(range.high).toBeGreaterThan(promised);
  });

  it("turns where the likely range ends, by the doubt of the reading", () => {
    const off = (flow: number, share: number, tolerance = 0.001) =>
      said(meter(flow * (1 + share), tolerance)).kept;
    expect(off(range.low, 0.0001)).toBe<Kept>("as-promised");
    expect(off(range.low, -0.0005)).toBe<Kept>("cannot-tell");
    expect(off(range.low, -0.01)).toBe<Kept>("less");
    // A poor bucket cannot tell what a meter can.
    expect(off(range.low, -0.01, 0.1)).toBe<Kept>("cannot-tell");
    expect(off(range.high, -0.0001)).toBe<Kept>("as-promised");
    expect(off(range.high, 0.0005)).toBe<Kept>("cannot-tell");
    expect(off(range.high, 0.01)).toBe<Kept>("more");
  });

  it("cannot be where no line like it passes so much, found by solving the best there could be", () => {
    // The most is where every doubt helps; a scan of the answer has to turn just there.
    const kinds = Array.from({ length: 400 }, (_, i) => said(meter(promised * (1 + i / 200))).kept);
    const turn = kinds.indexOf("cannot-be");
    expect(kinds.slice(turn).every((kept) => kept === "cannot-be")).toBe(true);
    expect(kinds.slice(0, turn)).not.toContain("cannot-be");
    const most = promised * (1 + turn / 200);
    expect(most).toBeGreaterThan(range.high);
    const over = { flowFactor: 1.08, headFactor: 1.05 };
    const strong = pumpOf("one", 12 * over.headFactor, 0.006 * over.flowFactor);
    const best = solveLine(
      {
        ...line,
        source: { ...line.source, level: { low: 0.05, normal: 0.05, high: 0.05 } } as never,
      },
      [strong],
    );
    if (best.kind !== "solved") throw new Error("must solve");
    expect(most).toBeGreaterThan(best.solution.cases.normal.running?.state.byOutlet[0] as number);
    expect(said(meter(promised * 3, 0.6)).kept).not.toBe("cannot-be");
  });

  it.each<[string, FlowMeasurement, PredictionComparison["slip"]]>([
    [
      "litres typed as gallons",
      {
        method: "bucket",
        volume: 5 * GALLON,
        volumeTolerance: 0.02,
        times: [5e-3 / promised],
        timingTolerance: 0.05,
      },
      "gallons-for-litres",
    ],
    [
      "three buckets counted that were two",
      {
        method: "timed",
        volume: 3 * 30 * promised,
        volumeTolerance: 0.01,
        time: 60,
        timingTolerance: 0.2,
      },
      "a-fill-miscounted",
    ],
    [
      "a minute typed as a second",
      {
        method: "timed",
        volume: 60 * promised,
        volumeTolerance: 0.01,
        time: 1,
        timingTolerance: 0.01,
      },
      "minutes-for-seconds",
    ],
    ["nothing that explains it", meter(promised * 9), undefined],
  ])("names the likely slip: %s", (_what, flow, slip) => {
    const found = said(flow);
    expect(found.kept).toBe("cannot-be");
    expect(found.slip).toBe(slip);
  });

  it("tells a fill that was cut short from a strong flow", () => {
    const fills = (times: number[]) =>
      said({
        ...{ method: "bucket", volume: 60 * promised, volumeTolerance: 0.01 },
        ...{ times, timingTolerance: 0.3 },
      });
    expect(fills([60, 60, 2])).toMatchObject({ kept: "cannot-tell", slip: "a-fill-cut-short" });
    expect(fills([40, 41, 40]).slip).toBeUndefined();
    expect(fills([60, 61, 59])).toMatchObject({ kept: "as-promised" });
  });

  it("is promised less at a lower speed, and of several outlets at its own", () => {
    const slow = said(meter(promised), { speedRatio: 0.8 });
    expect(slow.promised).toBeLessThan(promised);
    expect(slow.likely.high / slow.promised).toBeCloseTo(range.high / promised, 9);
    const two = lineOf([
      set("p"),
      split(
        "s",
        [pipe("a", "pvc-sch40-1in", 30, 2), open("near")],
        [pipe("b", "pvc-sch40-1-1-2in", 20, 2), open("far")],
      ),
    ]);
    const forked = solved(two);
    for (const [i, outletId] of ["near", "far"].entries()) {
      const found = compareWithPrediction(
        forked.solution,
        { flow: meter(1e-3), outletId },
        forked.likely[i] as Spread,
        USUAL_UNCERTAINTY,
      );
      expect(found?.promised).toBe(forked.solution.cases.normal.running?.state.byOutlet[i]);
    }
    const [near, far] = forked.solution.cases.normal.running?.state.byOutlet ?? [];
    expect(near).not.toBeCloseTo(far as number, 5);
  });

  it("says when the pump runs where nothing is published", () => {
    expect(said(meter(promised)).beyondCurve).toBe(false);
    expect(said(meter(0.0062)).beyondCurve).toBe(true);
  });
});

describe("a gauge that shows what cannot be", () => {
  const gauged = (flow: number, pressure: number): GaugedReading => ({
    flow: meter(flow, 0.01),
    discharge: { pressure, fullScale: 4e5, accuracyClass: 0.01, elevation: 0, afterItemId: "p" },
    suction: { kind: "water-level", level: 0, tolerance: 0.01 },
  });
  const acceptance = (reading: GaugedReading) => compareWithRated(solution.model, pump, reading);
  const shutOff = 12 * 998.2 * 9.80665;

  it("is told from a strong pump by what curve and reading may be off together", () => {
    const at = (share: number) => acceptance(gauged(0.0005, shutOff * share))?.acceptance;
    expect(at(1.04)).not.toBe("cannot-be");
    expect(at(1.2)).toBe("cannot-be");
  });

  it("that was typed in bar though its dial is in psi", () => {
    const real = 14 * PSI;
    const found = acceptance(gauged(0.0005, (real * 1e5) / PSI));
    expect(found).toMatchObject({ acceptance: "cannot-be", slip: "psi-for-bar" });
    expect(acceptance(gauged(0.0005, shutOff * 1.3))?.slip).toBeUndefined();
  });

  it("past the last flow nothing is published, and that is what is said", () => {
    expect(acceptance(gauged(0.0066, -0.08 * shutOff))?.acceptance).toBe("beyond-curve");
  });
});
