import { describe, expect, it } from "vitest";
import { type Context, type Finding, findingsIn, type GivenIn } from "#core/finding/registry.ts";
import type { CanAgreement } from "#core/irrigation/catchCans.ts";
import { calibration, type Gun, throwAt } from "#core/irrigation/gun.ts";
import { INTAKE, runoffOn } from "#core/irrigation/soil.ts";
import { findingWords } from "./findings.ts";
import {
  broughtWords,
  calibrationWords,
  depthOf,
  evennessWords,
  formatClock,
  grainOf,
  groundOf,
  halvingWords,
  rateOf,
  sharedWords,
  togetherWords,
} from "./irrigation.ts";

/** What is said first of a context, with how much it matters. */
const said = <X extends Context>(of: X, given: GivenIn<X>, keepOff = (_: number) => "") => {
  const [finding] = findingsIn(of, given) as Finding[];
  if (!finding) throw new Error(`Nothing is said of ${of}`);
  return { severity: finding.severity, ...findingWords(finding, { system: "metric", keepOff }) };
};

const gun: Gun = {
  ...{ bore: 0.014, dischargeCoefficient: 0.95 },
  ...{ leastPressure: 250_000, greatestPressure: 550_000 },
};

describe("what is said of a throw", () => {
  const at = (pressure: number, own = gun) =>
    said("gun", { thrown: throwAt(own, pressure), pressure });
  it("flips at the edges of the window, and names pressure and limit", () => {
    expect(at(249_900)).toMatchObject({ severity: "stop", title: "Falls in a ring" });
    expect(at(249_900).sentence).toContain("it throws from 250 kPa on");
    expect(at(250_000)).toMatchObject({ severity: "good", title: "Spreads evenly" });
    expect(at(550_000).severity).toBe("good");
    expect(at(550_100)).toMatchObject({ severity: "stop", title: "Mists" });
  });
  it("says by what it is known, and never good where the window is not", () => {
    expect(at(300_000).sentence).toContain("by the textbook, ± 45 %");
    const { leastPressure: _, ...open } = gun;
    expect(at(300_000, open).severity).toBe("unknown");
    expect(at(300_000, open).sentence).toContain("type its window");
  });
  it("a calibration says how far it carries, and what was left out", () => {
    const throws = [
      { pressure: 300_000, radius: 22, by: "tape" as const },
      { pressure: 100_000, radius: 9, by: "paces" as const },
    ];
    const found = calibration(gun, throws);
    const text = found ? calibrationWords(found, gun, "metric").join(" ") : "";
    expect(text).toContain("every pressure between 250 kPa and 550 kPa: both follow its root");
    expect(text).toContain("One throw was taken outside that and is left out");
  });
  it("two guns: why they throw less, in the ratio of the roots of the pressures", () => {
    const at = (pressure: number) => ({ pressure, radius: 2e-2 * Math.sqrt(pressure) });
    const text = sharedWords(2, at(300_000), at(480_000), "metric");
    expect(text).toContain("11.0 m, 79 % of the 13.9 m it would throw alone");
    expect(text).toContain("root of the pressure");
    // Where one of them falls in a ring no throw is told.
    const ring = sharedWords(2, { pressure: 100_000 }, at(480_000), "metric");
    expect(ring).toContain("100 kPa lies outside it");
    expect(ring).not.toContain("%");
  });
});

describe("what is said of the ground", () => {
  it("depths, rates and areas in both systems", () => {
    expect(depthOf(0.0127, "us")).toBe("0.50 in");
    expect(depthOf(0.0127, "metric")).toBe("12.7 mm");
    expect(rateOf(0.0127 / 3600, "us")).toBe("0.50 in/h");
    expect(groundOf(10_000, "metric")).toBe("1.00 ha");
    expect(groundOf(4046.856, "us")).toBe("1.00 acre");
  });
  it("runoff flips where the quickest and the slowest of its soil stop taking it", () => {
    const { low, high } = INTAKE.loam;
    const at = (rate: number, narrow?: number) =>
      said("runoff", {
        ...{ soil: "loam", guns: 1, rate, runoff: runoffOn("loam", rate) },
        ...(narrow !== undefined && {
          narrow: { rate: narrow, arc: 180, runoff: runoffOn("loam", narrow) },
        }),
      });
    expect(at(low * 0.999)).toMatchObject({ severity: "good" });
    expect(at(low * 0.999).sentence).toMatch(/^It soaks in/);
    expect(at(low * 1.001).sentence).toMatch(/^It may run off/);
    expect(at(high * 1.001).sentence).toMatch(/^It runs off/);
    expect(at(2 * high).sentence).toContain("at least 50 % stays on top");
    expect(at(low / 2, low * 0.99)).toMatchObject({ severity: "good" });
    expect(at(low / 2, low * 1.01)).toMatchObject({ severity: "watch" });
    expect(at(low / 2, high * 1.01).sentence).toMatch(
      /turns through 180° it is .*: it runs off there/,
    );
  });
  it("evenness flips at its limits; drip by its own", () => {
    const drip = (uniformity: number) => said("drip", { kind: "solved", uniformity } as never);
    expect([0.85, 0.83, 0.69].map((cu) => evennessWords(cu).split(",")[0])).toEqual([
      ...["even", "fair", "uneven"],
    ]);
    expect([0.9, 0.899, 0.79].map((eu) => drip(eu).severity)).toEqual([
      ...["good", "watch", "watch"],
    ]);
    expect(drip(0.79).sentence).toContain("Uneven");
    expect(drip(0.8).sentence).toContain("Fair");
  });
  it("a note names what it is of", () => {
    const names = ["Hawthorn hedge", "Canal road"];
    const note = { code: "keep-off-overlap", between: [0, 1] as [number, number] } as const;
    const planned = (own: object) =>
      said(
        "sets",
        {
          ...{ ground: undefined, keptOff: false },
          sets: { kind: "planned", notes: [own], outside: 0, dry: 0 } as never,
        },
        (k) => names[k] ?? "",
      ).sentence;
    expect(planned(note)).toMatch(/^Hawthorn hedge and canal road overlap/);
    expect(planned({ code: "over-an-edge", stands: [3] })).toContain("stand 4");
  });
});

it("a refused day says the set, how long it takes and what there is", () => {
  const plan = { kind: "refused", set: 6, takes: 4800, has: 3600 } as const;
  const tank = said("day-plan", { ...plan, why: "tank-shorter-than-set" }).sentence;
  expect(tank).toMatch(/^The tank lasts 1 h 0 min, and set 7 takes 1 h 20 min/);
  const calm = said("day-plan", { ...plan, why: "calm-shorter-than-set" }).sentence;
  expect(calm).toMatch(/^The calm lasts 1 h 0 min, and set 7 takes/);
  expect([formatClock(14 * 3600 + 1200), formatClock(86_400 + 3660)]).toEqual([
    "14:20",
    "+1 d 01:01",
  ]);
});

it("a filter's grain is never said larger than it is", () => {
  expect(grainOf(1e-4, "metric")).toBe("100 µm");
  expect(grainOf(1e-4, "us")).toBe("0.0039 in (100 µm)");
  expect(grainOf(0.79e-4, "metric")).toBe("79 µm");
});

it("a drip zone on the line: not carried, carried, or far too little for the pump", () => {
  const say = (brought: number) => broughtWords(1e-3, brought, 120_000, "metric");
  expect(say(0.99e-3)).toContain("less than the zone takes");
  expect(say(1.01e-3)).toContain("enough for it");
  expect(say(2.5e-3)).toContain("2 such zones at a time.");
  expect(say(4e-3)).toContain("near its shut-off");
});

it("cans and line: more, less or alike, with the reasons in their order", () => {
  const found = (over: Partial<CanAgreement>) =>
    ({ kind: "disagree", ratio: 1.5, doubt: 0.2, reasons: [], ...over }) as CanAgreement;
  const say = (agreement: CanAgreement) =>
    said("cans", { agreement, caught: 6e-3, modelled: 4e-3 });
  expect(say(found({})).title).toBe("More fell than the line says");
  expect(say(found({ ratio: 0.5 })).title).toBe("Less fell than the line says");
  expect(say({ kind: "agree", ratio: 1.1, doubt: 0.2 }).title).toBe("Cans and line agree");
  const reasons = say(found({ reasons: ["wind", "nozzle-worn"] } as never)).reasons;
  expect(reasons?.[0]).toMatch(/^Wind/);
});

describe("what would halve a doubt", () => {
  it("claims it only where one reading can", () => {
    expect(halvingWords({ name: "flow", left: 0.3, toHalf: 0.4 })).toBe(
      "Measuring the flow to 40 % of its present doubt halves it.",
    );
    expect(halvingWords({ name: "line", left: 0.7 })).toMatch(/^No one reading halves that/);
    expect(halvingWords(undefined)).toBeUndefined();
  });
  it("one gun and two: agreement, less and more", () => {
    const base = { value: 0.9, standardUncertainty: 0.03, effects: {}, budget: [] };
    const apart = (value: number) => ({ value, standardUncertainty: 0.02 });
    const say = (value: number, agree: boolean) =>
      togetherWords({ ...base, agree, apart: apart(value) });
    expect(say(0.01, true)).toContain("90.0 ± 6.0 %");
    expect(say(-0.2, false)).toContain("20.0 ± 4.0 % less than with one");
    expect(say(0.2, false)).toContain("20.0 ± 4.0 % more than with one");
  });
});

it("ground, sets and days that cannot be are stopped for, a watered ground is not", () => {
  const none = { ground: undefined, sets: undefined, keptOff: false };
  expect(findingsIn("sets", none)).toEqual([]);
  const ground = { kind: "refused", why: "crosses-itself" } as const;
  expect(said("sets", { ...none, ground })).toMatchObject({
    severity: "stop",
    sentence: expect.stringContaining("Check the bearings"),
  });
  const sets = { kind: "refused", why: "no-throw" } as const;
  expect(said("sets", { ...none, sets }).severity).toBe("stop");
  const dry = (part: number) =>
    findingsIn("sets", { ...none, sets: { kind: "planned", notes: [], dry: part } as never })
      .length;
  expect([dry(0.02), dry(0.021)]).toEqual([0, 1]);
  const over = (why: "no-sets-left" | "too-long") =>
    said("day-plan", { kind: "refused", why, days: 120 } as never).severity;
  expect([over("no-sets-left"), over("too-long")]).toEqual(["good", "stop"]);
});
