import { describe, expect, it } from "vitest";
import { type ReadingDocument, readingSchema } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { resultOf } from "#core/formula/formula.ts";
import { FOOT, GALLON, INCH, PSI } from "#core/quantity/constants.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { BRAMBLE_BOREHOLE } from "#demo/wellJobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { checkWords } from "#words/checks.ts";
import { applyChanges } from "../job/changes.ts";
import { solveJob } from "../job/solveJob.ts";
import { beginJob, LINE_KINDS, newJob } from "../kinds/kinds.ts";
import { judgeTests, type KeptReading } from "../measurement/fieldTests.ts";
import { resultsOf } from "../results/computations.ts";
import { offersFor } from "../whatif/offers.ts";
import { drawsOf, wellDayOf } from "./day.ts";
import { WELL_FIGURES, type WellFigure, wellDerivation } from "./derivations.ts";
import { wellheadItem } from "./dropPipe.ts";
import type { OtherPumpsResult } from "./otherPumps.ts";
import { fitOf, pumpDepth, settled, withPumpDepth, withStanding } from "./settle.ts";
import { type WellResult, wellOf } from "./well.ts";

const borehole = jobSchema.parse(BRAMBLE_BOREHOLE) as JobDocument;
type Well = NonNullable<JobDocument["well"]>;
const withWell = (patch: Partial<Well>, job = borehole): JobDocument =>
  settled({ ...job, well: { ...job.well, ...patch } as Well });
const without = (key: keyof Well, job = borehole): JobDocument => {
  const { [key]: _, ...well } = job.well as Well;
  return settled({ ...job, well });
};

/** What a check of a job says, in words. */
function said(job: JobDocument, code: string) {
  const solved = solveJob(job);
  if (solved.kind === "refused") throw new Error(solved.diagnostics.map((own) => own.code).join());
  const judgement = solved.judgements.find((own) => own.code === code);
  return judgement && { ...judgement, ...checkWords(judgement, job, "metric") };
}

describe("a well among the checks", () => {
  it("that is as it should be is good, and every number says where it comes from", () => {
    for (const code of ["well-dry", "well-setting", "motor-cooling", "cut-out-reached"]) {
      expect(said(borehole, code)?.severity, code).toBe("good");
    }
    const solved = solveJob(borehole);
    expect(
      solved.kind === "solved" && solved.judgements.some(({ severity }) => severity === "stop"),
    ).toBe(false);
  });

  it("that leaves no depth for the pump stops, with what is missing", () => {
    const none = said(withWell({ screen: { from: 34, to: 60 } }), "well-setting");
    expect(none?.severity).toBe("stop");
    expect(none?.sentence).toMatch(
      /34\.8 m down or more .* no lower than 33\.4 m .*1\.42 m are missing/,
    );
    expect(none?.advice).toContain("sleeve");
    // The sleeve lets it hang in the screen.
    const sleeved = withWell({ screen: { from: 34, to: 60 }, sleeve: 0.114 });
    expect(said(sleeved, "well-setting")?.severity).toBe("good");
    // A liner the pump does not pass, above the water: no depth either, and it is the casing.
    const lined = withWell({
      casings: [...(borehole.well?.casings ?? []), { bore: 0.095, from: 20, to: 66 }],
    });
    expect(said(lined, "well-setting")?.sentence).toContain("the casing is too narrow");
  });

  it("slotted from top to bottom does not stop a job, however it is typed", () => {
    const bare = without("screen");
    const solved = solveJob(bare);
    expect(
      solved.kind === "solved" && solved.judgements.some(({ severity }) => severity === "stop"),
    ).toBe(false);
    const all = withWell({ screen: { from: 1, to: 66 } });
    expect(said(all, "well-setting")?.severity).toBe("good");
    // What it does do is let water in above the motor.
    expect(said(all, "motor-cooling")).toMatchObject({ severity: "watch" });
    expect(said(all, "motor-cooling")?.advice).toContain("sleeve");
  });

  it("whose water passes the motor too slowly stops with the flow it needs, and a sleeve mends it", () => {
    const stated = withWell({ casings: [{ bore: 0.2, from: 0, to: 66 }] });
    // A least flow on the plate is what cools it, whatever stands round it.
    expect(said(stated, "motor-cooling")?.severity).toBe("good");
    const asks = (leastFlow: number) => ({
      ...stated,
      pumps: stated.pumps.map((pump) => ({ ...pump, leastFlow })),
    });
    expect(said(asks(1), "motor-cooling")).toMatchObject({ severity: "stop" });
    expect(said(asks(1), "motor-cooling")?.sentence).toMatch(/Less runs .* than the 1000\.0 L\/s/);
    const wide = {
      ...stated,
      pumps: stated.pumps.map(({ leastFlow: _, ...pump }) => pump as (typeof stated.pumps)[number]),
    };
    const slow = said(wide, "motor-cooling");
    expect(slow?.severity).toBe("stop");
    expect(slow?.sentence).toMatch(/0\.0\d\d m\/s .* needs 0\.080 m\/s, which is 1\.91 L\/s/);
    const sleeve = slow?.code === "motor-cooling" ? slow.facts.sleeve : null;
    expect(sleeve).not.toBeNull();
    expect(said(withWell({ sleeve: sleeve ?? 0 }, wide), "motor-cooling")?.severity).toBe("good");
    expect(said(without("casings", wide), "motor-cooling")).toMatchObject({ severity: "unknown" });
    expect(said(without("casings", wide), "motor-cooling")?.advice).toContain("Measure the casing");
  });

  it("that is pumped dry stops with how far, and one above its test says so", () => {
    const weak = withWell({ steps: [{ flow: 0.3e-3, level: 28 }] });
    const dry = said(weak, "well-dry");
    expect(dry?.severity).toBe("stop");
    expect(dry?.sentence).toMatch(
      /below the intake\. With 3 ft \(0\.9 m\) left over the intake it gives 0\.\d+ L\/s/,
    );
    const little = withWell({ steps: [{ flow: 0.3e-3, level: 19.5 }] });
    expect(said(little, "well-dry")).toMatchObject({ severity: "unknown" });
    expect(said(little, "well-dry")?.sentence).toContain("past the 0.30 L/s that were tested");
    // Nothing known of it at all: what to measure.
    const source = { ...borehole.source, drawdown: { linear: 0, quadratic: 0 } };
    const unknown = { ...without("steps"), source } as JobDocument;
    expect(said(unknown, "well-dry")?.advice).toContain("Pump it at a known flow");
    expect(said(unknown, "well-setting")?.sentence).toContain("type a step of a test");
    expect(said(without("bottom"), "well-setting")?.sentence).toContain("bottom is not told");
  });

  it("whose pipe would burst dead-headed stops, though it holds running and at cut-out", () => {
    const thin = {
      ...borehole,
      path: borehole.path.map((item) =>
        item.id === "drop-pipe" ? { ...item, stock: "pe-sidr15-1-1-4in" } : item,
      ),
    } as JobDocument;
    expect(said(thin, "pressure-rating")?.severity).toBe("stop");
    const [run] = wellOf(thin).dropPipe.runs;
    expect(run?.holds.map(({ severity }) => severity)).toEqual(
      ["watch", "watch", "stop"].map((own) =>
        expect.stringMatching(own === "stop" ? /stop/ : /good|watch/),
      ),
    );
    const [instead] = run?.instead.filter(({ passes }) => passes) ?? [];
    expect(instead?.rating).toBeGreaterThan(run?.holds[2]?.pressure ?? 0);
    // The check and the table speak of the same pressure.
    expect(run?.holds[2]?.pressure).toBeCloseTo(said(thin, "pressure-rating")?.value ?? 0, 3);
  });

  it("whose pump cannot make the cut-out never stops, and that is a stop", () => {
    const high = { ...borehole, pressureTank: { ...borehole.pressureTank, cutOut: 900_000 } };
    expect(said(high, "cut-out-reached")?.severity).toBe("stop");
    expect(wellOf(high).tank.switched?.runsOn).toBe(true);
  });
});

describe("what is told of a well", () => {
  const told = wellOf(borehole);

  it("finds the duty at the level its own flow draws the well down to", () => {
    const { drawdown } = borehole.source as Extract<JobDocument["source"], { kind: "well" }>;
    for (const { standing, pumping, flow, doubt } of told.seasons) {
      const drawn = drawdown.linear * (flow ?? 0) + drawdown.quadratic * (flow ?? 0) ** 2;
      expect((pumping ?? 0) - standing).toBeCloseTo(drawn, 6);
      expect(doubt).toBeGreaterThan(0);
    }
    // The drier, the less flow and the deeper.
    const [dry, usual, wet] = told.seasons;
    expect(dry?.flow).toBeLessThan(usual?.flow ?? 0);
    expect(usual?.flow).toBeLessThan(wet?.flow ?? 0);
    expect(fitOf(borehole)).toMatchObject({ kind: "fitted", testedTo: 1.1e-3 });
    // A file that says otherwise than its own test is told of, and put right by taking the test's.
    expect(told.differs).toBe(false);
    const other = {
      ...borehole,
      source: { ...borehole.source, drawdown: { linear: 4000, quadratic: 0 } },
    };
    expect(wellOf(other as JobDocument).differs).toBe(true);
    expect(wellOf(settled(other as JobDocument)).differs).toBe(false);
  });

  const shown: Record<
    WellFigure,
    (own: WellResult, others: OtherPumpsResult | undefined) => number | undefined
  > = {
    pumping: ({ seasons }) => seasons[0]?.pumping,
    gives: ({ seasons }) => seasons[0]?.gives,
    settles: ({ casing }) => casing?.recovers,
    casing: ({ casing }) => casing?.volume,
    highest: ({ window }) => window.from,
    lowest: ({ window }) => window.to,
    "cut-out": ({ dropPipe }) =>
      dropPipe.runs[0]?.holds.find((own) => own.state === "cut-out")?.pressure,
    cable: ({ cable }) => cable.rows.find(({ conductor }) => conductor.id === cable.chosen)?.drop,
    tank: ({ tank }) => tank.switched?.gives,
    minute: ({ tank }) => tank.forMinute,
    starts: ({ tank }) => tank.switched?.worst?.startsPerHour,
    handle: (_, others) => others?.hand?.force,
    "air-start": (_, others) => others?.air?.start,
    "air-flow": (_, others) =>
      others?.air?.result.kind === "lifts" ? others.air.result.flow : undefined,
  };

  it.each(WELL_FIGURES)("the working of %s ends with the number that is shown", (figure) => {
    const job = withWell({ air: { foot: 62, flow: 4e-3, pressure: 6e5 } });
    const own = wellOf(job);
    const others = resultsOf(job, { jets: [] })("otherPumps");
    const value = shown[figure](own, others);
    const working = wellDerivation(figure, job, own, others);
    expect(value).toBeDefined();
    expect(working?.length).toBeGreaterThan(0);
    expect(resultOf(working ?? []) / (value ?? 0)).toBeCloseTo(1, 5);
  });

  it("chooses the cheapest cable that carries its breaker, and lists what goes down", () => {
    expect(told.cable.choice).toMatchObject({
      kind: "found",
      row: { conductor: { id: "mm2-2-5" } },
    });
    const weak = withWell({
      cables: [
        { conductor: "mm2-2-5", ampacity: 16 },
        { conductor: "mm2-4", ampacity: 32 },
      ],
    });
    expect(wellOf(weak).cable.choice).toMatchObject({ row: { conductor: { id: "mm2-4" } } });
    expect(told.parts.find(({ what }) => what === "rope")).toMatchObject({ length: 43 });
    expect(told.parts.find(({ what }) => what === "cable")).toMatchObject({ length: 81 });
    expect(told.dropPipe.hangs?.full).toBeGreaterThan(told.dropPipe.hangs?.dry ?? 0);
  });

  it("sets the throttle's school beside the switch: more pressure in the pipe, less current, more energy", () => {
    const { switched, valved } = told.tank;
    for (const [i, at] of (switched?.at ?? []).entries()) {
      const held = valved?.at[i];
      if (i === (switched?.at.length ?? 0) - 1) expect(held?.pipe).toBeCloseTo(at.pipe, 0);
      else {
        expect(held?.pipe).toBeGreaterThan(at.pipe);
        expect(held?.current).toBeLessThan(at.current ?? 0);
        expect(held?.perVolume).toBeGreaterThan(at.perVolume ?? 0);
      }
    }
    expect(valved?.valve.leastFlow).toBeGreaterThanOrEqual(told.tank.leastFlow ?? 0);
  });

  it("shallow enough is offered jet pumps, and one too deep for any is not", () => {
    const shallow = withPumpDepth(
      withStanding(withStanding(withStanding(borehole, "high", 2), "normal", 3), "low", 4),
      20,
    );
    const jets = LIBRARY.filter(({ kind }) => kind === "jet") as never;
    const others = (job: JobDocument) => resultsOf(job, { jets })("otherPumps");
    const at = others(withWell({ standing: 3, steps: [{ flow: 1e-3, level: 4 }] }, shallow));
    expect(at?.jets.length).toBeGreaterThan(0);
    for (const { flow, lift, limit } of at?.jets ?? []) {
      if (flow !== undefined) expect(lift).toBeGreaterThan(4);
      expect(limit).toBeLessThan(9);
    }
    expect(others(borehole)?.jets).toEqual([]);
  });
});

describe("a day of a job's well and tank", () => {
  it("meets every draw, and tells the pressure at each tap by its height and branch", () => {
    const day = wellDayOf({ ...borehole, house: { ...borehole.house, days: 1 } });
    expect(day.draws).toBe(96);
    expect(day.switched?.run.short).toBe(0);
    const [gate, lower, top] = day.switched?.taps ?? [];
    expect(lower?.least).toBeGreaterThan(gate?.least ?? 0);
    expect(top?.least).toBeLessThan(gate?.least ?? 0);
    // 5.5 m up costs at least that.
    expect((gate?.least ?? 0) - (top?.least ?? 0)).toBeGreaterThan(4 * 9806);
    expect(day.valved?.run.runTime).toBeGreaterThan(day.switched?.run.runTime ?? 0);
  });

  it("goes by what is typed, each draw on its days", () => {
    const { draws, days } = drawsOf({
      use: "typed",
      days: 7,
      taps: [],
      draws: [
        { at: 3600, volume: 0.1 },
        { at: 7200, volume: 0.2, day: 2 },
      ],
    });
    expect(days).toBe(7);
    expect(draws).toHaveLength(8);
    expect(draws.filter(({ start }) => start === 7200 + 2 * 86_400)).toHaveLength(1);
  });

  it("with a switch upside down, too much air, or the water under the pump, says so and stays plain", () => {
    const tank = (patch: object) => ({
      ...borehole,
      pressureTank: { ...borehole.pressureTank, ...patch },
    });
    expect(wellOf(tank({ cutIn: 340_000, cutOut: 200_000 })).tank.upsideDown).toBe(true);
    expect(wellOf(tank({ preCharge: 500_000 })).tank.overCharged).toBe(true);
    for (const patch of [{ cutIn: 340_000, cutOut: 200_000 }, { preCharge: 500_000 }]) {
      expect(
        JSON.stringify(wellOf(tank(patch)), (_key, value) => (Number.isNaN(value) ? "NaN" : value)),
      ).not.toContain("NaN");
    }
    const bare = withPumpDepth(borehole, 22);
    expect(wellDayOf(bare)).toMatchObject({ noWater: true });
    expect(said(bare, "well-dry")?.severity).toBe("stop");
  });

  it("of a well weaker than its pump is stopped by its guard, and says what a day gives", () => {
    const weak = withWell({ steps: [{ flow: 0.3e-3, level: 28 }] });
    const { guarded } = wellOf(weak);
    expect(guarded?.runs).toBeLessThan(0.9);
    // Between what comes in at the level it stops at and at the one it starts again from.
    const linear = 10 / 0.3e-3;
    expect(guarded?.perDay).toBeLessThan((86_400 * ((guarded?.stop ?? 0) - 23.5)) / linear + 0.4);
    expect(guarded?.perDay).toBeGreaterThan((86_400 * ((guarded?.restart ?? 0) - 23.5)) / linear);
    const taps = [{ name: "Main", height: 0, stock: "pe100-sdr11-40mm", length: 5, flow: 0.8e-3 }];
    const draws = [{ at: 0, volume: 60 }];
    const garden = { ...weak, house: { use: "typed" as const, taps, draws } };
    const day = wellDayOf(garden);
    expect(day.switched?.run.heldForWater).toBeGreaterThan(0);
    expect(day.switched?.run.short).toBeGreaterThan(0);
  });
});

describe("a change of a well", () => {
  it("hangs the pump elsewhere with as much more pipe and cable, the line ending where it did", () => {
    const deeper = withPumpDepth(borehole, 46);
    expect(pumpDepth(deeper)).toBe(46);
    expect(deeper.path.find(({ id }) => id === "drop-pipe")).toMatchObject({
      rise: 46,
      length: 46,
    });
    expect(deeper.site.cable?.length).toBe(38 + 46);
    expect(withPumpDepth(deeper, 40)).toEqual(withPumpDepth(borehole, 40));
    // Of a pipe in two runs the lower gives first, and no more than it has.
    const run = { kind: "pipe" as const, stock: "pe100-sdr11-40mm" };
    const parted = {
      ...borehole,
      path: borehole.path.flatMap((item) =>
        item.id === "drop-pipe"
          ? [
              { ...run, id: "low", length: 15, rise: 15 },
              { ...run, id: "high", length: 25, rise: 25 },
            ]
          : [item],
      ),
    } as JobDocument;
    const up = withPumpDepth(parted, 20).path.flatMap((item) =>
      item.kind === "pipe" ? [item.rise] : [],
    );
    expect(up.slice(0, 2)).toEqual([expect.closeTo(0.1, 9), expect.closeTo(19.9, 9)]);
  });

  it("puts half a pump with a booster beside one pump, in two columns", () => {
    const offer = offersFor(borehole, LIBRARY as never).find(
      ({ kind }) => kind === "half-and-booster",
    );
    const changed = applyChanges(borehole, offer?.changes ?? []);
    expect(changed.ok).toBe(true);
    const variants = [{ label: "half", changes: offer?.changes ?? [] }];
    const [as, half] = resultsOf({ ...borehole, variants })("columns");
    expect(as?.well?.boosting).toBeUndefined();
    expect(half?.well?.lifting).toBeLessThan(as?.well?.lifting ?? 0);
    expect(half?.well?.whole).toBeCloseTo(
      (half?.well?.lifting ?? 0) + (half?.well?.boosting ?? 0),
      3,
    );
    expect(half?.well?.pumping).toBeLessThan(as?.well?.pumping ?? 0);
    // Its tank is the booster's, and stops it.
    expect(changed.ok && wellOf(changed.job).tank.switched?.runsOn).toBe(false);
  });

  it("sketched with six entries has a window, and three pressures of its pipe once a pump hangs in it", () => {
    const typed = {
      ...{ bottom: 220 * FOOT, standing: 60 * FOOT, pumped: 85 * FOOT, up: 4 * FOOT },
      ...{ along: 60 * FOOT, flow: (8 * GALLON) / 60, casing: 6 * INCH },
    };
    const begun = beginJob({ kind: "well-to-tank", typed }, "Well", "us");
    const pump = LIBRARY.find(({ id }) => id === "osmerley-deep-3");
    const job = jobSchema.parse({
      ...begun,
      pumps: [pump],
      path: begun.path.map((item) => (item.kind === "pump" ? { ...item, pump: pump?.id } : item)),
    }) as JobDocument;
    const { window, depth, dropPipe, tank } = wellOf(job);
    expect(window.missing).toEqual([]);
    expect(depth).toBeGreaterThan(window.from);
    expect(depth).toBeLessThan(window.to);
    expect(dropPipe.runs[0]?.holds).toHaveLength(3);
    expect(tank.tank.cutOut / PSI).toBeCloseTo(50, 0);
  });
});

describe("whatever the job", () => {
  const jobs: [string, JobDocument][] = [
    ...DEMO_JOBS.map(({ id, job }): [string, JobDocument] => [
      id,
      jobSchema.parse(job) as JobDocument,
    ]),
    ...LINE_KINDS.map((kind): [string, JobDocument] => [kind, newJob("New", kind, "metric")]),
  ];

  it.each(jobs)("%s is told as far as it goes, and as plain data", (_, job) => {
    const told = wellOf(job);
    expect(structuredClone(told)).toEqual(told);
    expect(told.seasons).toHaveLength(3);
    const day = wellDayOf({ ...job, house: { use: "house", days: 1 } });
    expect(day.draws).toBeGreaterThan(50);
    // No number that is none.
    const numbers = JSON.stringify(told, (_key, value) => (Number.isNaN(value) ? "NaN" : value));
    expect(numbers).not.toContain("NaN");
    if (job.source.kind !== "well") expect(told.guarded).toBeUndefined();
  });
});

describe("a gauge on a well", () => {
  it("stands where the drop pipe comes up, and on open water at the pump", () => {
    expect(wellheadItem(borehole)).toBe("drop-pipe");
    expect(wellheadItem(newJob("Line", "plain-line", "us"))).toBeUndefined();
  });

  it.each([300, 285, 310])(
    "tells water %s ft down by four pressures, wherever it was thought to be",
    (depth) => {
      const gpm = GALLON / 60;
      const points = [421, 396, 368, 337, 288, 232].map((head, i) => ({
        flow: (i === 0 ? 0 : 2 + 2 * i) * gpm,
        head: head * FOOT,
      }));
      const pump = {
        ...{ id: "deep", maker: "Tarnfold", model: "Long", kind: "well", submersible: true },
        ...{ drive: "electric", ratedSpeedRpm: 2850, tolerance: "2B", points },
      };
      const hung = 345 * FOOT;
      const jobAt = (standing: number, pressure: number) => {
        const typed = { bottom: 410 * FOOT, standing, pumped: standing, flow: 8 * gpm };
        const begun = beginJob({ kind: "well-to-tank", typed }, "Well", "us");
        const kept = new Set(["pump", "check", "drop-pipe", "tank"]);
        return {
          ...{ ...begun, pumps: [pump], source: { ...begun.source, intake: -hung } },
          path: begun.path.flatMap((item) => {
            if (!kept.has(item.id)) return [];
            if (item.kind === "pump") return { ...item, pump: pump.id };
            if (item.kind === "pipe") return { ...item, length: hung, rise: hung };
            return item.kind === "outlet"
              ? { ...item, outlet: { type: "pressure", pressure } }
              : item;
          }),
        } as JobDocument;
      };
      const readings = [10, 18, 26, 34].map((psi, i): KeptReading => {
        const solved = solveJob(jobAt(depth * FOOT, psi * PSI));
        if (solved.kind === "refused") throw new Error(solved.kind);
        const flow = solved.solution.cases.normal.running?.duty.flow as number;
        return {
          id: `r${i}`,
          document: readingSchema.parse({
            ...{ format: "upright-gusher/reading", version: 1, testId: "t", pumpId: pump.id },
            ...{ takenAt: `2026-05-0${i + 1}T09:00:00Z`, throttled: i > 0 },
            flow: { method: "meter", flow, tolerance: 0.02 },
            discharge: {
              ...{ pressure: psi * PSI, fullScale: 100 * PSI, accuracyClass: 0.016 },
              ...{ elevation: 0, afterItemId: "drop-pipe" },
            },
          }) as ReadingDocument,
        };
      });
      for (const looked of [300, 120, 40]) {
        const job = jobAt(looked * FOOT, 20 * PSI);
        const solved = solveJob(job);
        if (solved.kind === "refused" || solved.kind === "asked") throw new Error(solved.kind);
        const [own] = judgeTests(solved, job, readings, USUAL_UNCERTAINTY, undefined);
        const { value = Number.NaN, standardUncertainty = Number.NaN } = own?.level ?? {};
        expect(looked * FOOT - value).toBeCloseTo(depth * FOOT, 2);
        // The grade's ± 5 % of the head a pump makes, and little more.
        expect(standardUncertainty / FOOT).toBeGreaterThan(5);
        expect(standardUncertainty / FOOT).toBeLessThan(12);
        expect(own?.whole).toBeUndefined();
      }
    },
  );
});
