import type { Point } from "./plane.ts";

/** An edge with its ends carried on by so many m: a hedge or a road does not stop where the field does. */
export function runningOn(stretches: readonly [Point, Point][], by: number): [Point, Point][] {
  const beyond = ([ax, ay]: Point, [bx, by2]: Point): Point => {
    const length = Math.hypot(bx - ax, by2 - ay) || 1;
    return [bx + ((bx - ax) * by) / length, by2 + ((by2 - ay) * by) / length];
  };
  return stretches.map(([a, b], i) => [
    i === 0 ? beyond(b, a) : a,
    i === stretches.length - 1 ? beyond(a, b) : b,
  ]);
}

/** The widest part of the circle round a point that reaches no edge, degrees. */
export function widestFree(
  [x, y]: Point,
  stretches: readonly (readonly [Point, Point])[],
  radius: number,
): { arc: number; facing: number } {
  const taken: [number, number][] = [];
  for (const [[ax, ay], [bx, by]] of stretches) {
    const [dx, dy] = [bx - ax, by - ay];
    const [fx, fy] = [ax - x, ay - y];
    // Where the stretch lies within the throw.
    const a = dx * dx + dy * dy;
    const b = fx * dx + fy * dy;
    const c = fx * fx + fy * fy - radius * radius;
    const root = b * b - a * c;
    if (a === 0 || root <= 0) continue;
    const t0 = Math.max((-b - Math.sqrt(root)) / a, 0);
    const t1 = Math.min((-b + Math.sqrt(root)) / a, 1);
    if (t0 >= t1) continue;
    const from = Math.atan2(fy + t0 * dy, fx + t0 * dx);
    let sweep = Math.atan2(fy + t1 * dy, fx + t1 * dx) - from;
    if (sweep > Math.PI) sweep -= 2 * Math.PI;
    if (sweep < -Math.PI) sweep += 2 * Math.PI;
    const start = sweep < 0 ? from + sweep : from;
    taken.push([(start + 2 * Math.PI) % (2 * Math.PI), Math.abs(sweep)]);
  }
  if (taken.length === 0) return { arc: 360, facing: 0 };
  taken.sort(([a], [b]) => a - b);
  const first = (taken[0] as [number, number])[0];
  let [widest, middle, reached] = [0, 0, first];
  for (const [start, sweep] of [...taken, [first + 2 * Math.PI, 0] as const]) {
    if (start - reached > widest) {
      widest = start - reached;
      middle = reached + widest / 2;
    }
    reached = Math.max(reached, start + sweep);
  }
  const degrees = 180 / Math.PI;
  return { arc: widest * degrees, facing: (middle * degrees) % 360 };
}
