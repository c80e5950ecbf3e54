/** What is marked on a picture: where its sheet and axes lie, and the clicks along each line. */

import type { CurveTrace } from "#contract/documents/pump.ts";
import { fromUnit, UNITS } from "#contract/units/units.ts";
import type { Spot } from "#core/trace/projective.ts";
import { type lookOver, readSheet } from "#core/trace/sheet.ts";

/** What a line comes to on its axes, and what is to be said of it. */
export type LineRead = ReturnType<typeof lookOver>;

export interface Line {
  name: string;
  /** rpm, where it is the same pump at another speed and not with another impeller */
  speed: number | undefined;
  clicks: Spot[];
}

export interface Marks {
  corners: Spot[];
  askew: boolean;
  flow: [{ at?: Spot; value: number }, { at?: Spot; value: number }];
  head: [{ at?: Spot; value: number }, { at?: Spot; value: number }];
}

/** A mark that the arrow keys move. */
export type Held =
  | { what: "corner"; index: number }
  | { what: "flow" | "head"; index: 0 | 1 }
  | { what: "line"; line: number; index: number };

export const withMark = (
  marks: Marks,
  axis: "flow" | "head",
  index: 0 | 1,
  patch: object,
): Marks => ({
  ...marks,
  [axis]: marks[axis].map((own, i) => (i === index ? { ...own, ...patch } : own)),
});

/** The sheet as far as it is marked; nothing before all four places are. */
export function readingOf({ corners, askew, flow, head }: Marks) {
  const placed = (own: Marks["flow"]) =>
    own.every(({ at }) => at)
      ? (own.map(({ at, value }) => ({ at: at as Spot, value })) as never)
      : undefined;
  const [flows, heads] = [placed(flow), placed(head)];
  if (!flows || !heads || (askew && corners.length < 4)) return undefined;
  return readSheet({ flow: flows, head: heads, ...(askew && { corners: corners as never }) });
}

export const traceOf = (
  marks: Marks,
  lines: readonly Line[],
  flowUnit: string,
  headUnit: string,
): CurveTrace => {
  const axis = (own: Marks["flow"]) =>
    own.map(({ at, value }) => ({
      at: [...(at ?? [0, 0])],
      value,
    })) as unknown as CurveTrace["flowAxis"];
  return {
    ...(marks.askew && {
      corners: marks.corners.map((own) => [...own]) as unknown as NonNullable<
        CurveTrace["corners"]
      >,
    }),
    ...{ flowAxis: axis(marks.flow), headAxis: axis(marks.head), flowUnit, headUnit },
    lines: lines.map(({ name, clicks }) => ({
      name,
      clicks: clicks.map(([x, y]) => [x, y] as [number, number]),
    })),
  };
};

export function toSi(value: number, quantity: "flow" | "head", symbol: string): number {
  const unit = UNITS[quantity].find((own) => own.symbol === symbol);
  return unit ? fromUnit(value, unit) : value;
}

export function spotOf(
  held: Held | undefined,
  marks: Marks,
  lines: readonly Line[],
): Spot | undefined {
  if (!held) return undefined;
  if (held.what === "corner") return marks.corners[held.index];
  if (held.what === "line") return lines[held.line]?.clicks[held.index];
  return marks[held.what][held.index].at;
}

/** The click of a line so near that it is meant. */
export function nearest(spot: Spot, lines: readonly Line[], within: number): Held | undefined {
  for (const [line, { clicks }] of lines.entries()) {
    const index = clicks.findIndex(([x, y]) => Math.hypot(x - spot[0], y - spot[1]) < within);
    if (index >= 0) return { what: "line", line, index };
  }
  return undefined;
}
