import { Solver } from "odex";
import { describe, expect, it } from "vitest";
import { type JobDocument, type JobInput, jobSchema } from "#contract/documents/job.ts";
import { USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { resultOf } from "#core/formula/formula.ts";
import { FOOT } from "#core/quantity/constants.ts";
import type { Answers, Trouble } from "#core/simulation/answers.ts";
import { DEMO_JOBS, TALLOW_MILL } from "#demo/jobs.ts";
import { findingWords } from "#words/findings.ts";
import { answerLines, eventWords } from "#words/simulation.ts";
import { beginJob } from "../kinds/kinds.ts";
import type { RunFinding } from "./answers.ts";
import { answersOf } from "./answers.ts";
import { batteryOf } from "./battery.ts";
import { withoutBody } from "./begin.ts";
import { DERIVED, type DerivedFigure, runDerivation } from "./derivations.ts";
import { hosePieces } from "./emptying.ts";
import { overTime, settingOf, simulateSetting } from "./overTime.ts";
import { timeRange } from "./range.ts";
import { type RunResult, simulationOf } from "./result.ts";
import { firstStorm, inflowOf, type Piece, stormPieces } from "./storm.ts";
import { troublesOf } from "./troubles.ts";
import { liftingOfSource, upliftOf } from "./uplift.ts";

const parse = (job: JobInput) => jobSchema.parse(job) as JobDocument;
const mill = parse(TALLOW_MILL);

function run(job: JobDocument): RunResult {
  const told = simulationOf(job);
  if (told.kind !== "run") throw new Error(JSON.stringify(told));
  return told;
}
const codes = (job: JobDocument): RunFinding["code"][] =>
  run(job).answers.findings.map(({ code }) => code);
const inTimeOf = (job: JobDocument, patch: Partial<NonNullable<JobDocument["overTime"]>>) => ({
  ...job,
  overTime: { ...job.overTime, ...patch },
});

/** A tank of five cubic metres emptied by a pump that moves just what is wanted. */
const tank = (patch: Partial<JobInput> = {}) =>
  parse({
    format: "upright-gusher/job",
    version: 2,
    name: "Tank",
    source: {
      kind: "open",
      level: { low: 0.5, normal: 1, high: 1.25 },
      intake: 0,
      body: "tank",
    },
    bodies: [
      {
        id: "tank",
        shape: { kind: "box", length: 2, width: 2, depth: 1.5 },
        bottom: 0,
        levels: { low: 0, normal: 1.25, high: 1.25 },
        film: 0,
      },
    ],
    path: [
      { kind: "pump", id: "pump", pump: null },
      { kind: "pipe", id: "hose", stock: "sump-hose-2in", length: 12, rise: 3 },
      { kind: "outlet", id: "outlet", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    wantedFlow: "2.04 L/s",
    pumps: [],
    ...patch,
  });

describe("every demo job that moves in time", () => {
  const moving = DEMO_JOBS.map(({ id, job }) => [id, parse(job)] as const).filter(
    ([, job]) => job.bodies,
  );
  it.each(moving)("%s: all water is accounted for", (_, job) => {
    const { totals, times, end } = run(job).timeline;
    const sum = (values: readonly number[]) => values.reduce((all, own) => all + own, 0);
    const through = sum(totals.start) + sum(totals.inflow) + sum(totals.received);
    const left = sum(totals.taken) + sum(totals.spilled) + sum(totals.final);
    expect(Math.abs(through - left) / through).toBeLessThan(1e-9);
    expect(times.length).toBeGreaterThan(10);
    expect(end).not.toBe("event-limit");
  });

  it.each(moving)("%s: every sentence said of it is whole", (_, job) => {
    const told = run(job);
    for (const system of ["us", "metric"] as const) {
      const called = { pump: () => "Pump", body: () => "Pit", system };
      const said = [
        ...told.answers.findings.flatMap((own) => Object.values(findingWords(own, called))),
        ...answerLines(told.answers, system).flatMap((own) => Object.values(own)),
        ...told.timeline.events.map((own) => eventWords(own, called)),
      ];
      expect(said.length).toBeGreaterThan(5);
      for (const text of said) expect(text).not.toMatch(/undefined|NaN|Infinity/);
    }
  });

  it("the mill's storm until its first start, by a general solver (odex)", () => {
    const found = settingOf(mill);
    if (found.kind !== "setting") throw new Error(found.kind);
    const { setting } = found;
    const timeline = simulateSetting(setting);
    const [first] = timeline.events;
    expect(first?.kind).toBe("pump-on");
    const store = setting.stores[0] as (typeof setting.stores)[number];
    const solver = new Solver(1);
    solver.absoluteTolerance = 1e-11;
    // Past the start of the run, to the alarm of a pit whose pumps are all dead.
    const dark = settingOf(inTimeOf(mill, { powerCut: { from: 0, to: 36_000 } }));
    if (dark.kind !== "setting") throw new Error(dark.kind);
    const alarm = simulateSetting(dark.setting).events.find(({ kind }) => kind === "alarm");
    let volume = store.volumeAt(setting.startLevels[0] as number);
    const stops = [0, ...setting.breaks.filter((t) => t < (alarm?.time ?? 0)), alarm?.time ?? 0];
    for (const [i, from] of stops.slice(0, -1).entries()) {
      const to = stops[i + 1] as number;
      const inflow = setting.inflowAt((from + to) / 2)[0] as number;
      [volume] = solver.solve(() => [inflow], from, [volume], to).y as [number];
    }
    expect(store.levelAt(volume)).toBeCloseTo(-0.6, 6);
  });
});

describe("emptying", () => {
  it("5000 L at 2.04 L/s take 40.8 min", () => {
    const { answers, byHand, asked } = run(tank());
    expect([byHand, asked]).toEqual([true, true]);
    expect((answers.dry?.at ?? 0) / 60).toBeCloseTo(40.8, 1);
    expect(answers.moved).toBeCloseTo(5, 6);
  });

  it("3 mm of film on 20 m² are 60 L, and a carpet lifts the pump", () => {
    const room = (carpet: boolean) =>
      tank({
        bodies: [
          {
            id: "tank",
            shape: { kind: "box", length: 5, width: 4, depth: 1.5 },
            bottom: 0,
            levels: { low: 0, normal: 0.1, high: 0.1 },
            ...{ film: 0.003, carpet },
          },
        ],
      });
    expect(run(room(false)).answers.dry?.left).toBeCloseTo(0.06, 6);
    expect(run(room(true)).answers.dry?.left).toBeCloseTo((0.003 + 0.022) * 20, 6);
  });

  it("60 ft of hose in pieces of 20 ft: 3 pieces, 2 couplings, 5 clamps", () => {
    const hose = { kind: "pipe", id: "h", stock: "sump-hose-1-1-2in", rise: 0 } as const;
    expect(hosePieces([{ ...hose, length: 60 * FOOT }])).toEqual({
      ...{ pieces: 3, couplings: 2, clamps: 5 },
    });
    expect(hosePieces([{ ...hose, stock: "pvc-sch40-2in", length: 60 * FOOT }])).toBeUndefined();
  });

  it("says that it never gets dry once as much comes in as is drawn, and what it has", () => {
    const flooded = (inflow: string) => {
      const job = tank();
      return parse({
        ...job,
        bodies: job.bodies?.map((body) => ({ ...body, inflow })),
        overTime: { span: "48 h" },
      } as JobInput);
    };
    expect(codes(flooded("2.0 L/s"))).not.toContain("never-dry");
    expect(codes(flooded("2.0 L/s"))).not.toContain("not-dry-yet");
    expect(codes(flooded("2.03 L/s"))).toContain("not-dry-yet");
    expect(codes(flooded("2.1 L/s"))).toContain("never-dry");
    expect(run(flooded("2.1 L/s")).answers.moved).toBeGreaterThan(30);
  });

  it("lets the water down a stage a day, and together they are the whole", () => {
    const { answers } = run(inTimeOf(tank(), { lowering: { perDay: 0.5 } }));
    expect(answers.stages?.map(({ to }) => Number(to.toFixed(3)))).toEqual([0.75, 0.25, 0]);
    const pumping = answers.stages?.reduce((sum, own) => sum + own.pumping, 0);
    expect(pumping).toBeCloseTo(answers.dry?.at ?? 0, 3);
  });

  it("a shell lifts once the ground water weighs more than it and the water in it", () => {
    const body = (mass: number) => ({
      ...(tank().bodies?.[0] as NonNullable<JobDocument["bodies"]>[number]),
      shell: { mass, groundwater: 1 },
    });
    // 4 m² a metre deep in ground water: 4 t of lift.
    const light = upliftOf(body(3000), 0, 0, 3000, 1);
    expect(light?.force).toBeCloseTo(4000 * 9.80665, 6);
    expect(light?.holding).toBeCloseTo(3000 * 9.80665, 6);
    expect(light?.keepAbove).toBeCloseTo(0.25, 9);
    const held = upliftOf(body(3000), 0, light?.keepAbove ?? 0, 3000, 1);
    expect((held?.holding ?? 0) / (held?.force ?? 1)).toBeCloseTo(1, 9);
    const weighed = (mass: number) => ({ ...tank(), bodies: [body(mass)] });
    expect(codes(weighed(3999))).toContain("floats-up");
    expect(codes(weighed(4001))).not.toContain("floats-up");
  });

  it("what would lift a shell is asked for until it is known, and never taken for nothing", () => {
    const own = (tank().bodies ?? [])[0] as NonNullable<JobDocument["bodies"]>[number];
    type Shell = NonNullable<typeof own.shell>;
    const lacks = (shell: Shell | undefined, over: Partial<typeof own> = {}) => {
      const job = { ...tank(), bodies: [{ ...own, ...over, ...(shell && { shell }) }] };
      const said = run(job).answers.findings.find(({ code }) => code === "uplift-unknown");
      const asked = liftingOfSource(job)?.lifting;
      // Said of the run and before it alike.
      expect(asked?.kind === "not-known").toBe(said !== undefined);
      return said?.code === "uplift-unknown" ? said.lacks : undefined;
    };
    expect(lacks(undefined)).toEqual(["in-ground", "groundwater", "mass"]);
    expect(lacks({ inGround: true })).toEqual(["groundwater", "mass"]);
    expect(lacks({ inGround: true, groundwater: 0.5 })).toEqual(["mass"]);
    // Ground water at or under its bottom lifts nothing, whatever it weighs; a hair over it does.
    expect(lacks({ inGround: true, groundwater: 0 })).toBeUndefined();
    expect(lacks({ inGround: true, groundwater: 1e-3 })).toEqual(["mass"]);
    expect(lacks({ inGround: false })).toBeUndefined();
    expect(lacks({ mass: 500, groundwater: 0.2 })).toBeUndefined();
    // A perforated can in gravel lets the ground water in.
    expect(lacks(undefined, { surround: { across: 4, porosity: 0.4 } })).toBeUndefined();
  });
});

describe("moving water between two bodies", () => {
  const lake = (check: boolean): JobDocument => {
    const job = tank();
    const [hose, outlet] = job.path.slice(1) as [JobDocument["path"][number], unknown];
    const valve = { kind: "fitting", id: "check", fitting: "check-swing", count: 1 };
    const level = { low: 2, normal: 2, high: 2 };
    return parse({
      ...job,
      bodies: [
        ...(job.bodies ?? []),
        { id: "upper", bottom: 1, shape: { kind: "box", length: 3, width: 3, depth: 3 } },
      ],
      path: [
        job.path[0],
        ...(check ? [valve] : []),
        { ...hose, rise: 1 },
        { ...(outlet as object), outlet: { type: "submerged", level, body: "upper" } },
      ],
    } as JobInput);
  };
  it("what one gives the other gets; without a check valve it runs back, with one it stays", () => {
    const open = run(lake(false));
    const [from = 0, to = 0] = open.timeline.totals.taken;
    expect(from).toBeCloseTo(-to, 9);
    expect(open.answers.moved).toBeCloseTo(5, 6);
    expect(open.answers.vacuum).toBeUndefined();
    expect(open.answers.ranBack).toBeGreaterThan(4);
    expect(codes(lake(false))).toContain("runs-back");
    expect(run(lake(true)).answers.ranBack).toBeLessThan(1e-6);
    expect(codes(lake(true))).not.toContain("runs-back");
  });

  it("a floating intake goes down with the water, one that hangs does not", () => {
    const hung = tank({ source: { ...tank().source, intake: 0.8 } } as Partial<JobInput>);
    expect(run(hung).answers.dry?.left).toBeCloseTo(0.8 * 4, 6);
    const floats: JobDocument = {
      ...hung,
      path: [
        { kind: "fitting", id: "intake", fitting: "floating-intake", count: 1 },
        { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: 2, rise: 0 },
        ...hung.path,
      ],
    };
    expect(run(floats).answers.dry?.left).toBeCloseTo(0.3 * 4, 6);
  });
});

const bare = inTimeOf(mill, { powerCut: undefined, storm: undefined, span: 7200 });
/** The mill's pit with a steady inflow. */
const fed = (inflow: number): JobDocument => ({
  ...bare,
  bodies: bare.bodies?.map((body) => ({ ...body, inflow })) as JobDocument["bodies"],
});

describe("a pit", () => {
  it("stays dry up to what its pumps hold at the rim, and says so; beyond it the floor is wet", () => {
    const { survives = 0 } = run(fed(0.001)).answers;
    expect(codes(fed(survives * 0.995))).toContain("keeps-up");
    // Two hours are too short for it to get wet, and it is not called dry for that.
    expect(codes(fed(survives * 1.02))).toContain("falls-behind");
    expect(codes(fed(survives * 1.02))).not.toContain("keeps-up");
    const over = run(inTimeOf(fed(survives * 1.02), { span: 86_400 }));
    expect(over.answers.findings.map(({ code }) => code)).toContain("floor-wet");
    expect(over.answers.findings.map(({ code }) => code)).not.toContain("keeps-up");
    expect(over.answers.wet?.spilled).toBeGreaterThan(0);
  });

  it("counts on a second pump only if a float calls for it", () => {
    const [lead, , alarm] = bare.overTime?.controls ?? [];
    const alone = inTimeOf(fed(0.001), { controls: [lead, alarm] as never });
    const [one = 0, both = 0] = [alone, fed(0.001)].map((job) => run(job).answers.survives);
    expect(one).toBeLessThan(both * 0.8);
    expect(codes(inTimeOf({ ...alone, bodies: fed(one * 1.1).bodies as never }, {}))).toContain(
      "falls-behind",
    );
  });

  it("is wet without a pump after the volume over its floats divided by what comes in", () => {
    const { unpumped } = run(fed(0.002)).answers;
    expect(unpumped?.fromOn).toBeCloseTo((1.6 * 2.4 * 1.5) / 0.002, 6);
    expect(unpumped?.fromOff).toBeCloseTo((2.2 * 2.4 * 1.5) / 0.002, 6);
  });

  it("starts too often only past the motor's limit, and the float it is told to hang keeps to it", () => {
    // Where the plate is silent, so many are assumed.
    const silent = mill.pumps.map(({ startsPerHour: _, ...pump }) => pump);
    const job = { ...fed(0.001), pumps: silent as JobDocument["pumps"] };
    const { worst, limit, assumed } = run(job).answers.switching as NonNullable<
      RunResult["answers"]["switching"]
    >;
    expect([limit, assumed]).toEqual([20, true]);
    const bears = (startsPerHour: number): JobDocument => ({
      ...fed(0.001),
      pumps: mill.pumps.map((pump) => ({ ...pump, startsPerHour })),
    });
    expect(codes(bears(worst.startsPerHour + 0.01))).not.toContain("starts-too-often");
    const often = bears(worst.startsPerHour - 0.2);
    const advice = run(often).answers.findings.find(({ code }) => code === "starts-too-often");
    const raiseBy = advice && "raiseBy" in advice ? (advice.raiseBy as number) : Number.NaN;
    // Where no float in the pit would do, one in a pit so much larger does.
    const tight = bears(0.4);
    const found = run(tight).answers.switching;
    expect(found?.floatAt).toBeUndefined();
    const larger = (found?.larger ?? 0) * 1.001;
    const [pit] = tight.bodies ?? [];
    const wide = {
      ...tight,
      bodies: [
        { ...pit, shape: { kind: "box", length: 2.4 * larger, width: 1.5, depth: 2.5 } },
      ] as JobDocument["bodies"],
    };
    expect(run(wide).answers.switching?.floatAt).toBeDefined();
    const [lead, ...others] = often.overTime?.controls ?? [];
    const raised = inTimeOf(often, {
      controls: [{ ...lead, on: -1.6 + raiseBy } as NonNullable<typeof lead>, ...others],
    });
    expect(codes(raised)).not.toContain("starts-too-often");
  });

  it("wants an alarm and a second pump only while it has none", () => {
    expect(codes(bare)).not.toContain("no-alarm");
    expect(codes(bare)).not.toContain("one-pump");
    const sketch = { kind: "sump-riser", typed: { across: 0.5, riseTime: 60 } } as const;
    const begun = beginJob(sketch, "Pit", "metric");
    expect(codes(begun)).toEqual(expect.arrayContaining(["no-alarm", "one-pump"]));
  });

  it("loses its mains pumps with the power, and a battery carries on until it is flat", () => {
    const cut = { from: 600, to: 7200 };
    const dark = inTimeOf(fed(0.002), { powerCut: cut, span: 7200 });
    const stopped = run(dark).timeline;
    const off = stopped.events.find(({ kind, time }) => kind === "pump-on" && time > 600);
    expect(off).toBeUndefined();
    const battery = (ampereHours: number) =>
      inTimeOf(dark, { battery: { ampereHours, volts: 12, pumps: ["pump-2"] } });
    const small = run(battery(20));
    expect(small.answers.battery?.flatAt).toBeGreaterThan(600);
    const advice = small.answers.findings.find(({ code }) => code === "battery-flat");
    const needed = advice && "needed" in advice ? (advice.needed as number) : Number.NaN;
    expect(run(battery(needed * 1.1)).answers.battery?.flatAt).toBeUndefined();
    expect(codes(battery(needed * 0.8))).toContain("battery-flat");
  });

  it("a pump made for a battery is on it without being named, and never gets flat where nothing is said of it", () => {
    const dark = inTimeOf(fed(0.0005), { powerCut: { from: 600, to: 7200 }, span: 7200 });
    const pumps = dark.pumps.map((pump) => ({ ...pump, electric: { volts: 12, direct: true } }));
    const known: JobDocument = inTimeOf(
      { ...dark, pumps },
      { battery: { ampereHours: 2, volts: 12 } },
    );
    expect(run(known).answers.battery?.flatAt).toBeGreaterThan(0);
    const silent = inTimeOf({ ...dark, pumps }, { battery: undefined });
    expect(troublesOf(silent).map(({ code }) => code)).toEqual(["no-battery"]);
    expect(troublesOf(known)).toEqual([]);
  });

  it("spills into a second pit by gravity, which its own float cannot be lower than", () => {
    const { survives = 0 } = run(fed(0.001)).answers;
    const job = fed(survives * 1.5);
    const [pit] = job.bodies ?? [];
    const second = { id: "second", shape: { kind: "box", length: 3, width: 3, depth: 2 } } as const;
    const two: JobDocument = {
      ...job,
      bodies: [
        { ...pit, overflowTo: "second" } as NonNullable<typeof pit>,
        { ...second, bottom: -3 },
      ],
    };
    const { totals } = run(two).timeline;
    expect(totals.received[1]).toBeGreaterThan(0.1);
    expect(totals.received[1]).toBeCloseTo(totals.spilled[0] ?? 0, 9);
    expect(withoutBody(two, "second").bodies?.[0]?.overflowTo).toBeUndefined();
  });

  it("names every setting that cannot be, at its field, and nothing when it can", () => {
    const wrong = (patch: object, at: number): Trouble["code"][] => {
      const controls = (bare.overTime?.controls ?? []).map((own, i) =>
        i === at ? { ...own, ...patch } : own,
      );
      return troublesOf(inTimeOf(bare, { controls } as never)).flatMap(({ code, at: field }) =>
        field.startsWith(`overTime.controls.${at}.`) ? [code] : [],
      );
    };
    expect(troublesOf(bare)).toEqual([]);
    expect(wrong({ on: -2.2, off: -1.6 }, 0)).toContain("floats-crossed");
    // A float that fills a tank starts below where it stops, whether the pump draws from a body of its own or not.
    for (const own of [true, false]) {
      const { body: _, ...bodiless } = bare.source as typeof bare.source & { body?: string };
      const source = own ? { ...bodiless, body: "pond" } : bodiless;
      const controlled = (on: number, off: number) => {
        const controls = [{ kind: "float", body: "loft", role: "lead", on, off }];
        const bodies = [
          { id: "loft", bottom: 5, shape: { kind: "box", length: 1, width: 1, depth: 2 } },
          ...(own ? [{ id: "pond", shape: { kind: "box", length: 9, width: 9, depth: 2 } }] : []),
        ];
        const filled = { ...bare, source, bodies, overTime: { controls } } as never;
        return troublesOf(filled).map(({ code }) => code);
      };
      expect(controlled(5.5, 6.5)).not.toContain("floats-crossed");
      expect(controlled(6.5, 5.5)).toContain("floats-crossed");
    }
    expect(wrong({ on: 0.1 }, 0)).toContain("float-over-rim");
    expect(wrong({ off: -2.6 }, 0)).toContain("float-under-bottom");
    expect(wrong({ on: -1.65 }, 1)).toEqual(["lag-under-lead"]);
    expect(wrong({ at: 0.2 }, 2)).toEqual(["float-over-rim"]);
    const still = overTime(inTimeOf(bare, { powerCut: { from: 10, to: 5 } }));
    expect(still.kind === "wrong" && still.troubles.map(({ code }) => code)).toEqual([
      "power-back-before-cut",
    ]);
    const flat = { kind: "box", length: 1, width: 0, depth: 1 } as never;
    const none = troublesOf({ ...bare, bodies: [{ id: "wheel-pit", shape: flat }] });
    expect(none.map(({ code, at }) => `${code} ${at}`)).toEqual(["no-area bodies.0.shape"]);
  });

  it("stops floats set too close with what it has", () => {
    const controls = [
      { kind: "float", body: "wheel-pit", role: "lead", on: -2.2 + 2e-6, off: -2.2 },
    ] as const;
    const job = inTimeOf(fed(0.001), { controls: [...controls], span: 86_400 });
    const { timeline, answers } = run(job);
    expect(timeline.end).toBe("event-limit");
    expect(answers.findings[0]?.code).toBe("too-many-events");
    expect(timeline.times.length).toBeGreaterThan(100);
  });

  it("its range holds what is told, and is the same at every call", () => {
    const range = () => timeRange(fed(0.002), USUAL_UNCERTAINTY, 40);
    const first = range();
    if (first.kind !== "range") throw new Error(first.kind);
    const told = run(fed(0.002)).answers;
    const { starts, unpumped } = first.spreads;
    expect(starts?.low).toBeLessThan(told.switching?.worst.startsPerHour ?? 0);
    expect(starts?.high).toBeGreaterThan(told.switching?.worst.startsPerHour ?? 0);
    expect(unpumped?.low).toBeLessThan(told.unpumped?.fromOn ?? 0);
    expect(unpumped?.high).toBeGreaterThan(told.unpumped?.fromOn ?? 0);
    expect(range()).toEqual(first);
  });

  it("is answered from a run alone", () => {
    const found = overTime(mill);
    expect(found.kind === "run" && answersOf(found, mill).starts).toBeGreaterThan(3);
  });
});

describe("a battery", () => {
  it("lasts Ah·V·η / P without an exponent, and its rated hours at its rated current", () => {
    const even = batteryOf({ ampereHours: 75, volts: 12, efficiency: 0.8, peukert: 1 });
    expect(even?.lasts(240)).toBeCloseTo((75 * 12 * 0.8 * 3600) / 240, 6);
    const lead = batteryOf({ ampereHours: 100, volts: 12, efficiency: 1 });
    expect(lead?.lasts(5 * 12)).toBeCloseTo(20 * 3600, 6);
    // Drawn at ten times that current it gives less than a tenth of the time: 20 h / 10^1.2.
    expect(lead?.lasts(50 * 12)).toBeCloseTo((20 * 3600) / 10 ** 1.2, 3);
    expect(batteryOf({ volts: 12 })).toBeUndefined();
  });
});

describe("the working of a figure", () => {
  it("ends with the figure that is shown, whichever job it is of", () => {
    const shown: Record<DerivedFigure, (answers: Answers) => number | undefined> = {
      dry: ({ dry }) => dry?.at,
      full: ({ full }) => full?.at,
      unpumped: ({ unpumped }) => unpumped?.fromOn,
      wet: ({ wet }) => wet?.spilled,
      survives: ({ survives }) => survives,
      starts: ({ switching }) => switching?.worst.startsPerHour,
      cycle: ({ switching }) => switching?.now && switching.now.filling + switching.now.pumping,
      moved: ({ moved }) => moved,
      energy: ({ energy }) => energy,
      vacuum: ({ vacuum }) => vacuum?.trips,
      battery: ({ battery }) => battery?.used,
    };
    const met = new Set<DerivedFigure>();
    const { survives = 0 } = run(fed(0.001)).answers;
    const battery = { ampereHours: 90, volts: 12, pumps: ["pump-2"] };
    // A pond that fills a tank.
    const begun = beginJob({ kind: "tank-to-tank", typed: { flow: 1e-3 } }, "Two", "metric");
    const [pond, ...others] = begun.bodies ?? [];
    const wide = { kind: "cylinder", diameter: 12, depth: 2 } as const;
    const filling = { ...begun, bodies: [{ ...pond, shape: wide }, ...others] } as JobDocument;
    const jobs = [
      filling,
      ...DEMO_JOBS.map(({ job }) => jobSchema.parse(job) as JobDocument),
      ...[mill, tank(), fed(0.001), inTimeOf(fed(survives * 1.2), { span: 7200, battery })],
    ];
    for (const job of jobs) {
      const told = simulationOf(job);
      if (told.kind !== "run") continue;
      const { answers } = told;
      for (const { worked, value } of answerLines(answers, "metric")) {
        if (!worked) continue;
        met.add(worked);
        const ends = resultOf(runDerivation(worked, answers) ?? []);
        const own = shown[worked](answers) ?? Number.NaN;
        expect([
          job.name,
          worked,
          value,
          Math.abs(ends / own - 1) < 1e-6 || Math.abs(ends - own) < 1e-9,
        ]).toEqual([job.name, worked, value, true]);
      }
    }
    expect([...met].toSorted()).toEqual([...DERIVED].toSorted());
  });
});

describe("a storm to begin with", () => {
  const hour = 0.022;
  const within = (pieces: Piece[], from: number, to: number, area: number) => {
    let sum = 0;
    const at = inflowOf(pieces);
    for (let t = from; t < to; t += 10) sum += at(t + 5) * 10;
    return sum / area;
  };
  it.each(["block", "triangle", "alternating"] as const)(
    "%s brings the hardest hour that was typed",
    (kind) => {
      const storm = { ...firstStorm(kind, hour), kind };
      const pieces = stormPieces(storm, 250, hour);
      const { start = 0, duration } = storm;
      let hardest = 0;
      for (let from = 0; from <= start + duration; from += 60) {
        hardest = Math.max(hardest, within(pieces, from, from + 3600, 250));
      }
      expect(hardest / hour).toBeCloseTo(1, 1);
      expect(within(pieces, 0, start + duration, 250)).toBeCloseTo(storm.depth, 3);
    },
  );

  it("is another where no rain was typed, and all of a small one falls within its hardest hour", () => {
    expect(firstStorm("block", undefined).depth).not.toBe(hour);
    const small = { kind: "alternating", depth: 0.01, duration: 4 * 3600, start: 0 } as const;
    const hardest = Math.max(
      ...Array.from({ length: 180 }, (_, i) =>
        within(stormPieces(small, 100, hour), i * 60, i * 60 + 3600, 100),
      ),
    );
    expect(hardest / 0.01).toBeGreaterThan(0.9);
  });
});
