import { describe, expect, it } from "vitest";
import { type KeepOff, overlapping } from "./ground.ts";

const box = (x: number, y: number, size: number): KeepOff => ({
  points: [
    [x, y],
    [x + size, y],
    [x + size, y + size],
    [x, y + size],
  ],
  closed: true,
});

describe("what is kept off", () => {
  it("overlaps where its edges cross or one lies within the other, and not where both stand apart", () => {
    const [here, across, inside, apart] = [
      box(0, 0, 10),
      box(8, 8, 10),
      box(2, 2, 3),
      box(40, 0, 5),
    ];
    const pairs = (...all: KeepOff[]) => overlapping(all);
    expect(pairs(here, apart)).toEqual([]);
    expect(pairs(here, across)).toEqual([[0, 1]]);
    expect(pairs(here, inside)).toEqual([[0, 1]]);
    expect(pairs(inside, here)).toEqual([[0, 1]]);
    expect(pairs(apart, here, inside)).toEqual([[1, 2]]);
    // An edge has no inside, however it runs.
    const edge: KeepOff = {
      points: [
        [3, 3],
        [6, 6],
      ],
      closed: false,
    };
    expect(pairs(here, edge)).toEqual([]);
    expect(
      pairs(
        {
          ...edge,
          points: [
            [3, 3],
            [20, 3],
          ],
        },
        here,
      ),
    ).toEqual([[0, 1]]);
  });
});
