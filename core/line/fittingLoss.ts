import { type FittingStock, findFitting } from "../catalogue/fittings.ts";
import { findPipeStock, type PipeAge, type PipeStock, surfaceOf } from "../catalogue/pipes.ts";
import { equivalentLength, lossCoefficient } from "../fitting/resistance.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import type { PipeRun } from "../pipe/darcyWeisbach.ts";
import type { CompiledLine, Segment } from "./compiledLine.ts";
import type { FittingItem, Method, PathItem } from "./path.ts";

/** What fittings in a row take, by K or by the length of pipe they are equivalent to. */
export function fittingLoss(
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

export function runOf(stock: PipeStock, length: number, age?: PipeAge): PipeRun {
  const { roughness, hazenWilliamsC } = age ? surfaceOf(stock, age) : stock;
  return { length, bore: stock.bore, roughness, hazenWilliamsC };
}
