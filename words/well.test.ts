import { describe, expect, it } from "vitest";
import type { UnitSystem } from "#contract/units/units.ts";
import type { CableRow } from "#core/driving/cableChoice.ts";
import { type Conductor, findConductor } from "#core/driving/conductor.ts";
import { type Context, type Finding, findingsIn, type GivenIn } from "#core/finding/registry.ts";
import { FOOT, GALLON, PSI } from "#core/quantity/constants.ts";
import { fitDrawdown } from "#core/well/drawdown.ts";
import { findingWords } from "./findings.ts";
import { clock, litres } from "./well.ts";

/** What is said of a context, with how much it matters. */
const told = <X extends Context>(of: X, given: GivenIn<X>, system: UnitSystem = "metric") =>
  findingsIn(of, given).map((finding) => ({
    severity: finding.severity,
    ...findingWords(finding as Finding, { system }),
  }));
const first = <X extends Context>(of: X, given: GivenIn<X>, system: UnitSystem = "metric") => {
  const [own] = told(of, given, system);
  if (!own) throw new Error(`Nothing is said of ${of}`);
  return own;
};

describe("what cannot be told yet", () => {
  it("names what a cable lacks", () => {
    const lacks = (lack: "pump" | "volts" | "current") =>
      first("cable-motor", { lacks: [lack] }).sentence;
    expect(lacks("pump")).toContain("choose a pump first");
    expect(lacks("volts")).toContain("how many volts");
    expect(lacks("current")).toContain("clamp meter");
  });

  it("tells a day without water from one without a pump", () => {
    const day = { noWater: false, runs: false, draws: 40, volume: 0.6 };
    expect(first("well-day", day)).toMatchObject({
      severity: "unknown",
      sentence: expect.stringMatching(
        /^40 draws and 600 L a day are wanted.*choose one under Pump/,
      ),
    });
    expect(first("well-day", { ...day, noWater: true })).toMatchObject({
      severity: "stop",
      sentence: expect.stringContaining("Hang the pump lower"),
    });
    expect(told("well-day", { ...day, runs: true })).toEqual([]);
  });

  it("says of power and of a throw that tell nothing what to read instead", () => {
    expect(first("speeds", { tooLittle: true }).sentence).toContain("less than the water alone");
    const throwOf = (stood: "one" | "two") => first("worked-back", { stood });
    expect(throwOf("one")).toMatchObject({ severity: "watch" });
    expect(throwOf("one").sentence).toMatch(/^One gun open: .*Read a gauge at its base\.$/);
    expect(throwOf("two").sentence).toMatch(/^Two guns open: /);
  });
});

describe("what is said of a pumping test", () => {
  const of = (...steps: [flow: number, drawdown: number][]) =>
    first(
      "drawdown-test",
      fitDrawdown(steps.map(([flow, drawdown]) => ({ flow: flow / 1000, drawdown }))),
    );

  it("goes with how many steps there are and how they lie", () => {
    expect(of()).toMatchObject({
      severity: "unknown",
      sentence: expect.stringContaining("dip it"),
    });
    expect(of([1, -1]).sentence).toContain("Step 1 stands at the standing water or above it");
    expect(of([1, 3])).toMatchObject({ severity: "watch" });
    expect(of([1, 3]).sentence).toContain("above 1.00 L/s it is not known");
    expect(of([1, 3], [2, 8]).sentence).toContain("a third would tell");
    expect(of([1, 3], [2, 8], [1.5, 5.3])).toMatchObject({ severity: "good" });
    expect(of([1, 4], [2, 6]).sentence).toContain("no well does for long");
    expect(of([1, 1], [2, 9]).sentence).toContain("faster than the square");
  });
});

describe("what is said of a tank", () => {
  const tank = {
    ...{ overCharged: false, upsideDown: false },
    switched: { runsOn: false, shortest: 61, worst: { startsPerHour: 19, use: 3e-4 } },
    ...{ startsLimit: 20, forMinute: 0.1 },
    tank: { volume: 0.1, preCharge: 28 * PSI, cutIn: 30 * PSI },
  };
  const severities = (patch: object) =>
    told("tank", { ...tank, ...patch }, "us").map((own) => own.severity);

  it("flips at a minute's run and at what the plate allows", () => {
    expect(severities({})).toEqual(["good", "good"]);
    expect(severities({ switched: { ...tank.switched, shortest: 59 } })).toEqual(["watch", "good"]);
    const often = { ...tank.switched, worst: { startsPerHour: 21, use: 3e-4 } };
    expect(severities({ switched: often })).toEqual(["good", "watch"]);
    expect(severities({ overCharged: true })[0]).toBe("stop");
    expect(severities({ upsideDown: true })).toEqual(["stop"]);
    expect(severities({ switched: { ...tank.switched, runsOn: true } })).toEqual(["stop"]);
    expect(severities({ switched: undefined })).toEqual(["unknown"]);
    const { startsLimit: _, ...silent } = tank;
    expect(told("tank", silent, "us")[1]).toMatchObject({ severity: "unknown" });
  });

  it("and of its valve: by the plate, by what passes the motor, or to be asked", () => {
    const past = { velocity: 0.01, limit: 0.08 };
    expect(first("valve", { least: 1e-4, plate: 2e-4, past }).severity).toBe("stop");
    // What the plate states decides, whatever passes the motor; where it states nothing, that does.
    expect(first("valve", { least: 2e-4, plate: 2e-4, past }).severity).toBe("good");
    expect(first("valve", { least: 2e-4, plate: undefined, past }).severity).toBe("watch");
    expect(
      first("valve", { least: 2e-4, plate: 2e-4, past: { ...past, velocity: 0.09 } }).severity,
    ).toBe("good");
    expect(first("valve", { least: 2e-4, plate: undefined, past: undefined }).severity).toBe(
      "unknown",
    );
  });
});

describe("what is said of a day", () => {
  const run = {
    ...{ starts: 9, worstHour: 3, short: 0, heldForWater: 0, wanted: 1, brokenOff: false },
  };

  it("is good only where every draw was met", () => {
    expect(told("draws", { run, startsLimit: 20 })).toEqual([
      {
        severity: "good",
        sentence: "Every draw was met, with the pauses these draws leave the well.",
      },
    ]);
    const dry = told("draws", {
      run: { ...run, short: 0.25, firstShort: 3661, heldForWater: 1 },
      startsLimit: 20,
    });
    expect(dry.map(({ severity }) => severity)).toEqual(["stop", "stop"]);
    expect(dry[0]?.sentence).toContain("1 time for want of water");
    expect(dry[1]?.sentence).toMatch(/250 L of 1000 L did not come, first at 01:01/);
    expect(first("draws", { run: { ...run, worstHour: 21 }, startsLimit: 20 }).severity).toBe(
      "watch",
    );
  });

  it("tells the clock by the day", () => {
    expect(clock(7 * 3600)).toBe("07:00");
    expect(clock(86_400 + 18 * 3600 + 59)).toBe("day 2, 18:00");
    expect([litres(GALLON, "us"), litres(0.0123, "metric")]).toEqual(["1.0 gal", "12.3 L"]);
  });
});

describe("what is said of a cable", () => {
  const conductor = findConductor("mm2-2-5") as Conductor;
  const row: CableRow = {
    ...{ conductor, ground: conductor, drop: 5, part: 0.02, atMotor: 225, atStart: 190 },
    ...{ startPart: 0.83, price: 100, priceTyped: false, fails: [] },
    ...{ ampacity: 24, carries: 16, assumed: [] },
  };

  it("passes, is watched from 3 %, waits for what is typed, and stops", () => {
    const size = (row: CableRow) => first("cable-size", { row, breaker: 16 });
    expect(size(row)).toEqual({ severity: "good", sentence: "Passes" });
    const more = { ...row, part: 0.036 };
    expect(size(more)).toEqual({ severity: "watch", sentence: "Passes, losing more than 3 %" });
    const guessed: CableRow = { ...row, assumed: ["ampacity"], ampacity: 18.5 };
    expect(size(guessed).severity).toBe("unknown");
    expect(size(guessed).sentence).toContain("from memory");
    expect(size({ ...row, fails: ["ampacity"] }).severity).toBe("stop");
    expect(size({ ...row, fails: ["ampacity"] }).sentence).toContain("16 A breaker");
    expect(first("cable", { kind: "found", row: more }).sentence).toContain("3.6 % of the voltage");
    expect(first("cable", { kind: "found", row }).sentence).not.toContain("electrician");
    expect(first("cable", { kind: "found", row: guessed })).toMatchObject({
      severity: "unknown",
      sentence: expect.stringMatching(
        /2\.5 mm² class 5 .* Ask your electrician: .*18\.5 A .* from memory/,
      ),
    });
    expect(
      first("cable", { kind: "found", row: { ...row, assumed: ["breaker"], carries: 8.1 } })
        .sentence,
    ).toContain("8.1 A, a quarter over the running current");
    expect(first("cable", { kind: "none" }).severity).toBe("stop");
  });
});

it("more than one person lifts is said from 25 kg, and a pipe pulled too hard stops", () => {
  const hangs = { ...{ dry: 15, full: 24, pipe: 4, water: 9, cable: 3, pump: 8, rope: 120 } };
  expect(first("hanging", hangs).severity).toBe("good");
  expect(first("hanging", { ...hangs, full: 26 }).sentence).toContain("never by the cable");
  const pulled = { ...hangs, pull: { stress: 5e6, allowed: 4e6 } };
  expect(told("hanging", pulled).at(-1)).toMatchObject({ severity: "stop" });
});

it("a pump at the top draws from so deep and no deeper", () => {
  const limit = 25 * FOOT;
  expect(first("top-suction", { limit, lift: limit + 0.01 }, "us").severity).toBe("stop");
  expect(first("top-suction", { limit, lift: 0.95 * limit }, "us").severity).toBe("watch");
  expect(first("top-suction", { limit, lift: 0.5 * limit }, "us").severity).toBe("good");
});

it("a tap is content from 20 psi, and a hand pump from what a person keeps up", () => {
  const tap = (least: number) => first("tap", { least }).severity;
  expect([0, 1, 137_999, 138_000].map(tap)).toEqual(["stop", "watch", "watch", "good"]);
  const hand = (over: object) =>
    told("hand-pump", { force: 200, most: 200, sucked: 0, limit: 7, ...over });
  expect(hand({}).map(({ severity }) => severity)).toEqual(["good"]);
  expect(hand({ force: 200.1 })[0]?.sentence).toContain("a smaller cylinder");
  expect(hand({ sucked: 7 })[1]?.severity).toBe("good");
  expect(hand({ sucked: 7.01 })[1]).toMatchObject({
    severity: "stop",
    sentence: expect.stringContaining("Hang the cylinder in the water"),
  });
});

it("a jet pump works only where it draws less than it holds, and both are known", () => {
  const jet = (over: object) =>
    first("jet", { name: "Tarn 2", flow: 1e-3, lift: 5, limit: 6, ...over });
  expect(jet({}).severity).toBe("good");
  expect(jet({ lift: 6 }).severity).toBe("stop");
  expect(jet({ limit: undefined }).sentence).toContain("nobody says how much");
  expect(jet({ flow: undefined }).sentence).toContain("does not lift it to the outlet");
});

it("air stops for what it lacks: pressure to start, pressure to run, water to stand in", () => {
  const air = (result: GivenIn<"air-lift">) => told("air-lift", result)[0]?.sentence;
  expect(air({ kind: "will-not-start", needs: 3e5 })).toMatch(/^It starts at 300 kPa of air/);
  expect(air({ kind: "will-not-run", needs: 3e5 })).toMatch(/^It starts, but with air running/);
  expect(air({ kind: "too-little-water", submergence: 0.2 })).toContain("Only 20 %");
  const pulse = { start: 1e5, losses: 7000, starts: true, submergence: 2 };
  expect(first("pulse-pump", pulse).severity).toBe("good");
  expect(first("pulse-pump", { ...pulse, starts: false }).severity).toBe("stop");
  expect(first("pulse-pump", { ...pulse, submergence: 0 }).severity).toBe("stop");
});

it("what of a well nobody told, or was read too soon, is said with what it takes", () => {
  const guarded = { lifts: 1e-3, perDay: 4, startsPerHour: 2, runs: 0.5 };
  const said = told("well", {
    ...{ differs: true, short: [{ step: 1, needs: 1200 }], guarded, lacksWeight: true },
  });
  expect(said.map(({ severity }) => severity)).toEqual(["watch", "watch", "watch", "unknown"]);
  expect(said[1]?.sentence).toContain("Step 2 was too short");
  expect(said[2]?.sentence).toContain("runs 50 % of the day, 2.0 starts an hour");
  expect(told("well", { differs: false, short: [], lacksWeight: false })).toEqual([]);
});
