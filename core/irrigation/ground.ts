import {
  areaOf,
  centreOf,
  crosses,
  crossesItself,
  isInside,
  type Point,
  signedArea,
  stretchesOf,
} from "./plane.ts";

/** The ground to be watered, in m. A rectangle has its corner, and a circle its box, at the origin. */
export type Ground =
  | { kind: "rectangle"; length: number; width: number }
  | { kind: "circle"; diameter: number }
  /** walked round: each side's length and its bearing in degrees clockwise from north */
  | { kind: "walked"; legs: readonly { length: number; bearing: number }[] };

/** Where no water may fall: along an edge, or on a piece of ground inside one. */
export interface KeepOff {
  points: readonly Point[];
  /** a piece of ground rather than an edge */
  closed: boolean;
}

export type Surveyed =
  | { kind: "surveyed"; outline: Point[]; area: number; walk?: Walk }
  | { kind: "refused"; why: "no-size" | "too-few-sides" | "crosses-itself" };

/** How a walk round a field ended. */
export interface Walk {
  /** m between its end and its start */
  gap: number;
  /** m walked in all */
  length: number;
  /** so far off that the gap is a side nobody walked; else it was spread over the legs */
  lastSideOpen: boolean;
}

/** A circle is drawn with this many sides, of its true area. */
const SIDES = 120;

/** Part of a walk by which it may miss its start; more, and the last side was not walked. */
const OPEN_WALK = 0.1;

/** The outline of a ground. */
export function surveyed(ground: Ground): Surveyed {
  const outline = outlineOf(ground);
  if (outline.kind === "refused") return outline;
  const area = areaOf(outline.points);
  if (!(area > 0)) return { kind: "refused", why: "no-size" };
  if (ground.kind === "walked" && crossesItself(outline.points)) {
    return { kind: "refused", why: "crosses-itself" };
  }
  const found: Surveyed = { kind: "surveyed", outline: outline.points, area };
  return outline.walk ? { ...found, walk: outline.walk } : found;
}

function outlineOf(
  ground: Ground,
): { kind: "outline"; points: Point[]; walk?: Walk } | Extract<Surveyed, { kind: "refused" }> {
  switch (ground.kind) {
    case "rectangle": {
      const { length, width } = ground;
      const points: Point[] = [
        [0, 0],
        [length, 0],
        [length, width],
        [0, width],
      ];
      return { kind: "outline", points };
    }
    case "circle": {
      const r = ground.diameter / 2;
      const step = (2 * Math.PI) / SIDES;
      const drawn = r * Math.sqrt(step / Math.sin(step));
      const points = Array.from(
        { length: SIDES },
        (_, i): Point => [r + drawn * Math.cos(i * step), r + drawn * Math.sin(i * step)],
      );
      return { kind: "outline", points };
    }
    case "walked":
      return walkedRound(ground.legs);
  }
}

/**
 * The corners of a walk. What it misses its start by is spread over the legs by their length: the compass rule,
 * N. Bowditch (1808), from memory.
 */
function walkedRound(legs: readonly { length: number; bearing: number }[]) {
  if (legs.length < 2) return { kind: "refused" as const, why: "too-few-sides" as const };
  const length = legs.reduce((sum, leg) => sum + leg.length, 0);
  if (!(length > 0)) return { kind: "refused" as const, why: "no-size" as const };
  const corners: Point[] = [[0, 0]];
  for (const leg of legs) {
    const [x, y] = corners.at(-1) as Point;
    const angle = (leg.bearing * Math.PI) / 180;
    corners.push([x + leg.length * Math.sin(angle), y + leg.length * Math.cos(angle)]);
  }
  const end = corners.at(-1) as Point;
  const gap = Math.hypot(...end);
  const lastSideOpen = gap > OPEN_WALK * length;
  if (lastSideOpen) {
    return { kind: "outline" as const, points: corners, walk: { gap, length, lastSideOpen } };
  }
  let walked = 0;
  const points = legs.map((leg, i): Point => {
    const [x, y] = corners[i] as Point;
    const part = walked / length;
    walked += leg.length;
    return [x - end[0] * part, y - end[1] * part];
  });
  if (points.length < 3) return { kind: "refused" as const, why: "too-few-sides" as const };
  return { kind: "outline" as const, points, walk: { gap, length, lastSideOpen } };
}

/**
 * An edge that runs beside a side of an outline, so many m outside it.
 * @param side number of the corner it begins at
 * @param away m; negative lies inside
 */
export function besideSide(outline: readonly Point[], side: number, away: number): Point[] {
  const a = outline[side % outline.length] as Point;
  const b = outline[(side + 1) % outline.length] as Point;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  // Outside is to the right of an outline that runs anticlockwise.
  const turn = signedArea(outline) > 0 ? 1 : -1;
  const [nx, ny] = [(turn * (b[1] - a[1])) / length, (-turn * (b[0] - a[0])) / length];
  return [
    [a[0] + nx * away, a[1] + ny * away],
    [b[0] + nx * away, b[1] + ny * away],
  ];
}

/**
 * Pairs of what is kept off that cross, or of pieces of ground one inside the other, by their numbers: what lies in
 * both is one piece of ground, counted once.
 */
export function overlapping(keepOff: readonly KeepOff[]): [number, number][] {
  const stretches = keepOff.map(({ points, closed }) => stretchesOf(points, closed));
  return stretches.flatMap((own, i) =>
    stretches.slice(i + 1).flatMap((other, k): [number, number][] => {
      const met = own.some(([a, b]) => other.some(([c, d]) => crosses(a, b, c, d)));
      const [a, b] = [keepOff[i], keepOff[i + 1 + k]];
      const within = a?.closed && b?.closed && (covers(a, b) || covers(b, a));
      return met || within ? [[i, i + 1 + k]] : [];
    }),
  );
}

const covers = (own: KeepOff, other: KeepOff) => isInside(own.points, centreOf(other.points));
