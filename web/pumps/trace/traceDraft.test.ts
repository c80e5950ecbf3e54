import { describe, expect, it } from "vitest";
import type { Spot } from "#core/trace/projective.ts";
import {
  beginTrace,
  moved,
  placed,
  type TraceDraft,
  takenOut,
  withAnotherLine,
  withAskew,
  withLine,
} from "./traceDraft.ts";

const BEGUN = beginTrace({ flow: "L/s", head: "m" });
const click = (draft: TraceDraft, ...spots: Spot[]): TraceDraft => {
  let after = draft;
  for (const spot of spots) after = placed(after, spot, undefined);
  return after;
};
const along = (draft: TraceDraft, line = 0): TraceDraft => ({
  ...draft,
  aim: { what: "line", line },
});

describe("a click", () => {
  it("sets the corners one after another, and goes on to the flow axis after the last", () => {
    const three = click(withAskew(BEGUN, true), [0, 0], [9, 0], [9, 9]);
    expect(three.aim).toEqual({ what: "corner", index: 3 });
    const four = click(three, [0, 9]);
    expect(four.marks.corners).toEqual([
      [0, 0],
      [9, 0],
      [9, 9],
      [0, 9],
    ]);
    expect(four.aim).toEqual({ what: "flow", index: 0 });
    expect(withAskew(four, false).aim).toEqual({ what: "flow", index: 0 });
  });

  it("sets a place of an axis again and again, its value kept", () => {
    const draft = { ...BEGUN, aim: { what: "head", index: 1 } as const };
    draft.marks = { ...draft.marks, head: [{ value: 0 }, { value: 20 }] };
    const twice = click(draft, [3, 4], [5, 6]);
    expect(twice.marks.head).toEqual([{ value: 0 }, { value: 20, at: [5, 6] }]);
    expect(twice.held).toEqual({ what: "head", index: 1 });
    expect(twice.marks.flow).toEqual(BEGUN.marks.flow);
  });

  it("goes to the printed line near it, unless it is not to or none is there", () => {
    const at = (draft: TraceDraft, snapped: Spot | undefined) =>
      placed(along(draft), [5, 5], snapped).lines[0]?.clicks;
    expect(at(BEGUN, [5, 6])).toEqual([[5, 6]]);
    expect(at({ ...BEGUN, snaps: false }, [5, 6])).toEqual([[5, 5]]);
    expect(at(BEGUN, undefined)).toEqual([[5, 5]]);
  });

  it("belongs to the line that is aimed at, and is in hand", () => {
    const two = click(withAnotherLine(along(BEGUN)), [1, 1], [2, 2]);
    expect(two.lines.map(({ clicks }) => clicks)).toEqual([
      [],
      [
        [1, 1],
        [2, 2],
      ],
    ]);
    expect(two.held).toEqual({ what: "line", line: 1, index: 1 });
    expect(two.lines[1]?.name).toBe("Line 2");
  });
});

describe("the mark in hand", () => {
  it("moves alone", () => {
    const clicks = click(along(BEGUN), [1, 1], [2, 2], [3, 3]);
    const held = { ...clicks, held: { what: "line", line: 0, index: 1 } as const };
    expect(moved(held, [0.5, -1]).lines[0]?.clicks).toEqual([
      [1, 1],
      [2.5, 1],
      [3, 3],
    ]);
    const corner = click(withAskew(BEGUN, true), [0, 0], [9, 0]);
    expect(moved(corner, [1, 1]).marks.corners).toEqual([
      [0, 0],
      [10, 1],
    ]);
    const axis = click(BEGUN, [4, 4]);
    expect(moved(axis, [1, 0]).marks.flow[0]).toEqual({ value: 0, at: [5, 4] });
  });

  it("that is none, or not placed yet, stays", () => {
    expect(moved(BEGUN, [1, 1])).toBe(BEGUN);
    const unplaced = { ...BEGUN, held: { what: "flow", index: 1 } as const };
    expect(moved(unplaced, [1, 1])).toBe(unplaced);
  });

  it("is taken out where it is a click along a line, and only there", () => {
    const two = click(along(BEGUN), [1, 1], [2, 2]);
    const without = takenOut({ ...two, held: { what: "line", line: 0, index: 0 } });
    expect(without.lines[0]?.clicks).toEqual([[2, 2]]);
    expect(without.held).toBeUndefined();
    const axis = click(BEGUN, [4, 4]);
    expect(takenOut(axis)).toBe(axis);
  });
});

it("changes one line by its place", () => {
  const two = withAnotherLine(BEGUN);
  expect(withLine(two, 1, { speed: 2400 }).lines.map(({ speed }) => speed)).toEqual([
    ...[undefined, 2400],
  ]);
});
