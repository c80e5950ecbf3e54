import {
  type CompiledLine,
  drawsItself,
  type Hole,
  type PlacedPump,
  type Segment,
  type Side,
  type Stretch,
  segmentsInto,
} from "./compiledLine.ts";

/** Pipe that holds water, by its bore in m and the length in m that counts. */
export interface WetPipe {
  bore: number;
  length: number;
}

/** The pipes among some segments; in a suction line, what a pump has to clear of air. */
export function pipesOf(segments: readonly Segment[]): WetPipe[] {
  return segments.flatMap((segment) => wetAbove(segment, Number.NEGATIVE_INFINITY));
}

/** m³ they hold. */
export function pipeVolume(pipes: readonly WetPipe[]): number {
  return pipes.reduce((sum, { bore, length }) => sum + (Math.PI / 4) * bore ** 2 * length, 0);
}

/**
 * Pipes that run back through a pump at each stop when nothing holds them: every run of its discharge whose
 * water stands above the source, up to the first check valve on each way, or to where it falls towards its outlet. A
 * run counts by the part of it above the surface.
 */
export function drainingPipes(
  line: CompiledLine,
  pump: PlacedPump,
  sourceLevel: number,
): WetPipe[] {
  return drainingSegments(line, pump, sourceLevel).flatMap((own) => wetAbove(own, sourceLevel));
}

/** Segments whose water runs back through a pump that stands. */
export function drainingSegments(
  line: CompiledLine,
  pump: PlacedPump,
  sourceLevel: number,
): Segment[] {
  const found: Segment[] = [];
  // What falls from above the water leaves by the outlet instead, and all behind it.
  const turns = ({ startElevation, endElevation }: Segment) =>
    endElevation < startElevation - SLACK && startElevation > sourceLevel;
  // A run that lies dead level, or falls away by less than the eye sees, has nothing that drives its water back.
  const drains = ({ startElevation, endElevation }: Segment) =>
    endElevation > startElevation + SLACK || Math.min(startElevation, endElevation) < sourceLevel;
  beforeChecks(line, pump, (segment) => drains(segment) && found.push(segment), turns);
  return found;
}

/**
 * What a hole in the discharge can do against air at the pump: it works between a pump and that pump's own
 * check valve. Above the check valve it only wastes water; where there is none, air leaves by itself.
 */
export function holeService(line: CompiledLine, hole: Hole): "works" | "above-check" | "no-check" {
  const pumpOutlets = new Set(line.pumps.map(({ outlet }) => outlet));
  const below = reach([hole.node], (node) =>
    line.stretches.flatMap((stretch) =>
      stretch.to === node && !holdsCheck(line, stretch) ? [stretch.from] : [],
    ),
  );
  if (![...below].some((node) => pumpOutlets.has(node))) return "above-check";
  let checked = false;
  reach([hole.node], (node) =>
    line.stretches.flatMap((stretch) => {
      if (stretch.from !== node) return [];
      checked ||= holdsCheck(line, stretch);
      return [stretch.to];
    }),
  );
  return checked ? "works" : "no-check";
}

/**
 * Numbers of the stretches with a check valve by which a pump's water goes on, holes left out; nothing where some of
 * it can reach an outlet without passing one.
 */
export function ownChecks(line: CompiledLine, pump: PlacedPump): number[] | undefined {
  const found: number[] = [];
  const reached = reach([pump.outlet], (node) =>
    line.stretches.flatMap((stretch, i) => {
      if (stretch.from !== node) return [];
      if (!holdsCheck(line, stretch)) return [stretch.to];
      found.push(i);
      return [];
    }),
  );
  return line.outlets.some(({ node }) => reached.has(node)) ? undefined : found;
}

/** Whether air under a pump's check valve has no vent hole to leave by. */
export function airHeldUnderCheck(line: CompiledLine, pump: PlacedPump): boolean {
  const vented = new Set(
    line.holes.filter(({ purpose }) => purpose === "vent-hole").map(({ node }) => node),
  );
  let held = false;
  reach([pump.outlet], (node) =>
    line.stretches.flatMap((stretch) => {
      if (stretch.from !== node || vented.has(node)) return [];
      const check = holdsCheck(line, stretch);
      held ||= check;
      return check ? [] : [stretch.to];
    }),
  );
  return held;
}

/**
 * Numbers of the segments that stand in the source's own water: from a pump that hangs in it, with no pipe to draw
 * through, up to where the line first leaves it. A pump beside the water stands in the dry however high that is.
 */
export function segmentsInWater(line: CompiledLine, surface: number): Set<number> {
  const found = new Set<number>();
  const wet = line.pumps.filter(
    (pump) =>
      drawsItself(line, pump) &&
      pump.elevation < surface &&
      !segmentsInto(line, pump.inlet).some(({ kind }) => kind === "pipe"),
  );
  reach(
    wet.map(({ outlet }) => outlet),
    (node) =>
      line.stretches.flatMap(({ from, to, start, end }) => {
        if (from !== node) return [];
        for (let i = start; i < end; i++) {
          const segment = line.segments[i] as Segment;
          if (segment.startElevation >= surface) return [];
          found.add(i);
          if (segment.endElevation >= surface) return [];
        }
        return [to];
      }),
  );
  return found;
}

/** Every node that can be reached, the starts among them. */
function reach(starts: readonly number[], next: (node: number) => readonly number[]): Set<number> {
  const seen = new Set(starts);
  for (const node of seen) for (const other of next(node)) seen.add(other);
  return seen;
}

function holdsCheck(line: CompiledLine, { start, end }: Stretch): boolean {
  return line.segments.slice(start, end).some(isCheck);
}

/**
 * Whether water that other pumps, or their discharge, put under pressure can run back through a pump that
 * stands: no check valve on the way from it to where another way joins, nor before it.
 */
export function unguardedFromOutlet(line: CompiledLine, pump: PlacedPump): boolean {
  if (segmentsInto(line, pump.inlet).some(isCheck)) return false;
  const reached = beforeChecks(line, pump, () => undefined);
  return [...reached].some(
    (node) => line.stretches.filter((stretch) => stretch.to === node).length > 1,
  );
}

/** Nodes of outlets that a pump's water reaches, and can come back from, without meeting a check valve. */
export function unguardedOutlets(line: CompiledLine, pump: PlacedPump): Set<number> {
  if (segmentsInto(line, pump.inlet).some(isCheck)) return new Set();
  const reached = beforeChecks(line, pump, () => undefined);
  return new Set(line.outlets.flatMap(({ node }) => (reached.has(node) ? [node] : [])));
}

/** Visits every segment of a discharge up to the first that ends a way: a check valve, or another. */
function beforeChecks(
  line: CompiledLine,
  pump: PlacedPump,
  visit: (segment: Segment) => void,
  isEnd: (segment: Segment) => boolean = () => false,
): Set<number> {
  const reached = new Set([pump.outlet]);
  for (const node of reached) {
    for (const { from, to, start, end } of line.stretches) {
      if (from !== node) continue;
      const own = line.segments.slice(start, end);
      const last = own.findIndex((segment) => isCheck(segment) || isEnd(segment));
      for (const segment of last < 0 ? own : own.slice(0, last)) visit(segment);
      if (last < 0) reached.add(to);
    }
  }
  return reached;
}

function isCheck({ fitting }: Segment): boolean {
  return fitting?.group === "check";
}

/** The part of a pipe that lies above a level; nothing where it is none, or lies below. */
export function wetAbove(
  { kind, run, bore, startElevation, endElevation }: Segment,
  level: number,
): WetPipe[] {
  if (kind !== "pipe" || !run) return [];
  const top = Math.max(startElevation, endElevation);
  const bottom = Math.min(startElevation, endElevation);
  const part =
    top <= level ? 0 : bottom >= level ? 1 : (top - level) / Math.max(top - bottom, 1e-9);
  return part > 0 ? [{ bore, length: run.length * part }] : [];
}

/** Where the line falls after it rose. */
export interface HighPoint {
  /** the item that rose last */
  itemId: string;
  elevation: number;
  side: Side;
}

/**
 * Items after which the line falls although it rose before: air gathers there. An outlet does not count,
 * since air leaves with the water. A rise goes on through a fork: every way from it may fall.
 */
export function highPoints({ stretches, segments, pumps, nodes }: CompiledLine): HighPoint[] {
  const found = new Map<string, HighPoint>();
  const risingInto = new Map<number, HighPoint>();
  const pumpOutlets = new Set(pumps.map(({ outlet }) => outlet));
  for (const { from, to, start, end } of stretches as readonly Stretch[]) {
    let rising = pumpOutlets.has(from) ? undefined : risingInto.get(from);
    const go = (rise: number, point: HighPoint) => {
      if (rise > SLACK) rising = point;
      else if (rise < -SLACK) {
        if (rising) found.set(rising.itemId, rising);
        rising = undefined;
      }
    };
    let before: (typeof segments)[number] | undefined;
    for (const segment of segments.slice(start, end)) {
      const { itemId, startElevation, endElevation, side } = segment;
      // A rise between two pieces holds no pipe of its own, and goes up or down all the same.
      const last = before?.endElevation ?? (nodes[from]?.elevation as number);
      const stepped = startElevation - last;
      go(stepped, { itemId: before?.itemId ?? itemId, elevation: startElevation, side });
      go(endElevation - startElevation, { itemId, elevation: endElevation, side });
      before = segment;
    }
    if (rising) risingInto.set(to, rising);
  }
  return [...found.values()];
}

/** m: a fall smaller than this over a run is level for air's purposes. */
const SLACK = 0.02;
