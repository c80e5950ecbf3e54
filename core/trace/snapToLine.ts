import type { Spot } from "./projective.ts";

/** A picture as its brightness, 0 black to 255, row by row. */
export interface Grey {
  width: number;
  height: number;
  of: ArrayLike<number>;
}

/** Brightness from the red, green, blue and opacity a canvas gives. */
export function greyOf(pixels: ArrayLike<number>, width: number, height: number): Grey {
  const of = new Float32Array(width * height);
  for (let i = 0; i < of.length; i++) {
    const at = 4 * i;
    const [r, g, b] = [pixels[at] as number, pixels[at + 1] as number, pixels[at + 2] as number];
    of[i] = 0.299 * r + 0.587 * g + 0.114 * b;
  }
  return { width, height, of };
}

/** Pixels round a click in which a line is looked for, where nothing else is said. */
export const REACH = 9;

/**
 * The middle of the dark line nearest a click: found across it, along a column where the line lies flat and along a row
 * where it is steep, and once more from there, so that the whole width of the line is in the cut. Undefined where there
 * is no line so near that stands out from its ground.
 */
export function snapToLine(picture: Grey, click: Spot, reach = REACH): Spot | undefined {
  const first = cutBoth(picture, click, reach);
  return first && (cutBoth(picture, first, reach) ?? first);
}

/**
 * The two ways to cut a line: of those that meet one as dark, so that a line of the grid is not taken for the curve, the
 * cut in which it is narrower meets it more squarely.
 */
function cutBoth(picture: Grey, from: Spot, reach: number): Spot | undefined {
  const across = ([dx, dy]: Spot) => {
    const values: number[] = [];
    for (let s = -reach; s <= reach; s++) {
      // The mean of three beside each other quiets the grain.
      let sum = 0;
      for (let w = -1; w <= 1; w++) {
        sum += brightnessAt(picture, from[0] + s * dx + w * dy, from[1] + s * dy + w * dx);
      }
      values.push(sum / 3);
    }
    const found = darkestRun(values);
    if (!found) return [];
    const s = found.middle - reach;
    const { width, depth } = found;
    return [{ spot: [from[0] + s * dx, from[1] + s * dy] as const, width, depth }];
  };
  const found = [...across([0, 1]), ...across([1, 0])];
  const darkest = Math.max(...found.map(({ depth }) => depth));
  return found
    .filter(({ depth }) => depth >= ALIKE * darkest)
    .toSorted((a, b) => a.width - b.width)[0]?.spot;
}

/** Where a cut is darkest, nearest its middle: the centre of gravity of what is darker than half way to the ground. */
function darkestRun(
  values: readonly number[],
): { middle: number; width: number; depth: number } | undefined {
  const ground = values.toSorted((a, b) => b - a)[Math.floor(values.length / 4)] as number;
  const depths = values.map((value) => Math.max(ground - value, 0));
  const deepest = Math.max(...depths);
  if (!(deepest > LEAST_DEPTH)) return undefined;
  const centre = (values.length - 1) / 2;
  // Of several lines, such as one of the grid, the nearest that is at least half as dark as the darkest.
  let best: { from: number; to: number; off: number } | undefined;
  for (let i = 0; i < depths.length; i++) {
    if ((depths[i] as number) < deepest / 2) continue;
    const from = i;
    while (i + 1 < depths.length && (depths[i + 1] as number) >= deepest / 2) i++;
    const off = Math.max(from - centre, centre - i, 0);
    if (!best || off < best.off) best = { from, to: i, off };
  }
  if (!best) return undefined;
  const [from, to] = [Math.max(best.from - 1, 0), Math.min(best.to + 1, depths.length - 1)];
  let [sum, weighed] = [0, 0];
  for (let i = from; i <= to; i++) {
    const depth = depths[i] as number;
    sum += depth;
    weighed += depth * i;
  }
  return { middle: weighed / sum, width: sum / deepest, depth: deepest };
}

/** Part of the darkest that is as dark. */
const ALIKE = 0.6;
/** How much darker than its ground a line is at the least. */
const LEAST_DEPTH = 18;

/** Between pixels, straight between their middles; the edge goes on. */
function brightnessAt({ width, height, of }: Grey, x: number, y: number): number {
  const [cx, cy] = [
    Math.min(Math.max(x, 0), width - 1.001),
    Math.min(Math.max(y, 0), height - 1.001),
  ];
  const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
  const [fx, fy] = [cx - x0, cy - y0];
  const at = (i: number, k: number) => of[(y0 + k) * width + x0 + i] as number;
  return (
    at(0, 0) * (1 - fx) * (1 - fy) +
    at(1, 0) * fx * (1 - fy) +
    at(0, 1) * (1 - fx) * fy +
    at(1, 1) * fx * fy
  );
}
