import { expect, it } from "vitest";
import { coreReading, type ReadingDocument, readingSchema } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { flowUncertainties, measuredFlow } from "#core/measurement/instruments.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { solveJob } from "../job/solveJob.ts";
import { comparePrediction, compareReading } from "../measurement/readings.ts";
import { pitOf } from "./pit.ts";

const base = {
  ...{ format: "upright-gusher/reading", version: 5, testId: "t" },
  takenAt: "2026-06-03T09:00:00Z",
};
const read = (flow: object, more: object = {}) =>
  readingSchema.safeParse({ ...base, flow, ...more });
const fallen = {
  ...{ method: "draw-down", area: 1.2, areaTolerance: 0.03, fall: 0.1, fallTolerance: 0.004 },
  ...{ time: 120, timingTolerance: 0.3, inflow: 0.002, inflowTolerance: 0.1 },
};
const NOTHING = [
  { method: "meter", flow: 0, tolerance: 0.02 },
  { method: "timed", volume: 0, volumeTolerance: 0.02, time: 60, timingTolerance: 0.3 },
  { method: "counter", start: 3.4, end: 3.4, time: 90, tolerance: 0.02, timingTolerance: 0.3 },
  // It rose by just what came in: 1.2 m² · 0.2 m / 120 s = 2 L/s.
  { ...fallen, fall: -0.2 },
];

it("nothing is a reading by every way of measuring, and judged as less than was promised", () => {
  const job = jobSchema.parse(DEMO_JOBS[0]?.job) as JobDocument;
  const solved = solveJob(job);
  if (solved.kind !== "solved") throw new Error(solved.kind);
  const promised = solved.solution.cases.normal.running?.state.delivered as number;
  const spread = { low: 0.9 * promised, middle: promised, high: 1.1 * promised };
  const band = { kind: "band", flow: spread, byOutlet: [spread], head: spread } as never;
  for (const flow of NOTHING) {
    const parsed = read(flow);
    expect(parsed.error?.issues ?? []).toEqual([]);
    const reading = parsed.data as ReadingDocument;
    expect(measuredFlow(coreReading(reading).flow).value).toBeCloseTo(0, 12);
    for (const { standardUncertainty } of flowUncertainties(coreReading(reading).flow).doubts) {
      expect(standardUncertainty).toBeGreaterThanOrEqual(0);
    }
    expect(comparePrediction(solved, reading, band, USUAL_UNCERTAINTY)?.kept).toBe("less");
  }
});

it("pressure with nothing running is held against the head the pump makes shut off", () => {
  const job = jobSchema.parse(DEMO_JOBS[0]?.job) as JobDocument;
  const solved = solveJob(job);
  if (solved.kind !== "solved") throw new Error(solved.kind);
  const { pumps, line } = solved.solution;
  const shutoff = pumps[0]?.pump.points[0]?.head as number;
  const elevation = line.pumps[0]?.elevation as number;
  const level = 0;
  const gauge = (of: number) => ({
    discharge: {
      ...{ pressure: (of * shutoff + level - elevation) * 998 * 9.80665, fullScale: 4e5 },
      ...{ accuracyClass: 0.001, elevation, afterItemId: pumps[0]?.itemId },
    },
    suction: { kind: "water-level", level, tolerance: 0.01 },
  });
  const judged = (of: number, flow: object) =>
    compareReading(solved, read(flow, gauge(of)).data as ReadingDocument);
  const [meter] = NOTHING;
  for (const of of [1, 0.5]) {
    const [open, shut] = [judged(of, meter as object), judged(of, { method: "shut" })];
    expect(open?.acceptance).toBe(of === 1 ? "meets" : "falls-short");
    expect(open?.acceptance).toBe(shut?.acceptance);
    expect(open?.atHead).toEqual(shut?.atHead);
  }
});

it("a pit that rises while it is pumped has the pump move what is left of the inflow; more than that is refused", () => {
  const rose = read({ ...fallen, fall: -0.05 }).data as ReadingDocument;
  // 2 L/s in, 1.2 m² · 0.05 m / 120 s of it stay: 1.5 L/s are pumped.
  expect(measuredFlow(coreReading(rose).flow).value).toBeCloseTo(1.5e-3, 9);
  const refused = read({ ...fallen, fall: -0.21 });
  expect(refused.error?.issues[0]).toMatchObject({ path: ["flow", "fall"] });
  expect(read({ ...NOTHING[2], end: 3.3 }).success).toBe(false);
});

it("knows area and inflow of a pit where they were surveyed, and of nothing else", () => {
  const source = {
    kind: "open",
    level: { low: 0, normal: 1, high: 2 },
    intake: 0,
    body: "pit",
  } as const;
  const round = { id: "pit", shape: { kind: "cylinder", depth: 1, diameter: 0.8 } } as const;
  const need = { kind: "rise-test", area: 0.5, rise: 0.1, time: 40 } as const;
  expect(pitOf({ source, bodies: [round], need } as never)).toEqual({
    area: (Math.PI / 4) * 0.64,
    inflow: (0.5 * 0.1) / 40,
  });
  const cone = {
    id: "pit",
    shape: { kind: "cone", depth: 1, bottom: 0.4, top: 0.8 },
    inflow: 1e-4,
  } as const;
  expect(pitOf({ source, bodies: [cone] } as never)).toEqual({ inflow: 1e-4 });
  expect(pitOf({ source: { ...source, body: "other" }, bodies: [round] } as never)).toEqual({});
});
