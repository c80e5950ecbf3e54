import { describe, expect, it } from "vitest";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { jobSchema } from "#contract/documents/job.ts";
import { dutyBand, USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { lineModel, type Solution, solveLine } from "#core/hydraulics/solveLine.ts";
import type { PathItem } from "#core/line/path.ts";
import { check, hole, lineOf, open, pipe, pumpOf, set, split } from "#core/test/fixtures.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { keepAssumed } from "../job/assumed.ts";
import { type Solved, solveJob } from "../job/solveJob.ts";
import { newJob } from "../kinds/kinds.ts";
import {
  comparePrediction,
  compareReading,
  placeOfReading,
  pumpOfReading,
  reachOfJob,
  type StandingPump,
  standingPumps,
  takenOnAnother,
} from "./readings.ts";

const pumps = [pumpOf("small", 12, 0.005), pumpOf("large", 16, 0.007)];
const solvedLine = (path: PathItem[]): Solved => {
  const result = solveLine(lineOf(path), pumps);
  if (result.kind !== "solved") throw new Error("fixture must solve");
  return { kind: "solved", solution: result.solution as Solution, judgements: [] };
};
const leg = (id: string, pump: string, held = true, length = 2) => [
  set(id, pump),
  ...(held ? [hole(`vent-${id}`), check(`check-${id}`)] : []),
  pipe(`leg-${id}`, "pvc-sch40-1-1-2in", length, 1),
];
const main = [pipe("main", "pvc-sch40-1-1-2in", 30, 3), open("out")];
const legs = { a: leg("a", "small"), b: leg("b", "large", true, 5) };
const paths = {
  both: [split("s", legs.a, legs.b), ...main],
  a: [...legs.a, ...main],
  b: [...legs.b, ...main],
};
const several = solvedLine(paths.both);
const alone = { a: solvedLine(paths.a), b: solvedLine(paths.b) };
const flowOf = ({ solution }: Solved) => solution.cases.normal.running?.state.byOutlet[0] as number;

const reading = (flow: number, running?: string[], afterItemId = "main"): ReadingDocument => ({
  ...{ format: "upright-gusher/reading", version: 5, testId: "t", takenAt: "2026-05-01T10:00:00Z" },
  flow: { method: "meter", flow, tolerance: 0.01 },
  discharge: { pressure: 5e4, fullScale: 2e5, accuracyClass: 0.01, elevation: 1, afterItemId },
  suction: { kind: "water-level", level: 0, tolerance: 0.01 },
  ...(running && { running }),
});

describe("one of several pumps, measured alone", () => {
  it.each(["a", "b"] as const)("is promised what its own line would give: pump %s", (id) => {
    const band = dutyBand(lineModel(lineOf(paths.both), pumps), USUAL_UNCERTAINTY, 40);
    if (band.kind !== "band") throw new Error("fixture must have a range");
    const found = comparePrediction(several, reading(1e-3, [id]), band, USUAL_UNCERTAINTY);
    expect(found?.promised).toBeCloseTo(flowOf(alone[id]), 9);
    expect(found?.ran).toEqual({ count: 1, of: 2 });
    expect(found?.promised).toBeLessThan(flowOf(several));
  });

  it.each(["a", "b"] as const)("is held against its own curve: pump %s", (id) => {
    for (const place of [id, `leg-${id}`, "main"]) {
      const found = compareReading(several, reading(2.5e-3, [id], place));
      const own = compareReading(alone[id], reading(2.5e-3, undefined, place));
      expect(found?.misplaced).toBeUndefined();
      expect(found?.head.value).toBeCloseTo(own?.head.value as number, 5);
      expect(found?.flow.value).toBeCloseTo(own?.flow.value as number, 8);
      expect(found?.acceptance).toBe(own?.acceptance);
    }
    // A gauge on the leg of the one that stands shows nothing of the other.
    const other = id === "a" ? "leg-b" : "leg-a";
    expect(compareReading(several, reading(2.5e-3, [id], other))?.misplaced).toBe("off-the-line");
  });

  it("cannot be told while both run, nor where its water runs back through the other", () => {
    expect(pumpOfReading(several, reading(2.5e-3))).toBe("several-ran");
    expect(pumpOfReading(several, reading(2.5e-3, ["a", "b"]))).toBe("several-ran");
    expect(compareReading(several, reading(2.5e-3))).toBeUndefined();
    const open = solvedLine([split("s", leg("a", "small"), leg("b", "large", false)), ...main]);
    expect(pumpOfReading(open, reading(2.5e-3, ["a"]))).toBe("runs-back");
    // The check valve of the first holds what the second moves.
    expect(pumpOfReading(open, reading(2.5e-3, ["b"]))).toEqual({ at: 1 });
  });

  it("is not the flow of one of several outlets that give water", () => {
    const forked = (elevation: number) =>
      solvedLine([
        set("a", "large"),
        split(
          "s",
          [pipe("x", "pvc-sch40-1-1-2in", 50, elevation), open("near")],
          [pipe("y", "pvc-sch40-1-1-2in", 20, 2), open("far")],
        ),
      ]);
    const of = { ...reading(2e-3, undefined, "a"), outletId: "far" };
    expect(pumpOfReading(forked(2), of)).toBe("several-outlets");
    expect(compareReading(forked(2), of)).toBeUndefined();
    // Its other end is higher than the pump lifts: all of it leaves by one.
    expect(pumpOfReading(forked(40), of)).toEqual({ at: 0 });
  });

  it("in a row the one that stands passes the water of the other", () => {
    const row = solvedLine([
      set("a", "small"),
      pipe("x", "pvc-sch40-1-1-2in", 1),
      set("b", "large"),
      ...main,
    ]);
    expect(pumpOfReading(row, reading(2.5e-3, ["b"]))).toEqual({ at: 1 });
    expect(pumpOfReading(row, reading(2.5e-3, ["a"]))).toEqual({ at: 0 });
  });

  it("is of another pump once a pump that ran is gone, or its place has another", () => {
    expect(takenOnAnother(several, { running: ["a", "gone"] })).toBe(true);
    expect(takenOnAnother(several, { running: ["a"], pumpId: "large" })).toBe(true);
    expect(takenOnAnother(several, { running: ["a"], pumpId: "small" })).toBe(false);
    expect(takenOnAnother(several, { pumpId: "large" })).toBe(false);
    expect(placeOfReading(several, { running: ["b"], pumpId: "large" })).toBe(1);
    expect(placeOfReading(several, { pumpId: "large" })).toBe(1);
    expect(placeOfReading(several, { running: ["gone"] })).toBe(-1);
    expect(placeOfReading(several, {})).toBe(0);
  });
});

describe("the pump of a line that nobody drew", () => {
  const { pumps: held } = jobSchema.parse(GLASSHOUSES);
  const job = newJob("Measuring", "measuring", "us");
  const path = job.path.map((item) =>
    item.kind === "pump" ? { ...item, pump: held[0]?.id as string, speedRatio: 0.9 } : item,
  );
  const measuring = keepAssumed(job, { ...job, path, pumps: held });
  const unsolved = solveJob(measuring);
  const [ran] = standingPumps(measuring, unsolved);
  it("is known all the same, and holds a gauge to what it makes alone", () => {
    expect(unsolved.kind).toBe("refused");
    expect(ran).toMatchObject({ pump: held[0], speedRatio: 0.9 });
    const peak = Math.max(...(held[0]?.points ?? []).map(({ head }) => head));
    const { gauge } = reachOfJob(measuring, unsolved, ran as StandingPump, 0, undefined);
    // A kilopascal is 0.102 m of water.
    expect(gauge?.most).toBeCloseTo(0.81 * peak * 999.1 * 9.80665, -2);
    expect(gauge?.published).toBe(false);
  });
  it("and none is made up where none was chosen", () => {
    expect(standingPumps(job, solveJob(job))).toEqual([]);
  });
  it("counts by its line once that is typed", () => {
    const typed = path.map((item) =>
      item.kind === "pipe" ? { ...item, length: 21, rise: 2 } : item,
    );
    const drawn = keepAssumed(measuring, { ...measuring, path: typed });
    const line = solveJob(drawn);
    const { gauge } = reachOfJob(drawn, line, standingPumps(drawn, line)[0] as StandingPump, 0, 3);
    const alone = reachOfJob(drawn, line, ran as StandingPump, 0, undefined).gauge;
    expect(gauge?.published).toBe(true);
    expect(gauge?.most).toBeLessThan(alone?.most ?? 0);
  });
});
