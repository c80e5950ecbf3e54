import { expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { PIPE_STOCK, pressureRatingAt } from "#core/catalogue/pipes.ts";
import { LIMITS } from "#core/check/check.ts";
import { spread } from "#core/condition/uncertainty.ts";
import { speedRange } from "#core/driving/variableSpeed.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { BRAMBLE_BOREHOLE } from "#demo/wellJobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { findingWords } from "#words/findings.ts";
import { flowOfDemand } from "../demand/demand.ts";
import { seasonsOf } from "../irrigation/fieldPlan.ts";
import { resultsOf } from "../results/computations.ts";
import { drivingOf } from "../selection/driving.ts";
import { halfWithBooster } from "../well/booster.ts";
import { wellOf } from "../well/well.ts";

const borehole = jobSchema.parse(BRAMBLE_BOREHOLE) as JobDocument;

it("a season costs its litres of fuel or its kilowatt-hours, each at its own price", () => {
  const field = {
    season: { weekly: 0.025, rain: [0], loss: 0, fuelPrice: 1.7, energyPrice: 0.29 },
  };
  const plan = { kind: "planned", sets: 2, area: 1000 } as never;
  const timing = { depth: 0.0125 } as never;
  // 25 mm on 1000 m² are 25 m³, at 2.5 L/s 10 000 s.
  const of = (drive: object) =>
    seasonsOf(field as never, plan, timing, 2.5e-3, drive as never, undefined)?.guns?.total.cost;
  // 0.4 L an hour for 10 000 s, and 1.1 kW for as long.
  expect(of({ kind: "engine", fuelRate: 0.4e-3 / 3600 })).toBeCloseTo((0.4 / 3.6) * 10 * 1.7, 6);
  expect(of({ kind: "electric", power: 1100 })).toBeCloseTo(((1.1 * 10_000) / 3600) * 0.29, 6);
});

it("a rise test is out by its tape, its mark and its watch", () => {
  const found = flowOfDemand({ kind: "rise-test", area: 0.2, rise: 0.03, time: 120 });
  // 3 % of the area, 3 mm of the rise, a second of the time, at right angles.
  const doubt = Math.hypot(0.03, 0.003 / 0.03, 1 / 120);
  expect(found?.low).toBeCloseTo((0.006 / 120) * (1 - doubt), 12);
  expect(found?.high).toBeCloseTo((0.006 / 120) * (1 + doubt), 12);
});

it("of a thousand draws the twenty-five lowest and highest are left out", () => {
  const draws = Array.from({ length: 1001 }, (_, i) => (i * 383) % 1001);
  expect(spread(draws)).toEqual({ low: 25, middle: 500, high: 975 });
});

it("a motor runs at one speed unless its plate says more, an engine down to half", () => {
  const pump = { drive: "electric", ratedSpeedRpm: 2900 } as never;
  expect(speedRange(pump)).toEqual({ least: 1, most: 1 });
  expect(speedRange({ ...(pump as object), drive: "engine" } as never)).toEqual({
    least: 0.5,
    most: 1,
  });
  const speeds = { least: 1450, most: 3190 };
  expect(speedRange({ ...(pump as object), speeds } as never)).toEqual({ least: 0.5, most: 1.1 });
});

it("a drop pipe is watched from nine tenths of its rating, and stopped past it", () => {
  const seen = new Set<string>();
  for (const { id } of PIPE_STOCK) {
    const path = borehole.path.map((item) =>
      item.id === "drop-pipe" ? { ...item, stock: id } : item,
    );
    const job = { ...borehole, path } as JobDocument;
    for (const { rating, holds } of wellOf(job).dropPipe.runs) {
      for (const { pressure, severity } of holds) {
        if (rating === undefined || pressure === undefined) {
          expect(severity).toBe("unknown");
          continue;
        }
        const part = pressure / rating;
        expect([id, part, severity]).toEqual([
          id,
          part,
          part > 1 ? "stop" : part > 0.9 ? "watch" : "good",
        ]);
        seen.add(severity);
      }
      const stock = PIPE_STOCK.find((own) => own.id === id);
      expect(rating).toBe(stock && pressureRatingAt(stock, job.site.waterTemperature));
    }
  }
  expect(seen).toEqual(new Set(["good", "watch", "stop"]));
  expect(LIMITS.pressureReserve).toBe(0.9);
});

it("a floor that stays dry and one that gets wet are never told as the other", () => {
  const title = (finding: object) =>
    findingWords(finding as never, { body: () => "The pit", system: "metric" });
  const dry = title({
    code: "keeps-up",
    severity: "good",
    under: 0.3,
    inflow: 1e-3,
    survives: 2e-3,
  });
  const wet = title({
    ...{ code: "floor-wet", severity: "stop", at: 600, lasts: 300, spilled: 0.2 },
    ...{ inflow: 3e-3, survives: 2e-3 },
  });
  expect([dry.title, wet.title]).toEqual(["The floor stays dry", "The floor gets wet"]);
  expect(dry.sentence).toContain("under the rim");
  expect(wet.sentence).toContain("over the rim");
  expect(wet.advice).toContain("3.00 L/s");
});

it("an air lift starts against the wet season's water and lifts from the dry one's, each higher the deeper", () => {
  const air = { foot: 34, bore: 0.04, flow: 0.02, pressure: 4e5 };
  const of = (low: number, high: number) => {
    const source = {
      ...borehole.source,
      drawdown: { linear: 0, quadratic: 0 },
      level: { low: -low, normal: -(low + high) / 2, high: -high },
    };
    const job = { ...borehole, source, well: { ...borehole.well, air } } as never;
    return resultsOf(job, { jets: [] })("otherPumps")?.air;
  };
  const density = 999;
  const [near, far, wetter] = [of(16, 10), of(19, 10), of(16, 7)];
  // ρ g of what stands over its foot at the highest.
  expect((near?.start ?? 0) / (density * 9.80665)).toBeCloseTo(34 - 10, 1);
  expect(far?.start).toBeCloseTo(near?.start ?? 0, 3);
  expect((wetter?.start ?? 0) / (density * 9.80665)).toBeCloseTo(34 - 7, 1);
  // A deeper dry season lowers what it lifts from, and a wetter wet one does not.
  expect((far?.lift ?? 0) - (near?.lift ?? 0)).toBeCloseTo(3, 9);
  expect(wetter?.lift).toBeCloseTo(near?.lift ?? 0, 6);
});

it("a booster has to push at the cut-out too, not only in the middle of the switch", () => {
  const library = LIBRARY.map((pump) => pumpSchema.parse(pump) as PumpDocument);
  const found = halfWithBooster(borehole, library);
  if (!found) throw new Error("none");
  const { cutOut = 0 } = borehole.pressureTank ?? {};
  const head = (pump: PumpDocument) => Math.max(...pump.points.map((row) => row.head ?? 0));
  // One that takes less than the one found, and ends between the middle of the switch and its cut-out.
  const weaker: PumpDocument = {
    ...found.booster,
    ...{ id: "weaker", model: "Weaker" },
    points: found.booster.points.map((row) => ({
      ...row,
      head: ((row.head ?? 0) * (0.97 * cutOut)) / (999 * 9.80665) / head(found.booster),
      ...(row.power !== undefined && { power: 0.3 * row.power }),
    })),
  };
  expect(halfWithBooster(borehole, [...library, weaker])?.booster.id).toBe(found.booster.id);
  // Strong enough to its end, it is the one that takes least.
  const enough = {
    ...weaker,
    id: "enough",
    points: weaker.points.map((row) => ({ ...row, head: 1.3 * (row.head ?? 0) })),
  };
  expect(halfWithBooster(borehole, [...library, enough])?.booster.id).toBe("enough");
});

it("what runs now takes no less for a volume than the lift alone, or nothing is told of it", () => {
  const job = jobSchema.parse(
    DEMO_JOBS.find(({ id }) => id === "ketterby-hurling-ground")?.job,
  ) as JobDocument;
  const place = job.path.find(({ kind }) => kind === "pump")?.id as string;
  const of = (part: number) => {
    const pumps = job.pumps.map((pump) => ({
      ...pump,
      points: pump.points.map((row) => ({ ...row, power: part * (row.power ?? 0) })),
    }));
    return drivingOf({ ...job, pumps } as JobDocument, place);
  };
  const whole = of(1);
  expect(whole?.perVolume).toBeCloseTo((whole?.power ?? 0) / (whole?.flow ?? 1), 6);
  expect(whole?.perVolume).toBeGreaterThan(whole?.speeds?.floor ?? Number.NaN);
  // A fiftieth of it does not even lift the water.
  expect(of(0.02)?.power).toBeCloseTo(0.02 * (whole?.power ?? 0), 6);
  expect(of(0.02)?.perVolume).toBeUndefined();
});
