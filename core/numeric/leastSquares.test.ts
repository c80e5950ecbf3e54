import { levenbergMarquardt } from "ml-levenberg-marquardt";
import { linearRegression } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { uniform } from "./latinHypercube.ts";
import { type Adjustment, adjust } from "./leastSquares.ts";

function adjusted(given: Adjustment) {
  const found = adjust(given);
  if (found.kind !== "adjusted") throw new Error(found.kind);
  return found;
}

/** y = a + b x with y alone in doubt. */
const straight = (x: readonly number[], y: readonly number[], u: number): Adjustment => ({
  start: [0, 0],
  readings: y.map((value) => ({ value, standardUncertainty: u })),
  conditions: x.map((own, i) => ({
    on: [i],
    of: ([a = 0, b = 0], values) => (values[i] as number) - a - b * own,
  })),
});

describe("adjustment", () => {
  it("gives the worked example H.3 of the GUM: the straight line of a thermometer's corrections", () => {
    // JCGM 100:2008 H.3, table H.6, from memory: t in °C over 20 °C, correction in °C.
    const t = [1.521, 2.012, 2.512, 3.003, 3.507, 3.999, 4.513, 5.002, 5.503, 6.01, 6.511];
    const b = [
      -0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.16,
    ];
    const plain = adjusted(straight(t, b, 1));
    const s = Math.sqrt(plain.misfit / plain.freedom);
    const { parameters, covariance } = adjusted(straight(t, b, s));
    const [[uu = 0, uv = 0] = [], [, vv = 0] = []] = covariance;
    expect(s).toBeCloseTo(0.0035, 4);
    expect(parameters[0]).toBeCloseTo(-0.1712, 4);
    expect(parameters[1]).toBeCloseTo(0.00218, 5);
    expect(Math.sqrt(uu)).toBeCloseTo(0.0029, 4);
    expect(Math.sqrt(vv)).toBeCloseTo(0.00067, 5);
    expect(uv / Math.sqrt(uu * vv)).toBeCloseTo(-0.93, 2);
  });

  it("draws the line a statistics package draws", () => {
    const random = uniform(4);
    const x = Array.from({ length: 30 }, () => 10 * random());
    const y = x.map((own) => 3 - 0.7 * own + random());
    const { m, b } = linearRegression(x.map((own, i) => [own, y[i] as number]));
    const { parameters } = adjusted(straight(x, y, 0.3));
    expect(parameters[0]).toBeCloseTo(b, 9);
    expect(parameters[1]).toBeCloseTo(m, 9);
  });

  it("bends two parameters as a general least-squares package does", () => {
    const random = uniform(9);
    const x = Array.from({ length: 25 }, (_, i) => i / 24);
    const y = x.map((own) => 2 * Math.exp(-1.3 * own) + 0.05 * (random() - 0.5));
    const general = levenbergMarquardt(
      { x, y },
      ([a = 0, b = 0]: number[]) =>
        (own: number) =>
          a * Math.exp(-b * own),
      {
        initialValues: [1, 1],
        maxIterations: 500,
        damping: 1e-3,
        centralDifference: true,
        gradientDifference: 1e-5,
        errorTolerance: 1e-12,
      },
    );
    const { parameters, misfit } = adjusted({
      start: [1, 1],
      readings: y.map((value) => ({ value, standardUncertainty: 1 })),
      conditions: x.map((own, i) => ({
        of: ([a = 0, b = 0], values) => (values[i] as number) - a * Math.exp(-b * own),
      })),
    });
    for (const [i, own] of general.parameterValues.entries()) {
      expect(parameters[i]).toBeCloseTo(own, 6);
    }
    expect(misfit).toBeCloseTo(general.parameterError, 9);
  });

  it("moves what was read on both axes: the line of W. E. Deming in closed form", () => {
    const random = uniform(3);
    const truth = Array.from({ length: 20 }, (_, i) => i / 4);
    const x = truth.map((own) => own + 0.4 * (random() - 0.5));
    const y = truth.map((own) => 1 + 2 * own + 0.8 * (random() - 0.5));
    const mean = (all: number[]) => all.reduce((sum, own) => sum + own, 0) / all.length;
    const [mx, my] = [mean(x), mean(y)];
    const sxx = mean(x.map((own) => (own - mx) ** 2));
    const syy = mean(y.map((own) => (own - my) ** 2));
    const sxy = mean(x.map((own, i) => (own - mx) * ((y[i] as number) - my)));
    const [ux, uy] = [0.1, 0.2];
    const ratio = (uy / ux) ** 2;
    const slope =
      (syy - ratio * sxx + Math.sqrt((syy - ratio * sxx) ** 2 + 4 * ratio * sxy ** 2)) / (2 * sxy);
    const { parameters } = adjusted({
      start: [0, 1],
      readings: [
        ...x.map((value) => ({ value, standardUncertainty: ux })),
        ...y.map((value) => ({ value, standardUncertainty: uy })),
      ],
      conditions: x.map((_, i) => ({
        of: ([a = 0, b = 0], all) => (all[x.length + i] as number) - a - b * (all[i] as number),
      })),
    });
    expect(parameters[1]).toBeCloseTo(slope, 6);
    expect(parameters[0]).toBeCloseTo(my - slope * mx, 6);
  });

  it("says so when two parameters do the same", () => {
    const y = [1, 2, 3].map((value) => ({ value, standardUncertainty: 1 }));
    const twice: Adjustment = {
      start: [1, 1],
      readings: y,
      conditions: y.map((_, i) => ({ of: ([a = 0, b = 0], all) => (all[i] as number) - a - b })),
    };
    expect(adjust(twice).kind).toBe("not-parted");
  });

  it("finds how far a condition lies off the others as leaving it out does", () => {
    const x = [0, 1, 2, 3, 4, 5];
    const y = [0, 1, 2, 3.9, 4, 5];
    const { apart } = adjusted(straight(x, y, 0.1));
    const rest = [0, 1, 2, 4, 5];
    const { parameters, covariance } = adjusted(straight(rest, rest, 0.1));
    const [[uu = 0, uv = 0] = [], [, vv = 0] = []] = covariance;
    const there = (parameters[0] as number) + 3 * (parameters[1] as number);
    const doubt = Math.sqrt(0.01 + uu + 6 * uv + 9 * vv);
    expect(apart[3]).toBeCloseTo((3.9 - there) / doubt, 8);
    expect(Math.max(...apart.map(Math.abs))).toBeCloseTo(apart[3] as number, 9);
  });
});
