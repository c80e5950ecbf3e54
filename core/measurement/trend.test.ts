import { linearRegression } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { trendOf } from "./trend.ts";

const years = (values: number[], u = 0.005) =>
  values.map((value, i) => ({ at: 365 * i, value, standardUncertainty: u }));
const LIMIT = 0.95;

describe("a trend over the years", () => {
  it("is the line a statistics package draws", () => {
    const found = years([1.01, 0.995, 0.99, 0.97]);
    const { m, b } = linearRegression(found.map(({ at, value }) => [at, value]));
    const trend = trendOf(found, LIMIT);
    expect(trend?.slope.value).toBeCloseTo(m, 12);
    expect(trend?.on(500).value).toBeCloseTo(m * 500 + b, 9);
  });

  it("says the day it falls to the limit, and between which", () => {
    const { crossing } = trendOf(years([1, 0.99, 0.98, 0.97]), LIMIT) ?? {};
    if (crossing?.kind !== "crosses") throw new Error(crossing?.kind);
    expect(crossing.on).toBeCloseTo(5 * 365, 3);
    expect(crossing.earliest).toBeGreaterThan(3 * 365);
    expect(crossing.earliest).toBeLessThan(crossing.on);
    expect(crossing.latest).toBeGreaterThan(crossing.on);
  });

  it.each([
    ["hardly falls", [1, 0.999, 1.001, 0.998], "not-falling"],
    ["rises", [0.96, 0.97, 0.98], "not-falling"],
    ["is there already", [0.97, 0.955, 0.94], "below"],
    ["would take far longer than it was watched", [1.2, 1.19, 1.18, 1.17], "too-far"],
  ])("says nothing of a day when it %s", (_name, values, kind) => {
    expect(trendOf(years(values as number[]), LIMIT)?.crossing.kind).toBe(kind);
  });

  it("has none from two visits, nor from one day", () => {
    expect(trendOf(years([1, 0.99]), LIMIT)).toBeUndefined();
    const day = [1, 0.99, 0.98].map((value) => ({ at: 7, value, standardUncertainty: 0.01 }));
    expect(trendOf(day, LIMIT)).toBeUndefined();
    const within = (hours: number) =>
      day.map((own, i) => ({ ...own, at: 20_000 + (i * hours) / 48 }));
    expect(trendOf(within(23), LIMIT)).toBeUndefined();
    expect(trendOf(within(25), LIMIT)).toBeDefined();
  });
});
