import type { Levels } from "#core/fluid/levels.ts";
import type { HeadLinePoint } from "#core/hydraulics/headLine.ts";
import type { CompiledLine, Side, Stretch } from "#core/line/compiledLine.ts";
import { levelsOf } from "#core/line/path.ts";
import { type Outlet, receivingWater } from "#core/outlet/outlets.ts";
import { type JobSolution, lineOf } from "./solveJob.ts";

/** The elevation drawing of a job in its own metres, before any scale. */
export interface SectionGeometry {
  /** each stretch of pipe with its ends: distance along and height */
  runs: { itemId: string; side: Side; bore: number; from: Point; to: Point }[];
  /** where a branch leaves the others or meets them: no pipe, but the water goes there */
  joints: { from: Point; to: Point }[];
  fittings: { itemId: string; side: Side; at: Point }[];
  holes: { itemId: string; at: Point }[];
  intake: Point;
  pumps: { itemId: string; at: Point }[];
  outlets: { itemId: string; type: Outlet["type"]; at: Point; receiving?: Levels }[];
  source: Levels;
  /** height to which water would stand in a tube on the line, way by way */
  headLine: { itemId: string; at: Point; pipe: number; way: number }[];
  /** what keeps the line from being solved */
  diagnostics: { itemId: string; at: Point }[];
}

/** `lane` sets the branches of a split apart on the drawing. */
export interface Point {
  distance: number;
  height: number;
  lane: number;
}

/**
 * Geometry of a job. A line that is refused is drawn as far as it goes, with a mark at what is wrong;
 * a path with no pipe at all gives undefined.
 */
export function sectionGeometry(solved: JobSolution): SectionGeometry | undefined {
  const line = lineOf(solved);
  if (line.segments.length === 0) return undefined;
  // That a pump is still to be chosen is no fault of the line.
  const diagnostics =
    solved.kind === "refused"
      ? solved.diagnostics.filter(({ code }) => code !== "pump-not-chosen")
      : [];
  const nodeLanes = lanesOfNodes(line);
  const atNode = (node: number): Point => {
    const { distance, elevation } = line.nodes[node] as CompiledLine["nodes"][number];
    return { distance, height: elevation, lane: nodeLanes[node] as number };
  };
  const geometry: SectionGeometry = {
    runs: [],
    joints: [],
    fittings: [],
    holes: line.holes.map(({ itemId, node }) => ({ itemId, at: atNode(node) })),
    intake: { distance: 0, height: line.source.intake, lane: 0 },
    pumps: line.pumps.map(({ item, inlet, outlet, distance, elevation }) => {
      const lane = Math.max(nodeLanes[inlet] as number, nodeLanes[outlet] as number);
      return { itemId: item.id, at: { distance, height: elevation, lane } };
    }),
    outlets: line.outlets.map(({ item, node, distance, elevation }) => {
      const { outlet } = item;
      const at = { distance, height: elevation, lane: nodeLanes[node] as number };
      const receiving = receivingWater(outlet);
      return { itemId: item.id, type: outlet.type, at, ...(receiving && { receiving }) };
    }),
    source: levelsOf(line.source),
    headLine: [],
    diagnostics: diagnostics.flatMap(({ itemId }) => {
      const place = itemId === undefined ? undefined : line.places.get(itemId);
      if (!place || itemId === undefined) return [];
      return [{ itemId, at: { distance: place.distance, height: place.elevation, lane: 0 } }];
    }),
  };
  for (const stretch of line.stretches) {
    const { start, end, lane, from, to } = stretch;
    const own = line.segments.slice(start, end);
    const first = own[0];
    const last = own.at(-1);
    if (first && last) {
      const begins = { distance: first.startDistance, height: first.startElevation, lane };
      const ends = { distance: last.endDistance, height: last.endElevation, lane };
      for (const [a, b] of [
        [atNode(from), begins],
        [ends, atNode(to)],
      ] as const) {
        if (a.lane !== b.lane || Math.abs(a.distance - b.distance) > 1e-9) {
          geometry.joints.push({ from: a, to: b });
        }
      }
    }
    for (const s of own) {
      const a = { distance: s.startDistance, height: s.startElevation, lane };
      const b = { distance: s.endDistance, height: s.endElevation, lane };
      const { itemId, side, bore } = s;
      if (s.kind === "pipe") geometry.runs.push({ itemId, side, bore, from: a, to: b });
      if (s.kind === "fitting") geometry.fittings.push({ itemId, side, at: b });
    }
  }
  const points =
    solved.kind === "refused" ? undefined : solved.solution.cases.normal.running?.headLine;
  geometry.headLine = (points ?? []).map((p: HeadLinePoint) => ({
    itemId: p.itemId,
    at: { distance: p.distance, height: p.elevation + p.pressureHead, lane: 0 },
    pipe: p.elevation,
    way: p.way,
  }));
  return geometry;
}

/** A node that only one lane touches stands in it; where lanes part or meet it stands in the first. */
function lanesOfNodes({ nodes, stretches, pumps }: CompiledLine): number[] {
  const touching = nodes.map(() => new Set<number>());
  const touch = (node: number, lane: number) => touching[node]?.add(lane);
  for (const { from, to, lane } of stretches as Stretch[]) {
    touch(from, lane);
    touch(to, lane);
  }
  for (const { inlet, outlet } of pumps) {
    // A pump stands in the lane of the stretch after it.
    const after = stretches.find((stretch) => stretch.from === outlet);
    if (after) touch(inlet, after.lane);
  }
  return touching.map((lanes) => (lanes.size === 1 ? ([...lanes][0] as number) : 0));
}

/** Where an item of the path ends on the drawing: where a gauge tapped in after it stands on the pipe. */
export function endOf(solved: JobSolution, itemId: string): Point | undefined {
  const line = lineOf(solved);
  const pump = line.pumps.find(({ item }) => item.id === itemId);
  const index = (line.passed.get(itemId) ?? 0) - 1;
  const last = line.segments[index];
  if (!pump && !last) return undefined;
  const lane = line.stretches.find(({ start, end }) => index >= start && index < end)?.lane ?? 0;
  return pump
    ? { distance: pump.distance, height: pump.elevation, lane }
    : { distance: last?.endDistance ?? 0, height: last?.endElevation ?? 0, lane };
}

/** Where the suction ends and how far the line goes, for the scale across. */
export function extent({ pumps, outlets, runs }: SectionGeometry) {
  const suction = pumps[0]?.at.distance ?? 0;
  const ends = [...outlets.map(({ at }) => at.distance), ...runs.map(({ to }) => to.distance)];
  return { suction, end: Math.max(suction, ...ends, 1e-6) };
}

/**
 * Distance to drawing across, 0 to 1. The suction side is short where most of the trouble is, so it is
 * given at least `least` of the width; each side keeps its own true scale.
 */
export function acrossScale(
  geometry: SectionGeometry,
  least: number,
): (distance: number) => number {
  const { suction, end } = extent(geometry);
  if (suction <= 0) return (distance) => distance / end;
  const share = Math.min(Math.max(suction / end, least), 1 - least);
  return (distance) =>
    distance <= suction
      ? (distance / suction) * share
      : share + ((distance - suction) / Math.max(end - suction, 1e-6)) * (1 - share);
}

/** m: less suction than this is not drawn */
const LEAST_SUCTION = 0.02;

/**
 * Outlines of the areas between the pipe and the head line where the head line runs below the pipe,
 * stretch by stretch, cut off where it crosses the pipe.
 */
export function suctionShades(headLine: SectionGeometry["headLine"]): Point[][] {
  return headLine.slice(1).flatMap((end, i): Point[][] => {
    const start = headLine[i];
    if (!start || start.way !== end.way) return [];
    const over = [start.at.height - start.pipe, end.at.height - end.pipe] as const;
    if (Math.min(...over) >= -LEAST_SUCTION) return [];
    const between = (t: number) => ({
      distance: start.at.distance + t * (end.at.distance - start.at.distance),
      head: start.at.height + t * (end.at.height - start.at.height),
      pipe: start.pipe + t * (end.pipe - start.pipe),
    });
    const crossing = over[0] / (over[0] - over[1]);
    const from = between(over[0] > 0 ? crossing : 0);
    const to = between(over[1] > 0 ? crossing : 1);
    return [
      [
        { distance: from.distance, height: from.head, lane: 0 },
        { distance: to.distance, height: to.head, lane: 0 },
        { distance: to.distance, height: to.pipe, lane: 0 },
        { distance: from.distance, height: from.pipe, lane: 0 },
      ],
    ];
  });
}
