import { describe, expect, it } from "vitest";
import { settlingTime } from "../line/casing.ts";
import { GALLON, PSI } from "../quantity/constants.ts";
import { pumpedOff, tankDay, type WellSystem } from "./tankDay.ts";
import { usualDay, volumeOf } from "./useOfDay.ts";

const TEN_DAYS = 864_000;
const CALM = { linear: 0, quadratic: 0 };

/** A pump whose flow falls straight with the tank's pressure, and not with the well. */
const straight = {
  flowAt: (_level: number, pressure: number) => Math.max(1.2e-3 * (1 - pressure / (90 * PSI)), 0),
  powerAt: () => 800,
  headAt: () => 50,
  density: 1000,
};
const system: WellSystem = {
  pump: straight,
  tank: { volume: 0.15, preCharge: 28 * PSI, cutIn: 30 * PSI, cutOut: 50 * PSI },
  well: { standing: -20, drawdown: CALM, area: 0.018, intake: -40 },
  air: 101_325,
};

it("a tap of which nothing is known runs as most do: 2.5 gpm (common practice, no source)", () => {
  for (const { flow } of usualDay("house", 1, [])) expect((flow / GALLON) * 60).toBeCloseTo(2.5, 9);
});

describe("a day of water from a tank", () => {
  const draws = usualDay("house", 4, [1.6e-4, 2e-4, 1.2e-4]);
  const day = tankDay(system, draws, 86_400);

  it("gives all that is drawn, and what is pumped is what the runs say", () => {
    expect(volumeOf(draws) / 4 / GALLON).toBeGreaterThan(50);
    expect(day.short).toBe(0);
    expect(day.wanted).toBeCloseTo(volumeOf(draws), 9);
    // What was pumped and what was drawn differ by no more than the tank holds.
    expect(Math.abs(day.pumped - day.wanted)).toBeLessThan(0.06);
    expect(day.energy).toBeCloseTo(800 * day.runTime, 3);
    expect(Math.min(...day.pressure)).toBeGreaterThan(29.9 * PSI);
    expect(Math.max(...day.pressure)).toBeLessThan(50.1 * PSI);
    expect(day.starts).toBeGreaterThan(3);
    expect(day.shortestRun).toBeGreaterThan(10);
  });

  it("starts as often as the cycle says while one flow is drawn all the time", () => {
    const use = 3e-4;
    const steady = tankDay(system, [{ start: 0, duration: 36_000, flow: use, tap: 0 }], 36_000);
    // ∫ dV/(Q(p) − q) summed up in twenty thousand strips, V/q for the rest.
    const { volume, preCharge, cutIn, cutOut } = system.tank;
    const gas = volume * (preCharge + 101_325);
    let time = 0;
    const n = 20_000;
    for (let i = 0; i < n; i++) {
      const p = cutIn + ((i + 0.5) * (cutOut - cutIn)) / n;
      time += (((cutOut - cutIn) / n) * gas) / (p + 101_325) ** 2 / (straight.flowAt(0, p) - use);
    }
    const rest = (gas * (1 / (cutIn + 101_325) - 1 / (cutOut + 101_325))) / use;
    expect(steady.starts).toBe(Math.floor((36_000 - rest) / (time + rest)) + 1);
    expect(steady.shortestRun).toBeCloseTo(time, 1);
  });

  it("says how much was not there where more is drawn than the pump gives", () => {
    const all = tankDay(system, [{ start: 600, duration: 3600, flow: 2e-3, tap: 0 }], 7200);
    expect(all.firstShort).toBeGreaterThan(600);
    // Nearly empty it gets what the pump gives at its pre-charge.
    const given = straight.flowAt(0, 28 * PSI) * 3600;
    expect(all.short).toBeCloseTo(7.2 - given - 0.025, 1);
  });

  it("behind a valve holds the pressure while water runs, with fewer starts", () => {
    const small = { ...system, tank: { ...system.tank, volume: 0.02 } };
    const draw = [{ start: 600, duration: 1800, flow: 3e-4, tap: 0 }];
    const bare = tankDay(small, draw, 3600);
    const held = tankDay({ ...small, valve: { pressure: 45 * PSI, leastFlow: 6e-5 } }, draw, 3600);
    expect(bare.starts).toBeGreaterThan(5);
    expect(held.starts).toBe(1);
    const during = held.pressure.filter(
      (_, i) => (held.times[i] ?? 0) > 900 && (held.times[i] ?? 0) < 2300,
    );
    expect(Math.min(...during) / PSI).toBeGreaterThan(41.9);
    expect(Math.max(...during) / PSI).toBeLessThan(45.1);
  });
});

describe("the water in a well", () => {
  it("goes down and up again by the closed form where its drawdown is linear", () => {
    const linear = 8000;
    const area = 0.018;
    const flow = 0.8e-3;
    const tau = settlingTime(area, linear);
    const pump = { ...straight, flowAt: () => flow };
    const well = { standing: -20, drawdown: { linear, quadratic: 0 }, area, intake: -60 };
    // So large a tank that the pump runs throughout.
    const tank = { ...system.tank, volume: 40, cutOut: 80 * PSI };
    const draws = [{ start: 1, duration: 1, flow: 20.5, tap: 0 }];
    const day = tankDay({ ...system, pump, tank, well }, draws, 1500);
    const from = day.times[day.runs.indexOf(true)] ?? 0;
    for (const [i, time] of day.times.entries()) {
      if (time < from) continue;
      const closed = -20 - linear * flow * (1 - Math.exp(-(time - from) / tau));
      expect(day.level[i]).toBeCloseTo(closed, 2);
    }
    expect(day.lowestLevel).toBeCloseTo(-20 - linear * flow, 2);
  });

  it("that gives less than the pump lifts runs it on and off, and gives its own flow", () => {
    const linear = 40_000;
    const well = { standing: -20, drawdown: { linear, quadratic: 0 }, area: 0.018, intake: -36 };
    const protection = { stop: -35, restart: -27.5 };
    const off = pumpedOff({ well, protection, lifts: () => 1e-3 }, TEN_DAYS);
    expect(off.holds).toBe(false);
    // Between the inflow at either level.
    expect(off.pumped / TEN_DAYS).toBeGreaterThan(7.5 / linear);
    expect(off.pumped / TEN_DAYS).toBeLessThan(15 / linear);
    // Linear: the mean inflow of a cycle is that of exponentials up and down.
    const tau = 0.018 * linear;
    const full = 1e-3 * linear;
    const down = tau * Math.log((full - 7.5) / (full - 15));
    const up = tau * Math.log(15 / 7.5);
    const mean = (1e-3 * down) / (down + up);
    expect(off.pumped / TEN_DAYS / mean).toBeCloseTo(1, 2);
    expect(off.starts).toBeGreaterThan(TEN_DAYS / (down + up) - 2);
    // A pump the well keeps up with is never stopped.
    expect(pumpedOff({ well, protection, lifts: () => 2e-4 }, 86_400).holds).toBe(true);
  });
});
