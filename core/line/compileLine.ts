import { boreChangeCoefficient, equivalentLength, lossCoefficient } from "../fitting/resistance.ts";
import { type FittingStock, findFitting } from "../fitting/stock.ts";
import type { PipeRun } from "../pipe/darcyWeisbach.ts";
import { findPipeStock, type PipeStock } from "../pipe/stock.ts";
import type { Finding, FindingCode } from "./finding.ts";
import type { Levels, Line, Outlet, PathItem, PumpItem } from "./path.ts";

export type Side = "suction" | "discharge";

/** One thing on the path that takes head, with everything its loss needs. */
export interface Segment {
  /** the item it came from; a change of bore belongs to the item that brings it */
  itemId: string;
  kind: "pipe" | "fitting" | "bore-change" | "exit" | "nozzle";
  side: Side;
  stock: PipeStock;
  fitting?: FittingStock;
  /** smallest bore the water meets here, m */
  bore: number;
  /** K on the velocity in `bore`; zero for a pipe */
  k: number;
  /** straight run of a pipe, or the equivalent run of a fitting in the equivalent-length school */
  run?: PipeRun;
  /** m above datum */
  startElevation: number;
  endElevation: number;
  /** m, horizontally from the source */
  startDistance: number;
  endDistance: number;
}

/** A hole in the discharge: water leaves it into the open. */
export interface Hole {
  itemId: string;
  purpose: "vent-hole" | "leak";
  /** m */
  bore: number;
  /** number of segments before it */
  index: number;
  /** m above datum */
  elevation: number;
}

/** A single path from source to outlet, ready to be solved. */
export interface CompiledLine {
  segments: Segment[];
  /** number of segments before the pump */
  pumpIndex: number;
  pumpItem: PumpItem;
  /** along the discharge, in order */
  holes: Hole[];
  intakeElevation: number;
  pumpElevation: number;
  outlet: Outlet;
  outletItemId: string;
  outletElevation: number;
  source: Levels;
}

export type Compilation =
  | { kind: "compiled"; line: CompiledLine }
  | { kind: "refused"; findings: Finding[] };

/**
 * Turns the water's path into segments, or says every reason why it cannot be solved. Changes of bore
 * between neighbours are added where the path does not spell them out.
 */
export function compileLine(line: Line): Compilation {
  const findings: Finding[] = [];
  const refuse = (code: FindingCode, itemId?: string) =>
    findings.push(itemId === undefined ? { code } : { code, itemId });

  const { level, intake } = line.source;
  if (!inOrder(level)) refuse("levels-out-of-order");
  const segments: Segment[] = [];
  const pumps: { item: PumpItem; index: number; elevation: number }[] = [];
  const outlets: Extract<PathItem, { kind: "outlet" }>[] = [];
  const holes: Hole[] = [];
  let elevation = intake;
  let distance = 0;
  let pipeHere: PipeStock | undefined;

  const place = (rise: number, length: number) => {
    const start = { startElevation: elevation, startDistance: distance };
    elevation += rise;
    distance += Math.sqrt(Math.max(length * length - rise * rise, 0));
    return { ...start, endElevation: elevation, endDistance: distance };
  };
  const side = (): Side => (pumps.length === 0 ? "suction" : "discharge");
  const enter = (itemId: string, stock: PipeStock) => {
    if (pipeHere && pipeHere.bore !== stock.bore) {
      const [from, to] = [pipeHere.bore, stock.bore];
      const narrow = from < to ? pipeHere : stock;
      segments.push({
        itemId,
        kind: "bore-change",
        side: side(),
        stock: narrow,
        bore: narrow.bore,
        k: boreChangeCoefficient(from, to),
        ...place(0, 0),
      });
    }
    pipeHere = stock;
  };

  for (const [index, item] of line.path.entries()) {
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
        enter(item.id, stock);
        const run = runOf(stock, item.length);
        const { bore } = stock;
        segments.push({
          itemId: item.id,
          kind: "pipe",
          side: side(),
          stock,
          bore,
          k: 0,
          run,
          ...place(item.rise, item.length),
        });
        break;
      }
      case "fitting": {
        const fitting = findFitting(item.fitting);
        if (!fitting) {
          refuse("fitting-unknown", item.id);
          continue;
        }
        const stock = sizeOfFitting(line.path, index);
        if (!stock) {
          refuse(item.stock ? "pipe-unknown" : "fitting-without-pipe", item.id);
          continue;
        }
        if (item.count === 0) continue;
        enter(item.id, stock);
        const { bore } = stock;
        const base = { itemId: item.id, side: side(), stock, fitting, bore, ...place(0, 0) };
        segments.push(
          line.method.fittings === "coefficient"
            ? { ...base, kind: "fitting", k: item.count * lossCoefficient(fitting, bore) }
            : {
                ...base,
                kind: "fitting",
                k: 0,
                run: runOf(stock, item.count * equivalentLength(fitting, bore)),
              },
        );
        break;
      }
      case "rise":
        elevation += item.rise;
        break;
      case "pump":
        pumps.push({ item, index: segments.length, elevation });
        pipeHere = undefined;
        break;
      case "outlet":
        outlets.push(item);
        if (index !== line.path.length - 1) refuse("outlet-not-last", item.id);
        break;
      case "split":
        refuse("split-not-solved", item.id);
        break;
      case "orifice":
        // A hole before the pump lets air in instead of water out.
        if (pumps.length === 0) refuse("hole-in-suction", item.id);
        else {
          const { id: itemId, purpose, bore } = item;
          holes.push({ itemId, purpose, bore, index: segments.length, elevation });
        }
        break;
    }
  }

  const [pump, secondPump] = pumps;
  const [outletItem, secondOutlet] = outlets;
  if (!pump) refuse("no-pump");
  else if (pump.item.pump === null) refuse("pump-not-chosen", pump.item.id);
  if (secondPump) refuse("several-pumps", secondPump.item.id);
  if (!outletItem) refuse("no-outlet");
  if (secondOutlet) refuse("several-outlets", secondOutlet.id);
  const last = segments.at(-1);
  if (!last || (pump && segments.length === pump.index)) refuse("no-pipe", pump?.item.id);
  if (outletItem?.outlet.type === "submerged" && !inOrder(outletItem.outlet.level)) {
    refuse("outlet-levels-out-of-order", outletItem.id);
  }
  if (outletItem?.outlet.type === "nozzle" && last && outletItem.outlet.bore >= last.stock.bore) {
    refuse("nozzle-wider-than-pipe", outletItem.id);
  }
  if (findings.length > 0 || !pump || !outletItem || !last) return { kind: "refused", findings };

  segments.push(endOfLine(outletItem.outlet, outletItem.id, last.stock, place(0, 0)));
  return {
    kind: "compiled",
    line: {
      segments,
      pumpIndex: pump.index,
      pumpItem: pump.item,
      holes,
      intakeElevation: intake,
      pumpElevation: pump.elevation,
      outlet: outletItem.outlet,
      outletItemId: outletItem.id,
      outletElevation: elevation,
      source: level,
    },
  };
}

/**
 * What the outlet itself takes: the velocity head carried away (K = 1), or for a nozzle the pressure
 * that drives the jet, K = 1/Cd² on the velocity in its bore.
 */
function endOfLine(
  outlet: Outlet,
  itemId: string,
  stock: PipeStock,
  where: Pick<Segment, "startElevation" | "endElevation" | "startDistance" | "endDistance">,
): Segment {
  const base = { itemId, side: "discharge", stock, ...where } as const;
  return outlet.type === "nozzle"
    ? { ...base, kind: "nozzle", bore: outlet.bore, k: 1 / outlet.dischargeCoefficient ** 2 }
    : { ...base, kind: "exit", bore: stock.bore, k: 1 };
}

/**
 * Size of the fitting at `index`: its own, else the pipe before it on the same side of the pump, else
 * the next pipe after it.
 */
export function sizeOfFitting(path: readonly PathItem[], index: number): PipeStock | undefined {
  const item = path[index];
  if (item?.kind !== "fitting") return undefined;
  if (item.stock) return findPipeStock(item.stock);
  for (const step of [-1, 1]) {
    for (let i = index + step; ; i += step) {
      const neighbour = path[i];
      if (!neighbour || neighbour.kind === "pump" || neighbour.kind === "outlet") break;
      const named =
        neighbour.kind === "pipe" || (neighbour.kind === "fitting" && neighbour.stock)
          ? neighbour.stock
          : undefined;
      if (named) return findPipeStock(named);
    }
  }
  return undefined;
}

function runOf(stock: PipeStock, length: number): PipeRun {
  const { bore, roughness, hazenWilliamsC } = stock;
  return { length, bore, roughness, hazenWilliamsC };
}

function inOrder({ low, normal, high }: Levels): boolean {
  return low <= normal && normal <= high;
}
