import { describe, expect, it } from "vitest";
import {
  type FieldDocument,
  type JobDocument,
  type JobInput,
  jobSchema,
} from "#contract/documents/job.ts";
import { resultOf } from "#core/formula/formula.ts";
import { withSecondGun } from "#core/irrigation/gunsOnLine.ts";
import { BAR } from "#core/quantity/constants.ts";
import { fromCatalogue } from "#demo/fromLibrary.ts";
import { KETTERBY } from "#demo/jobs.ts";
import { IRRIGATION_FIGURES, irrigationDerivation } from "./derivations.ts";
import { groundsOf } from "./ground.ts";
import { irrigationOf } from "./irrigation.ts";
import { waters } from "./waters.ts";

const job = (over: Partial<JobInput> = {}) =>
  jobSchema.parse({ ...KETTERBY, ...over }) as JobDocument;
const told = (over: Partial<JobInput> = {}) => irrigationOf(job(over));
const field = KETTERBY.field as NonNullable<JobInput["field"]>;

describe("the hurling ground", () => {
  const found = told();
  it("goes from its gun to sets, a clock and a season, each resting on the one before", () => {
    const [gun] = found.guns;
    if (found.sets?.kind !== "planned" || !found.timing || found.day?.kind !== "planned") {
      throw new Error("not planned");
    }
    const { sets, timing, day } = found;
    expect(gun?.thrown.kind).toBe("throws");
    // The depth that is asked for comes down on the field; what falls outside is put out beside it.
    expect(timing.inside).toBeCloseTo(0.016 * sets.area, 6);
    expect(sets.outside).toBeGreaterThan(0.02);
    expect(timing.volume).toBeCloseTo((0.016 * sets.area) / (1 - sets.outside), 6);
    expect(timing.perSet * sets.sets * found.flow).toBeCloseTo(timing.volume, 6);
    const runs = day.steps.filter(({ kind }) => kind === "run");
    expect(runs).toHaveLength(sets.sets);
    expect(day.running).toBeCloseTo(timing.running, 3);
    // Two litres and a bit an hour from a tank of four: it is filled on the way.
    expect(day.fuelStops).toBeGreaterThan(3);
    const { low = 0, high = 0 } = found.between ?? {};
    expect(low).toBeLessThanOrEqual(sets.sets);
    expect(high).toBeGreaterThanOrEqual(sets.sets);
    const season = found.season?.guns;
    expect(season?.weeks[4]?.net).toBeCloseTo(0.003, 9);
    expect(season?.total.volume).toBeCloseTo((season?.total.gross ?? 0) * sets.area, 6);
    expect(found.season?.drip?.total.volume).toBeLessThan(season?.total.volume ?? 0);
  });

  it("every figure's working ends with the figure", () => {
    const { timing, guns, cans } = found;
    const [gun] = guns;
    const test = cans?.test.kind === "tested" ? cans.test : undefined;
    const figures: Record<(typeof IRRIGATION_FIGURES)[number], number | undefined> = {
      throw: gun?.thrown.kind === "throws" ? gun.thrown.radius : undefined,
      wets: gun?.area,
      rate: gun?.rate,
      "per-set": timing?.perSet,
      laid: timing?.volume,
      christiansen: test?.evenness.christiansen,
      "low-quarter": test?.evenness.lowQuarter,
    };
    for (const figure of IRRIGATION_FIGURES) {
      const steps = irrigationDerivation(figure, found);
      expect(steps && resultOf(steps) / (figures[figure] ?? 0), figure).toBeCloseTo(1, 9);
    }
  });

  it("two guns on its pump: the throw follows from their pressure, here into a ring", () => {
    const path = withSecondGun(job().path as never);
    const both = told({ path: path as JobInput["path"] });
    expect(both.guns).toHaveLength(2);
    for (const { pressure, thrown } of both.guns) {
      expect(pressure).toBeLessThan(2.5 * BAR);
      expect(thrown.kind).toBe("ring");
    }
    // Nothing is planned on guns that do not throw.
    expect(both.sets).toBeUndefined();
    expect(both.timing).toBeUndefined();
  });

  it("throws are of the pressure they were taken at, whatever the line becomes", () => {
    const larger = told({
      path: KETTERBY.path.map((item) =>
        item.kind === "pipe" && item.id !== "suction" ? { ...item, stock: "lay-flat-3in" } : item,
      ),
    });
    expect(larger.calibration).toEqual(found.calibration);
    const [now, then] = [larger.guns[0], found.guns[0]];
    expect(now?.pressure).toBeGreaterThan((then?.pressure ?? 0) * 1.1);
    expect(now?.thrown.kind === "throws" && now.thrown.by).toBe("measured");
  });

  it("says what pump and line bring to a drip zone: more than to the gun, which wants more pressure", () => {
    expect(found.drip?.brought).toBeGreaterThan(found.flow);
    const strong = told({
      field: { ...field, drip: { ...field.drip, pressure: "8 bar" } as typeof field.drip },
    });
    expect(strong.drip?.brought).toBe(0);
  });

  it("a throw nobody took, or with a nozzle nobody noted, says nothing", () => {
    const [first] = field.throws ?? [];
    const thrown = (over: object) =>
      told({ field: { ...field, throws: [{ ...first, ...over } as NonNullable<typeof first>] } });
    expect(thrown({}).calibration).toBeDefined();
    expect(thrown({ radius: undefined })).toMatchObject({ otherNozzle: 0 });
    expect(thrown({ radius: undefined }).calibration).toBeUndefined();
    expect(thrown({ bore: undefined })).toMatchObject({ otherNozzle: 1 });
    expect(thrown({ bore: undefined }).calibration).toBeUndefined();
  });

  it("throws with another nozzle say nothing of this one; a new one begins from its chart", () => {
    const path = KETTERBY.path.map((item) =>
      item.kind === "outlet" ? { ...item, outlet: fromCatalogue("hollin-broad-40-16") } : item,
    );
    const other = told({ path });
    expect(other.calibration).toBeUndefined();
    expect(other.otherNozzle).toBe(2);
  });

  it("a throw shorter than the gun throws at its least pressure gives no pressure", () => {
    const found = (radius: string) =>
      told({ field: { ...field, read: { two: { radius, by: "tape" } } } }).read;
    expect(found("12 m")).toMatchObject({ outsideWindow: ["two"], fromThrow: {}, headFactors: {} });
    expect(found("19.8 m").fromThrow.two?.value).toBeGreaterThan(2.5 * BAR);
  });

  it("a gun beside an edge rains harder than one that turns whole", () => {
    const open = told({ field: { ...field, keepOff: [] } });
    expect(open.timing?.widest.rate).toBeCloseTo(open.guns[0]?.rate ?? 0, 12);
    expect(open.timing?.narrowest).toBeUndefined();
    const { widest, narrowest } = found.timing ?? {};
    expect(narrowest?.arc).toBeLessThan(270);
    expect((narrowest?.rate ?? 0) / (widest?.rate ?? 1)).toBeCloseTo(
      360 / (narrowest?.arc ?? 1),
      9,
    );
  });

  it("a tank that cannot last one set is refused, and said so with the set", () => {
    const small = told({ field: { ...field, day: { ...field.day, tank: "0.5 L" } } });
    expect(small.day).toMatchObject({ kind: "refused", why: "tank-shorter-than-set", set: 0 });
  });

  it("goes on from set 7 at 14:20 with what is left in the tank", () => {
    const at = { set: 6, on: "2026-06-06", time: 14 * 3600 + 1200, tankLeft: 0.1 };
    const { calm: _, ...day } = field.day ?? {};
    const later = told({ field: { ...field, day: { ...day, at } } });
    if (later.day?.kind !== "planned") throw new Error("refused");
    const [first, ...rest] = later.day.steps;
    // A tenth of a tank does not see a set to its end.
    expect(first).toMatchObject({ kind: "fuel", from: at.time });
    expect(rest.find(({ kind }) => kind === "run")).toMatchObject({ set: 6 });
  });

  it("works back the nozzle, the pressure and the pump, and names what would halve the doubt", () => {
    const { read } = found;
    expect((read.nozzles?.value ?? 0) / (read.expectedArea ?? 1)).toBeCloseTo(1, 1);
    expect(read.nozzles?.halving?.name).toBe("flow");
    expect(read.headFactors.one?.value).toBeGreaterThan(0.9);
    expect(read.together?.value).toBeGreaterThan(0.9);
  });
});

describe("a job without a field", () => {
  it("waters by its gun alone; without a gun it does not", () => {
    const { field: _, ...bare } = KETTERBY;
    const alone = jobSchema.parse(bare) as JobDocument;
    expect(waters(alone)).toBe(true);
    const found = irrigationOf(alone);
    expect(found.guns).toHaveLength(1);
    expect(found.sets).toBeUndefined();
    const path = alone.path.map((item) =>
      item.kind === "outlet" ? { ...item, outlet: { type: "free" as const } } : item,
    );
    expect(waters({ ...alone, path })).toBe(false);
  });

  it("with its pump still to be chosen is told by what is asked", () => {
    const path = KETTERBY.path.map((item) =>
      item.kind === "pump" ? { ...item, pump: null } : item,
    );
    const found = told({ path });
    expect(found.line).toBe("asked");
    expect(found.flow).toBeCloseTo(3.3e-3, 6);
    expect(found.drive.kind).toBe("none");
  });
});

it("an edge beside a side that the ground has not, or beside a circle's, keeps nothing off", () => {
  const keepOff = [{ what: "hedge" as const, side: 4, away: 2 }];
  const ground = { kind: "rectangle" as const, length: 40, width: 30 };
  const off = (over: object) => groundsOf({ ground, keepOff, ...over } as FieldDocument)?.keepOff;
  expect(off({})).toEqual([]);
  expect(off({ keepOff: [{ ...keepOff[0], side: 3 }] })).toHaveLength(1);
  expect(
    off({ ground: { kind: "circle", diameter: 40 }, keepOff: [{ ...keepOff[0], side: 1 }] }),
  ).toEqual([]);
});
