import { type FittingStock, findFitting } from "../catalogue/fittings.ts";
import { findPipeStock, type PipeAge, type PipeStock, surfaceOf } from "../catalogue/pipes.ts";
import {
  boreChangeCoefficient,
  equivalentLength,
  lossCoefficient,
  taperCoefficient,
} from "../fitting/resistance.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import type { PipeRun } from "../pipe/darcyWeisbach.ts";
import { type CompiledLine, type Segment, type Stretch, SUPPLY } from "./compiledLine.ts";
import type { Diagnostic, DiagnosticCode } from "./diagnostic.ts";
import { blockedWays } from "./openWays.ts";
import {
  type FittingItem,
  jetBore,
  type Levels,
  type Line,
  levelsOf,
  type Method,
  type Outlet,
  type PathItem,
  type Source,
  type SplitItem,
} from "./path.ts";

export type Compilation =
  | { kind: "compiled"; line: CompiledLine }
  /** `sketch` is as much of the line as can be drawn, with the place of what is wrong */
  | { kind: "refused"; diagnostics: Diagnostic[]; sketch: CompiledLine };

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
export const MEETING_TOLERANCE = 0.02;

/**
 * Turns the water's path into a network of stretches, or says every reason why it cannot be solved. It needs no
 * pump: a line can be asked what it takes at a flow before one is chosen.
 * Changes of bore between neighbours are added where the path does not spell them out; where the water
 * parts or meets, the fittings on the path say what that takes.
 */
export function compileLine(line: Line): Compilation {
  const diagnostics: Diagnostic[] = [];
  const refuse = (code: DiagnosticCode, itemId?: string) =>
    diagnostics.push(itemId === undefined ? { code } : { code, itemId });
  const { source } = line;
  if (!inOrder(levelsOf(source))) refuse("levels-out-of-order");
  const compiled: CompiledLine = {
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
  const { segments, nodes, stretches, pumps, outlets, holes } = compiled;
  let forked = false;

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
    put(start, { ...supply, itemId: SUPPLY, kind: "supply", stock: undefined, bore: 1, k: 0 });
    closeAt(start, newNode(start), source.kind === "mains");
    compiled.intakeNode = start.node;
  }
  const end = walk(line.path, start);
  if (end) {
    closeAt(end, newNode(end));
    const last = line.path.at(-1);
    if (last?.kind !== "split") refuse("no-outlet");
    else if (outlets.length > 0) refuse("branch-without-outlet", last.id);
    else refuse("loop-without-outlet", last.id);
  }
  diagnostics.push(...blockedWays(compiled));
  compiled.single = !forked && pumps.length <= 1 && outlets.length === 1 && holes.length === 0;
  return diagnostics.length > 0
    ? { kind: "refused", diagnostics, sketch: compiled }
    : { kind: "compiled", line: compiled };

  /** Follows a list of items; gives the place it ends at, or nothing where an outlet ended it. */
  function walk(path: readonly PathItem[], from: Here): Here | undefined {
    let here: Here | undefined = { ...from };
    for (const [index, item] of path.entries()) {
      if (!here) {
        refuse("outlet-not-last", path[index - 1]?.id);
        return undefined;
      }
      const { elevation, distance } = here;
      compiled.places.set(item.id, { elevation, distance });
      switch (item.kind) {
        case "pipe": {
          const stock = findPipeStock(item.stock);
          if (!stock) {
            refuse("pipe-unknown", item.id);
            continue;
          }
          if (!(item.length > 0)) refuse("pipe-without-length", item.id);
          else if (Math.abs(item.rise) > item.length * (1 + 1e-9)) {
            refuse("rise-exceeds-length", item.id);
          }
          enter(here, item.id, stock);
          const run = runOf(stock, item.length, item.age);
          const piece = {
            itemId: item.id,
            kind: "pipe",
            stock,
            bore: stock.bore,
            k: 0,
            run,
          } as const;
          put(here, piece, item.rise, item.length);
          break;
        }
        case "fitting":
          placeFitting(here, item, path, index);
          break;
        case "rise":
          here.elevation += item.rise;
          if (here.top !== undefined) here.top = Math.max(here.top, here.elevation);
          break;
        case "pump": {
          const inlet = close(here);
          const { pumped: fed } = here;
          here.node = newNode(here);
          pumps.push({ item, inlet, outlet: here.node, elevation, distance, fed });
          // With no pipe to draw through it hangs in the water itself.
          here.top = source.kind === "open" && !here.pipe && !fed ? elevation : undefined;
          here.pumped = true;
          here.joined = undefined;
          break;
        }
        case "orifice":
          // A hole before the pump lets air in instead of water out.
          if (!isPushed(here)) refuse("hole-in-suction", item.id);
          else {
            const { id: itemId, purpose, bore } = item;
            const node = close(here);
            const index = segments.length;
            const wet = here.top !== undefined && { wetFrom: Math.max(here.top, elevation) };
            holes.push({ itemId, purpose, bore, node, index, elevation, distance, ...wet });
          }
          break;
        case "split":
          here = fork(item, here);
          break;
        case "outlet": {
          const { outlet } = item;
          const pump = pumps.at(-1);
          if (outlet.type === "submerged" && !inOrder(outlet.level)) {
            refuse("outlet-levels-out-of-order", item.id);
          }
          if (!here.pipe || (pump?.outlet === here.node && segments.length === here.start)) {
            refuse("no-pipe", pump?.item.id);
          } else {
            if (outlet.type === "nozzle" && jetBore(outlet) >= here.pipe.bore) {
              refuse("nozzle-wider-than-pipe", item.id);
            }
            put(here, { itemId: item.id, stock: here.pipe, ...wayOut(outlet, here.pipe) });
          }
          const node = newNode(here);
          closeAt(here, node, outlet.type !== "submerged");
          outlets.push({ item, node, elevation, distance });
          here = undefined;
          break;
        }
      }
      compiled.passed.set(item.id, segments.length);
    }
    return here;
  }

  function placeFitting(here: Here, item: FittingItem, path: readonly PathItem[], index: number) {
    const fitting = findFitting(item.fitting);
    if (!fitting) {
      refuse("fitting-unknown", item.id);
      return;
    }
    if (fitting.resistance.kind === "taper") {
      here.taper = { itemId: item.id, angle: fitting.resistance.angle };
      return;
    }
    const stock = sizeOfFitting(path, index) ?? (item.stock ? undefined : here.pipe);
    if (!stock) {
      refuse(item.stock ? "pipe-unknown" : "fitting-without-pipe", item.id);
      return;
    }
    if (item.count === 0) return;
    enter(here, item.id, stock);
    const { count, opening = 1 } = item;
    if (item.reversed && fitting.group === "check") refuse("check-valve-reversed", item.id);
    put(here, {
      itemId: item.id,
      kind: "fitting",
      stock,
      fitting,
      count,
      opening,
      bore: stock.bore,
      ...fittingLoss({ fitting, count, opening, stock }, line.method.fittings),
      shut: fitting.throttles !== undefined && opening === 0,
    });
  }

  /** Adds a segment where the walk stands, and goes on to its end. */
  function put(here: Here, piece: Piece, rise = 0, length = 0): void {
    const { elevation, distance } = here;
    if (length > 0) {
      here.elevation += rise;
      here.distance += Math.sqrt(Math.max(length * length - rise * rise, 0));
      if (here.top !== undefined) here.top = Math.max(here.top, here.elevation);
    }
    segments.push({
      itemId: piece.itemId,
      kind: piece.kind,
      side: isPushed(here) ? "discharge" : "suction",
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

  function fork(item: SplitItem, from: Here): Here | undefined {
    forked = true;
    const node = close(from);
    const ways: Way[] = [];
    let lane = from.lane;
    for (const branch of item.branches) {
      const first = count();
      const end = walk(branch, { ...from, node, start: segments.length, joined: undefined, lane });
      lane += lanesOf(branch);
      if (!end) continue;
      // Its last stretch ends before the next branch adds segments; to which node is known later.
      const empty = segments.length === end.start;
      if (!empty) closeAt(end, TO_BE_NAMED);
      ways.push({ end, first, last: count(), ...(!empty && { stretch: stretches.at(-1) }) });
    }
    const [only, ...others] = ways;
    if (!only) return undefined;
    const heights = ways.map(({ end }) => end.elevation);
    if (Math.max(...heights) - Math.min(...heights) > MEETING_TOLERANCE) {
      refuse("branches-meet-apart", item.id);
    }
    const distance = Math.max(...ways.map(({ end }) => end.distance));
    const here: Here = {
      ...only.end,
      distance,
      joined: undefined,
      pumped: ways.some(({ end }) => end.pumped),
      top: highestTop(ways),
      start: segments.length,
      lane: from.lane,
    };
    if (others.length === 0 && !only.stretch) return here;
    here.node = newNode(here);
    for (const way of ways) {
      if (way.stretch) way.stretch.to = here.node;
      else {
        const { node, lane } = way.end;
        const at = segments.length;
        const open = { oneWay: false, shut: false, lane };
        stretches.push({ from: node, to: here.node, start: at, end: at, ...open });
      }
      drawOutTo(distance, from.distance, way);
    }
    return here;
  }

  /** past a pump or behind a main the water is under pressure */
  function isPushed({ pumped }: Here): boolean {
    return pumped || source.kind === "mains";
  }

  function count(): Count {
    const { length: segment } = segments;
    return { segment, node: nodes.length, pump: pumps.length, hole: holes.length };
  }

  /** Spreads a branch evenly over the distance to where the branches meet: the drawing is not longer there. */
  function drawOutTo(distance: number, from: number, { end, first, last }: Way): void {
    const span = end.distance - from;
    if (span <= 0 || end.distance === distance) return;
    const place = (d: number) => from + ((d - from) * (distance - from)) / span;
    for (const segment of segments.slice(first.segment, last.segment)) {
      segment.startDistance = place(segment.startDistance);
      segment.endDistance = place(segment.endDistance);
    }
    const placed = [
      ...nodes.slice(first.node, last.node),
      ...pumps.slice(first.pump, last.pump),
      ...holes.slice(first.hole, last.hole),
    ];
    for (const thing of placed) thing.distance = place(thing.distance);
  }

  function newNode({ elevation, distance }: Here): number {
    return nodes.push({ elevation, distance }) - 1;
  }

  /** Ends the open stretch at a node of its own; gives the node the walk stands at. */
  function close(here: Here): number {
    if (segments.length > here.start) closeAt(here, newNode(here));
    return here.node;
  }

  function closeAt(here: Here, to: number, wayOut = false): void {
    const { node: from, start, lane } = here;
    const end = segments.length;
    const own = segments.slice(start, end);
    const oneWay = wayOut || own.some(({ fitting }) => fitting?.group === "check");
    const shut = own.some((segment) => segment.shut);
    stretches.push({ from, to, start, end, oneWay, shut, lane });
    here.node = to;
    here.start = end;
  }

  /** Adds the change of bore between two pipes that meet without a fitting. */
  function enter(here: Here, itemId: string, stock: PipeStock): void {
    const before = here.joined;
    if (before && Math.abs(before.bore / stock.bore - 1) > SAME_BORE) {
      const narrow = before.bore < stock.bore ? before : stock;
      const { taper } = here;
      put(here, {
        itemId: taper?.itemId ?? itemId,
        kind: "bore-change",
        stock: narrow,
        bore: narrow.bore,
        k: taper
          ? taperCoefficient(before.bore, stock.bore, taper.angle)
          : boreChangeCoefficient(before.bore, stock.bore),
      });
      if (taper) compiled.passed.set(taper.itemId, segments.length);
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

/** What fittings in a row take, by K or by the length of pipe they are equivalent to. */
function fittingLoss(
  {
    fitting,
    count,
    opening,
    stock,
  }: Pick<Segment, "count" | "opening"> & { fitting: FittingStock; stock: PipeStock },
  by: Method["fittings"],
): Pick<Segment, "k" | "run"> {
  const byK = by === "coefficient";
  return {
    k: fittingCoefficient(fitting, count, opening, stock.bore, byK),
    run: byK ? undefined : runOf(stock, count * equivalentLength(fitting, stock.bore)),
  };
}

/** A compiled line with the losses of its fittings by one way of reckoning them, all else as it is. */
export function withFittingsBy(line: CompiledLine, by: Method["fittings"]): CompiledLine {
  return {
    ...line,
    segments: line.segments.map((segment) => {
      const { fitting, stock } = segment;
      return fitting && stock
        ? { ...segment, ...fittingLoss({ ...segment, fitting, stock }, by) }
        : segment;
    }),
  };
}

/** K of fittings in a row: the open ones by that school, and what a valve adds as it is shut by either. */
export function fittingCoefficient(
  fitting: FittingStock,
  count: number,
  opening: number,
  bore: number,
  byCoefficient: boolean,
): number {
  const open = byCoefficient ? lossCoefficient(fitting, bore) : 0;
  return count * (open + throttleCoefficient(fitting, bore, opening));
}

/**
 * What the outlet itself takes: the velocity head carried away (K = 1), for a nozzle the pressure that
 * drives the jet, K = 1/Cd² on the velocity in its bore, for an emitter its own pressure and flow.
 */
function wayOut(
  outlet: Outlet,
  { bore }: PipeStock,
): Pick<Segment, "kind" | "bore" | "k" | "emitter"> {
  switch (outlet.type) {
    case "nozzle":
      return { kind: "nozzle", bore: jetBore(outlet), k: 1 / outlet.dischargeCoefficient ** 2 };
    case "emitter": {
      const { flow, pressure } = outlet;
      return { kind: "emitter", bore, k: 0, emitter: { flow, pressure } };
    }
    default:
      return { kind: "exit", bore, k: 1 };
  }
}

/**
 * Size of the fitting at `index` of its list: its own, else that of the pipe before it on the same side of
 * the pump and of any reducer, else of the next pipe after it.
 */
export function sizeOfFitting(path: readonly PathItem[], index: number): PipeStock | undefined {
  const item = path[index];
  if (item?.kind !== "fitting") return undefined;
  if (item.stock) return findPipeStock(item.stock);
  for (const step of [-1, 1]) {
    for (let i = index + step; ; i += step) {
      const neighbour = path[i];
      if (!neighbour || ENDS_A_SIZE.has(neighbour.kind)) break;
      if (neighbour.kind === "pipe") return findPipeStock(neighbour.stock);
      if (neighbour.kind === "fitting" && isReducer(neighbour)) break;
    }
  }
  return undefined;
}

function isReducer({ fitting }: FittingItem): boolean {
  return findFitting(fitting)?.resistance.kind === "taper";
}

const ENDS_A_SIZE: ReadonlySet<PathItem["kind"]> = new Set(["pump", "outlet", "split"]);

function runOf(stock: PipeStock, length: number, age?: PipeAge): PipeRun {
  const { roughness, hazenWilliamsC } = age ? surfaceOf(stock, age) : stock;
  return { length, bore: stock.bore, roughness, hazenWilliamsC };
}

function inOrder({ low, normal, high }: Levels): boolean {
  return low <= normal && normal <= high;
}
