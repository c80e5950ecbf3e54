import { findFitting } from "../catalogue/fittings.ts";
import { findPipeStock, type PipeStock } from "../catalogue/pipes.ts";
import {
  boreChangeCoefficient,
  equivalentLength,
  lossCoefficient,
  taperCoefficient,
} from "../fitting/resistance.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import type { PipeRun } from "../pipe/darcyWeisbach.ts";
import type { CompiledLine, Segment, Side, Stretch } from "./compiledLine.ts";
import type { Finding, FindingCode } from "./diagnostic.ts";
import { blockedWays } from "./openWays.ts";
import type { FittingItem, Levels, Line, Outlet, PathItem, SplitItem } from "./path.ts";

export type Compilation =
  | { kind: "compiled"; line: CompiledLine }
  /** `sketch` is as much of the line as can be drawn, with the place of what is wrong */
  | { kind: "refused"; findings: Finding[]; sketch: CompiledLine };

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
  taper?: { itemId: string; angle: number } | undefined;
  pumped: boolean;
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

/** the node a stretch ends at, until the branches are all walked */
const TO_BE_NAMED = -1;

/** m: how far apart in height branches may end that meet again. Common practice, no source. */
export const MEETING_TOLERANCE = 0.02;

/**
 * Turns the water's path into a network of stretches, or says every reason why it cannot be solved.
 * Changes of bore between neighbours are added where the path does not spell them out; where the water
 * parts or meets, the fittings on the path say what that takes.
 */
export function compileLine(line: Line): Compilation {
  const findings: Finding[] = [];
  const refuse = (code: FindingCode, itemId?: string) =>
    findings.push(itemId === undefined ? { code } : { code, itemId });
  const { source } = line;
  if (!inOrder(source.level)) refuse("levels-out-of-order");
  const compiled: CompiledLine = {
    source,
    nodes: [{ elevation: source.intake, distance: 0 }],
    segments: [],
    stretches: [],
    pumps: [],
    outlets: [],
    holes: [],
    places: new Map(),
    single: false,
  };
  const { segments, nodes, stretches, pumps, outlets, holes } = compiled;
  let forked = false;

  const end = walk(line.path, {
    node: 0,
    start: 0,
    elevation: source.intake,
    distance: 0,
    joined: undefined,
    pipe: undefined,
    pumped: false,
    lane: 0,
  });
  if (end) {
    closeAt(end, newNode(end));
    const last = line.path.at(-1);
    if (last?.kind !== "split") refuse("no-outlet");
    else if (outlets.length > 0) refuse("branch-without-outlet", last.id);
    else refuse("loop-without-outlet", last.id);
  }
  if (pumps.length === 0) refuse("no-pump");
  for (const { item } of pumps) if (item.pump === null) refuse("pump-not-chosen", item.id);
  findings.push(...blockedWays(compiled));
  compiled.single = !forked && pumps.length === 1 && outlets.length === 1 && holes.length === 0;
  return findings.length > 0
    ? { kind: "refused", findings, sketch: compiled }
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
          const run = runOf(stock, item.length);
          const base = { itemId: item.id, kind: "pipe", side: side(here), stock } as const;
          const { bore } = stock;
          segments.push({ ...base, bore, k: 0, run, ...move(here, item.rise, item.length) });
          break;
        }
        case "fitting":
          placeFitting(here, item, path, index);
          break;
        case "rise":
          here.elevation += item.rise;
          break;
        case "pump": {
          const inlet = close(here);
          const { pumped: fed } = here;
          here.node = newNode(here);
          pumps.push({ item, inlet, outlet: here.node, elevation, distance, fed });
          here.pumped = true;
          here.joined = undefined;
          break;
        }
        case "orifice":
          // A hole before the pump lets air in instead of water out.
          if (!here.pumped) refuse("hole-in-suction", item.id);
          else {
            const { id: itemId, purpose, bore } = item;
            const node = close(here);
            const index = segments.length;
            holes.push({ itemId, purpose, bore, node, index, elevation, distance });
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
            if (outlet.type === "nozzle" && outlet.bore >= here.pipe.bore) {
              refuse("nozzle-wider-than-pipe", item.id);
            }
            const base = { itemId: item.id, side: "discharge", stock: here.pipe } as const;
            segments.push({ ...base, ...wayOut(outlet, here.pipe), ...move(here, 0, 0) });
          }
          const node = newNode(here);
          closeAt(here, node, outlet.type !== "submerged");
          outlets.push({ item, node, elevation, distance });
          here = undefined;
          break;
        }
      }
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
    const { bore } = stock;
    const shut = fitting.throttles !== undefined && item.opening === 0;
    if (item.reversed && fitting.group === "check") refuse("check-valve-reversed", item.id);
    const throttled = item.count * throttleCoefficient(fitting, bore, item.opening ?? 1);
    const byK = line.method.fittings === "coefficient";
    const open = byK ? item.count * lossCoefficient(fitting, bore) : 0;
    segments.push({
      itemId: item.id,
      kind: "fitting",
      side: side(here),
      stock,
      fitting,
      bore,
      k: open + throttled,
      ...(!byK && { run: runOf(stock, item.count * equivalentLength(fitting, bore)) }),
      ...(shut && { shut }),
      ...move(here, 0, 0),
    });
  }

  function fork(item: SplitItem, from: Here): Here | undefined {
    forked = true;
    const node = close(from);
    const ways: Way[] = [];
    for (const [lane, branch] of item.branches.entries()) {
      const first = count();
      const end = walk(branch, { ...from, node, start: segments.length, joined: undefined, lane });
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
    if (before && before.bore !== stock.bore) {
      const narrow = before.bore < stock.bore ? before : stock;
      const { taper } = here;
      segments.push({
        itemId: taper?.itemId ?? itemId,
        kind: "bore-change",
        side: side(here),
        stock: narrow,
        bore: narrow.bore,
        k: taper
          ? taperCoefficient(before.bore, stock.bore, taper.angle)
          : boreChangeCoefficient(before.bore, stock.bore),
        ...move(here, 0, 0),
      });
    }
    here.taper = undefined;
    here.joined = stock;
    here.pipe = stock;
  }
}

function side({ pumped }: Here): Side {
  return pumped ? "discharge" : "suction";
}

/** Goes a length of pipe further, and says from where to where. */
function move(here: Here, rise: number, length: number) {
  const start = { startElevation: here.elevation, startDistance: here.distance };
  here.elevation += rise;
  here.distance += Math.sqrt(Math.max(length * length - rise * rise, 0));
  return { ...start, endElevation: here.elevation, endDistance: here.distance };
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
      return { kind: "nozzle", bore: outlet.bore, k: 1 / outlet.dischargeCoefficient ** 2 };
    case "emitter": {
      const { flow, pressure } = outlet;
      return { kind: "emitter", bore, k: 0, emitter: { flow, pressure } };
    }
    default:
      return { kind: "exit", bore, k: 1 };
  }
}

/**
 * Size of the fitting at `index` of its list: its own, else the pipe before it on the same side of the
 * pump, else the next pipe after it.
 */
export function sizeOfFitting(path: readonly PathItem[], index: number): PipeStock | undefined {
  const item = path[index];
  if (item?.kind !== "fitting") return undefined;
  if (item.stock) return findPipeStock(item.stock);
  for (const step of [-1, 1]) {
    for (let i = index + step; ; i += step) {
      const neighbour = path[i];
      if (!neighbour || ENDS_A_SIZE.has(neighbour.kind)) break;
      const named =
        neighbour.kind === "pipe" || (neighbour.kind === "fitting" && neighbour.stock)
          ? neighbour.stock
          : undefined;
      if (named) return findPipeStock(named);
    }
  }
  return undefined;
}

const ENDS_A_SIZE: ReadonlySet<PathItem["kind"]> = new Set(["pump", "outlet", "split"]);

function runOf(stock: PipeStock, length: number): PipeRun {
  const { bore, roughness, hazenWilliamsC } = stock;
  return { length, bore, roughness, hazenWilliamsC };
}

function inOrder({ low, normal, high }: Levels): boolean {
  return low <= normal && normal <= high;
}
