import fc from "fast-check";
import { bisect } from "fmin/src/bisect.js";
import { Solver } from "odex";
import { describe, expect, it } from "vitest";
import { waterAt } from "../fluid/water.ts";
import { orificeFlow } from "../hydraulics/hydraulicModel.ts";
import { lineModel } from "../hydraulics/solveLine.ts";
import type { PathItem } from "../line/path.ts";
import { colebrookWhite } from "../pipe/frictionFactor.ts";
import { FOOT, GALLON, GRAVITY, INCH } from "../quantity/constants.ts";
import { check, fitting, lineOf, one, open, pipe, set, split, tank } from "../test/fixtures.ts";
import { cycleAt, floatFor, worstCycle } from "./cycle.ts";
import { fallingBack } from "./drainBack.ts";
import type { Control, Dynamics, Timeline } from "./dynamics.ts";
import { lineTable } from "./lineTable.ts";
import { simulate } from "./simulate.ts";
import {
  coneStore,
  joinedStore,
  lyingCylinderStore,
  porousStore,
  pressureTankStore,
  tableStore,
  trapezoidStore,
  uprightStore,
  type WaterStore,
  wedgeStore,
} from "./waterStore.ts";

const LIMITS = { longestStep: 60 };

function modelOf(path: PathItem[]) {
  const ready = lineModel(lineOf(path), [one]);
  if (ready.kind === "refused") throw new Error(JSON.stringify(ready.diagnostics));
  return ready;
}

/** Pumps on the mains, with the flows the line takes out of each store as a plain function. */
function dynamicsOf(
  rest: Pick<Dynamics, "stores"> & Partial<Omit<Dynamics, "line" | "inflow" | "pumps">>,
  inflow: (time: number) => readonly number[],
  flows: (levels: readonly number[], running: readonly boolean[]) => readonly number[],
  pumps = 2,
): Dynamics {
  return {
    controls: [],
    pumps: Array.from({ length: pumps }, () => ({ supply: "mains" as const })),
    ...rest,
    inflow: (time, into) => into.set(inflow(time)),
    line: (levels, running, { taken }) => taken.set(flows(Array.from(levels), running)),
  };
}

function onePit(
  store: WaterStore,
  inflow: number,
  taken: (level: number, running: boolean) => number,
  controls: Control[] = [],
  more: Partial<Dynamics> = {},
): Dynamics {
  return dynamicsOf(
    { stores: [store], controls, ...more },
    () => [inflow],
    ([level = 0], [running = false]) => [taken(level, running)],
  );
}

/** What was there, and came in, less what went out and is still there: as a part of all that went through. */
function unaccounted({ totals }: Timeline): number {
  const sum = (values: readonly number[]) => values.reduce((all, own) => all + own, 0);
  const through = sum(totals.start) + sum(totals.inflow) + sum(totals.received);
  const left = sum(totals.taken) + sum(totals.spilled) + sum(totals.final);
  return Math.abs(through - left) / through;
}

it("water that stands at a float at the start, to the last digit, has passed it: whatever the pit measures", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.3, max: 3, noNaN: true }),
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      (depth, area) => {
        const [bottom, on, off] = [-depth, -depth / 3, (-2 * depth) / 3];
        const run = simulate(
          {
            stores: [uprightStore(bottom, depth, area)],
            pumps: [{ supply: "mains" }],
            inflow: (_, into) => into.fill(1e-4),
            controls: [{ pumps: [0], store: 0, on, off }],
            line: (_, [runs], { taken }) => taken.fill(runs ? 1e-3 : 0),
          },
          { levels: [on] },
          60,
          { longestStep: 10 },
        );
        expect(run.totals.starts[0]).toBeGreaterThanOrEqual(1);
        expect(run.events.some(({ kind }) => kind === "full")).toBe(false);
      },
    ),
  );
});

describe("bodies of water", () => {
  const stores: [string, WaterStore][] = [
    ["an upright pit", uprightStore(-2, 1.5, 0.8)],
    ["a room whose floor falls", wedgeStore(0, 0.4, 24, [0.15, 0])],
    ["a room whose floor falls both ways", wedgeStore(0, 0.4, 24, [0.15, 0.06])],
    [
      "a can in gravel with a pipe that leads in",
      joinedStore(uprightStore(-1, 1, 0.2), [
        porousStore(uprightStore(-1, 1, 0.5), 0.38),
        lyingCylinderStore(-0.6, 0.1, 8),
      ]),
    ],
    ["a cone", coneStore(0, 1.2, 0.4, 0.9)],
    ["a pond", trapezoidStore(1, 2, 12, 5, 1.5)],
    ["a lying tank", lyingCylinderStore(0, 1.6, 4)],
    [
      "a table",
      tableStore(-1, [
        { depth: 0, area: 1 },
        { depth: 0.5, area: 3 },
        { depth: 2, area: 2 },
      ]),
    ],
    ["a pressure tank", pressureTankStore(0.08, 2e5, 6e5)],
  ];
  it.each(stores)("%s gives back the level it was filled to, and only ever rises", (_, store) => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (part) => {
        const level = store.bottom + part * (store.rim - store.bottom);
        const back = store.levelAt(store.volumeAt(level));
        expect(Math.abs(back - level)).toBeLessThan(1e-6 * (store.rim - store.bottom));
        expect(store.volumeAt(level)).toBeLessThanOrEqual(store.volumeAt(store.rim) + 1e-12);
      }),
    );
  });

  it("hold what geometry says: half a lying tank, a frustum, two rows of a table", () => {
    expect(lyingCylinderStore(0, 2, 3).volumeAt(1)).toBeCloseTo((3 * Math.PI) / 2, 12);
    expect(coneStore(0, 3, 0, 2).volumeAt(3)).toBeCloseTo(Math.PI, 12);
    // A floor that falls 0.2 m over 5 m: a wedge until it is covered, then a box on top.
    const wedge = wedgeStore(0, 1, 15, [0.2, 0]);
    expect(wedge.volumeAt(0.1)).toBeCloseTo(0.5 * 0.1 * 2.5 * 3, 12);
    expect(wedge.volumeAt(0.5)).toBeCloseTo(0.4 * 15, 12);
    // Falling both ways it is a corner's pyramid first, V = h³ A / 6ab, and the mean of its corners once covered; of two
    // falls the order does not matter, and one of nearly nothing is none.
    const corner = wedgeStore(0, 1, 15, [0.2, 0.1]);
    expect(corner.volumeAt(0.05)).toBeCloseTo((0.05 ** 3 * 15) / (6 * 0.2 * 0.1), 12);
    expect(corner.volumeAt(0.5)).toBeCloseTo((0.5 - 0.15) * 15, 12);
    expect(corner.volumeAt(0.17)).toBeCloseTo(wedgeStore(0, 1, 15, [0.1, 0.2]).volumeAt(0.17), 12);
    for (const level of [0.05, 0.15, 0.2, 0.25]) {
      let sum = 0;
      for (let i = 0; i < 400; i++) {
        for (let k = 0; k < 400; k++) {
          sum += Math.max(level - (0.2 * (i + 0.5)) / 400 - (0.1 * (k + 0.5)) / 400, 0);
        }
      }
      expect(corner.volumeAt(level) / ((sum * 15) / 160_000)).toBeCloseTo(1, 3);
      const nearly = wedgeStore(0, 1, 15, [0.2, 2.1e-5]).volumeAt(level);
      expect(nearly / wedge.volumeAt(level)).toBeCloseTo(1, 3);
    }
    // A 3 in pipe holds 0.367, a 4 in one 0.653 gal a foot by nominal bore (computed).
    expect(lyingCylinderStore(0, 3 * INCH, FOOT).volumeAt(1) / GALLON).toBeCloseTo(0.367, 3);
    expect(lyingCylinderStore(0, 4 * INCH, FOOT).volumeAt(1) / GALLON).toBeCloseTo(0.653, 3);
    const table = tableStore(0, [
      { depth: 0, area: 1 },
      { depth: 1, area: 3 },
    ]);
    expect(table.volumeAt(0.5)).toBeCloseTo(0.75, 12);
    // 20 gal at 28 psi pre-charge between 30 and 50 psi gives 5.9 gal (common practice, no source).
    const psi = 6894.757293168361;
    const tank = pressureTankStore(20, 28 * psi, 100 * psi);
    expect(tank.volumeAt(50 * psi) - tank.volumeAt(30 * psi)).toBeCloseTo(5.9, 1);
  });
});

describe("closed forms", () => {
  it("Torricelli: a 1 m² tank through a 20 mm hole from 1 m to 0.25 m in 1178 s", () => {
    const area = (Math.PI / 4) * 0.02 ** 2;
    const drain = (level: number) => 0.61 * area * Math.sqrt(2 * GRAVITY * Math.max(level, 0));
    const pit = onePit(uprightStore(0, 2, 1), 0, drain, [
      { pumps: [0], store: 0, on: 5, off: 0.25 },
    ]);
    const { events } = simulate(pit, { levels: [1], called: [true] }, 5000, LIMITS);
    const exact = (2 / (0.61 * area * Math.sqrt(2 * GRAVITY))) * (1 - 0.5);
    expect(exact).toBeCloseTo(1178, 0);
    expect(Math.abs((events[0]?.time ?? 0) / exact - 1)).toBeLessThan(1e-4);
  });

  it("a straight falling curve on no resistance empties exponentially", () => {
    // Q = a + b z, so that z + a/b falls as e^(−b t / A).
    const [a, b, area] = [0.002, 0.0015, 3];
    const pit = onePit(uprightStore(-5, 10, area), 0, (z) => a + b * z);
    const { levels, times } = simulate(pit, { levels: [2] }, 1500, LIMITS);
    for (const [i, t] of times.entries()) {
      const exact = (2 + a / b) * Math.exp((-b * t) / area) - a / b;
      expect(Math.abs((levels[i]?.[0] ?? 0) - exact)).toBeLessThan(1e-4 * 2);
    }
  });

  it("constant inflow and pumping give the cycle T = V/Q_in + V/(Q − Q_in), worst at half", () => {
    const volume = 0.0405;
    const q = 0.0022;
    const area = 0.2;
    const cycle = (inflow: number) => {
      const controls = [{ pumps: [0], store: 0, on: volume / area, off: 0 + 1e-9 }];
      const pit = onePit(uprightStore(-1, 3, area), inflow, (_, on) => (on ? q : 0), controls);
      const { events } = simulate(pit, { levels: [0.1] }, 1200, LIMITS);
      const on = events.filter(({ kind }) => kind === "pump-on").map(({ time }) => time);
      return (on[3] ?? 0) - (on[2] ?? 0);
    };
    for (const inflow of [0.0004, 0.0011, 0.0019]) {
      const exact = volume / inflow + volume / (q - inflow);
      expect(Math.abs(cycle(inflow) / exact - 1)).toBeLessThan(1e-4);
    }
    expect(Math.abs(cycle(q / 2) / ((4 * volume) / q) - 1)).toBeLessThan(1e-4);
  });
});

describe("against a general ODE solver (odex, Gragg–Bulirsch–Stoer)", () => {
  it("a pond pumped by a real line, two tanks exchanging water", () => {
    const ready = modelOf([set("p"), pipe("d", "pvc-sch40-3in", 60, 14), open("o")]);
    const { model, states, boundaries } = ready;
    const pond = trapezoidStore(-1, 2, 9, 4, 1);
    const [low, high] = [pond.bottom, pond.rim];
    const table = lineTable({
      ...{ model, states, boundary: boundaries.normal, stores: [pond], source: 0 },
      ...{
        receivers: [undefined],
        levelsThen: [ready.line.source.kind === "open" ? ready.line.source.level.normal : 0],
      },
      specificGravity: 1,
    });
    const flowAt = (level: number) => table.drawn([level], [true]);
    // The table agrees with the solver between its rows.
    for (const part of [0.11, 0.34, 0.57, 0.83]) {
      const level = low + part * (high - low);
      const source = { ...boundaries.normal, source: level };
      const result = model.solve(source, states);
      const flow = result.kind === "steady" ? result.state.delivered : Number.NaN;
      expect(flowAt(level) / flow).toBeCloseTo(1, 5);
    }
    expect(table.solves()).toBeLessThan(50);
    const stores = [pond, uprightStore(0, 4, 6)];
    const back = (z: number) => 0.004 * Math.sqrt(Math.max(z, 0));
    const inflow = (t: number) => [0.002 + 0.001 * Math.sin(t / 200), 0];
    const flows = ([a = 0, b = 0]: readonly number[]) => [flowAt(a) - back(b), back(b) - flowAt(a)];
    const dynamics = dynamicsOf({ stores }, inflow, flows);
    const start = { levels: [0.8, 0.4] };
    const { final } = simulate(dynamics, start, 900, LIMITS);
    const solver = new Solver(2);
    solver.absoluteTolerance = 1e-11;
    solver.relativeTolerance = 1e-11;
    const volumes = stores.map((store, i) => store.volumeAt(start.levels[i] as number));
    const { y } = solver.solve(
      (t, v) => {
        const levels = stores.map((store, i) => store.levelAt(v[i] as number));
        const taken = flows(levels);
        return inflow(t).map((flow, i) => flow - (taken[i] as number));
      },
      0,
      volumes,
      900,
    );
    for (const [i, store] of stores.entries()) {
      const exact = store.levelAt(y[i] as number);
      expect(Math.abs((final.levels[i] ?? 0) - exact)).toBeLessThan(1e-5);
    }
  });
});

describe("events", () => {
  it("lose no water, whatever floats, rims and power cuts do", () => {
    const flow = fc.double({ min: 1e-4, max: 6e-3, noNaN: true });
    const setting = fc.record({
      ...{ inflow: flow, pumped: flow, fallen: fc.double({ min: 0, max: 0.05, noNaN: true }) },
      ...{ cut: fc.integer({ min: 0, max: 3600 }), alternate: fc.boolean() },
    });
    fc.assert(
      fc.property(setting, ({ inflow, pumped, fallen, cut, alternate }) => {
        const pit = { ...uprightStore(0, 1.2, 0.3), overflowTo: 1, alarm: 1.1 };
        const controls = [
          { pumps: [0, 1], store: 0, on: 0.8, off: 0.4, alternate },
          { pumps: [0, 1], store: 0, on: 1, off: 0.5 },
        ];
        const dynamics = dynamicsOf(
          {
            ...{ stores: [pit, coneStore(-3, 1, 1, 2)], controls },
            ...{ powerCut: { from: cut, to: cut + 600 } },
            fallBack: { store: 0, at: () => ({ volume: fallen, time: 7 }) },
          },
          (time) => [inflow * (1 + Math.sin(time / 300)), 0],
          (_, running) => [running.filter(Boolean).length * pumped, 0],
        );
        const run = simulate(dynamics, { levels: [0.5, -3] }, 3600, LIMITS);
        expect(unaccounted(run)).toBeLessThan(1e-9);
        expect(run.times).toEqual(run.times.toSorted((a, b) => a - b));
        const { starts, runTime, received, spilled } = run.totals;
        expect(received[1]).toBeCloseTo(spilled[0] ?? 0, 12);
        const told = (kind: string) => run.events.filter((event) => event.kind === kind).length;
        expect(starts[0] ?? 0).toBeLessThanOrEqual(told("pump-on") + 1);
        expect(runTime[0] ?? 0).toBeLessThanOrEqual(3600);
      }),
      { numRuns: 60 },
    );
  });

  it("half the step, and a tenth of the allowed error, change nothing that is told", () => {
    const controls = [{ pumps: [0], store: 0, on: 0.9, off: 0.3 }];
    const store = coneStore(0, 1.5, 0.5, 0.9);
    const dynamics = dynamicsOf(
      { stores: [store], controls },
      (time) => [0.001 + 8e-4 * Math.sin(time / 900)],
      ([level = 0], [on]) => [on ? 0.0022 + 3e-4 * level : 0],
    );
    const run = (longestStep: number, tolerance: number) =>
      simulate(dynamics, { levels: [0.5] }, 7200, { longestStep, tolerance });
    const [once, half] = [run(60, 1e-8), run(30, 1e-9)];
    expect(half.events.map(({ kind }) => kind)).toEqual(once.events.map(({ kind }) => kind));
    expect(once.events.length).toBeGreaterThan(10);
    for (const [i, { time }] of half.events.entries()) {
      expect(Math.abs(time - (once.events[i]?.time ?? 0))).toBeLessThan(1e-3);
    }
  });

  it("pumps that alternate share the starts, and the other takes over from one without power", () => {
    const controls = [{ pumps: [0, 1], store: 0, on: 0.8, off: 0.2, alternate: true }];
    const pit = dynamicsOf(
      { stores: [uprightStore(0, 2, 0.2)], controls },
      () => [0.001],
      (_, running) => [running.some(Boolean) ? 0.003 : 0],
    );
    const { totals, events } = simulate(pit, { levels: [0.5] }, 7200, LIMITS);
    expect(Math.abs((totals.starts[0] ?? 0) - (totals.starts[1] ?? 0))).toBeLessThanOrEqual(1);
    const order = events.filter(({ kind }) => kind === "pump-on").map(({ index }) => index);
    expect(order.slice(0, 4)).toEqual([0, 1, 0, 1]);
    const backed: Dynamics = {
      ...pit,
      pumps: [{ supply: "mains" }, { supply: "battery" }],
      powerCut: { from: 0, to: 7200 },
      battery: { lasts: () => 400 },
      line: (levels, running, flows) => {
        pit.line(levels, running, flows);
        flows.power.fill(500);
      },
    };
    const dark = simulate(backed, { levels: [0.5] }, 7200, LIMITS);
    expect(dark.totals.starts[0]).toBe(0);
    expect(dark.totals.runTime[1]).toBeCloseTo(400, 6);
    expect(dark.totals.energy[1]).toBeCloseTo(500 * 400, 3);
    const said = dark.events.map(({ kind }) => kind);
    expect(said.indexOf("battery-flat")).toBeLessThan(said.indexOf("full"));
  });

  it("a guard holds a pump that is called for, until the water is back", () => {
    const tanks = dynamicsOf(
      {
        stores: [uprightStore(0, 2, 1), uprightStore(0, 2, 2)],
        controls: [{ pumps: [0], store: 1, on: 0.5, off: 1.5 }],
        guards: [{ store: 0, stop: 0.3, release: 0.6, pumps: [0] }],
      },
      (time) => [time > 3000 ? 0.001 : 0, 0],
      (_, [on]) => (on ? [0.002, -0.002] : [0, 0]),
    );
    const run = simulate(tanks, { levels: [0.8, 0.4] }, 4000, { ...LIMITS, breaks: [3000] });
    expect(run.events.map(({ kind, time }) => `${kind} ${time.toFixed(0)}`)).toEqual([
      "held 250",
      "pump-off 250",
      "freed 3300",
      "pump-on 3300",
      "held 3600",
      "pump-off 3600",
      "freed 3900",
      "pump-on 3900",
    ]);
  });

  it("an empty pit gives no more than comes in, and a full one spills", () => {
    const pit = onePit(uprightStore(0, 1, 1), 0.001, () => 0.003);
    const dry = simulate(pit, { levels: [0.5] }, 2000, LIMITS);
    expect(dry.events).toEqual([{ kind: "empty", index: 0, time: expect.closeTo(250, 3) }]);
    expect(dry.final.levels[0]).toBe(0);
    const flood = onePit(uprightStore(0, 1, 1), 0.001, () => 0);
    const full = simulate(flood, { levels: [0.5] }, 2000, LIMITS);
    expect(full.events).toEqual([{ kind: "full", index: 0, time: expect.closeTo(500, 3) }]);
    expect(full.final.levels[0]).toBe(1);
  });

  it("a tank that has run dry fills the other no further: no water is made", () => {
    const two = dynamicsOf(
      { stores: [uprightStore(0, 2, 1), uprightStore(0, 5, 1)] },
      (t) => [t < 1000 ? 0 : 0.0005, 0],
      () => [0.002, -0.002],
    );
    const { events, final } = simulate(two, { levels: [1, 0] }, 3000, {
      ...LIMITS,
      breaks: [1000],
    });
    expect(events.map(({ kind }) => kind)).toEqual(["empty"]);
    // A cubic metre to begin with, and another that trickles in and is passed on.
    expect(final.levels[0]).toBe(0);
    expect(final.levels[1]).toBeCloseTo(2, 9);
  });

  it("two floats at one level act together", () => {
    const controls = [
      { pumps: [0], store: 0, on: 1, off: 0.2 },
      { pumps: [1], store: 0, on: 1, off: 0.5 },
    ];
    const both = dynamicsOf(
      { stores: [uprightStore(0, 2, 1)], controls },
      () => [0.001],
      (_, running) => [running.filter(Boolean).length * 0.003],
    );
    const { events } = simulate(both, { levels: [0.8] }, 600, LIMITS);
    expect(events.map(({ kind, index }) => `${kind} ${index}`)).toEqual([
      "pump-on 0",
      "pump-on 1",
      "pump-off 1",
      "pump-off 0",
    ]);
    expect(events[0]?.time).toBe(events[1]?.time);
  });

  it("a jump in the inflow is met where it is", () => {
    const store = uprightStore(0, 10, 1);
    const dynamics = dynamicsOf(
      { stores: [store] },
      (t) => [t < 100 ? 0 : 0.01],
      () => [0],
    );
    const { final } = simulate(dynamics, { levels: [0.5] }, 300, {
      ...LIMITS,
      breaks: [100],
    });
    expect(final.levels[0]).toBeCloseTo(2.5, 9);
  });

  it("stop at a limit where floats set too close never end", () => {
    const controls = [{ pumps: [0], store: 0, on: 0.5001, off: 0.5 }];
    const pit = onePit(uprightStore(0, 1, 0.1), 0.01, (_, on) => (on ? 0.02 : 0), controls);
    const run = simulate(pit, { levels: [0.4] }, 1e6, {
      ...LIMITS,
      mostEvents: 500,
    });
    expect(run.end).toBe("event-limit");
    expect(run.events).toHaveLength(500);
  });
});

describe("a hole", () => {
  it("vents 0.65 gpm through 1/8 in and 1.46 through 3/16 in at 12 ft, Cd 0.61", () => {
    const gpm = (bore: number) => (orificeFlow(0.61, bore, 12 * FOOT) / GALLON) * 60;
    expect(gpm(INCH / 8)).toBeCloseTo(0.65, 2);
    expect(gpm((3 / 16) * INCH)).toBeCloseTo(1.46, 2);
  });
});

describe("a pump that a float switches", () => {
  // 32 gal two feet deep: 19.8 in across, 1.33 gal an inch (computed).
  const across = Math.sqrt((32 * GALLON) / (2 * FOOT) / (Math.PI / 4));
  const can = uprightStore(0, 2 * FOOT, (Math.PI / 4) * across ** 2);
  const flow = (35 * GALLON) / 60;
  const cycling = { store: can, off: 0.1, on: 0.1 + 8 * INCH, drawn: () => flow, fallsBack: 0 };

  it("a 32 gal can: 10.7 gal in 8 in, and at 35 gpm 49 starts an hour at the worst", () => {
    expect(across / INCH).toBeCloseTo(19.8, 1);
    expect(can.volumeAt(INCH) / GALLON).toBeCloseTo(1.33, 2);
    const volume = can.volumeAt(cycling.on) - can.volumeAt(cycling.off);
    expect(volume / GALLON).toBeCloseTo(10.7, 1);
    const worst = worstCycle(cycling);
    expect(worst?.startsPerHour).toBeCloseTo(49.2, 1);
    expect(((worst?.filling ?? 0) + (worst?.pumping ?? 0)) / 60).toBeCloseTo(1.22, 2);
    expect((worst?.inflow ?? 0) / flow).toBeCloseTo(0.5, 4);
    // The float that keeps to thirty starts: volume in proportion.
    const on = floatFor(cycling, 30) ?? Number.NaN;
    const needed = can.volumeAt(on) - can.volumeAt(cycling.off);
    expect(needed / volume).toBeCloseTo((worst?.startsPerHour ?? 0) / 30, 3);
    expect(floatFor(cycling, 3)).toBeUndefined();
    expect(cycleAt(cycling, flow * 1.01)).toBeUndefined();
  });

  it("with V_b falling back at each stop: T_min = (√V + √(V − V_b))² / Q", () => {
    const volume = can.volumeAt(cycling.on) - can.volumeAt(cycling.off);
    const fallsBack = 0.3 * volume;
    const worst = worstCycle({ ...cycling, fallsBack });
    const least = (Math.sqrt(volume) + Math.sqrt(volume - fallsBack)) ** 2 / flow;
    expect(3600 / (worst?.startsPerHour ?? 0) / least).toBeCloseTo(1, 6);
    // The same in time, where it falls back as good as at once.
    const controls = [{ pumps: [0], store: 0, on: cycling.on, off: cycling.off }];
    const more = { fallBack: { store: 0, at: () => ({ volume: fallsBack, time: 0.01 }) } };
    const pit = onePit(can, worst?.inflow ?? 0, (_, on) => (on ? flow : 0), controls, more);
    const { events } = simulate(pit, { levels: [0.15] }, 1200, LIMITS);
    const on = events.filter(({ kind }) => kind === "pump-on").map(({ time }) => time);
    expect(((on[4] ?? 0) - (on[3] ?? 0)) / least).toBeCloseTo(1, 4);
  });

  it("a 10 ft riser of 1-1/2 in returns 1.06 gal, none under a check valve at its foot", () => {
    const riser = pipe("r", "pvc-sch40-1-1-2in", 10 * FOOT, 10 * FOOT);
    const out = pipe("w", "pvc-sch40-1-1-2in", 20, -0.4);
    const bare = fallingBack(modelOf([set("p"), riser, out, open("o")]), -1);
    expect(bare.volume / GALLON).toBeCloseTo(1.06, 2);
    // Free fall from half the height at the least, a pipe's friction more.
    expect(bare.time).toBeGreaterThan((10 * FOOT) / Math.sqrt(2 * GRAVITY * 5 * FOOT));
    expect(bare.time).toBeLessThan(10);
    // As the whole riser falls under half its height, against its own friction and the speed it has to gain.
    const area = bare.volume / (10 * FOOT);
    const bore = Math.sqrt((4 * area) / Math.PI);
    const needed = (speed: number) => {
      const { density, viscosity } = waterAt(288.15);
      const factor = colebrookWhite((speed * bore * density) / viscosity, 1.5e-6 / bore);
      return ((1 + (factor * 10 * FOOT) / bore) * speed ** 2) / (2 * GRAVITY);
    };
    const speed = bisect((v: number) => needed(v) - 5 * FOOT, 0.1, 10, { tolerance: 1e-12 });
    expect(bare.time).toBeCloseTo((10 * FOOT) / speed, 2);
    // A level run behind it holds its water, and one that falls by less than the eye sees; one that rises gives it back.
    const along = (rise: number) =>
      fallingBack(
        modelOf([set("p"), riser, pipe("l", "pvc-sch40-1-1-2in", 100 * FOOT, rise), open("o")]),
        -1,
      ).volume / GALLON;
    for (const rise of [0, 0.019, -0.019, -0.5]) expect(along(rise)).toBeCloseTo(1.06, 2);
    expect(along(0.03)).toBeCloseTo(11.6, 1);
    // Counted from the water as it stands: a foot of it over the pump is a foot less of the riser.
    const over = fallingBack(modelOf([set("p"), riser, out, open("o")]), -1 + 2 * FOOT);
    expect(over.volume / bare.volume).toBeCloseTo(0.8, 9);
    const held = fallingBack(modelOf([set("p"), check("c"), riser, out, open("o")]), -1);
    expect(held.volume).toBe(0);
    // Nor a foot valve; two pumps on one riser share what is in it.
    const suction = [fitting("f", "foot-valve-hinged"), pipe("h", "suction-hose-2in", 2)];
    const footed = [...suction, set("p"), riser, out, open("o")];
    expect(fallingBack(modelOf(footed), -1).volume).toBe(0);
    const twins = [split("s", [set("a")], [set("b")]), riser, out, open("o")];
    expect(fallingBack(modelOf(twins), -1).volume).toBeCloseTo(bare.volume, 12);
    // A pipe that ends under water stays full: what comes back through it is that water.
    const under = [set("p"), riser, tank("t", 8)];
    expect(fallingBack(modelOf(under), -1).volume).toBe(0);
    // What stands under water has nowhere to fall.
    expect(fallingBack(modelOf([set("p"), riser, open("o")]), 10 * FOOT).volume).toBe(0);
  });
});

describe("two bodies of water joined by a pipe", () => {
  const box = (bottom: number, depth: number, area: number) => uprightStore(bottom, depth, area);
  /** What becomes of two tanks from their levels on, the pump standing, through a pipe that ends at `mouth`. */
  const joined = (
    stores: readonly [WaterStore, WaterStore],
    levels: readonly [number, number],
    items: PathItem[],
    mouth: number,
    span = 12 * 3600,
  ) => {
    const intake = stores[0].bottom;
    const last = pipe(
      "d",
      "pvc-sch40-2in",
      Math.max(30, 1.1 * Math.abs(mouth - intake)),
      mouth - intake,
    );
    const line = lineOf([set("p"), ...items, last, tank("o", levels[1])], {
      source: {
        kind: "open",
        level: { low: levels[0], normal: levels[0], high: levels[0] },
        intake,
      },
    });
    const ready = lineModel(line, [one]);
    if (ready.kind === "refused") throw new Error(JSON.stringify(ready.diagnostics));
    const { model, states, boundaries } = ready;
    const table = lineTable({
      ...{ model, states, boundary: boundaries.normal, stores, source: 0, receivers: [1] },
      ...{ levelsThen: [...levels], specificGravity: 1 },
    });
    const dynamics: Dynamics = {
      ...{ stores, controls: [], pumps: [{ supply: "mains" }] },
      inflow: (_, into) => into.fill(0),
      line: table.line,
    };
    return { ...simulate(dynamics, { levels: [...levels] }, span, { longestStep: 600 }), table };
  };

  it("drowned outlet and check valve: −1.250 and −1.250 of 0 and −2.5 on equal floors", () => {
    const stores = [box(-2, 3, 4), box(-3.5, 4.5, 4)] as const;
    const { final } = joined(stores, [0, -2.5], [check("c")], -3.4);
    expect(final.levels[0]).toBeCloseTo(-1.25, 3);
    expect(final.levels[1]).toBeCloseTo(-1.25, 3);
  });

  it("meet within a millimetre whatever they are, and nothing passes a check valve against the head", () => {
    const area = fc.double({ min: 0.3, max: 30, noNaN: true });
    const part = fc.double({ min: 0.02, max: 0.98, noNaN: true });
    fc.assert(
      fc.property(
        fc.record({
          ...{ a: area, b: area, fillA: part, fillB: part, valve: fc.boolean() },
          floor: fc.double({ min: -3, max: 1.5, noNaN: true }),
        }),
        ({ a, b, fillA, fillB, valve, floor }) => {
          const stores = [box(-2, 3, a), box(floor, 3, b)] as const;
          const levels = [-2 + 3 * fillA, floor + 3 * fillB] as const;
          const { final, totals, table } = joined(stores, levels, valve ? [check("c")] : [], floor);
          const [from = 0, to = 0] = final.levels;
          const falls = levels[0] > Math.max(levels[1], floor);
          // What moved is the same at both ends, and only ever downhill.
          expect(totals.taken[0]).toBeCloseTo(-(totals.taken[1] ?? 0), 9);
          if (!falls && valve) {
            expect(totals.taken[0]).toBe(0);
            return;
          }
          const bottomed = from <= -2 + 1e-6 || to <= floor + 1e-6 || to >= floor + 3 - 1e-6;
          if (!bottomed) expect(Math.abs(from - to)).toBeLessThan(1e-3);
          if (!valve) return;
          for (const d of [1e-9, 1e-6, 1e-4, 1e-2, 0.3]) {
            const at = Math.max(floor + 1, -1.5);
            const taken = table.drawn([at - d, at], [false]);
            expect(Math.abs(taken)).toBe(0);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("a mouth over the water holds its own height, and lets nothing back once it is free", () => {
    // The far tank stands full to 1.9 over a mouth at 1.0: only what lies over the mouth runs back.
    const stores = [box(-4, 4, 4), box(0, 3, 4)] as const;
    const { final, totals } = joined(stores, [-3.5, 1.9], [], 1);
    expect(final.levels[1]).toBeCloseTo(1, 3);
    expect(-(totals.taken[0] ?? 0)).toBeCloseTo(0.9 * 4, 2);
    // Steadily it is lifted to the mouth, not to the water under it.
    const line = (level: number) =>
      modelOf([set("p"), pipe("d", "pvc-sch40-2in", 30, 3), tank("o", level)]).boundaries.normal;
    expect(line(1).outlets[0]).toBe(2);
    expect(line(2.5).outlets[0]).toBe(2.5);
  });

  it("two equal branches into two equal tanks fill them alike", () => {
    const stores = [box(-2, 3, 30), box(2, 4, 2), box(2, 4, 2)];
    const way = (id: string) => [pipe(`d${id}`, "pvc-sch40-2in", 20, 3.2), tank(id, 2.3)];
    const { model, states, boundaries } = modelOf([
      set("p"),
      check("c"),
      pipe("m", "pvc-sch40-2in", 5, 0),
      split("s", way("a"), way("b")),
    ]);
    const table = lineTable({
      ...{ model, states, boundary: boundaries.normal, stores, source: 0, receivers: [1, 2] },
      ...{ levelsThen: [0, 2.3, 2.3], specificGravity: 1 },
    });
    const dynamics: Dynamics = {
      ...{ stores, pumps: [{ supply: "mains" }] },
      controls: [{ store: 0, on: 5, off: -1.9, pumps: [0] }],
      inflow: (_, into) => into.fill(0),
      line: table.line,
    };
    const start = { levels: [0, 2.3, 2.3], called: [true] };
    const { final, totals } = simulate(dynamics, start, 900, { longestStep: 30 });
    expect(final.levels[1]).toBeGreaterThan(2.5);
    expect(final.levels[2]).toBeCloseTo(final.levels[1] ?? 0, 6);
    expect(totals.taken[0]).toBeCloseTo(-(totals.taken[1] ?? 0) - (totals.taken[2] ?? 0), 6);
  });
});

describe("a line between bodies of water", () => {
  const tanks = [uprightStore(-2, 3, 4), uprightStore(2, 3, 1.5)];
  const between = (path: PathItem[]) => {
    const { model, states, boundaries } = modelOf(path);
    const stores = { stores: tanks, source: 0, receivers: [1], levelsThen: [0, 3] };
    return lineTable({ model, states, boundary: boundaries.normal, ...stores, specificGravity: 1 });
  };
  const toUpper = tank("o", 3);

  it("passes on what it takes, less as the far water rises, and runs back without a check valve", () => {
    const table = between([set("p"), pipe("d", "pvc-sch40-3in", 40, 2), toUpper]);
    const flows = { taken: new Float64Array(2), power: new Float64Array(1) };
    table.line([0, 2.5], [true], flows);
    const [out = 0, into = 0] = flows.taken;
    expect(out).toBeGreaterThan(0);
    expect(into).toBeCloseTo(-out, 9);
    table.line([0, 4.5], [true], flows);
    expect(flows.taken[0]).toBeLessThan(out);
    table.line([0, 2.5], [false], flows);
    expect(flows.taken[0]).toBeLessThan(0);
    const kept = between([set("p"), check("c"), pipe("d", "pvc-sch40-3in", 40, 2), toUpper]);
    kept.line([0, 2.5], [false], flows);
    expect(flows.taken[0]).toBeCloseTo(0, 9);
  });

  it("two tanks left to themselves meet at one level, by A₁ dh₁ = −Q dt, A₂ dh₂ = Q dt", () => {
    const table = between([set("p"), pipe("d", "pvc-sch40-3in", 40, 2), toUpper]);
    const level: Dynamics = {
      stores: [uprightStore(-2, 6, 4), uprightStore(2, 3, 1.5)],
      pumps: [{ supply: "mains" }],
      controls: [],
      inflow: (_, into) => into.fill(0),
      line: table.line,
    };
    const run = simulate(level, { levels: [0, 4.5] }, 3600, LIMITS);
    expect(unaccounted(run)).toBeLessThan(1e-9);
    // The upper one empties, since its bottom lies above where they would meet.
    expect(run.events.map(({ kind, index }) => `${kind} ${index}`)).toEqual(["empty 1"]);
    expect(run.final.levels[0]).toBeCloseTo((2.5 * 1.5) / 4, 6);
  });
});
