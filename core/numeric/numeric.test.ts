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

describe("monotone cubic through unevenly spaced points", () => {
  /** Smooth falling curves such as pumps have, and four to seven flows of 0 … 1 anyhow between. */
  const curve = fc.record({
    droop: fc.double({ min: 0.2, max: 0.95, noNaN: true }),
    power: fc.double({ min: 1.4, max: 2.8, noNaN: true }),
    inner: fc.uniqueArray(fc.integer({ min: 8, max: 92 }), { minLength: 2, maxLength: 5 }),
  });
  const errorsOf = (draws: number) => {
    const worst: number[] = [];
    fc.assert(
      fc.property(curve, ({ droop, power, inner }) => {
        const head = (x: number) => 1 - droop * x ** power;
        const x = [0, ...inner.map((n) => n / 100).toSorted((a, b) => a - b), 1];
        const cubic = monotoneCubic(x, x.map(head));
        let most = 0;
        for (let i = 0; i <= 200; i++) {
          most = Math.max(most, Math.abs(evaluate(cubic, i / 200) - head(i / 200)));
        }
        worst.push(most);
      }),
      { numRuns: draws, seed: 13 },
    );
    return worst.toSorted((a, b) => a - b);
  };

  it("gives back the smooth curve they lie on: a third of a percent in the middle, a few at worst", () => {
    const errors = errorsOf(1000);
    expect(errors[500]).toBeLessThan(0.0035);
    expect(errors.at(-1)).toBeLessThan(0.05);
  });

  it("stays beside an independent monotone cubic, harmonic means of the secants", () => {
    // F. N. Fritsch, J. Butland, SIAM J. Sci. Stat. Comput. 5 (1984) 300–304, in its weighted form.
    const harmonic = (x: readonly number[], y: readonly number[]) => {
      const h = x.slice(1).map((b, i) => b - (x[i] as number));
      const d = h.map((step, i) => ((y[i + 1] as number) - (y[i] as number)) / step);
      const inside = (i: number) => {
        const [a, b, l, r] = [d[i - 1], d[i], h[i - 1], h[i]] as [number, number, number, number];
        return a * b <= 0 ? 0 : (3 * (l + r)) / ((2 * r + l) / a + (r + 2 * l) / b);
      };
      const slope = x.map((_, i) =>
        i === 0 ? (d[0] as number) : i === h.length ? (d.at(-1) as number) : inside(i),
      );
      return { x, y, slope };
    };
    fc.assert(
      fc.property(curve, ({ droop, power, inner }) => {
        const x = [0, ...inner.map((n) => n / 100).toSorted((a, b) => a - b), 1];
        const y = x.map((q) => 1 - droop * q ** power);
        const [ours, other] = [monotoneCubic(x, y), harmonic(x, y)];
        // Away from the ends, where the other is told nothing.
        const [from, to] = [x[1] as number, x.at(-2) as number];
        for (let i = 0; i <= 50; i++) {
          const q = from + ((to - from) * i) / 50;
          expect(Math.abs(evaluate(ours, q) - evaluate(other, q))).toBeLessThan(0.04);
        }
      }),
      { seed: 14 },
    );
  });
});
