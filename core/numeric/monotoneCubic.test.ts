import fc from "fast-check";
import { expect, it } from "vitest";
import { evaluate, monotoneCubic, scaled, slopeAt } from "./monotoneCubic.ts";

const curves = fc
  .array(fc.tuple(fc.double({ min: 0.01, max: 5 }), fc.double({ min: -50, max: 50 })), {
    minLength: 2,
    maxLength: 12,
  })
  .filter((points) => points.every((point) => point.every(Number.isFinite)))
  .map((points) => {
    let along = 0;
    const x = points.map(([step]) => (along += step));
    return { x, y: points.map(([, y]) => y) };
  });
const factor = fc.double({ min: 0.05, max: 20, noNaN: true });

it("scaled is the curve through the scaled points", () => {
  fc.assert(
    fc.property(
      curves,
      factor,
      factor,
      fc.double({ min: 0, max: 1 }),
      ({ x, y }, byX, byY, part) => {
        const one = scaled(monotoneCubic(x, y), byX, byY);
        const other = monotoneCubic(
          x.map((value) => value * byX),
          y.map((value) => value * byY),
        );
        const [first, last] = [other.x[0] as number, other.x.at(-1) as number];
        const at = Math.min(
          Math.max(first + (last - first) * (part || 0), one.x[0] as number),
          one.x.at(-1) as number,
        );
        const size = 1 + Math.max(...other.y.map(Math.abs));
        expect(
          Math.abs(evaluate(one, at) - evaluate(other, Math.min(Math.max(at, first), last))),
        ).toBeLessThan(1e-9 * size);
        const steepest = 1 + Math.max(...other.slope.map(Math.abs));
        for (const [i, slope] of one.slope.entries()) {
          expect(Math.abs(slope - (other.slope[i] as number))).toBeLessThan(1e-9 * steepest);
        }
      },
    ),
  );
});

it("never overshoots its points, and passes through each", () => {
  fc.assert(
    fc.property(curves, ({ x, y }) => {
      const curve = monotoneCubic(x, y);
      for (let i = 0; i + 1 < x.length; i++) {
        const [x0, x1] = [x[i] as number, x[i + 1] as number];
        const [low, high] = [y[i] as number, y[i + 1] as number].sort((a, b) => a - b) as [
          number,
          number,
        ];
        const room = 1e-9 * (1 + Math.abs(low) + Math.abs(high));
        expect(evaluate(curve, x0)).toBeCloseTo(y[i] as number, 8);
        for (const part of [0.1, 0.37, 0.5, 0.8, 0.99]) {
          const value = evaluate(curve, x0 + part * (x1 - x0));
          expect(value).toBeGreaterThanOrEqual(low - room);
          expect(value).toBeLessThanOrEqual(high + room);
        }
        const rise = (y[i + 1] as number) - (y[i] as number);
        expect(slopeAt(curve, (x0 + x1) / 2) * Math.sign(rise)).toBeGreaterThanOrEqual(-room);
      }
    }),
  );
});
