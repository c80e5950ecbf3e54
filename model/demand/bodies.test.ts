import { expect, it } from "vitest";
import { GALLON } from "#core/quantity/constants.ts";
import { storeOf } from "./bodies.ts";

it("gravel fills what a tapered can leaves of its hole, at every depth", () => {
  const can = { bottom: 0.42, top: 0.52, depth: 0.7 };
  const surround = { across: 0.9, porosity: 0.38 };
  const body = { id: "can", shape: { kind: "cone", ...can }, surround } as const;
  const store = storeOf(body as never, -1);
  // By hand: a frustum π h (r² + r R + R²) / 3, and 38 % of what is left of the hole round it.
  const frustum = (h: number) => {
    const [r, R] = [can.bottom / 2, (can.bottom + ((can.top - can.bottom) * h) / can.depth) / 2];
    return (Math.PI * h * (r * r + r * R + R * R)) / 3;
  };
  for (const h of [0.1, 0.35, 0.7]) {
    const hole = (Math.PI / 4) * surround.across ** 2 * h;
    const expected = frustum(h) + surround.porosity * (hole - frustum(h));
    expect(store.volumeAt(-1 + h) / GALLON).toBeCloseTo(expected / GALLON, 6);
  }
  // No gravel where the can is as wide as its hole.
  const tight = { ...body, shape: { ...body.shape, bottom: 0.9, top: 0.9 } };
  expect(storeOf(tight as never, -1).volumeAt(-0.5)).toBeCloseTo((Math.PI / 4) * 0.81 * 0.5, 9);
});
