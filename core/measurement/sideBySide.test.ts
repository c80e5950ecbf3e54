import { expect, it } from "vitest";
import { uniform } from "../numeric/latinHypercube.ts";
import type { Reading } from "./reading.ts";
import { sideBySide } from "./sideBySide.ts";

const bucket = (seconds: number, volume = 0.02): Reading["flow"] => ({
  method: "bucket",
  volume,
  volumeTolerance: 0.05,
  times: [seconds],
  timingTolerance: 0.2,
});
const of = (first: Reading[], second: Reading[], what = "flow") =>
  sideBySide(first, second).find((own) => own.of === what);

it("cancels the mark of the bucket that both were measured with, and not that of another", () => {
  const same = of([{ flow: bucket(20) }], [{ flow: bucket(10) }]);
  expect(same?.ratio.value).toBeCloseTo(2, 9);
  const another = of([{ flow: bucket(20) }], [{ flow: bucket(10, 0.03) }]);
  // Two marks of 5 % in the dark are 4 % of a ratio, and more than the watch does here.
  expect(another?.ratio.standardUncertainty).toBeGreaterThan(
    3 *
      ((another?.ratio.value ?? 0) / (same?.ratio.value ?? 1)) *
      (same?.ratio.standardUncertainty ?? 0),
  );
});

it("agrees with a Monte Carlo of the same gauge read twice", () => {
  const gauge = (pressure: number): Reading => ({
    flow: { method: "meter", flow: 0.003, tolerance: 0 },
    discharge: { pressure, fullScale: 4e5, accuracyClass: 0.02, elevation: 0, afterItemId: "p" },
  });
  const found = of([gauge(1.2e5)], [gauge(2e5)], "pressure");
  const random = uniform(5);
  const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const u = (4e5 * 0.02) / Math.sqrt(3) / Math.SQRT2;
  const draws = Array.from({ length: 40_000 }, () => {
    const alike = u * normal();
    return (2e5 + alike + u * normal()) / (1.2e5 + alike + u * normal());
  });
  const mean = draws.reduce((sum, own) => sum + own, 0) / draws.length;
  const spread = Math.sqrt(draws.reduce((sum, own) => sum + (own - mean) ** 2, 0) / draws.length);
  expect((found?.ratio.standardUncertainty ?? 0) / spread).toBeCloseTo(1, 1);
});

it("says whether they differ, by what both were read for, with the valve open", () => {
  expect(of([{ flow: bucket(20) }], [{ flow: bucket(19.9) }])?.differs).toBe(false);
  expect(of([{ flow: bucket(20) }], [{ flow: bucket(15) }])?.differs).toBe(true);
  const shut: Reading = { flow: { method: "shut" } };
  expect(sideBySide([{ flow: bucket(20) }], [shut])).toEqual([]);
  const guns = sideBySide(
    [{ flow: bucket(20), throwDistance: 18 }],
    [{ flow: bucket(15), throwDistance: 12 }],
  );
  expect(guns.map((own) => own.of)).toEqual(["flow", "throw"]);
  expect(guns[1]?.ratio.value).toBeCloseTo(12 / 18, 12);
});
