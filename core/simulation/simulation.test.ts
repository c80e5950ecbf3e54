import fc from "fast-check";
import { Solver } from "odex";
import { describe, expect, it } from "vitest";
import { lineModel } from "../hydraulics/solveLine.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { lineOf, one, open, pipe, set } from "../test/fixtures.ts";
import { dutyTable } from "./dutyTable.ts";
import { type Control, type Dynamics, simulate } from "./simulate.ts";
import {
  coneStore,
  lyingCylinderStore,
  pressureTankStore,
  tableStore,
  trapezoidStore,
  uprightStore,
  type WaterStore,
} from "./waterStore.ts";

const LIMITS = { longestStep: 60 };

function onePit(
  store: WaterStore,
  inflow: number,
  taken: (level: number, running: boolean) => number,
  controls: Control[] = [],
): Dynamics {
  return {
    stores: [store],
    inflow: () => [inflow],
    controls,
    flows: ([level = 0], [running = false]) => [taken(level, running)],
  };
}

describe("bodies of water", () => {
  const stores: [string, WaterStore][] = [
    ["an upright pit", uprightStore(-2, 1.5, 0.8, 0.4)],
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
    const pit = onePit(uprightStore(0, 2, 1), 0, drain, [{ pump: 0, store: 0, on: 5, off: 0.25 }]);
    const { events } = simulate(pit, { levels: [1], running: [true] }, 5000, LIMITS);
    const exact = (2 / (0.61 * area * Math.sqrt(2 * GRAVITY))) * (1 - 0.5);
    expect(exact).toBeCloseTo(1178, 0);
    expect(Math.abs((events[0]?.time ?? 0) / exact - 1)).toBeLessThan(1e-4);
  });

  it("a straight falling curve on no resistance empties exponentially", () => {
    // Q = a + b z, so that z + a/b falls as e^(−b t / A).
    const [a, b, area] = [0.002, 0.0015, 3];
    const pit = onePit(uprightStore(-5, 10, area), 0, (z) => a + b * z);
    const { levels, times } = simulate(pit, { levels: [2], running: [] }, 1500, LIMITS);
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
      const controls = [{ pump: 0, store: 0, on: volume / area, off: 0 + 1e-9 }];
      const pit = onePit(uprightStore(-1, 3, area), inflow, (_, on) => (on ? q : 0), controls);
      const { events } = simulate(pit, { levels: [0.1], running: [false] }, 1200, LIMITS);
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
    const line = lineOf([set("p"), pipe("d", "pvc-sch40-3in", 60, 14), open("o")]);
    const ready = lineModel(line, [one]);
    if (ready.kind === "refused") throw new Error("refused");
    const outlets = ready.boundaries.normal.outlets;
    const at = (level: number) => ({ source: level, outlets });
    const table = dutyTable(ready.model, ready.states, at, -0.9, 1, 24);
    // The table agrees with the solver between its rows.
    for (const level of [-0.77, -0.31, 0.13, 0.68]) {
      const result = ready.model.solve(at(level), ready.states);
      const flow = result.kind === "steady" ? result.state.delivered : Number.NaN;
      expect(table.flowAt(level) / flow).toBeCloseTo(1, 5);
    }
    const stores = [trapezoidStore(-1, 2, 9, 4, 1), uprightStore(0, 4, 6)];
    const back = (z: number) => 0.004 * Math.sqrt(Math.max(z, 0));
    const dynamics: Dynamics = {
      stores,
      inflow: (t) => [0.002 + 0.001 * Math.sin(t / 200), 0],
      controls: [],
      flows: ([a = 0, b = 0]) => [table.flowAt(a) - back(b), back(b) - table.flowAt(a)],
    };
    const start = { levels: [0.8, 0.4], running: [] };
    const { final } = simulate(dynamics, start, 900, LIMITS);
    const solver = new Solver(2);
    solver.absoluteTolerance = 1e-11;
    solver.relativeTolerance = 1e-11;
    const volumes = stores.map((store, i) => store.volumeAt(start.levels[i] as number));
    const { y } = solver.solve(
      (t, v) => {
        const levels = stores.map((store, i) => store.levelAt(v[i] as number));
        const taken = dynamics.flows(levels, []);
        return dynamics.inflow(t).map((flow, i) => flow - (taken[i] as number));
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
  it("lose no water: what came in is what was pumped and what is still there", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-4, max: 3e-3, noNaN: true }),
        fc.double({ min: 5e-4, max: 6e-3, noNaN: true }),
        (inflow, pumped) => {
          const store = uprightStore(0, 2, 0.3);
          const controls = [{ pump: 0, store: 0, on: 1, off: 0.4 }];
          const pit = onePit(store, inflow, (_, on) => (on ? pumped : 0), controls);
          const { events, final, times } = simulate(
            pit,
            { levels: [0.5], running: [false] },
            3600,
            LIMITS,
          );
          let moved = 0;
          let since: number | undefined;
          for (const { kind, time } of events) {
            if (kind === "pump-on") since = time;
            if (kind === "pump-off" && since !== undefined) {
              moved += pumped * (time - since);
              since = undefined;
            }
          }
          if (since !== undefined) moved += pumped * (3600 - since);
          const spilled = events.some(({ kind }) => kind === "full");
          const left = store.volumeAt(final.levels[0] ?? 0) - store.volumeAt(0.5);
          if (!spilled) expect(Math.abs(inflow * 3600 - moved - left)).toBeLessThan(1e-6);
          expect(times).toEqual(times.toSorted((a, b) => a - b));
        },
      ),
      { numRuns: 60 },
    );
  });

  it("an empty pit gives no more than comes in, and a full one spills", () => {
    const pit = onePit(uprightStore(0, 1, 1), 0.001, () => 0.003);
    const dry = simulate(pit, { levels: [0.5], running: [] }, 2000, LIMITS);
    expect(dry.events).toEqual([{ kind: "empty", index: 0, time: expect.closeTo(250, 3) }]);
    expect(dry.final.levels[0]).toBe(0);
    const flood = onePit(uprightStore(0, 1, 1), 0.001, () => 0);
    const full = simulate(flood, { levels: [0.5], running: [] }, 2000, LIMITS);
    expect(full.events).toEqual([{ kind: "full", index: 0, time: expect.closeTo(500, 3) }]);
    expect(full.final.levels[0]).toBe(1);
  });

  it("a tank that has run dry fills the other no further: no water is made", () => {
    const two: Dynamics = {
      stores: [uprightStore(0, 2, 1), uprightStore(0, 5, 1)],
      inflow: (t) => [t < 1000 ? 0 : 0.0005, 0],
      controls: [],
      flows: () => [0.002, -0.002],
    };
    const { events, final } = simulate(two, { levels: [1, 0], running: [] }, 3000, {
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
      { pump: 0, store: 0, on: 1, off: 0.2 },
      { pump: 1, store: 0, on: 1, off: 0.5 },
    ];
    const both: Dynamics = {
      stores: [uprightStore(0, 2, 1)],
      inflow: () => [0.001],
      controls,
      flows: (_, running) => [running.filter(Boolean).length * 0.003],
    };
    const { events } = simulate(both, { levels: [0.8], running: [false, false] }, 600, LIMITS);
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
    const dynamics: Dynamics = {
      stores: [store],
      inflow: (t) => [t < 100 ? 0 : 0.01],
      controls: [],
      flows: () => [0],
    };
    const { final } = simulate(dynamics, { levels: [0.5], running: [] }, 300, {
      ...LIMITS,
      breaks: [100],
    });
    expect(final.levels[0]).toBeCloseTo(2.5, 9);
  });

  it("stop at a limit where floats set too close never end", () => {
    const controls = [{ pump: 0, store: 0, on: 0.5001, off: 0.5 }];
    const pit = onePit(uprightStore(0, 1, 0.1), 0.01, (_, on) => (on ? 0.02 : 0), controls);
    const run = simulate(pit, { levels: [0.4], running: [false] }, 1e6, {
      ...LIMITS,
      mostEvents: 500,
    });
    expect(run.end).toBe("event-limit");
    expect(run.events).toHaveLength(500);
  });
});
