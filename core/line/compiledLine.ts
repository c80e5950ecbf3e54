import type { FittingStock } from "../catalogue/fittings.ts";
import type { PipeStock } from "../catalogue/pipes.ts";
import type { PipeRun } from "../pipe/darcyWeisbach.ts";
import type { Drawdown, OutletItem, PumpItem, Source } from "./path.ts";

export type Side = "suction" | "discharge";

/** One thing on the path that takes head, with everything its loss needs. */
export interface Segment {
  /** the item it came from; a change of bore belongs to the item that brings it */
  itemId: string;
  kind: "supply" | "pipe" | "fitting" | "bore-change" | "exit" | "nozzle" | "emitter";
  side: Side;
  /** absent for what lies before the line: a main, a well's yield */
  stock?: PipeStock | undefined;
  fitting?: FittingStock | undefined;
  /** pieces of one fitting in a row */
  count: number;
  /** how far a valve is open, 0 is shut */
  opening: number;
  /** smallest bore the water meets here, m */
  bore: number;
  /** K on the velocity in `bore`; zero for a pipe */
  k: number;
  /** straight run of a pipe, or the equivalent run of a fitting in the equivalent-length school */
  run?: PipeRun | undefined;
  /** m³/s an emitter, or a main, passes at a pressure in Pa */
  emitter?: { flow: number; pressure: number } | undefined;
  drawdown?: Drawdown | undefined;
  /** a valve that is shut lets nothing through */
  shut: boolean;
  /** m above datum */
  startElevation: number;
  endElevation: number;
  /** m, horizontally from the source */
  startDistance: number;
  endDistance: number;
}

/** A place where stretches, pumps, holes or outlets meet. */
export interface LineNode {
  elevation: number;
  distance: number;
}

/** Segments one after another, without a fork between them. */
export interface Stretch {
  from: number;
  to: number;
  /** its segments are `start` … `end` − 1 of the line */
  start: number;
  end: number;
  /** a check valve, a main, or an outlet into the open, lets nothing run back */
  oneWay: boolean;
  shut: boolean;
  /** 0 on the main path, then by the branch of a split */
  lane: number;
}

export interface PlacedPump {
  item: PumpItem;
  inlet: number;
  outlet: number;
  elevation: number;
  distance: number;
  /** another pump sends it its water */
  fed: boolean;
}

export interface PlacedOutlet {
  item: OutletItem;
  node: number;
  elevation: number;
  distance: number;
}

/** A hole in the discharge: water leaves it into the open, or into the water the pump hangs in. */
export interface Hole {
  itemId: string;
  purpose: "vent-hole" | "leak";
  /** m */
  bore: number;
  node: number;
  /** number of segments before it in the order of the path */
  index: number;
  elevation: number;
  distance: number;
  /**
   * m above datum: the source's water is over the hole once it stands higher, since the line from a pump that hangs
   * in it rises no further up to there. Absent where the hole cannot be under it.
   */
  wetFrom?: number;
}

/** The water's path as a network of stretches, ready to be solved. Node 0 is the source. */
export interface CompiledLine {
  source: Source;
  /** node where the line begins; after what a main or a well takes, else node 0 */
  intakeNode: number;
  nodes: LineNode[];
  /** in the order of the path, those of branches one after another */
  segments: Segment[];
  stretches: Stretch[];
  pumps: PlacedPump[];
  outlets: PlacedOutlet[];
  holes: Hole[];
  /** where each item of the path begins, by its id */
  places: Map<string, LineNode>;
  /** how many segments lie before the end of each item of the path */
  passed: Map<string, number>;
  /** one way from the source to one outlet through at most one pump, and no holes */
  single: boolean;
}

/** The segments the water passes on its way to a node since the last pump, in path order. */
export function segmentsInto(line: CompiledLine, node: number): Segment[] {
  const seen = new Set([node]);
  const found = new Set<Stretch>();
  for (const at of seen) {
    for (const stretch of line.stretches) {
      if (stretch.to !== at) continue;
      found.add(stretch);
      seen.add(stretch.from);
    }
  }
  return line.stretches
    .filter((stretch) => found.has(stretch))
    .flatMap(({ start, end }) => line.segments.slice(start, end));
}

/** Whether a pump takes its water from the open or out of the ground: no main and no other pump pushes it. */
export function drawsItself({ source }: CompiledLine, { fed }: PlacedPump): boolean {
  return !fed && source.kind !== "mains";
}

/** What belongs to the source: it is no item of the path. */
export const SUPPLY = "(source)";

/** Numbers of the segments the water of a pump, the first where none is named, meets before it parts, holes left out of account. */
export function beforeFork(line: CompiledLine, pump = line.pumps[0]): number[] {
  return stretchesBeforeFork(line, pump).flatMap(({ start, end }) =>
    Array.from({ length: end - start }, (_, i) => start + i),
  );
}

/** The stretches of that way, one after another. */
export function stretchesBeforeFork(line: CompiledLine, pump = line.pumps[0]): Stretch[] {
  const found: Stretch[] = [];
  let node = pump?.outlet;
  while (node !== undefined) {
    const leaving = line.stretches.filter(({ from }) => from === node);
    const [only] = leaving;
    if (!only || leaving.length > 1) break;
    found.push(only);
    node = only.to;
  }
  return found;
}

/** Segments before a pump, the first where none is named. */
export function suctionOf(line: CompiledLine, pump = line.pumps[0]): Segment[] {
  return pump ? segmentsInto(line, pump.inlet) : [];
}
