import { eliminated } from "../numeric/eliminated.ts";
import { asItIs, type Corners, type Projection, type Spot, unskewed } from "./projective.ts";

/** A place on an axis with what is printed there, in the units of the sheet. */
export interface AxisMark {
  at: Spot;
  value: number;
}

/** How a printed chart is read. */
export interface Sheet {
  corners?: Corners | undefined;
  /** two places on each axis */
  flow: readonly [AxisMark, AxisMark];
  head: readonly [AxisMark, AxisMark];
}

/** What keeps a sheet from being read. */
export type SheetFault =
  | "corners-in-line"
  | "flow-marks-together"
  | "head-marks-together"
  | "same-flow-twice"
  | "same-head-twice"
  | "axes-in-line";

export type SheetReading =
  | { kind: "read"; at: (spot: Spot) => { flow: number; head: number } }
  | { kind: "fault"; fault: SheetFault };

/**
 * Reads a chart with straight even scales: a spot is taken off the skew, and its flow and head follow from where it
 * lies along the two axes, which need not be square to one another nor to the picture.
 */
export function readSheet({ corners, flow, head }: Sheet): SheetReading {
  const fault = (of: SheetFault): SheetReading => ({ kind: "fault", fault: of });
  const flat: Projection | undefined = corners ? unskewed(corners) : asItIs;
  if (!flat) return fault("corners-in-line");
  if (flow[0].value === flow[1].value) return fault("same-flow-twice");
  if (head[0].value === head[1].value) return fault("same-head-twice");
  const along = (marks: Sheet["flow"]) => {
    const [from, to] = marks.map(({ at }) => flat(at)) as [Spot, Spot];
    return { from, way: [to[0] - from[0], to[1] - from[1]] as const };
  };
  const [x, y] = [along(flow), along(head)];
  const size = (way: Spot) => Math.hypot(way[0], way[1]);
  if (!(size(x.way) > 0)) return fault("flow-marks-together");
  if (!(size(y.way) > 0)) return fault("head-marks-together");
  const cross = x.way[0] * y.way[1] - x.way[1] * y.way[0];
  if (Math.abs(cross) < 0.05 * size(x.way) * size(y.way)) return fault("axes-in-line");
  const scale = (marks: Sheet["flow"], part: number) =>
    marks[0].value + (marks[1].value - marks[0].value) * part;
  return {
    kind: "read",
    at: (spot) => {
      const [px, py] = flat(spot);
      // How far along one axis's way a line through the spot, the other axis's way, cuts it.
      const part = (own: typeof x, other: typeof x) => {
        const [dx, dy] = [px - own.from[0], py - own.from[1]];
        const area = own.way[0] * other.way[1] - own.way[1] * other.way[0];
        return (dx * other.way[1] - dy * other.way[0]) / area;
      };
      return { flow: scale(flow, part(x, y)), head: scale(head, part(y, x)) };
    },
  };
}

/** A point read off a sheet, in the sheet's units. */
export interface ReadPoint {
  flow: number;
  head: number;
}

/** What is wrong or odd with points read along a line, by their number in the order of rising flow. */
export type TraceRemark =
  | { kind: "too-few"; count: number }
  | { kind: "doubled"; index: number }
  | { kind: "negative"; index: number }
  /** the head rises there with flow: a drooping pump does, most do not */
  | { kind: "rises"; index: number }
  /** it lies off the curve through its neighbours by so much of the whole head */
  | { kind: "wild"; index: number; off: number };

/** Least points a curve is drawn through. */
const LEAST = 4;
/** Part of the whole head a click may lie off its neighbours' curve. */
const WILD = 0.03;
const MOST_WILD = 3;
/** Part of the whole flow two points are apart at the least. */
const APART = 0.004;

/** Points in rising flow, with what is to be said of them. */
export function lookOver(points: readonly ReadPoint[]): {
  points: ReadPoint[];
  remarks: TraceRemark[];
} {
  const sorted = points.toSorted((a, b) => a.flow - b.flow);
  const remarks: TraceRemark[] = [];
  if (sorted.length < LEAST) remarks.push({ kind: "too-few", count: sorted.length });
  const most = (of: (point: ReadPoint) => number) => Math.max(...sorted.map(of), 0);
  const [wide, high] = [most(({ flow }) => flow), most(({ head }) => head)];
  for (const [index, { flow, head }] of sorted.entries()) {
    const before = sorted[index - 1];
    if (flow < -APART * wide || head < -0.005 * high) remarks.push({ kind: "negative", index });
    if (!before) continue;
    if (flow - before.flow < APART * wide) remarks.push({ kind: "doubled", index });
    else if (head > before.head + 0.01 * high) remarks.push({ kind: "rises", index });
  }
  remarks.push(...wildOf(sorted, high));
  return { points: sorted, remarks };
}

/**
 * Points that lie off the smooth curve through the others: the one without which the rest lie best on a curve of few
 * bends, as often as one stands out. A point at the end pulls such a curve as hard as any, so each is left out in turn.
 */
function wildOf(points: readonly ReadPoint[], high: number): TraceRemark[] {
  const found: TraceRemark[] = [];
  let left = points.map((point, index) => ({ point, index }));
  while (left.length >= 6 && found.length < MOST_WILD) {
    const tried = left.map(({ point }, i) => {
      const rest = left.filter((_, k) => k !== i).map((own) => own.point);
      const curve = smooth(rest);
      const misses = Math.max(...rest.map(({ flow, head }) => Math.abs(curve(flow) - head)));
      return { i, misses, off: (point.head - curve(point.flow)) / high };
    });
    const worst = tried.toSorted((a, b) => a.misses - b.misses)[0] as (typeof tried)[number];
    if (Math.abs(worst.off) <= WILD || worst.misses > (WILD / 2) * high) break;
    found.push({
      kind: "wild",
      index: (left[worst.i] as (typeof left)[number]).index,
      off: worst.off,
    });
    left = left.filter((_, k) => k !== worst.i);
  }
  return found;
}

/** The parabola, or of eight points and more the cubic, that misses points least. */
function smooth(points: readonly ReadPoint[]): (flow: number) => number {
  const terms = points.length >= 8 ? 4 : 3;
  const wide = Math.max(...points.map(({ flow }) => Math.abs(flow)), 1e-12);
  const rows = Array.from({ length: terms }, (_, r) => [
    ...Array.from({ length: terms }, (_, c) =>
      points.reduce((sum, { flow }) => sum + (flow / wide) ** (r + c), 0),
    ),
    points.reduce((sum, { flow, head }) => sum + (flow / wide) ** r * head, 0),
  ]);
  const factors = eliminated(rows) ?? [0];
  return (flow) => factors.reduce((sum, factor, i) => sum + factor * (flow / wide) ** i, 0);
}
