import { describe, expect, it } from "vitest";
import { GALLON, INCH } from "../quantity/constants.ts";
import { fullFlow, headToPass } from "./manning.ts";

const gpm = (si: number) => (si / GALLON) * 60;

// By hand from Manning's formula, A = π d²/4 and R = d/4; the n of each wall is common practice, no source.
describe("a pipe that runs by its own weight", () => {
  it("4.00 in at 1 %: 101 gpm with n 0.011, 85 gpm with n 0.013", () => {
    expect(gpm(fullFlow({ bore: 4 * INCH, slope: 0.01, n: 0.011 }))).toBeCloseTo(101, 0);
    expect(gpm(fullFlow({ bore: 4 * INCH, slope: 0.01, n: 0.013 }))).toBeCloseTo(85, 0);
  });
  it("passes as it fills just what its fall gives, four times the head for twice the flow", () => {
    const pipe = { bore: 0.1, slope: 0.01, n: 0.011 };
    expect(headToPass(pipe, 12, fullFlow(pipe))).toBeCloseTo(0.12, 12);
    expect(headToPass(pipe, 12, 2 * fullFlow(pipe))).toBeCloseTo(0.48, 12);
    expect(fullFlow({ ...pipe, slope: 0 })).toBe(0);
  });
  // The bore of 1-1/2 in schedule 40, 1.61 in: ASME B36.10M and ASTM D1785, from memory.
  it("a 4.00 in bore has 6.2 times the area of 1-1/2 in sch 40", () => {
    expect((4 / 1.61) ** 2).toBeCloseTo(6.2, 1);
  });
});
