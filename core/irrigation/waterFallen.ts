import { evennessOf } from "./evenness.ts";
import { type Box, isInside, type Point } from "./plane.ts";

/** Where a gun stands once. */
export interface Stand {
  at: Point;
  /** degrees it turns through, and the direction in degrees anticlockwise from x that is the middle of it */
  arc: number;
  facing: number;
  /** m² of the field that are its own */
  area: number;
}

/** Rate at a part of the throw, over the mean rate of the whole disc. */
export type Profile = (part: number) => number;

/** Water that falls off in a straight line to nothing at the end of the throw. Common practice, no source. */
export const CONE: Profile = (part) => 3 * (1 - part);

/** samples across one cell; a field of few cells takes more */
const SAMPLES = 8;
const LEAST_SAMPLES = 48;
const DRY = 0.25;

/** Cells along one side of a field: how many, and m of each. */
export interface Cells {
  count: number;
  step: number;
}

export interface Samples {
  box: Box;
  dx: number;
  dy: number;
}

export function samplesFor(box: Box, along: Cells, across: Cells): Samples {
  const of = ({ count, step }: Cells) => step / Math.max(SAMPLES, Math.ceil(LEAST_SAMPLES / count));
  return { box, dx: of(along), dy: of(across) };
}

export interface Falling {
  outline: readonly Point[];
  keptOff: (point: Point) => boolean;
  stands: readonly Stand[];
  guns: number;
  shares: readonly number[];
  radius: number;
  profile: Profile;
}

/** What falls on each sample of the field and round it, the whole of it being 1. */
export function waterFallen(falling: Falling, { box, dx, dy }: Samples) {
  const { outline, keptOff, stands, guns, shares, radius, profile } = falling;
  const marginX = Math.ceil(radius / dx);
  const marginY = Math.ceil(radius / dy);
  const columns = Math.round((box.right - box.left) / dx) + 2 * marginX;
  const rows = Math.round((box.top - box.bottom) / dy) + 2 * marginY;
  const x0 = box.left - marginX * dx + dx / 2;
  const y0 = box.bottom - marginY * dy + dy / 2;
  const depths = new Float64Array(columns * rows);
  for (const [i, { at, arc, facing }] of stands.entries()) {
    const strength = ((shares[Math.floor(i / guns)] as number) * 360) / arc;
    const middle = (facing * Math.PI) / 180;
    const half = (arc * Math.PI) / 360;
    const first = Math.max(Math.ceil((at[1] - radius - y0) / dy), 0);
    const last = Math.min(Math.floor((at[1] + radius - y0) / dy), rows - 1);
    for (let row = first; row <= last; row++) {
      const y = y0 + row * dy - at[1];
      const reach = Math.sqrt(Math.max(radius * radius - y * y, 0));
      const left = Math.max(Math.ceil((at[0] - reach - x0) / dx), 0);
      const right = Math.min(Math.floor((at[0] + reach - x0) / dx), columns - 1);
      for (let column = left; column <= right; column++) {
        const x = x0 + column * dx - at[0];
        if (arc < 360 && Math.abs(angleBetween(Math.atan2(y, x), middle)) > half) continue;
        const own = strength * profile(Math.sqrt(x * x + y * y) / radius);
        depths[row * columns + column] = (depths[row * columns + column] as number) + own;
      }
    }
  }
  const inField: number[] = [];
  let [all, inside, kept] = [0, 0, 0];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const depth = depths[row * columns + column] as number;
      all += depth;
      const point: Point = [x0 + column * dx, y0 + row * dy];
      const within =
        row >= marginY && row < rows - marginY && column >= marginX && column < columns - marginX;
      if (!within || !isInside(outline, point)) continue;
      if (keptOff(point)) {
        kept++;
        continue;
      }
      inside += depth;
      inField.push(depth);
    }
  }
  if (inField.length === 0 || all === 0) return undefined;
  const mean = inside / inField.length;
  return {
    wateredPart: inField.length / (inField.length + kept),
    outside: Math.max(1 - inside / all, 0),
    dry: inField.filter((depth) => depth < DRY * mean).length / inField.length,
    evenness: evennessOf(inField.map((depth) => ({ depth, weight: 1 }))),
  };
}

/** Whether any of a stand's water comes down at a point. */
export function wets({ at, arc, facing }: Stand, radius: number, [x, y]: Point): boolean {
  const [dx, dy] = [x - at[0], y - at[1]];
  if (dx * dx + dy * dy >= radius * radius) return false;
  return (
    arc >= 360 ||
    Math.abs(angleBetween(Math.atan2(dy, dx), (facing * Math.PI) / 180)) <= (arc * Math.PI) / 360
  );
}

function angleBetween(a: number, b: number): number {
  const turn = (a - b) % (2 * Math.PI);
  return turn > Math.PI ? turn - 2 * Math.PI : turn < -Math.PI ? turn + 2 * Math.PI : turn;
}
