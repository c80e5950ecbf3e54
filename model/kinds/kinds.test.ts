import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { JOB_KINDS } from "#contract/documents/jobKinds.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import { changeItems, everyItem } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { FOOT, GALLON, INCH, PSI } from "#core/quantity/constants.ts";
import { confirmed, isAssumed, keepAssumed, uncertaintyOf } from "../job/assumed.ts";
import { solveJob } from "../job/solveJob.ts";
import { settled, withStanding } from "../well/settle.ts";
import { inBareUnit, MEASURES, type Measure, type Values } from "./kind.ts";
import {
  beginJob,
  clashOf,
  KINDS,
  LINE_KINDS,
  newJob,
  type Sketch,
  stillToMeasure,
  usualOf,
} from "./kinds.ts";

/** Strong enough for every first line, and for none too strong. */
const pump: Pump = {
  id: "any",
  points: [0, 0.5, 1, 2, 4, 8, 16].map((q) => ({ flow: q * 1e-3, head: 120 - 0.46 * q * q })),
  ratedSpeedRpm: 2900,
  drive: "electric",
  submersible: false,
  tolerance: "2B",
};

it.each(LINE_KINDS)("the first line of %s can be pumped", (kind) => {
  for (const system of ["us", "metric"] as const) {
    const job = newJob("Tried", kind, system);
    const path = changeItems(job.path, (item) =>
      item.kind === "pump" ? { ...item, pump: pump.id } : item,
    );
    const result = solveLine({ ...job, path }, [pump]);
    if (result.kind === "refused") throw new Error(JSON.stringify(result.diagnostics));
    for (const solved of Object.values(result.solution.cases)) {
      expect(solved.outcome.kind).toBe("runs");
    }
  }
});

const everyWay = JOB_KINDS.flatMap((kind) =>
  KINDS[kind].demands.map((demand): [string, Sketch] => {
    const typed = Object.fromEntries(
      KINDS[kind].asks(demand).map((measure) => [measure, usualOf(kind, "us")[measure] ?? 1]),
    ) as Values;
    return [`${kind}, ${demand}`, { kind, demand, typed }];
  }),
);

describe.each(everyWay)("a sketch of %s", (_, sketch) => {
  const asks = KINDS[sketch.kind].asks(sketch.demand ?? KINDS[sketch.kind].demands[0]);

  it("asks six measures at most, and with all of them comes to a head at the flow wanted", () => {
    expect(asks.length).toBeLessThanOrEqual(6);
    expect(stillToMeasure(sketch)).toEqual([]);
    if (asks.length === 0) return;
    const job = beginJob(sketch, "All of it", "us");
    expect(job.wantedFlow).toBeGreaterThan(0);
    expect(job.need?.flow).toBeGreaterThan(0);
    expect(solveJob(job).kind).toBe("asked");
  });

  it("knows no flow while any of them is missing that a flow is made of", () => {
    const job = beginJob({ ...sketch, typed: {} }, "Nothing yet", "us");
    expect(job.wantedFlow).toBeUndefined();
    expect(job.need).toBeUndefined();
    expect(stillToMeasure({ ...sketch, typed: {} })).toEqual(asks);
  });

  it("assumes what was not typed, and nothing that was", () => {
    const all = beginJob(sketch, "All of it", "us").assumed ?? [];
    const none = beginJob({ ...sketch, typed: {} }, "Nothing yet", "us");
    for (const [field, measures] of Object.entries(KINDS[sketch.kind].restsOn)) {
      expect(none.assumed).toContain(field);
      const typed = measures.length > 0 && measures.every((each) => each in sketch.typed);
      expect([field, all.includes(field)]).toEqual([field, !typed]);
    }
    // Every name leads to something in the document: a note changes none of them.
    expect(keepAssumed(none, { ...none, note: "Looked at" }).assumed).toEqual(none.assumed);
  });
});

const inches = (n: number) => n * INCH;
const pit = (typed: Values) => beginJob({ kind: "sump-riser", typed }, "Pit", "us");

it("a pit: the pump's seat follows its depth, and the rise test gives the flow", () => {
  const typed = {
    ...{ depth: inches(30), across: inches(20), riseTime: 45, rise: inches(4) },
    ...{ up: 4 * FOOT, along: 60 * FOOT },
  };
  const job = pit(typed);
  expect(job.source.intake).toBeCloseTo(-inches(30), 12);
  const riser = everyItem(job.path).find(({ id }) => id === "riser");
  expect(riser).toMatchObject({ rise: inches(30) + 4 * FOOT });
  // (computed) π/4 · 20² · 4 in³ in 45 s, half as much again.
  const gallons = ((Math.PI / 4) * 20 ** 2 * 4) / 231;
  expect(job.need?.flow).toBeCloseTo((gallons * GALLON) / 45, 9);
  expect(job.wantedFlow).toBeCloseTo((1.5 * gallons * GALLON) / 45, 9);
  expect(pit({ ...typed, inHand: 2 }).wantedFlow).toBeCloseTo((2 * gallons * GALLON) / 45, 9);
  expect(inBareUnit("rise", inches(6), "us")).toBe("6 in");
});

it("a gun wants what its nozzle passes at the pressure at its base", () => {
  const typed = { down: 2, along: 60, up: 3, nozzle: inches(0.5), pressure: 50 * PSI };
  const job = beginJob({ kind: "pond-to-field", typed }, "Gun", "us");
  // 29.84 Cd d² √p, in gpm, inches and psi: the customary form, from memory.
  const gpm = 29.84 * 0.95 * 0.5 ** 2 * Math.sqrt(50);
  expect((job.wantedFlow ?? 0) / (GALLON / 60) / gpm).toBeCloseTo(1, 3);
});

it("a well whose water stands where it cannot is named at the measure that is wrong", () => {
  const clash = (typed: Partial<Record<Measure, number>>) =>
    clashOf({ kind: "well-to-tank", typed }, "metric");
  const typed = { bottom: 60, standing: 20, pumped: 24 };
  expect(clash(typed)).toBeUndefined();
  expect(clash({ ...typed, pumped: 20 })).toBeUndefined();
  expect(clash({ ...typed, pumped: 19.9 })).toEqual({ at: "pumped", why: "above-standing-water" });
  expect(clash({ ...typed, pumped: 60 })).toEqual({ at: "pumped", why: "below-the-bottom" });
  expect(clash({ ...typed, pumped: 59 })).toEqual({ at: "bottom", why: "bottom-too-near" });
  expect(clash({ standing: 60, bottom: 60 })).toEqual({ at: "standing", why: "below-the-bottom" });
  // The drawdown at the flow wanted is the one that was measured.
  const job = beginJob({ kind: "well-to-tank", typed: { ...typed, flow: 2e-3 } }, "Well", "metric");
  expect(job.source).toMatchObject({ drawdown: { linear: 4 / 2e-3, quadratic: 0 } });
});

it("what is assumed counts until it is changed or found right, and widens the doubt till then", () => {
  const job = pit({ depth: 1, up: 1 });
  expect(job.assumed).toContain("source.level");
  expect(job.assumed).toContain("path.run.length");
  expect(uncertaintyOf(job)).toMatchObject({ level: 0.2, fittings: 0.4 });
  const run = everyItem(job.path).find(({ id }) => id === "run");
  const longer = keepAssumed(job, {
    ...job,
    path: changeItems(job.path, (item) => (item === run ? { ...item, length: 9 } : item)),
  } as JobDocument);
  expect(longer.assumed).not.toContain("path.run.length");
  expect(longer.assumed).toContain("path.run.stock");
  const gone = { ...job, path: job.path.filter(({ id }) => id !== "check") };
  expect(keepAssumed(job, gone).assumed).not.toContain("path.check");
  const level = confirmed(job, ["source.level"]);
  expect(uncertaintyOf(level)).toMatchObject({ level: 0.05, fittings: 0.4 });
  expect(uncertaintyOf(confirmed(job, job.assumed ?? []))).toMatchObject({
    level: 0.05,
    fittings: 0.2,
  });
  // A part of the line that is called as a part of the document is another thing.
  expect(isAssumed({ assumed: ["source.level"] }, "level")).toBe(false);
  expect(isAssumed({ assumed: ["path.level.stock"] }, "level")).toBe(true);
  expect(isAssumed({ assumed: ["path"] }, "level")).toBe(true);
  // What a person said of the doubt stands.
  const doubt = { level: 0.01, roughnessFactor: 1.5, hazenWilliamsC: 0.02, fittings: 0.1 };
  expect(uncertaintyOf({ ...job, doubt })).toBe(doubt);
});

it("more water than a job can have is named where it was typed, and begins no job with it", () => {
  const room = { deep: 1, long: 10, wide: 10, up: 2, along: 10 };
  const sketch = (within: number): Sketch => ({ kind: "emptying", typed: { ...room, within } });
  expect(clashOf(sketch(10), "metric")).toBeUndefined();
  expect(beginJob(sketch(10), "Room", "metric").wantedFlow).toBe(10);
  expect(clashOf(sketch(9.9), "metric")).toEqual({ at: "within", why: "too-much-water" });
  const job = beginJob(sketch(9.9), "Room", "metric");
  expect([job.wantedFlow, job.volume, job.need]).toEqual([undefined, undefined, undefined]);
});

it("whatever is typed within its range begins a job, or is named", () => {
  const any = fc.constantFrom(...JOB_KINDS).chain((kind) =>
    fc.constantFrom(...KINDS[kind].demands).chain((demand) => {
      const { asks, offers } = KINDS[kind];
      const measures = [...asks(demand), ...offers(demand)];
      const value = (measure: Measure) => {
        const { range }: { range: { min?: number; max?: number } } = MEASURES[measure];
        const [least, most] = [range.min ?? 1e-6, range.max ?? 1e6];
        return fc.option(
          fc.oneof(fc.constantFrom(least, most), fc.double({ min: least, max: most, noNaN: true })),
          { nil: undefined },
        );
      };
      return fc.tuple(...measures.map(value)).map((values): Sketch => {
        const typed = measures.flatMap((measure, i) =>
          values[i] === undefined ? [] : [[measure, values[i]]],
        );
        return { kind, demand, typed: Object.fromEntries(typed) };
      });
    }),
  );
  fc.assert(
    fc.property(any, fc.constantFrom("us" as const, "metric" as const), (sketch, units) => {
      const begun = beginJob(sketch, " Any ", units);
      expect(begun.path.length).toBeGreaterThan(2);
      // As a document it is whole: nothing is left to be filled in, trimmed or refused.
      expect(jobSchema.parse(begun)).toEqual(begun);
    }),
    { numRuns: 600 },
  );
});

it("a well's other seasons are asked, or not known; and its pressure is the one typed, none too", () => {
  const typed = { bottom: 60, standing: 21, pumped: 24, flow: 8e-4 };
  const of = (more: object) =>
    beginJob({ kind: "well-to-tank", typed: { ...typed, ...more } }, "Well", "metric");
  const levels = (job: JobDocument) => (job.source.kind === "well" ? job.source.level : undefined);
  expect(levels(of({}))).toEqual({ low: -21, normal: -21, high: -21 });
  expect(of({}).assumed).toContain("source.level.low");
  expect(levels(of({ dry: 26 }))).toEqual({ low: -26, normal: -21, high: -21 });
  expect(of({ dry: 26 }).assumed).not.toContain("source.level.low");
  const clash = clashOf({ kind: "well-to-tank", typed: { ...typed, dry: 20 } }, "metric");
  expect(clash).toEqual({ at: "dry", why: "wetter-when-dry" });
  expect(clashOf({ kind: "well-to-tank", typed: { ...typed, dry: 61 } }, "metric")?.why).toBe(
    "below-the-bottom",
  );

  // Moved as it stands now, what nobody measured goes with it; what was measured stays.
  const moved = withStanding(of({}), "normal", 23);
  expect(levels(moved)).toEqual({ low: -23, normal: -23, high: -23 });
  expect(levels(withStanding(of({ dry: 26 }), "normal", 23))?.low).toBe(-26);

  for (const pressure of [6895, 40_000, 300_000]) {
    const job = settled(of({ pressure }));
    const outlet = job.path.find((item) => item.kind === "outlet")?.outlet;
    expect(outlet).toMatchObject({ type: "pressure" });
    expect(outlet?.type === "pressure" && outlet.pressure).toBeCloseTo(pressure, 6);
    const { cutIn = -1, cutOut = -1 } = job.pressureTank ?? {};
    expect(cutIn).toBeGreaterThanOrEqual(0);
    expect((cutIn + cutOut) / 2).toBeCloseTo(pressure, 6);
  }
  const open = settled(of({ pressure: 0 }));
  expect(open.path.find((item) => item.kind === "outlet")?.outlet).toEqual({ type: "free" });
  expect(open.pressureTank).toBeUndefined();
});
