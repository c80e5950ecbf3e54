/** Plane geometry of a field: points in m, x to the right, y up. */
export type Point = readonly [x: number, y: number];

/** m² inside an outline, whichever way round it runs. */
export function areaOf(outline: readonly Point[]): number {
  return Math.abs(signedArea(outline));
}

/** The same, negative where the outline runs clockwise. */
export function signedArea(outline: readonly Point[]): number {
  let twice = 0;
  for (const [i, [x, y]] of outline.entries()) {
    const [x2, y2] = outline[(i + 1) % outline.length] as Point;
    twice += x * y2 - x2 * y;
  }
  return twice / 2;
}

export function centreOf(outline: readonly Point[]): Point {
  const area = signedArea(outline);
  if (Math.abs(area) < 1e-12) return outline[0] ?? [0, 0];
  let [cx, cy] = [0, 0];
  for (const [i, [x, y]] of outline.entries()) {
    const [x2, y2] = outline[(i + 1) % outline.length] as Point;
    const cross = x * y2 - x2 * y;
    cx += (x + x2) * cross;
    cy += (y + y2) * cross;
  }
  return [cx / (6 * area), cy / (6 * area)];
}

/** Whether a point lies inside, by how often a ray from it crosses the outline. */
export function isInside(outline: readonly Point[], [x, y]: Point): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [xi, yi] = outline[i] as Point;
    const [xj, yj] = outline[j] as Point;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

export interface Box {
  left: number;
  right: number;
  bottom: number;
  top: number;
}

export function boxOf(points: readonly Point[]): Box {
  const box = { left: Infinity, right: -Infinity, bottom: Infinity, top: -Infinity };
  for (const [x, y] of points) {
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.bottom = Math.min(box.bottom, y);
    box.top = Math.max(box.top, y);
  }
  return box;
}

/** The part of an outline inside a box. Source: I. Sutherland, G. Hodgman, Comm. ACM 17 (1974) 32–42. */
export function clipped(outline: readonly Point[], box: Box): Point[] {
  const sides: [axis: 0 | 1, at: number, keep: 1 | -1][] = [
    [0, box.left, 1],
    [0, box.right, -1],
    [1, box.bottom, 1],
    [1, box.top, -1],
  ];
  let left: Point[] = [...outline];
  for (const [axis, at, keep] of sides) {
    const next: Point[] = [];
    for (const [i, own] of left.entries()) {
      const before = left[(i + left.length - 1) % left.length] as Point;
      const [a, b] = [(before[axis] - at) * keep, (own[axis] - at) * keep];
      if (a >= 0 !== b >= 0) {
        const t = a / (a - b);
        next.push([before[0] + t * (own[0] - before[0]), before[1] + t * (own[1] - before[1])]);
      }
      if (b >= 0) next.push(own);
    }
    left = next;
  }
  return left;
}

export function turned([x, y]: Point, angle: number): Point {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return [c * x - s * y, s * x + c * y];
}

/** Whether two stretches cross, ends that only touch not counted. */
export function crosses(a: Point, b: Point, c: Point, d: Point): boolean {
  const side = (p: Point, q: Point, r: Point) =>
    (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/** Stretches of a line of points; `closed` adds the one back to the first. */
export function stretchesOf(points: readonly Point[], closed: boolean): [Point, Point][] {
  const count = closed ? points.length : points.length - 1;
  return Array.from({ length: Math.max(count, 0) }, (_, i) => [
    points[i] as Point,
    points[(i + 1) % points.length] as Point,
  ]);
}

/** Whether an outline crosses itself. */
export function crossesItself(outline: readonly Point[]): boolean {
  const all = stretchesOf(outline, true);
  return all.some(([a, b], i) => all.slice(i + 1).some(([c, d]) => crosses(a, b, c, d)));
}
