import { assert, constantFrom, double, property, uniqueArray } from "fast-check";
import { linearRegression } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { drawdownAt, drawdownUncertainty, fitDrawdown, flowDrawing } from "./drawdown.ts";

const fitted = (steps: Parameters<typeof fitDrawdown>[0]) => {
  const fit = fitDrawdown(steps);
  if (fit.kind !== "fitted") throw new Error(fit.kind);
  return fit;
};

describe("the drawdown of a well from its test", () => {
  it("agrees with a regression package on s/Q against Q", () => {
    const steps = [
      { flow: 0.4e-3, drawdown: 1.9 },
      { flow: 0.8e-3, drawdown: 4.3 },
      { flow: 1.3e-3, drawdown: 8.2 },
      { flow: 1.7e-3, drawdown: 11.4 },
    ];
    const { m, b } = linearRegression(steps.map(({ flow, drawdown }) => [flow, drawdown / flow]));
    const { drawdown, scatter } = fitted(steps);
    expect(drawdown.linear).toBeCloseTo(b, 6);
    expect(drawdown.quadratic / m).toBeCloseTo(1, 9);
    expect(scatter).toBeGreaterThan(0);
  });

  it("goes through two steps exactly, and from one takes no bend", () => {
    const two = fitted([
      { flow: 1e-3, drawdown: 3 },
      { flow: 2e-3, drawdown: 8 },
    ]);
    expect(two.drawdown.linear).toBeCloseTo(2000, 6);
    expect(two.drawdown.quadratic).toBeCloseTo(1e6, 3);
    expect(two.scatter).toBeUndefined();
    const one = fitted([{ flow: 1e-3, drawdown: 3 }]);
    expect(one.drawdown).toEqual({ linear: 3000, quadratic: 0 });
    expect(one.testedTo).toBe(1e-3);
    // The same flow read twice is one step, whatever was read.
    expect(
      fitted([
        { flow: 1e-3, drawdown: 3 },
        { flow: 1e-3, drawdown: 5 },
      ]).drawdown,
    ).toEqual({
      linear: 4000,
      quadratic: 0,
    });
  });

  it("never bends the wrong way, nor pushes water up", () => {
    const bent = fitted([
      { flow: 1e-3, drawdown: 4 },
      { flow: 2e-3, drawdown: 6 },
    ]);
    expect(bent.held).toBe("quadratic");
    expect(bent.drawdown.quadratic).toBe(0);
    const pushed = fitted([
      { flow: 1e-3, drawdown: 1 },
      { flow: 2e-3, drawdown: 9 },
    ]);
    expect(pushed.held).toBe("linear");
    expect(pushed.drawdown.linear).toBe(0);
    expect(fitDrawdown([{ flow: 1e-3, drawdown: 0 }])).toEqual({ kind: "no-drawdown", at: 0 });
    expect(fitDrawdown([])).toEqual({ kind: "none" });
  });

  it("gives back the well that made the readings, and its flow is the root of its drawdown", () => {
    assert(
      property(
        double({ min: 200, max: 2e4, noNaN: true }),
        double({ min: 1e4, max: 4e6, noNaN: true }),
        uniqueArray(constantFrom(0.3, 0.6, 0.9, 1.2, 1.5), { minLength: 2, maxLength: 5 }),
        (linear, quadratic, flows) => {
          const { drawdown, ...fit } = fitted(
            flows.map((litres) => {
              const flow = litres / 1000;
              return { flow, drawdown: linear * flow + quadratic * flow ** 2 };
            }),
          );
          expect(drawdown.linear / linear).toBeCloseTo(1, 6);
          const s = drawdownAt(drawdown, 0.7e-3);
          expect(flowDrawing(drawdown, s) / 0.7e-3).toBeCloseTo(1, 9);
          // Doubt grows past what was tested.
          const most = Math.max(...flows) / 1000;
          const own = { drawdown, ...fit };
          expect(drawdownUncertainty(own, 2 * most)).toBeGreaterThan(
            drawdownUncertainty(own, most),
          );
        },
      ),
    );
  });
});
