import type { Spot } from "#core/trace/projective.ts";
import { type Held, type Line, type Marks, withMark } from "./marks.ts";

/** What a click on the picture sets next. */
export type Aim =
  | { what: "corner"; index: number }
  | { what: "flow" | "head"; index: 0 | 1 }
  | { what: "line"; line: number };

/** A curve being traced: what is marked on its picture, what the next click sets, and which mark is in hand. */
export interface TraceDraft {
  marks: Marks;
  lines: Line[];
  aim: Aim;
  held: Held | undefined;
  /** clicks go to the line that is printed near them */
  snaps: boolean;
  /** symbols of the units printed on the axes */
  units: { flow: string; head: string };
}

export const beginTrace = (units: TraceDraft["units"]): TraceDraft => ({
  marks: {
    ...{ corners: [], askew: false },
    flow: [{ value: 0 }, { value: 0 }],
    head: [{ value: 0 }, { value: 0 }],
  },
  lines: [{ name: "Rated speed", speed: undefined, clicks: [] }],
  aim: { what: "flow", index: 0 },
  held: undefined,
  snaps: true,
  units,
});

/** A line by its place, changed. */
export const withLine = (draft: TraceDraft, at: number, by: Partial<Line>): TraceDraft => ({
  ...draft,
  lines: draft.lines.map((own, i) => (i === at ? { ...own, ...by } : own)),
});

/** One more line, to be clicked along next. */
export const withAnotherLine = (draft: TraceDraft): TraceDraft => ({
  ...draft,
  lines: [...draft.lines, { name: `Line ${draft.lines.length + 1}`, speed: undefined, clicks: [] }],
  aim: { what: "line", line: draft.lines.length },
});

/** A sheet photographed askew has its corners marked first; another one its axes. */
export const withAskew = (draft: TraceDraft, askew: boolean): TraceDraft => ({
  ...draft,
  marks: { ...draft.marks, askew },
  aim: askew ? { what: "corner", index: 0 } : { what: "flow", index: 0 },
});

/**
 * A click on the picture: the mark it sets is in hand from then on. After a corner comes the next one, and after the
 * last the flow axis.
 * @param spot in pixels of the picture
 * @param snapped the printed line near it, where there is one
 */
export function placed(draft: TraceDraft, spot: Spot, snapped: Spot | undefined): TraceDraft {
  const { aim, marks, lines, snaps } = draft;
  switch (aim.what) {
    case "corner": {
      const corners = [...marks.corners];
      corners[aim.index] = spot;
      return {
        ...draft,
        marks: { ...marks, corners },
        held: aim,
        aim: aim.index < 3 ? { ...aim, index: aim.index + 1 } : { what: "flow", index: 0 },
      };
    }
    case "flow":
    case "head":
      return { ...draft, marks: withMark(marks, aim.what, aim.index, { at: spot }), held: aim };
    case "line": {
      const { line } = aim;
      const clicks = lines[line]?.clicks ?? [];
      return {
        ...withLine(draft, line, { clicks: [...clicks, (snaps && snapped) || spot] }),
        held: { what: "line", line, index: clicks.length },
      };
    }
  }
}

/** The mark in hand moved, in pixels of the picture. */
export function moved(draft: TraceDraft, [right, down]: Spot): TraceDraft {
  const { held, marks, lines } = draft;
  if (!held) return draft;
  const shift = ([x, y]: Spot): Spot => [x + right, y + down];
  switch (held.what) {
    case "corner": {
      const corners = marks.corners.map((own, i) => (i === held.index ? shift(own) : own));
      return { ...draft, marks: { ...marks, corners } };
    }
    case "line": {
      const clicks = (lines[held.line]?.clicks ?? []).map((own, i) =>
        i === held.index ? shift(own) : own,
      );
      return withLine(draft, held.line, { clicks });
    }
    default: {
      const { at } = marks[held.what][held.index];
      return at
        ? { ...draft, marks: withMark(marks, held.what, held.index, { at: shift(at) }) }
        : draft;
    }
  }
}

/** Without the click in hand; marks of the sheet and its axes stay. */
export function takenOut(draft: TraceDraft): TraceDraft {
  const { held, lines } = draft;
  if (held?.what !== "line") return draft;
  const clicks = (lines[held.line]?.clicks ?? []).toSpliced(held.index, 1);
  return { ...withLine(draft, held.line, { clicks }), held: undefined };
}
