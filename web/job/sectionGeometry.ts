import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#contract/solveJob.ts";
import { type CompiledLine, compileLine, type Side } from "#core/line/compileLine.ts";
import type { HeadLinePoint } from "#core/line/headLine.ts";
import type { Levels } from "#core/line/path.ts";

/** The elevation drawing of a job in its own metres, before any scale. */
export interface SectionGeometry {
  /** each stretch of pipe with its ends: distance along and height */
  runs: { itemId: string; side: Side; bore: number; from: Point; to: Point }[];
  fittings: { itemId: string; side: Side; at: Point }[];
  holes: { itemId: string; at: Point }[];
  intake: Point;
  pump: Point;
  outlet: Point;
  outletType: CompiledLine["outlet"]["type"];
  receiving?: Levels;
  source: Levels;
  /** height to which water would stand in a tube on the line, along the path */
  headLine: { itemId: string; at: Point; pipe: number }[];
}

export interface Point {
  distance: number;
  height: number;
}

/**
 * Geometry of a job that compiles. A line whose pump is not chosen yet is drawn all the same; anything
 * else that is refused gives undefined.
 */
export function sectionGeometry(
  job: JobDocument,
  solved: JobSolution,
): SectionGeometry | undefined {
  const line = solved.kind === "solved" ? solved.solution.line : drawable(job);
  if (!line) return undefined;
  const geometry: SectionGeometry = {
    runs: [],
    fittings: [],
    holes: [],
    intake: { distance: 0, height: line.intakeElevation },
    pump: {
      distance: line.segments[line.pumpIndex]?.startDistance ?? 0,
      height: line.pumpElevation,
    },
    outlet: { distance: line.segments.at(-1)?.endDistance ?? 0, height: line.outletElevation },
    outletType: line.outlet.type,
    source: line.source,
    headLine: [],
  };
  if (line.outlet.type === "submerged") geometry.receiving = line.outlet.level;
  for (const s of line.segments) {
    const from = { distance: s.startDistance, height: s.startElevation };
    const to = { distance: s.endDistance, height: s.endElevation };
    if (s.kind === "pipe")
      geometry.runs.push({ itemId: s.itemId, side: s.side, bore: s.bore, from, to });
    if (s.kind === "fitting") geometry.fittings.push({ itemId: s.itemId, side: s.side, at: to });
  }
  for (const hole of line.holes) {
    const before = line.segments[hole.index - 1];
    const distance = before?.endDistance ?? geometry.pump.distance;
    geometry.holes.push({ itemId: hole.itemId, at: { distance, height: hole.elevation } });
  }
  const points =
    solved.kind === "solved" ? solved.solution.cases.normal.running?.headLine : undefined;
  geometry.headLine = (points ?? []).map((p: HeadLinePoint) => ({
    itemId: p.itemId,
    at: { distance: p.distance, height: p.elevation + p.pressureHead },
    pipe: p.elevation,
  }));
  return geometry;
}

function drawable(job: JobDocument): CompiledLine | undefined {
  const path = job.path.map((item) =>
    item.kind === "pump" ? { ...item, pump: item.pump ?? "any" } : item,
  );
  const compilation = compileLine({ ...job, path });
  return compilation.kind === "compiled" ? compilation.line : undefined;
}

/**
 * Distance to drawing across, 0 to 1. The suction side is short where most of the trouble is, so it is
 * given at least `least` of the width; each side keeps its own true scale.
 */
export function acrossScale(
  geometry: SectionGeometry,
  least: number,
): (distance: number) => number {
  const end = Math.max(geometry.outlet.distance, 1e-6);
  const suction = geometry.pump.distance;
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
    if (!start) return [];
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
        { distance: from.distance, height: from.head },
        { distance: to.distance, height: to.head },
        { distance: to.distance, height: to.pipe },
        { distance: from.distance, height: from.pipe },
      ],
    ];
  });
}
