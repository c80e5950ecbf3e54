import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type DayAsked, type DayPlan, dayPlan } from "./dayPlan.ts";
import { season } from "./season.ts";

const min = 60;
const hour = 3600;
const engine = { tankLasts: 2 * hour, left: 2 * hour, cooling: 15 * min, filling: 5 * min };

function planned(over: Partial<DayAsked>): Extract<DayPlan, { kind: "planned" }> {
  const asked = { runs: [40, 40, 40, 40].map((m) => m * min), next: 0, start: 8 * hour };
  const plan = dayPlan({ ...asked, move: 10 * min, prime: 3 * min, ...over });
  if (plan.kind !== "planned") throw new Error(plan.why);
  return plan;
}

describe("a plan by the clock", () => {
  it("of an electric pump is prime, then sets with moves between them", () => {
    const { steps, end, running } = planned({});
    expect(steps.map(({ kind }) => kind).join(" ")).toBe("prime run move run move run move run");
    expect(end).toBe(8 * hour + (3 + 4 * 40 + 3 * 10) * min);
    expect(running).toBe(160 * min);
  });

  it("stops for fuel before a set the tank would not see to its end, and carries the gun while it cools", () => {
    const { steps, fuelStops } = planned({ engine });
    expect(fuelStops).toBe(1);
    const at = steps.findIndex(({ kind }) => kind === "fuel");
    // Three sets of 40 min are two hours; the fourth waits: 15 min of cooling, 5 of filling, then priming.
    expect(steps[at]).toMatchObject({ set: 3 });
    const stop = steps[at] as Extract<(typeof steps)[number], { kind: "fuel" }>;
    expect([stop.fillFrom - stop.from, stop.to - stop.fillFrom]).toEqual([15 * min, 5 * min]);
    expect(steps[at + 1]?.kind).toBe("prime");
  });

  it("waits for the calm, over midnight too, and primes again", () => {
    const evening = { from: 18 * hour, to: 6 * hour };
    const { steps } = planned({ start: 5 * hour, calm: evening });
    const runs = steps.flatMap((step) => (step.kind === "run" ? [step.from / hour] : []));
    expect(runs[0]).toBeCloseTo(5.05, 9);
    expect(runs[1]).toBeCloseTo(18.05, 9);
    expect(steps.find(({ kind }) => kind === "wait")).toMatchObject({ to: 18 * hour });
  });

  it("goes on from the set and the hour somebody is at", () => {
    const runs = Array.from({ length: 10 }, () => 30 * min);
    const { steps } = planned({ runs, next: 6, start: 14 * hour + 20 * min });
    const sets = steps.flatMap((step) => (step.kind === "run" ? [step.set] : []));
    expect(sets).toEqual([6, 7, 8, 9]);
    expect(steps[0]?.from).toBe(14 * hour + 20 * min);
  });

  it("refuses a tank, or a calm, that cannot last one set: with the set and both times", () => {
    const small = { ...engine, tankLasts: 0.5 * hour };
    const asked = { runs: [20 * min, 40 * min], next: 0, start: 0, move: 0, prime: 0 };
    const refused = { kind: "refused", set: 1, takes: 40 * min, has: 0.5 * hour };
    expect(dayPlan({ ...asked, engine: small })).toEqual({
      ...refused,
      why: "tank-shorter-than-set",
    });
    const calm = { from: 0, to: 0.5 * hour };
    expect(dayPlan({ ...asked, calm })).toEqual({ ...refused, why: "calm-shorter-than-set" });
    expect(dayPlan({ ...asked, next: 2 })).toEqual({ kind: "refused", why: "no-sets-left" });
    const long = {
      ...asked,
      runs: new Array(300).fill(20 * hour),
      calm: { from: 0, to: 21 * hour },
    };
    expect(dayPlan(long)).toMatchObject({ why: "too-long" });
  });

  it("never overlaps, never runs dry, never runs in the wind: whatever is asked", () => {
    const some = (max: number) => fc.integer({ min: 0, max });
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 60, max: 5400 }), { minLength: 1, maxLength: 40 }),
        fc.record({ start: some(86_399), move: some(1800), prime: some(600) }),
        fc.option(fc.record({ from: some(86_399), to: some(86_399) }), { nil: undefined }),
        fc.option(
          fc.record({
            left: some(7200),
            cooling: some(1800),
            filling: fc.integer({ min: 1, max: 900 }),
          }),
          {
            nil: undefined,
          },
        ),
        (runs, times, calm, fuelled) => {
          const own = fuelled && { tankLasts: 7200, ...fuelled };
          const asked = {
            runs,
            next: 0,
            ...times,
            ...(calm && { calm }),
            ...(own && { engine: own }),
          };
          const plan = dayPlan(asked);
          if (plan.kind === "refused") return;
          let [now, fuel] = [times.start, own?.left ?? Infinity];
          let waited = 0;
          for (const step of plan.steps) {
            expect(step.from).toBe(now);
            now = step.to;
            if (step.kind === "fuel") fuel = 7200;
            if (step.kind === "wait") {
              waited += step.to - step.from;
              if (own && step.to - step.from >= own.cooling + own.filling) fuel = 7200;
            }
            if (step.kind !== "run") continue;
            fuel -= step.to - step.from;
            expect(fuel).toBeGreaterThanOrEqual(0);
            if (!calm || calm.from === calm.to) continue;
            const length = (calm.to - calm.from + 86_400) % 86_400;
            const since = (((step.from - calm.from) % 86_400) + 86_400) % 86_400;
            expect(since + step.to - step.from).toBeLessThanOrEqual(length);
          }
          if (!calm) expect(waited).toBe(0);
          const done = plan.steps.flatMap((step) => (step.kind === "run" ? [step.set] : []));
          expect(done).toEqual(runs.map((_, i) => i));
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe("a season", () => {
  const asked = {
    ...{ flow: 4e-3, area: 10_000, weekly: 0.025, loss: 0.2, effective: 1 },
    rain: [0, 0.01, 0.03],
  };
  it("waters what rain leaves wanting, and never less than nothing", () => {
    const { weeks, total } = season(asked);
    expect(weeks.map(({ net }) => net)).toEqual([0.025, expect.closeTo(0.015, 12), 0]);
    expect(weeks[0]?.volume).toBeCloseTo((0.025 / 0.8) * 10_000, 9);
    expect(total.hours).toBeCloseTo(((0.04 / 0.8) * 10_000) / 4e-3, 6);
    expect(total.cost).toBeUndefined();
  });

  it("costs fuel and hands: half a round takes every move of it", () => {
    const round = { depth: 0.02, sets: 12, move: 600 };
    const { weeks, total, costPerArea } = season({
      ...asked,
      ...{ round, perSecond: 1e-6, energyPrice: 2000, wage: 30 },
    });
    // 31 mm is two rounds of 20, 19 mm one.
    expect(weeks.map(({ work }) => work)).toEqual([14_400, 7200, 0]);
    const money = (total.energy ?? 0) * 2000 + (21_600 / 3600) * 30;
    expect(total.cost).toBeCloseTo(money, 6);
    expect(costPerArea).toBeCloseTo(money / 10_000, 9);
  });
});
