import { findFitting } from "../catalogue/fittings.ts";
import { findPipeStock, type PipeStock } from "../catalogue/pipes.ts";
import { boreChangeCoefficient, taperCoefficient } from "../fitting/resistance.ts";
import { receivingWater, refusalOf, wayOut } from "../outlet/outlets.ts";
import { type CompiledLine, type Segment, type Stretch, SUPPLY } from "./compiledLine.ts";
import type { Diagnostic, DiagnosticCode } from "./diagnostic.ts";
import { fittingLoss, runOf, sizeOfFitting } from "./fittingLoss.ts";
import type {
  FittingItem,
  Line,
  OrificeItem,
  OutletItem,
  PathItem,
  PipeItem,
  PumpItem,
  Source,
  SplitItem,
} from "./path.ts";

/** Where the walk along the path has got to. */
interface Here {
  node: number;
  /** number of segments when the open stretch began */
  start: number;
  elevation: number;
  distance: number;
  /** pipe the next one joins without a fitting between; none after a pump or a fork */
  joined: PipeStock | undefined;
  /** last pipe on the way */
  pipe: PipeStock | undefined;
  /** a reducer that eases the next change of bore */
  taper: { itemId: string; angle: number } | undefined;
  /** past a pump */
  pumped: boolean;
  /** m above datum: the highest of the line since the pump, where that hangs in the source's water */
  top: number | undefined;
  lane: number;
}

/** A branch that meets the others again, and what it added to the line. */
interface Way {
  end: Here;
  first: Count;
  last: Count;
  stretch?: Stretch | undefined;
}

type Count = Record<"segment" | "node" | "pump" | "hole", number>;

/** Of ways that meet, where all come from pumps that hang in the water. */
function highestTop(ways: readonly Way[]): number | undefined {
  const tops = ways.flatMap(({ end: { top } }) => (top === undefined ? [] : [top]));
  return tops.length === ways.length ? Math.max(...tops) : undefined;
}

/** the node a stretch ends at, until the branches are all walked */
const TO_BE_NAMED = -1;

/** m: how far apart in height branches may end that meet again. Common practice, no source. */
const MEETING_TOLERANCE = 0.02;

/** Walks the water's path once and puts down what it meets: segments, nodes, stretches, and all that is wrong. */
export class Walk {
  readonly #line: Line;
  #forked = false;
  readonly diagnostics: Diagnostic[] = [];
  readonly compiled: CompiledLine;

  constructor(line: Line) {
    this.#line = line;
    const { source } = line;
    this.compiled = {
      source,
      intakeNode: 0,
      nodes: [{ elevation: source.intake, distance: 0 }],
      segments: [],
      stretches: [],
      pumps: [],
      outlets: [],
      holes: [],
      places: new Map(),
      passed: new Map(),
      single: false,
    };
  }

  refuse(code: DiagnosticCode, itemId?: string): void {
    this.diagnostics.push(itemId === undefined ? { code } : { code, itemId });
  }

  /** From the source to the last outlet. */
  follow(): void {
    const { source, path } = this.#line;
    const start: Here = {
      node: 0,
      start: 0,
      elevation: source.intake,
      distance: 0,
      joined: undefined,
      pipe: undefined,
      taper: undefined,
      pumped: false,
      top: undefined,
      lane: 0,
    };
    const supply = supplyOf(source);
    if (supply) {
      const piece = { itemId: SUPPLY, kind: "supply", stock: undefined, bore: 1, k: 0 } as const;
      this.#put(start, { ...supply, ...piece });
      this.#closeAt(start, this.#newNode(start), source.kind === "mains");
      this.compiled.intakeNode = start.node;
    }
    const { pumps, outlets, holes } = this.compiled;
    const end = this.#walk(path, start);
    if (end) {
      this.#closeAt(end, this.#newNode(end));
      const last = path.at(-1);
      if (last?.kind !== "split") this.refuse("no-outlet");
      else if (outlets.length > 0) this.refuse("branch-without-outlet", last.id);
      else this.refuse("loop-without-outlet", last.id);
    }
    this.compiled.single =
      !this.#forked && pumps.length <= 1 && outlets.length === 1 && holes.length === 0;
  }

  /** Follows a list of items; gives the place it ends at, or nothing where an outlet ended it. */
  #walk(path: readonly PathItem[], from: Here): Here | undefined {
    let here: Here | undefined = { ...from };
    for (const [index, item] of path.entries()) {
      if (!here) {
        this.refuse("outlet-not-last", path[index - 1]?.id);
        return undefined;
      }
      const { elevation, distance } = here;
      this.compiled.places.set(item.id, { elevation, distance });
      if (item.kind === "pipe" && !findPipeStock(item.stock)) {
        this.refuse("pipe-unknown", item.id);
        continue;
      }
      if (item.kind === "split") here = this.#fork(item, here);
      else {
        this.#place(here, item, path, index);
        if (item.kind === "outlet") here = undefined;
      }
      this.compiled.passed.set(item.id, this.compiled.segments.length);
    }
    return here;
  }

  #place(
    here: Here,
    item: Exclude<PathItem, SplitItem>,
    path: readonly PathItem[],
    index: number,
  ): void {
    switch (item.kind) {
      case "pipe":
        this.#placePipe(here, item);
        break;
      case "fitting":
        this.#placeFitting(here, item, path, index);
        break;
      case "rise":
        here.elevation += item.rise;
        if (here.top !== undefined) here.top = Math.max(here.top, here.elevation);
        break;
      case "pump":
        this.#placePump(here, item);
        break;
      case "orifice":
        this.#placeHole(here, item);
        break;
      case "outlet":
        this.#placeOutlet(here, item);
        break;
    }
  }

  #placePipe(here: Here, { id: itemId, stock: stockId, length, rise, age }: PipeItem): void {
    const stock = findPipeStock(stockId);
    if (!stock) return;
    if (!(length > 0)) this.refuse("pipe-without-length", itemId);
    else if (Math.abs(rise) > length * (1 + 1e-9)) this.refuse("rise-exceeds-length", itemId);
    this.#enter(here, itemId, stock);
    const run = runOf(stock, length, age);
    this.#put(here, { itemId, kind: "pipe", stock, bore: stock.bore, k: 0, run }, rise, length);
  }

  #placePump(here: Here, item: PumpItem): void {
    const { elevation, distance, pumped: fed } = here;
    const inlet = this.#close(here);
    here.node = this.#newNode(here);
    this.compiled.pumps.push({ item, inlet, outlet: here.node, elevation, distance, fed });
    // With no pipe to draw through it hangs in the water itself.
    here.top = this.#line.source.kind === "open" && !here.pipe && !fed ? elevation : undefined;
    here.pumped = true;
    here.joined = undefined;
  }

  #placeHole(here: Here, { id: itemId, purpose, bore }: OrificeItem): void {
    // A hole before the pump lets air in instead of water out.
    if (!this.#isPushed(here)) {
      this.refuse("hole-in-suction", itemId);
      return;
    }
    const { elevation, distance, top } = here;
    const node = this.#close(here);
    const index = this.compiled.segments.length;
    const wet = top !== undefined && { wetFrom: Math.max(top, elevation) };
    const hole = { itemId, purpose, bore, node, index, elevation, distance, ...wet };
    this.compiled.holes.push(hole);
  }

  #placeOutlet(here: Here, item: OutletItem): void {
    const { elevation, distance, pipe } = here;
    const { outlet } = item;
    const { pumps, segments, outlets } = this.compiled;
    const pump = pumps.at(-1);
    const refusal = refusalOf(outlet, pipe?.bore);
    if (refusal) this.refuse(refusal, item.id);
    if (!pipe || (pump?.outlet === here.node && segments.length === here.start)) {
      this.refuse("no-pipe", pump?.item.id);
    } else this.#put(here, { itemId: item.id, stock: pipe, ...wayOut(outlet, pipe.bore) });
    const node = this.#newNode(here);
    this.#closeAt(here, node, receivingWater(outlet) === undefined);
    outlets.push({ item, node, elevation, distance });
  }

  #placeFitting(here: Here, item: FittingItem, path: readonly PathItem[], index: number): void {
    const fitting = findFitting(item.fitting);
    if (!fitting) {
      this.refuse("fitting-unknown", item.id);
      return;
    }
    if (fitting.resistance.kind === "taper") {
      here.taper = { itemId: item.id, angle: fitting.resistance.angle };
      return;
    }
    const stock = sizeOfFitting(path, index) ?? (item.stock ? undefined : here.pipe);
    if (!stock) {
      this.refuse(item.stock ? "pipe-unknown" : "fitting-without-pipe", item.id);
      return;
    }
    if (item.count === 0) return;
    this.#enter(here, item.id, stock);
    const { count, opening = 1 } = item;
    if (item.reversed && fitting.group === "check") this.refuse("check-valve-reversed", item.id);
    this.#put(here, {
      itemId: item.id,
      kind: "fitting",
      stock,
      fitting,
      count,
      opening,
      bore: stock.bore,
      ...fittingLoss({ fitting, count, opening, stock }, this.#line.method.fittings),
      shut: fitting.throttles !== undefined && opening === 0,
    });
  }

  /** Adds a segment where the walk stands, and goes on to its end. */
  #put(here: Here, piece: Piece, rise = 0, length = 0): void {
    const { elevation, distance } = here;
    if (length > 0) {
      here.elevation += rise;
      here.distance += Math.sqrt(Math.max(length * length - rise * rise, 0));
      if (here.top !== undefined) here.top = Math.max(here.top, here.elevation);
    }
    this.compiled.segments.push({
      itemId: piece.itemId,
      kind: piece.kind,
      side: this.#isPushed(here) ? "discharge" : "suction",
      stock: piece.stock,
      fitting: piece.fitting,
      count: piece.count ?? 1,
      opening: piece.opening ?? 1,
      bore: piece.bore,
      k: piece.k,
      run: piece.run,
      emitter: piece.emitter,
      drawdown: piece.drawdown,
      shut: piece.shut ?? false,
      startElevation: elevation,
      endElevation: here.elevation,
      startDistance: distance,
      endDistance: here.distance,
    });
  }

  #fork(item: SplitItem, from: Here): Here | undefined {
    this.#forked = true;
    const node = this.#close(from);
    const ways: Way[] = [];
    let lane = from.lane;
    for (const branch of item.branches) {
      const first = this.#count();
      const end = this.#walk(branch, {
        ...from,
        node,
        start: this.compiled.segments.length,
        joined: undefined,
        lane,
      });
      lane += lanesOf(branch);
      if (!end) continue;
      // Its last stretch ends before the next branch adds segments; to which node is known later.
      const empty = this.compiled.segments.length === end.start;
      if (!empty) this.#closeAt(end, TO_BE_NAMED);
      ways.push({
        end,
        first,
        last: this.#count(),
        ...(!empty && { stretch: this.compiled.stretches.at(-1) }),
      });
    }
    const [only, ...others] = ways;
    if (!only) return undefined;
    const heights = ways.map(({ end }) => end.elevation);
    if (Math.max(...heights) - Math.min(...heights) > MEETING_TOLERANCE) {
      this.refuse("branches-meet-apart", item.id);
    }
    const distance = Math.max(...ways.map(({ end }) => end.distance));
    const here: Here = {
      ...only.end,
      distance,
      joined: undefined,
      pumped: ways.some(({ end }) => end.pumped),
      top: highestTop(ways),
      start: this.compiled.segments.length,
      lane: from.lane,
    };
    if (others.length === 0 && !only.stretch) return here;
    here.node = this.#newNode(here);
    for (const way of ways) {
      if (way.stretch) way.stretch.to = here.node;
      else {
        const { node, lane } = way.end;
        const at = this.compiled.segments.length;
        const open = { oneWay: false, shut: false, lane };
        this.compiled.stretches.push({ from: node, to: here.node, start: at, end: at, ...open });
      }
      this.#drawOutTo(distance, from.distance, way);
    }
    return here;
  }

  /** past a pump or behind a main the water is under pressure */
  #isPushed({ pumped }: Here): boolean {
    return pumped || this.#line.source.kind === "mains";
  }

  #count(): Count {
    const { length: segment } = this.compiled.segments;
    return {
      segment,
      node: this.compiled.nodes.length,
      pump: this.compiled.pumps.length,
      hole: this.compiled.holes.length,
    };
  }

  /** Spreads a branch evenly over the distance to where the branches meet: the drawing is not longer there. */
  #drawOutTo(distance: number, from: number, { end, first, last }: Way): void {
    const span = end.distance - from;
    if (span <= 0 || end.distance === distance) return;
    const place = (d: number) => from + ((d - from) * (distance - from)) / span;
    for (const segment of this.compiled.segments.slice(first.segment, last.segment)) {
      segment.startDistance = place(segment.startDistance);
      segment.endDistance = place(segment.endDistance);
    }
    const placed = [
      ...this.compiled.nodes.slice(first.node, last.node),
      ...this.compiled.pumps.slice(first.pump, last.pump),
      ...this.compiled.holes.slice(first.hole, last.hole),
    ];
    for (const thing of placed) thing.distance = place(thing.distance);
  }

  #newNode({ elevation, distance }: Here): number {
    return this.compiled.nodes.push({ elevation, distance }) - 1;
  }

  /** Ends the open stretch at a node of its own; gives the node the walk stands at. */
  #close(here: Here): number {
    if (this.compiled.segments.length > here.start) this.#closeAt(here, this.#newNode(here));
    return here.node;
  }

  #closeAt(here: Here, to: number, wayOut = false): void {
    const { node: from, start, lane } = here;
    const end = this.compiled.segments.length;
    const own = this.compiled.segments.slice(start, end);
    const oneWay = wayOut || own.some(({ fitting }) => fitting?.group === "check");
    const shut = own.some((segment) => segment.shut);
    this.compiled.stretches.push({ from, to, start, end, oneWay, shut, lane });
    here.node = to;
    here.start = end;
  }

  /** Adds the change of bore between two pipes that meet without a fitting. */
  #enter(here: Here, itemId: string, stock: PipeStock): void {
    const before = here.joined;
    if (before && Math.abs(before.bore / stock.bore - 1) > SAME_BORE) {
      const narrow = before.bore < stock.bore ? before : stock;
      const { taper } = here;
      this.#put(here, {
        itemId: taper?.itemId ?? itemId,
        kind: "bore-change",
        stock: narrow,
        bore: narrow.bore,
        k: taper
          ? taperCoefficient(before.bore, stock.bore, taper.angle)
          : boreChangeCoefficient(before.bore, stock.bore),
      });
      if (taper) this.compiled.passed.set(taper.itemId, this.compiled.segments.length);
    }
    here.taper = undefined;
    here.joined = stock;
    here.pipe = stock;
  }
}

/** How many branches lie side by side on a path where it is widest. */
function lanesOf(path: readonly PathItem[]): number {
  let widest = 1;
  for (const item of path) {
    if (item.kind !== "split") continue;
    widest = Math.max(
      widest,
      item.branches.reduce((sum, branch) => sum + lanesOf(branch), 0),
    );
  }
  return widest;
}

/** What a segment is before it has its place. */
type Piece = Pick<Segment, "itemId" | "kind" | "stock" | "bore" | "k"> &
  Partial<Pick<Segment, "fitting" | "count" | "opening" | "run" | "emitter" | "drawdown" | "shut">>;

/** Bores that differ by less, as a fraction, are one bore. */
const SAME_BORE = 1e-9;

/** What a main or a well takes before its water enters the line. */
function supplyOf(source: Source): Pick<Segment, "emitter" | "drawdown"> | undefined {
  if (source.kind === "mains") {
    return { emitter: { flow: source.openFlow, pressure: source.pressure } };
  }
  return source.kind === "well" ? { drawdown: source.drawdown } : undefined;
}
