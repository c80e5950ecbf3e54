import fc from "fast-check";
import { bisect } from "fmin/src/bisect.js";
import { describe, expect, it } from "vitest";
import { bracketedRoot } from "./bracketedRoot.ts";
import { evaluate, monotoneCubic } from "./monotoneCubic.ts";

describe("bracketed root", () => {
  it.each([
    ["cos x − x", (x: number) => Math.cos(x) - x, 0, 1],
    ["a flat cubic", (x: number) => (x - 0.7) ** 3, 0, 2],
    ["a steep exponential", (x: number) => Math.exp(20 * x) - 5, 0, 1],
    ["a kink", (x: number) => (x < 0.3 ? 1e-9 : -5), 0, 1],
  ])("finds the root of %s that a general bisection finds", (_name, f, low, high) => {
    const expected = bisect(f, low, high, { tolerance: 1e-12, maxIterations: 200 });
    const found = bracketedRoot(f, low, high, f(low), f(high), 1e-12);
    expect(Math.abs(found - expected)).toBeLessThan(1e-5);
  });
});

describe("monotone cubic", () => {
  it("passes through its points and never overshoots them", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: 0.01, max: 5, noNaN: true }),
            fc.double({ min: -50, max: 50, noNaN: true }),
          ),
          { minLength: 2, maxLength: 9 },
        ),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (steps, t) => {
          let x = 0;
          const xs = steps.map(([dx]) => (x += dx));
          const ys = steps.map(([, y]) => y);
          const curve = monotoneCubic(xs, ys);
          for (const [i, at] of xs.entries()) {
            expect(evaluate(curve, at)).toBeCloseTo(ys[i] as number, 6);
          }
          for (let i = 0; i + 1 < xs.length; i++) {
            const [x0, x1, y0, y1] = [xs[i], xs[i + 1], ys[i], ys[i + 1]] as [
              number,
              number,
              number,
              number,
            ];
            const y = evaluate(curve, x0 + t * (x1 - x0));
            expect(y).toBeGreaterThanOrEqual(Math.min(y0, y1) - 1e-9);
            expect(y).toBeLessThanOrEqual(Math.max(y0, y1) + 1e-9);
          }
        },
      ),
    );
  });

  // Data set RPN 14 of Fritsch & Carlson (1980), table 1: flat, then a sudden rise, then flat.
  it("keeps the flat parts of the published test data flat", () => {
    const x = [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20];
    const y = [
      0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994,
    ];
    const curve = monotoneCubic(x, y);
    for (let t = 12; t <= 20; t += 0.25) {
      expect(evaluate(curve, t)).toBeGreaterThanOrEqual(0.998636 - 1e-12);
      expect(evaluate(curve, t)).toBeLessThanOrEqual(0.999994 + 1e-12);
    }
  });
});
