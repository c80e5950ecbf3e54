import { describe, expect, it } from "vitest";
import { pumpSchema } from "#contract/documents/pump.ts";
import { LIBRARY } from "#library/pumps.ts";
import { propagate } from "../numeric/propagation.ts";
import { headAt, publishedValue, pumpCurve, shaftPower } from "../pump/curve.ts";
import { type Pump, TOLERANCE, type ToleranceGrade } from "../pump/pump.ts";
import { FOOT, GRAVITY, PSI } from "../quantity/constants.ts";
import { lineOf, open, pipe, set, solved, tablePump } from "../test/fixtures.ts";
import { compareWithRated } from "./acceptance.ts";
import { flowUncertainties, measuredFlow } from "./instruments.ts";
import type { GaugedReading } from "./reading.ts";

it("gives the worked example H.1 of the GUM: an end gauge held against a standard", () => {
  // JCGM 100:2008 H.1.2 to H.1.6, from memory: l = ls + d − ls (δα θ + αs δθ), lengths in nm.
  const found = propagate(
    [
      { name: "ls", value: 50_000_623, standardUncertainty: 25 },
      { name: "d", value: 215, standardUncertainty: 9.7 },
      { name: "δα", value: 0, standardUncertainty: 0.58e-6 },
      { name: "θ", value: -0.1, standardUncertainty: 0.41 },
      { name: "αs", value: 11.5e-6, standardUncertainty: 1.2e-6 },
      { name: "δθ", value: 0, standardUncertainty: 0.029 },
    ],
    (v) =>
      (v.ls ?? 0) +
      (v.d ?? 0) -
      (v.ls ?? 0) * ((v.δα ?? 0) * (v.θ ?? 0) + (v.αs ?? 0) * (v.δθ ?? 0)),
  );
  expect(found?.value).toBeCloseTo(50_000_838, 6);
  expect(found?.standardUncertainty).toBeCloseTo(32, 0);
  expect(found?.budget[0]?.name).toBe("ls");
});

describe("what the trade knows of measuring (common practice, no source)", () => {
  const pump = tablePump("p", [0, 1, 2, 3, 4, 5], (q) => ({ head: 40 - q * q }));
  const on = solved(lineOf([set("p", "p"), pipe("d", "pvc-sch40-2in", 10, 2), open("o")]), [pump]);
  const shutReading = (pressure: number, elevation: number): GaugedReading => ({
    flow: { method: "shut" },
    discharge: { pressure, fullScale: 1e6, accuracyClass: 0.001, elevation, afterItemId: "p" },
    suction: { kind: "water-level", level: 0, tolerance: 0 },
  });

  it("psi × 2.31 is feet, and the gauge's height above the water is added", () => {
    const head = (psi: number, elevation: number) =>
      compareWithRated(on.model, pump, shutReading(psi * PSI, elevation))?.head.value ?? 0;
    expect((head(10, 0) - head(0, 0)) / FOOT / 10).toBeCloseTo(2.31, 2);
    expect(head(10, 3) - head(10, 0)).toBeCloseTo(3, 9);
  });

  it("a pit drawn down gives its area times the fall over the time, and the inflow found with the pump off", () => {
    const given = {
      method: "draw-down",
      ...{ area: 2, areaTolerance: 0.03, fall: 0.3, fallTolerance: 0.005, time: 100 },
      ...{ timingTolerance: 0.5, inflow: 0.001, inflowTolerance: 0.1 },
    } as const;
    expect(measuredFlow(given).value).toBeCloseTo(0.007, 12);
    expect(flowUncertainties(given).doubts[0]?.of).toBe("area");
    // The doubts of a product and a sum, by hand.
    const r = Math.sqrt(3);
    const expected = Math.hypot(
      (0.006 * 0.03) / r,
      (2 * 0.005) / r / 100,
      (0.006 * 0.5) / r / 100,
      (0.001 * 0.1) / r,
    );
    expect(measuredFlow(given).standardUncertainty).toBeCloseTo(expected, 12);
  });

  it("a counter gives what it counted over the time", () => {
    const counted = measuredFlow({
      ...{ method: "counter", start: 104.2, end: 104.5, time: 100 },
      ...{ tolerance: 0.02, timingTolerance: 0.3 },
    });
    expect(counted.value).toBeCloseTo(0.003, 12);
  });

  it("a centrifugal pump takes less as it is throttled", () => {
    const radial = LIBRARY.map((input) => pumpSchema.parse(input) as Pump).filter(
      ({ family, points }) => (family ?? "radial") === "radial" && points.every((p) => p.power),
    );
    expect(radial.length).toBeGreaterThan(5);
    for (const own of radial) {
      const curve = pumpCurve(own);
      const [open, throttled] = [curve.lastFlow, curve.lastFlow / 4].map(
        (q) => shaftPower(curve, q) ?? 0,
      );
      expect(throttled).toBeLessThan(open as number);
    }
  });
});

describe("tolerance arithmetic", () => {
  const flat = tablePump("p", [0, 1, 2, 3, 4, 5], (q) => ({ head: 40 - 8 * q }));
  const on = solved(lineOf([set("p", "p"), pipe("d", "pvc-sch40-3in", 10, 2), open("o")]), [flat]);
  /** A reading of a pump whose heads are a part of the curve's, so exact that only the limit decides. */
  const at = (part: number, grade: ToleranceGrade, flow = 0.001) => {
    const pump = { ...flat, tolerance: grade };
    const head = part * (publishedValue(headAt(pumpCurve(pump), flow)) as number);
    const bore = on.line.segments[0]?.stock?.bore as number;
    const velocity = flow / ((Math.PI / 4) * bore * bore);
    const pressure = (head - velocity ** 2 / 2 / GRAVITY) * on.water.density * GRAVITY;
    return compareWithRated(on.model, pump, {
      flow: { method: "meter", flow, tolerance: 1e-9 },
      discharge: { pressure, fullScale: 1, accuracyClass: 1e-6, elevation: 0, afterItemId: "p" },
      suction: { kind: "water-level", level: 0, tolerance: 0 },
    });
  };

  it.each(Object.entries(TOLERANCE))(
    "grade %s passes just inside its head limit",
    (grade, { head }) => {
      const own = grade as ToleranceGrade;
      expect(at(1 - head + 0.001, own)?.atFlow).toMatchObject({ acceptance: "meets" });
      expect(at(1 - head - 0.001, own)?.atFlow).not.toMatchObject({ acceptance: "meets" });
    },
  );

  it.each(Object.entries(TOLERANCE))(
    "grade %s fails only where flow cannot save it either",
    (grade, { flow }) => {
      // On a straight curve of 40 − 8 q the flow at a head is known by hand, in L/s.
      const q = 3;
      const edge = (40 - 8 * (q / (1 - flow))) / (40 - 8 * q);
      const own = grade as ToleranceGrade;
      expect(at(edge + 0.003, own, q * 1e-3)?.atHead).toMatchObject({ acceptance: "meets" });
      expect(at(edge - 0.003, own, q * 1e-3)?.atHead).toMatchObject({ acceptance: "falls-short" });
    },
  );
});
