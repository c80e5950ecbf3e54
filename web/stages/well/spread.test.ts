import { array, assert, double, property } from "fast-check";
import { expect, it } from "vitest";
import { spread } from "./spread.ts";

const room = { high: 62, from: 0, to: 600 };

it("entries beside the drawing keep their order, cover nothing, and stay in the drawing while there is room", () => {
  assert(
    property(array(double({ min: 0, max: 600, noNaN: true }), { maxLength: 9 }), (heights) => {
      const placed = spread(
        heights.map((at) => ({ at })),
        room,
      );
      for (const [i, { at, centre }] of placed.entries()) {
        expect(centre).toBeGreaterThanOrEqual(room.high / 2 - 1e-9);
        expect(centre).toBeLessThanOrEqual(600 - room.high / 2 + 1e-9);
        const before = placed[i - 1];
        if (!before) continue;
        expect(at).toBeGreaterThanOrEqual(before.at);
        expect(centre - before.centre).toBeGreaterThanOrEqual(room.high - 1e-9);
      }
    }),
  );
});

it("one alone stands just where it belongs", () => {
  expect(spread([{ at: 300 }], room)).toEqual([{ at: 300, centre: 300 }]);
});
