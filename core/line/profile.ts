import {
  type CompiledLine,
  type PlacedPump,
  type Segment,
  type Side,
  type Stretch,
  segmentsInto,
} from "./compiledLine.ts";

/** m³ of water the pipes among some segments hold; in a suction line, the air a pump has to clear. */
export function pipeVolume(segments: readonly Segment[]): number {
  return segments.reduce((sum, segment) => sum + volumeAbove(segment, Number.NEGATIVE_INFINITY), 0);
}

/**
 * m³ that runs back through a pump at each stop when nothing holds it: every run of its discharge whose
 * water stands above the source, up to the first check valve on each way. A run counts by the part of it
 * above the surface.
 */
export function drainBackVolume(line: CompiledLine, pump: PlacedPump, sourceLevel: number): number {
  let volume = 0;
  beforeChecks(line, pump, (segment) => {
    volume += volumeAbove(segment, sourceLevel);
  });
  return volume;
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

/** Visits every segment of a discharge up to the first check valve on each way; gives the nodes reached. */
function beforeChecks(
  line: CompiledLine,
  pump: PlacedPump,
  visit: (segment: Segment) => void,
): Set<number> {
  const reached = new Set([pump.outlet]);
  for (const node of reached) {
    for (const { from, to, start, end } of line.stretches) {
      if (from !== node) continue;
      const own = line.segments.slice(start, end);
      const check = own.findIndex(isCheck);
      for (const segment of check < 0 ? own : own.slice(0, check)) visit(segment);
      if (check < 0) reached.add(to);
    }
  }
  return reached;
}

function isCheck({ fitting }: Segment): boolean {
  return fitting?.group === "check";
}

function volumeAbove({ kind, run, bore, startElevation, endElevation }: Segment, level: number) {
  if (kind !== "pipe" || !run) return 0;
  const top = Math.max(startElevation, endElevation);
  const bottom = Math.min(startElevation, endElevation);
  const above =
    top <= level ? 0 : bottom >= level ? 1 : (top - level) / Math.max(top - bottom, 1e-9);
  return (Math.PI / 4) * bore ** 2 * run.length * above;
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
export function highPoints({ stretches, segments, pumps }: CompiledLine): HighPoint[] {
  const found = new Map<string, HighPoint>();
  const risingInto = new Map<number, HighPoint>();
  const pumpOutlets = new Set(pumps.map(({ outlet }) => outlet));
  for (const { from, to, start, end } of stretches as readonly Stretch[]) {
    let rising = pumpOutlets.has(from) ? undefined : risingInto.get(from);
    for (const { itemId, startElevation, endElevation, side } of segments.slice(start, end)) {
      const rise = endElevation - startElevation;
      if (rise > SLACK) rising = { itemId, elevation: endElevation, side };
      else if (rise < -SLACK) {
        if (rising) found.set(rising.itemId, rising);
        rising = undefined;
      }
    }
    if (rising) risingInto.set(to, rising);
  }
  return [...found.values()];
}

/** m: a fall smaller than this over a run is level for air's purposes. */
const SLACK = 0.02;
