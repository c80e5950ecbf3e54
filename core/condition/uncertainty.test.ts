import { describe, expect, it } from "vitest";
import { lineModel, solveLine } from "../hydraulics/solveLine.ts";
import type { Line } from "../line/path.ts";
import { latinHypercube } from "../numeric/latinHypercube.ts";
import type { Pump } from "../pump/pump.ts";
import { check, levels, lineOf, open, pipe, set, tablePump } from "../test/fixtures.ts";
import {
  type Band,
  dutyBand,
  dutyBandInSteps,
  type Uncertainty,
  USUAL_UNCERTAINTY,
} from "./uncertainty.ts";

const pump = tablePump("p", [0, 1, 2, 3, 4, 5, 6], (q) => ({ head: 30 - 0.6 * q * q }));
const line = lineOf(
  [set("pump", "p"), check("c"), pipe("d", "pvc-sch40-1-1-2in", 60, 12), open("o")],
  { source: { kind: "open", level: levels(0, 0.3, 0.6), intake: -0.5 } },
);
const NONE = { level: 0, roughnessFactor: 1, hazenWilliamsC: 0, fittings: 0 };
const exact: Pump = { ...pump, tolerance: "1B" };

describe("Latin hypercube", () => {
  it("puts one point in every slice of every axis, the same each time", () => {
    const points = latinHypercube(50, 3, 7);
    for (const axis of [0, 1, 2]) {
      const slices = points.map((point) => Math.floor((point[axis] as number) * 50));
      expect(slices.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 50 }, (_, i) => i));
    }
    expect(latinHypercube(50, 3, 7)).toEqual(points);
    expect(latinHypercube(50, 3, 8)).not.toEqual(points);
  });
});

function bandOf(line: Line, pumps: readonly Pump[], doubt: Uncertainty, count: number): Band {
  const found = dutyBand(lineModel(line, pumps), doubt, count);
  if (found.kind !== "band") throw new Error(found.kind);
  return found;
}

describe("the band of a duty", () => {
  const solved = solveLine(line, [pump]);
  const duty = solved.kind === "solved" ? solved.solution.cases.normal.running?.duty : undefined;
  if (!duty) throw new Error("fixture must run");

  it("holds the duty, and grows with every doubt", () => {
    const usual = bandOf(line, [pump], USUAL_UNCERTAINTY, 400);
    const least = bandOf(line, [exact], NONE, 400);
    expect(usual.flow.low).toBeLessThan(duty.flow);
    expect(usual.flow.high).toBeGreaterThan(duty.flow);
    expect(usual.flow.high - usual.flow.low).toBeGreaterThan(least.flow.high - least.flow.low);
    expect(usual.settled).toBe(400);
  });

  it("comes out as working every corner through does, for a doubt in the level alone", () => {
    // With only the level and the pump in doubt, both act one way: no draw may lie outside the corners.
    const doubt = { ...NONE, level: 0.5 };
    const band = bandOf(line, [exact], doubt, 400);
    const corner = (sign: number) => {
      const points = exact.points.map((p) => ({
        flow: p.flow * (1 + sign * 0.05),
        head: p.head * (1 + sign * 0.03),
      }));
      const level = { low: -1, normal: 0.3 + sign * 0.5, high: 2 };
      const result = solveLine({ ...line, source: { kind: "open", level, intake: -0.5 } }, [
        { ...exact, points },
      ]);
      return result.kind === "solved" ? (result.solution.cases.normal.running?.duty.flow ?? 0) : 0;
    };
    expect(band.flow.low).toBeGreaterThan(corner(-1));
    expect(band.flow.high).toBeLessThan(corner(1));
    expect(band.flow.high - band.flow.low).toBeGreaterThan(0.6 * (corner(1) - corner(-1)));
  });

  it("moves the level of a receiving tank as well as the source's", () => {
    const level = { low: 11, normal: 11, high: 11 };
    const into: Line = {
      ...line,
      path: line.path.with(-1, { kind: "outlet", id: "o", outlet: { type: "submerged", level } }),
    };
    const width = (given: Line) => {
      const { flow } = bandOf(given, [exact], { ...NONE, level: 1.5 }, 400);
      return flow.high - flow.low;
    };
    // Two levels in doubt make a wider band than one.
    expect(width(into)).toBeGreaterThan(1.1 * width(line));
  });

  it("says how far it has got", () => {
    const steps = dutyBandInSteps(lineModel(line, [pump]), USUAL_UNCERTAINTY, 200);
    expect([...steps].map(({ done }) => done)).toEqual([0, 0.25, 0.5, 0.75]);
  });

  it("is not claimed where the pump does not settle", () => {
    const weak = { ...pump, points: pump.points.map((p) => ({ ...p, head: p.head / 4 })) };
    expect(dutyBand(lineModel(line, [weak]), USUAL_UNCERTAINTY, 100)).toMatchObject({
      kind: "unsettled",
      settled: 0,
      mostly: "cannot-lift",
    });
    const empty = lineModel({ ...line, path: [] }, [pump]);
    expect(dutyBand(empty, USUAL_UNCERTAINTY, 100)).toMatchObject({
      kind: "refused",
      diagnostics: [{ code: "no-outlet" }, { code: "no-pump" }],
    });
  });

  it("is none of a pump still to be chosen", () => {
    const path = line.path.map((item) => (item.kind === "pump" ? { ...item, pump: null } : item));
    const asked = lineModel({ ...line, path }, [], 0.002);
    expect(asked).toMatchObject({ kind: "ready", asked: { wanted: 0.002 } });
    expect(dutyBand(asked, USUAL_UNCERTAINTY, 100)).toMatchObject({
      kind: "refused",
      diagnostics: [{ code: "pump-not-chosen" }],
    });
  });
});
