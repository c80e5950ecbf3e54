/** A point of a curve, m³/s and m. */
export interface DrawnPoint {
  flow: number;
  head: number;
}

/** Points a curve of few numbers is drawn with. */
const POINTS = 9;

/** Half-width, as a part of flow and head, of a curve of which only a sticker's two numbers are known. Common practice, no source. */
export const STICKER_UNCERTAINTY = 0.2;

/**
 * A curve of a sticker alone, "158 gpm max, 92 ft max": a parabola from the most head at no flow to the most flow at no
 * head, H = H₀ (1 − (Q/Q₀)²). Common practice, no source.
 */
export function fromSticker(mostFlow: number, mostHead: number): DrawnPoint[] {
  return drawn(mostFlow, (part) => mostHead * (1 - part * part));
}

export type ThreePoints =
  | { kind: "drawn"; points: DrawnPoint[] }
  | { kind: "not-falling" }
  /** no curve of one bend passes: it falls nearly all at once, or all at the end */
  | { kind: "too-sharp" };

/**
 * A curve of three points: at no flow, at the best and at the last. It falls as a power of the flow that passes all
 * three, H = H₀ − (H₀ − H₂)(Q/Q₂)^m. Common practice, no source.
 */
export function fromThreePoints(shutOff: number, best: DrawnPoint, last: DrawnPoint): ThreePoints {
  if (!(best.flow > 0 && last.flow > best.flow && best.head < shutOff && last.head < best.head)) {
    return { kind: "not-falling" };
  }
  const share = (shutOff - best.head) / (shutOff - last.head);
  const exponent = Math.log(share) / Math.log(best.flow / last.flow);
  if (!(exponent >= 0.3 && exponent <= 8)) return { kind: "too-sharp" };
  const head = (flow: number) => shutOff - (shutOff - last.head) * (flow / last.flow) ** exponent;
  const flows = drawn(last.flow, (part) => head(part * last.flow)).map(({ flow }) => flow);
  // The point that was told is one of the curve's, in place of the nearest.
  const nearest = flows.reduce(
    (found, flow, i) =>
      i > 0 &&
      i < flows.length - 1 &&
      Math.abs(flow - best.flow) < Math.abs((flows[found] as number) - best.flow)
        ? i
        : found,
    1,
  );
  flows[nearest] = best.flow;
  const rising = [...new Set(flows)].toSorted((a, b) => a - b);
  return {
    kind: "drawn",
    points: rising.map((flow) => ({ flow, head: flow === last.flow ? last.head : head(flow) })),
  };
}

/** A row of a printed chart: what it moves at a head, either of them a range. */
export interface ChartRow {
  flow: readonly [low: number, high: number];
  head: readonly [low: number, high: number];
}

/** A curve through the middles of a chart's rows, and half-width of the widest as a part of the flow. */
export function fromChartRows(rows: readonly ChartRow[]): { points: DrawnPoint[]; doubt: number } {
  const middle = ([low, high]: readonly [number, number]) => (low + high) / 2;
  let doubt = 0;
  const points = rows.map(({ flow, head }) => {
    const own = middle(flow);
    if (own > 0) doubt = Math.max(doubt, (flow[1] - flow[0]) / 2 / own);
    return { flow: own, head: middle(head) };
  });
  return { points: points.toSorted((a, b) => a.flow - b.flow), doubt };
}

const drawn = (mostFlow: number, headAt: (part: number) => number): DrawnPoint[] =>
  Array.from({ length: POINTS }, (_, i) => {
    const part = i / (POINTS - 1);
    return { flow: part * mostFlow, head: headAt(part) };
  });
