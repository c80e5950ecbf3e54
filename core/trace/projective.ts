import { eliminated } from "../numeric/eliminated.ts";

/** A place in a picture, or on the sheet it shows: x to the right, y down. */
export type Spot = readonly [x: number, y: number];
export type Corners = readonly [Spot, Spot, Spot, Spot];

/** Takes a spot of the picture to one of the sheet. */
export type Projection = (spot: Spot) => Spot;

export const asItIs: Projection = (spot) => spot;

/**
 * The projection that takes four corners seen askew to the unit square, from the top left clockwise: what a camera does
 * to a flat sheet, undone. Undefined where three of the corners lie on one line.
 *
 * Solved as eight linear equations in the eight numbers of x' = (a x + b y + c) / (g x + h y + 1) and y' alike; see
 * P. Heckbert, Fundamentals of Texture Mapping and Image Warping, Berkeley (1989), from memory.
 */
export function unskewed(corners: Corners): Projection | undefined {
  const square: Corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ];
  // Reckoned near one, so that pixels by the thousand lose no digits.
  const size = Math.max(...corners.flat().map(Math.abs), 1);
  const rows: number[][] = [];
  for (const [i, corner] of corners.entries()) {
    const [x, y] = corner.map((value) => value / size) as [number, number];
    const [u, v] = square[i] as Spot;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  const found = eliminated(rows);
  if (!found) return undefined;
  const [a, b, c, d, e, f, g, h] = found as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  return ([px, py]) => {
    const [x, y] = [px / size, py / size];
    const w = g * x + h * y + 1;
    return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
  };
}
