import { runningOn, widestFree } from "./arcs.ts";
import type { Evenness } from "./evenness.ts";
import { type KeepOff, overlapping } from "./ground.ts";
import {
  areaOf,
  type Box,
  boxOf,
  centreOf,
  clipped,
  isInside,
  type Point,
  stretchesOf,
  turned,
} from "./plane.ts";
import {
  type Cells,
  CONE,
  type Profile,
  type Samples,
  type Stand,
  samplesFor,
  waterFallen,
  wets,
} from "./waterFallen.ts";

/** How much of a circle's diameter lies between two stands, from calm to strong wind. From memory. */
export const SPACING = { calm: 0.6, light: 0.55, fresh: 0.5, strong: 0.4 } as const;
export type Wind = keyof typeof SPACING;

export interface SetsAsked {
  outline: readonly Point[];
  keepOff: readonly KeepOff[];
  /** m the gun throws, and degrees it turns through where nothing is in the way */
  radius: number;
  arc: number;
  /** part of the diameter between stands */
  spacing: number;
  /** that stand at a time */
  guns: number;
  /** from which the first set is the nearest corner */
  from?: Point;
  /** how the water falls off from the gun outwards; a cone when absent */
  profile?: Profile;
}

export interface SetPlan {
  kind: "planned";
  /** in the order they are moved through; so many guns at a time make a set */
  stands: Stand[];
  sets: number;
  /** parts of the whole watering time that fall to each set; they add up to 1 */
  shares: number[];
  /** m² of field to be watered, what must be kept off left out */
  area: number;
  /** m between stands along and across */
  spacing: { along: number; across: number };
  /** part of the water that falls outside the field, or where it must not */
  outside: number;
  /** part of the field that gets less than a quarter of its mean depth */
  dry: number;
  evenness: Evenness;
  notes: SetNote[];
}

export type SetNote =
  /** one circle is larger than the field is wide */
  | { code: "circle-larger-than-field"; width: number }
  | { code: "keep-off-overlap"; between: [number, number] }
  /** stands from which even the narrowest arc would throw over an edge */
  | { code: "over-an-edge"; stands: number[] };

export type SetPlanResult =
  | SetPlan
  | { kind: "refused"; why: "no-throw" | "nothing-left" | "too-many-sets" };

/** More stands than this are no plan for people who carry guns. */
const MOST_STANDS = 5000;
/** A stand that would have less of a cell than this, and lies within its neighbours' throw, is left out. */
const SLIVER = 0.12;
/** degrees: with less left to turn through a gun is not put there */
const NARROWEST = 30;

/**
 * Stands that cover a field: rows along its longest side, no farther apart than the wind allows, moved through to and
 * fro from the corner nearest `from`. A stand near an edge turns through the widest arc that does not reach over it.
 * All in m and degrees. What falls where is summed over a grid of samples.
 */
export function planSets(asked: SetsAsked): SetPlanResult {
  const { radius, guns } = asked;
  if (!(radius > 0)) return { kind: "refused", why: "no-throw" };
  const tilt = -longestSide(asked.outline);
  const outline = asked.outline.map((point) => turned(point, tilt));
  const keepOff = asked.keepOff.map((own) => ({
    ...own,
    points: own.points.map((point) => turned(point, tilt)),
  }));
  const box = boxOf(outline);
  const step = asked.spacing * 2 * radius;
  const along = cellsOf(box.right - box.left, step);
  const across = cellsOf(box.top - box.bottom, step);
  if (along.count * across.count > MOST_STANDS) return { kind: "refused", why: "too-many-sets" };
  const closed = keepOff.filter((own) => own.closed);
  const keptOff = (point: Point) => closed.some(({ points }) => isInside(points, point));
  const cells = cellsIn(outline, box, along, across, keptOff);
  const placed = withoutSlivers(cells, along.step * across.step, radius);
  const { stands: placedStands, over } = withArcs(placed, keepOff, radius, asked.arc);
  const samples = samplesFor(box, along, across);
  const needed = withoutIdle(placedStands, {
    ...{ outline, keptOff, radius, samples },
    whole: along.step * across.step,
  });
  const inOrder = ordered(needed, asked.from && turned(asked.from, tilt));
  if (inOrder.length === 0) return { kind: "refused", why: "nothing-left" };
  const stands = inOrder.map(({ stand }) => stand);
  const sets = Math.ceil(stands.length / guns);
  const shares = sharesOf(stands, sets, guns);
  const fallen = waterFallen(
    { outline, keptOff, stands, guns, shares, radius, profile: asked.profile ?? CONE },
    samples,
  );
  if (!fallen) return { kind: "refused", why: "nothing-left" };
  const notes: SetNote[] = overlapping(keepOff).map((between) => ({
    code: "keep-off-overlap",
    between,
  }));
  const width = Math.min(box.right - box.left, box.top - box.bottom);
  if (2 * radius > width) notes.push({ code: "circle-larger-than-field", width });
  const bad = inOrder.flatMap(({ stand }, i) => (over.has(stand) ? [i] : []));
  if (bad.length > 0) notes.push({ code: "over-an-edge", stands: bad });
  return {
    kind: "planned",
    stands: stands.map((own) => ({
      ...own,
      at: turned(own.at, -tilt),
      facing: own.facing - (tilt * 180) / Math.PI,
    })),
    ...{ sets, shares, notes },
    area: areaOf(outline) * fallen.wateredPart,
    spacing: { along: along.step, across: across.step },
    ...{ outside: fallen.outside, dry: fallen.dry, evenness: fallen.evenness },
  };
}

/**
 * s a set runs to lay a depth in m over the field, its guns together laying `flow` in m³/s on it: what falls outside is none of it.
 * @example secondsPerSet(0.01, 4800, 4, 0.003) // 4000
 */
export function secondsPerSet(depth: number, area: number, sets: number, flow: number): number {
  return (depth * area) / (sets * flow);
}

/** Direction of the longest side, radians. */
function longestSide(outline: readonly Point[]): number {
  let [longest, angle] = [0, 0];
  for (const [a, b] of stretchesOf(outline, true)) {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length <= longest * (1 + 1e-9)) continue;
    longest = length;
    angle = Math.atan2(b[1] - a[1], b[0] - a[0]);
  }
  return angle;
}

function cellsOf(length: number, step: number): Cells {
  const count = Math.max(Math.ceil(length / step - 1e-9), 1);
  return { count, step: length / count };
}

interface Placed {
  at: Point;
  area: number;
  row: number;
  column: number;
}

/** The part of the field in each cell, with where a gun would stand for it. */
function cellsIn(
  outline: readonly Point[],
  box: Box,
  along: Cells,
  across: Cells,
  keptOff: (point: Point) => boolean,
): Placed[] {
  const found: Placed[] = [];
  for (let row = 0; row < across.count; row++) {
    for (let column = 0; column < along.count; column++) {
      const left = box.left + column * along.step;
      const bottom = box.bottom + row * across.step;
      const cell = { left, right: left + along.step, bottom, top: bottom + across.step };
      const part = clipped(outline, cell);
      const area = part.length > 2 ? areaOf(part) : 0;
      if (area <= 1e-9) continue;
      const middle: Point = [left + along.step / 2, bottom + across.step / 2];
      const stands = (point: Point) => isInside(outline, point) && !keptOff(point);
      const centre = centreOf(part);
      const at = stands(middle) ? middle : stands(centre) ? centre : freeSpot(part, stands);
      if (at) found.push({ at, area, row, column });
    }
  }
  return found;
}

/** Somewhere in a piece of field where a gun may stand, nearest to its middle; nothing where all of it is kept off. */
function freeSpot(part: readonly Point[], stands: (point: Point) => boolean): Point | undefined {
  const box = boxOf(part);
  const [cx, cy] = [(box.left + box.right) / 2, (box.bottom + box.top) / 2];
  let best: { point: Point; far: number } | undefined;
  const tries = 9;
  for (let i = 0; i < tries; i++) {
    for (let j = 0; j < tries; j++) {
      const point: Point = [
        box.left + ((box.right - box.left) * (i + 0.5)) / tries,
        box.bottom + ((box.top - box.bottom) * (j + 0.5)) / tries,
      ];
      const far = Math.hypot(point[0] - cx, point[1] - cy);
      if ((!best || far < best.far) && isInside(part, point) && stands(point)) {
        best = { point, far };
      }
    }
  }
  return best?.point;
}

/** Cells with hardly any field in them go to the neighbour whose throw reaches them. */
function withoutSlivers(cells: readonly Placed[], whole: number, radius: number): Placed[] {
  const kept = cells.filter(({ area }) => area >= SLIVER * whole).map((own) => ({ ...own }));
  for (const sliver of cells.filter(({ area }) => area < SLIVER * whole)) {
    const near = kept.filter(
      ({ row, column }) => Math.abs(row - sliver.row) <= 1 && Math.abs(column - sliver.column) <= 1,
    );
    const [nearest] = near.toSorted((a, b) => between(a.at, sliver.at) - between(b.at, sliver.at));
    if (nearest && between(nearest.at, sliver.at) < 0.85 * radius) nearest.area += sliver.area;
    else kept.push({ ...sliver });
  }
  return kept;
}

const between = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

interface Ordered {
  stand: Stand;
  row: number;
  column: number;
}

/** Each stand with the widest arc that keeps off; those that find none that is worth standing for are named. */
function withArcs(
  placed: readonly Placed[],
  keepOff: readonly KeepOff[],
  radius: number,
  arc: number,
): { stands: Ordered[]; over: Set<Stand> } {
  const over = new Set<Stand>();
  const stretches = keepOff.flatMap(({ points, closed }) =>
    closed ? stretchesOf(points, true) : runningOn(stretchesOf(points, false), radius),
  );
  const stands = placed.map(({ at, area, row, column }): Ordered => {
    const free = widestFree(at, stretches, radius);
    const narrow = free.arc < NARROWEST;
    const stand: Stand = {
      at,
      area,
      arc: narrow ? arc : Math.min(arc, free.arc),
      facing: narrow ? 0 : free.facing,
    };
    if (narrow) over.add(stand);
    return { stand, row, column };
  });
  return { stands, over };
}

/** Row by row, to and fro, from the corner nearest to where the water comes from. */
function ordered(stands: readonly Ordered[], from: Point = [-Infinity, -Infinity]): Ordered[] {
  const rows = [...new Set(stands.map(({ row }) => row))].sort((a, b) => a - b);
  const columns = stands.map(({ column }) => column);
  const [least, most] = [Math.min(...columns), Math.max(...columns)];
  const at = (want: (own: Ordered) => boolean) => stands.find(want)?.stand.at;
  const corner = (row: number | undefined, column: number) =>
    at((own) => own.row === row && own.column === column) ?? at((own) => own.row === row);
  const far = (row: number | undefined, column: number) => {
    const point = corner(row, column);
    return point && Number.isFinite(from[0]) ? between(point, from) : 0;
  };
  const upward = far(rows[0], least) <= far(rows.at(-1), least) ? rows : rows.toReversed();
  let rising = far(upward[0], least) <= far(upward[0], most);
  const found: Ordered[] = [];
  for (const row of upward) {
    const own = stands.filter((each) => each.row === row);
    own.sort((a, b) => (rising ? a.column - b.column : b.column - a.column));
    found.push(...own);
    rising = !rising;
  }
  return found;
}

/** Part of the field that may go without water for the sake of fewer stands, and of a cell under which its stand is looked at. */
const UNCOVERED = 5e-4;
const PARTLY = 0.9;

/**
 * Stands whose ground the others water as well are left out, those with the least field of their own first: a round
 * edge cuts many cells, and a stand counts by what it adds.
 */
function withoutIdle(
  stands: readonly Ordered[],
  field: {
    outline: readonly Point[];
    keptOff: (point: Point) => boolean;
    radius: number;
    samples: Samples;
    /** m² of a whole cell */
    whole: number;
  },
): Ordered[] {
  const { outline, keptOff, radius, samples, whole } = field;
  const partly = stands.filter(({ stand }) => stand.area < PARTLY * whole);
  if (partly.length === 0) return [...stands];
  const { box, dx, dy } = samples;
  const points: Point[] = [];
  for (let y = box.bottom + dy / 2; y < box.top; y += dy) {
    for (let x = box.left + dx / 2; x < box.right; x += dx) {
      if (isInside(outline, [x, y]) && !keptOff([x, y])) points.push([x, y]);
    }
  }
  const wetBy = new Map(
    stands.map((own) => [
      own,
      points.flatMap((point, i) => (wets(own.stand, radius, point) ? [i] : [])),
    ]),
  );
  const counts = new Uint16Array(points.length);
  for (const own of wetBy.values()) for (const i of own) counts[i] = (counts[i] as number) + 1;
  let left = Math.floor(UNCOVERED * points.length);
  const kept = new Set(stands);
  for (const own of partly.toSorted((a, b) => a.stand.area - b.stand.area)) {
    const wet = wetBy.get(own) ?? [];
    const alone = wet.filter((i) => counts[i] === 1).length;
    if (alone > left || kept.size === 1) continue;
    left -= alone;
    kept.delete(own);
    for (const i of wet) counts[i] = (counts[i] as number) - 1;
    const [nearest] = [...kept].toSorted(
      (a, b) => between(a.stand.at, own.stand.at) - between(b.stand.at, own.stand.at),
    );
    if (nearest) nearest.stand.area += own.stand.area;
  }
  return stands.filter((own) => kept.has(own));
}

/** A gun that turns through less ground waters it faster: each set's time goes with the arc of its guns. */
function sharesOf(stands: readonly Stand[], sets: number, guns: number): number[] {
  const arcs = Array.from({ length: sets }, (_, i) => {
    const own = stands.slice(i * guns, (i + 1) * guns);
    return own.reduce((sum, { arc }) => sum + arc, 0) / own.length;
  });
  const all = arcs.reduce((sum, arc) => sum + arc, 0);
  return arcs.map((arc) => arc / all);
}
