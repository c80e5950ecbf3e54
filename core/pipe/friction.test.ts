import fc from "fast-check";
import newtonRaphson from "newton-raphson-method";
import { describe, expect, it } from "vitest";
import { waterAt } from "../fluid/water.ts";
import { darcyWeisbachLoss } from "./darcyWeisbach.ts";
import { colebrookWhite, frictionFactor } from "./frictionFactor.ts";
import { hazenWilliamsConcerns, hazenWilliamsLoss } from "./hazenWilliams.ts";

const FOOT = 0.3048;
const GPM = 6.30901964e-5;

describe("friction factor", () => {
  // Roots of the Colebrook–White equation worked out independently to six figures.
  it.each([
    [1e5, 1e-3, 0.0221745],
    [1e6, 1e-4, 0.0134414],
    [5e4, 0, 0.0208914],
  ])("Re %f, ε/D %f gives %f", (reynolds, relative, expected) => {
    expect(frictionFactor(reynolds, relative)).toBeCloseTo(expected, 6);
  });

  // The same equation handed to a general-purpose Newton solver of the registry.
  it.each([
    [4e3, 0],
    [4e3, 0.05],
    [1e4, 1e-6],
    [3e4, 2e-3],
    [1e5, 1e-5],
    [3e5, 0.01],
    [1e6, 5e-4],
    [1e7, 0],
    [1e7, 0.03],
    [1e8, 1e-6],
  ])("agrees with a general root finder at Re %f, ε/D %f", (reynolds, relative) => {
    const root = newtonRaphson(
      (x: number) => x + 2 * Math.log10(relative / 3.7 + (2.51 * x) / reynolds),
      6,
      { tolerance: 1e-12, maxIterations: 200 },
    );
    expect(root).not.toBe(false);
    expect(colebrookWhite(reynolds, relative) * (root as number) ** 2).toBeCloseTo(1, 8);
  });

  // L. F. Moody, Trans. ASME 66 (1944): read off the chart, good to two figures.
  it.each([
    [1e4, 0.05, 0.074],
    [1e5, 0.01, 0.0385],
    [1e7, 1e-3, 0.0197],
  ])("lies on the Moody chart at Re %f, ε/D %f", (reynolds, relative, expected) => {
    expect(Math.abs(frictionFactor(reynolds, relative) / expected - 1)).toBeLessThan(0.03);
  });

  it("is 64/Re in laminar flow and never lets the loss fall as flow rises", () => {
    expect(frictionFactor(1000, 0.01)).toBeCloseTo(0.064, 12);
    fc.assert(
      fc.property(
        fc.double({ min: 100, max: 1e6, noNaN: true }),
        fc.double({ min: 1.0001, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 0.05, noNaN: true }),
        (reynolds, factor, relative) => {
          const loss = (re: number) => frictionFactor(re, relative) * re * re;
          expect(loss(reynolds * factor)).toBeGreaterThan(loss(reynolds));
        },
      ),
    );
  });

  it("joins laminar to turbulent without a jump", () => {
    for (const [edge, relative] of [
      [2000, 0.01],
      [4000, 0.01],
      [4000, 0],
    ] as const) {
      const below = frictionFactor(edge * (1 - 1e-9), relative);
      expect(below / frictionFactor(edge * (1 + 1e-9), relative)).toBeCloseTo(1, 6);
    }
  });
});

describe("Hazen–Williams", () => {
  // The US form of the formula as published for pipe tables: ft per 100 ft with q in gpm, d in inches.
  // The two published forms round their constants apart by up to 2 % over these sizes.
  const publishedForm = (gpm: number, inches: number, c: number) =>
    (0.2083 * (100 / c) ** 1.852 * gpm ** 1.852) / inches ** 4.8655;

  it.each([
    [8, 0.824],
    [15, 1.049],
    [25, 1.38],
    [35, 1.61],
    [50, 2.067],
    [110, 3.068],
    [200, 4.026],
    [500, 6.065],
  ])("%i gpm through %f in agrees with the US form", (gpm, inches) => {
    const run = { length: 100, bore: inches * 0.0254, roughness: 0, hazenWilliamsC: 150 };
    const loss = hazenWilliamsLoss(run, gpm * GPM);
    expect(Math.abs(loss / publishedForm(gpm, inches, 150) - 1)).toBeLessThan(0.02);
    if (gpm === 50) expect(Math.abs(loss / 4.03 - 1)).toBeLessThan(0.02);
  });

  it("agrees with Darcy–Weisbach within a tenth where both hold", () => {
    const run = { length: 100, bore: 0.0779, roughness: 1.5e-6, hazenWilliamsC: 150 };
    const ratio = hazenWilliamsLoss(run, 0.007) / darcyWeisbachLoss(run, 0.007, waterAt(288.71));
    expect(Math.abs(ratio - 1)).toBeLessThan(0.1);
  });

  it("names what lies outside its range", () => {
    expect(hazenWilliamsConcerns(0.04, 3.5, 310)).toEqual(["temperature", "velocity", "bore"]);
    expect(hazenWilliamsConcerns(0.08, 1, 288)).toEqual([]);
  });
});

it("50 gpm in 2 in schedule 40 loses about 3.9 ft per 100 ft by Darcy–Weisbach", () => {
  // Common practice, no source: the figure fitters carry for plastic pipe is "about four feet".
  const run = { length: 100 * FOOT, bore: 0.0525, roughness: 1.5e-6, hazenWilliamsC: 150 };
  const feet = darcyWeisbachLoss(run, 50 * GPM, waterAt(288.71)) / FOOT;
  expect(feet).toBeGreaterThan(3.5);
  expect(feet).toBeLessThan(4.3);
});
