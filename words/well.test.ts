import { describe, expect, it } from "vitest";
import type { CableRow } from "#core/driving/cableChoice.ts";
import { type Conductor, findConductor } from "#core/driving/conductor.ts";
import { FOOT, GALLON, PSI } from "#core/quantity/constants.ts";
import { fitDrawdown } from "#core/well/drawdown.ts";
import {
  cableSeverity,
  cableWords,
  choiceWords,
  clock,
  dayWords,
  fitWords,
  hangsWords,
  leastFlowWords,
  litres,
  suctionWords,
  tankWords,
} from "./well.ts";

describe("what is said of a pumping test", () => {
  const of = (...steps: [flow: number, drawdown: number][]) =>
    fitWords(
      fitDrawdown(steps.map(([flow, drawdown]) => ({ flow: flow / 1000, drawdown }))),
      "metric",
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
  const told = {
    ...{ overCharged: false, upsideDown: false },
    switched: { runsOn: false, shortest: 61, worst: { startsPerHour: 19, use: 3e-4 } },
    ...{ startsLimit: 20, forMinute: 0.1 },
    tank: { volume: 0.1, preCharge: 28 * PSI, cutIn: 30 * PSI },
  };
  const severities = (patch: object) =>
    tankWords({ ...told, ...patch }, "us").map((own) => own.severity);

  it("flips at a minute's run and at what the plate allows", () => {
    expect(severities({})).toEqual(["good", "good"]);
    expect(severities({ switched: { ...told.switched, shortest: 59 } })).toEqual(["watch", "good"]);
    const often = { ...told.switched, worst: { startsPerHour: 21, use: 3e-4 } };
    expect(severities({ switched: often })).toEqual(["good", "watch"]);
    expect(severities({ overCharged: true })[0]).toBe("stop");
    expect(severities({ upsideDown: true })).toEqual(["stop"]);
    expect(severities({ switched: { ...told.switched, runsOn: true } })).toEqual(["stop"]);
    expect(severities({ switched: undefined })).toEqual(["unknown"]);
    const { startsLimit: _, ...silent } = told;
    expect(tankWords(silent, "us")[1]).toMatchObject({ severity: "unknown" });
  });

  it("and of its valve: by the plate, by what passes the motor, or to be asked", () => {
    const past = { velocity: 0.01, limit: 0.08 };
    expect(leastFlowWords(1e-4, 2e-4, past, "metric").severity).toBe("stop");
    // What the plate states decides, whatever passes the motor; where it states nothing, that does.
    expect(leastFlowWords(2e-4, 2e-4, past, "metric").severity).toBe("good");
    expect(leastFlowWords(2e-4, undefined, past, "metric").severity).toBe("watch");
    expect(leastFlowWords(2e-4, 2e-4, { ...past, velocity: 0.09 }, "metric").severity).toBe("good");
    expect(leastFlowWords(2e-4, undefined, undefined, "metric").severity).toBe("unknown");
  });
});

describe("what is said of a day", () => {
  const run = {
    ...{ starts: 9, worstHour: 3, short: 0, heldForWater: 0, wanted: 1, brokenOff: false },
  };

  it("is good only where every draw was met", () => {
    expect(dayWords(run, 20, "metric")).toEqual([
      {
        severity: "good",
        sentence: "Every draw was met, with the pauses these draws leave the well.",
      },
    ]);
    const dry = dayWords({ ...run, short: 0.25, firstShort: 3661, heldForWater: 1 }, 20, "metric");
    expect(dry.map(({ severity }) => severity)).toEqual(["stop", "stop"]);
    expect(dry[0]?.sentence).toContain("1 time for want of water");
    expect(dry[1]?.sentence).toMatch(/250 L of 1000 L did not come, first at 01:01/);
    expect(dayWords({ ...run, worstHour: 21 }, 20, "metric")[0]?.severity).toBe("watch");
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
    expect([cableSeverity(row), cableWords(row, 16)]).toEqual(["good", "Passes"]);
    const more = { ...row, part: 0.036 };
    expect([cableSeverity(more), cableWords(more, 16)]).toEqual([
      "watch",
      "Passes, losing more than 3 %",
    ]);
    const guessed: CableRow = { ...row, assumed: ["ampacity"], ampacity: 18.5 };
    expect(cableSeverity(guessed)).toBe("unknown");
    expect(cableWords(guessed, 16)).toContain("from memory");
    expect(cableSeverity({ ...row, fails: ["ampacity"] })).toBe("stop");
    expect(cableWords({ ...row, fails: ["ampacity"] }, 16)).toContain("16 A breaker");
    expect(choiceWords({ kind: "found", row: more }).sentence).toContain("3.6 % of the voltage");
    expect(choiceWords({ kind: "found", row }).sentence).not.toContain("electrician");
    expect(choiceWords({ kind: "found", row: guessed })).toMatchObject({
      severity: "unknown",
      sentence: expect.stringMatching(
        /2\.5 mm² class 5 .* Ask your electrician: .*18\.5 A .* from memory/,
      ),
    });
    expect(
      choiceWords({ kind: "found", row: { ...row, assumed: ["breaker"], carries: 8.1 } }).sentence,
    ).toContain("8.1 A, a quarter over the running current");
    expect(choiceWords({ kind: "none" }).severity).toBe("stop");
  });
});

it("more than one person lifts is said from 25 kg, and a pipe pulled too hard stops", () => {
  const hangs = { ...{ dry: 15, full: 24, pipe: 4, water: 9, cable: 3, pump: 8, rope: 120 } };
  expect(hangsWords(hangs, "metric")[0]?.severity).toBe("good");
  expect(hangsWords({ ...hangs, full: 26 }, "metric")[0]?.sentence).toContain("never by the cable");
  const pulled = { ...hangs, pull: { stress: 5e6, allowed: 4e6 } };
  expect(hangsWords(pulled, "metric").at(-1)).toMatchObject({ severity: "stop" });
});

it("a pump at the top draws from so deep and no deeper", () => {
  const limit = 25 * FOOT;
  expect(suctionWords(limit, limit + 0.01, "us").severity).toBe("stop");
  expect(suctionWords(limit, 0.95 * limit, "us").severity).toBe("watch");
  expect(suctionWords(limit, 0.5 * limit, "us").severity).toBe("good");
});
