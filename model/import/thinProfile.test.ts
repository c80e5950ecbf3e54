import fc from "fast-check";
import { expect, it } from "vitest";
import type { Run } from "./readProfile.ts";
import { thinProfile } from "./thinProfile.ts";

const anyRuns = fc.array(
  fc
    .record({
      length: fc.double({ min: 0.5, max: 40, noNaN: true }),
      slope: fc.double({ min: -1, max: 1, noNaN: true }),
    })
    .map(({ length, slope }): Run => ({ length, rise: length * slope })),
  { minLength: 1, maxLength: 120 },
);
const sum = (runs: readonly Run[], key: keyof Run) => runs.reduce((all, run) => all + run[key], 0);
/** m above the start at a length along */
function heightAt(runs: readonly Run[], at: number): number {
  let [along, height] = [0, 0];
  for (const { length, rise } of runs) {
    if (at <= along + length) return height + (rise * (at - along)) / length;
    along += length;
    height += rise;
  }
  return height;
}

it("keeps length and rise in all, and every point within the tolerance", () => {
  fc.assert(
    fc.property(anyRuns, fc.double({ min: 0, max: 2, noNaN: true }), (runs, tolerance) => {
      const thin = thinProfile(runs, tolerance);
      expect(thin.length).toBeLessThanOrEqual(runs.length);
      expect(sum(thin, "length")).toBeCloseTo(sum(runs, "length"), 6);
      expect(sum(thin, "rise")).toBeCloseTo(sum(runs, "rise"), 6);
      let [along, height] = [0, 0];
      for (const { length, rise } of runs) {
        along += length;
        height += rise;
        expect(Math.abs(heightAt(thin, along) - height)).toBeLessThan(tolerance + 1e-6);
      }
    }),
  );
});

it("leaves one run of a straight slope, and keeps a hump that matters", () => {
  const straight = Array.from({ length: 2000 }, () => ({ length: 1, rise: 0.02 }));
  expect(thinProfile(straight, 0.01)).toHaveLength(1);
  const hump = [...straight.slice(0, 1000), { length: 1, rise: 0.5 }, { length: 1, rise: -0.5 }];
  expect(thinProfile(hump, 0.1)).toHaveLength(3);
  expect(thinProfile(hump, 0.6)).toHaveLength(1);
});
