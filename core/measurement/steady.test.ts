import { expect, it } from "vitest";
import { decimated } from "../numeric/decimate.ts";
import { uniform } from "../numeric/latinHypercube.ts";
import { steadiness } from "./steady.ts";

const random = uniform(11);
const signal = (of: (at: number) => number, seconds = 20) =>
  Array.from({ length: seconds + 1 }, (_, at) => ({ at, value: of(at) }));

it("tells a signal that stands from one that moves, jumps or has hardly begun", () => {
  const trembles = () => 1 + 0.02 * (random() - 0.5);
  expect(steadiness(signal(trembles)).kind).toBe("steady");
  expect(steadiness(signal((at) => 1 + 0.01 * at)).kind).toBe("drifting");
  // What was before the window is forgotten.
  expect(steadiness(signal((at) => (at < 9 ? 5 : trembles()))).kind).toBe("steady");
  expect(steadiness(signal(() => 1 + 0.6 * (random() - 0.5))).kind).toBe("noisy");
  expect(steadiness(signal(trembles, 4)).kind).toBe("too-short");
  expect(steadiness([]).kind).toBe("too-short");
  // A needle that trembles about nothing stands still on the scale it has.
  const nothing = signal(() => 0.001 * (random() - 0.5));
  expect(steadiness(nothing).kind).toBe("noisy");
  expect(steadiness(nothing, 1).kind).toBe("steady");
});

it("doubts the mean as a mean of as many samples is", () => {
  const found = steadiness(signal((at) => (at % 2 === 0 ? 1.01 : 0.99)));
  if (found.kind !== "steady") throw new Error(found.kind);
  expect(found.mean.value).toBeCloseTo(1, 2);
  expect(found.mean.standardUncertainty).toBeCloseTo(0.01 / Math.sqrt(10), 3);
});

it("is thinned without losing a peak, a gap or the way to the edge", () => {
  const times = Float64Array.from({ length: 10_000 }, (_, i) => i);
  const values = Float64Array.from(times, (t) =>
    t === 4321 ? 50 : t === 7000 ? Number.NaN : Math.sin(t / 300),
  );
  const thin = decimated(times, values, 2000, 9000, 200);
  expect(thin.times.length).toBeLessThan(700);
  expect(thin.values).toContain(50);
  expect(thin.values).toContain(null);
  expect(thin.times).toEqual(thin.times.toSorted((a, b) => a - b));
  expect(thin.times[0]).toBeLessThan(2000);
  expect(thin.times.at(-1)).toBeGreaterThanOrEqual(9000);
  // Few samples are drawn as they are.
  expect(decimated(times, values, 100, 110, 200).times).toHaveLength(12);
});
