import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { BRAMBLE_YARD } from "#demo/waterJobs.ts";
import { jetForce, yardAtWork } from "./yard.ts";

const yard = jobSchema.parse(BRAMBLE_YARD) as JobDocument;
const withRuns = (
  change: (runs: NonNullable<NonNullable<JobDocument["yard"]>["runs"]>) => unknown,
) => yardAtWork({ ...yard, yard: { runs: change(yard.yard?.runs ?? []) as never } });

describe("the yard that feeds a pit", () => {
  it("a run carries its own surfaces and all that runs into it; the last of them the whole need", () => {
    const [shed, gully] = yardAtWork(yard);
    expect(shed?.flow).toBeCloseTo((0.95 * 60 * 0.022) / 3600, 9);
    const all = (0.95 * 60 + 0.9 * 140 + 0.3 * 220) * 0.022;
    expect(gully?.flow).toBeCloseTo(all / 3600, 9);
    // What the job says it needs is that.
    expect(gully?.flow).toBeCloseTo(yard.need?.flow ?? 0, 5);
  });

  it("backs up only once more comes than the pipe carries full", () => {
    const sized = (flow: number, capacity: number) => (capacity / flow) ** (3 / 8);
    const [, gully] = yardAtWork(yard);
    if (!gully) throw new Error("no run");
    const narrow = (part: number) =>
      withRuns((runs) =>
        runs.map((run) =>
          run.id === "yard-run"
            ? { ...run, bore: (run.bore * part) / sized(gully.flow, gully.capacity) }
            : run,
        ),
      )[1];
    expect(narrow(1.01)?.surcharge).toBe(0);
    expect(narrow(0.99)?.surcharge).toBeGreaterThan(0);
  });

  it("holds its pipe, a part of the gravel round it and the basin under its grate", () => {
    const [, gully] = yardAtWork(yard);
    const pipe = (Math.PI / 4) * 0.102 ** 2;
    const basin = (Math.PI / 4) * 0.4 ** 2 * 0.4;
    expect(gully?.storage).toBeCloseTo(14 * (pipe + 0.38 * (0.3 * 0.4 - pipe)) + basin, 9);
  });

  it("a grate takes what the lesser of its rim and its holes lets in, and what comes to it over the ground", () => {
    const laid = (grate: object, basin?: object) =>
      withRuns((runs) => runs.map((run, i) => (i === 1 ? { ...run, grate, basin } : run)))[1];
    const wide = { length: 0.3, width: 0.3, open: 0.5, blocked: 0, ponded: 0.02 };
    // 1.66 × 1.2 m × 0.02^1.5 = 5.634 L/s over the rim; 0.67 × 0.045 m² × √(2g × 0.02) = 18.9 L/s through the holes.
    expect((laid(wide)?.grate?.capacity ?? 0) * 1e3).toBeCloseTo(5.634, 2);
    // With few holes they decide: 0.67 × 0.0018 m² × √(2g × 0.02) = 0.755 L/s.
    expect((laid({ ...wide, open: 0.02 })?.grate?.capacity ?? 0) * 1e3).toBeCloseTo(0.755, 2);
    expect(laid({ ...wide, blocked: 1 })?.grate?.capacity).toBe(0);
    // The shed's downpipe comes in below it.
    expect(laid(wide)?.grate?.comes).toBeCloseTo(((0.9 * 140 + 0.3 * 220) * 0.022) / 3600, 9);
    const pocket = laid(wide, { across: 0.4, depth: 0.5 });
    expect((pocket?.storage ?? 0) - (laid(wide)?.storage ?? 0)).toBeCloseTo(
      0.04 * Math.PI * 0.5,
      9,
    );
  });

  it("runs that lead into one another in a ring are each counted once", () => {
    const ring = withRuns((runs) =>
      runs.map((run, i) => ({ ...run, into: i ? "shed" : "yard-run" })),
    );
    const [first, second] = ring;
    expect(first?.flow).toBeCloseTo(second?.flow ?? 0, 12);
    expect(Number.isFinite(first?.flow)).toBe(true);
  });

  it("a jet lifts with ρ Q v: four times as much for twice the flow, or half the bore", () => {
    expect(jetForce(0.0028, 0.05)).toBeCloseTo((1000 * 0.0028 ** 2) / ((Math.PI / 4) * 0.0025), 9);
    expect(jetForce(0.0028, 0.05) / jetForce(0.0028, 0.1)).toBeCloseTo(4, 9);
    expect(jetForce(0.0056, 0.05) / jetForce(0.0028, 0.05)).toBeCloseTo(4, 9);
  });
});
