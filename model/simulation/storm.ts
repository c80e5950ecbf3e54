import type { OverTimeDocument } from "#contract/documents/job.ts";

/** Inflow in m³/s in pieces: from a time on, `inflow` and what it changes by each second. */
export interface Piece {
  from: number;
  inflow: number;
  slope: number;
}

type Storm = NonNullable<OverTimeDocument["storm"]>;

/** Pieces of an hour that an alternating storm is made of: at the most, and s of the shortest. */
const MOST_BLOCKS = 96;
const SHORTEST_BLOCK = 300;

/**
 * A storm as inflow from an area that all of its rain runs off of.
 *
 * Block: even from start to end. Triangle: rising to twice the mean in the middle. Alternating blocks: the depth that
 * falls within any time about the middle follows P = hardest hour × (t / 1 h)ⁿ, so that the hardest hour of the storm
 * is the one typed (alternating block method: V. T. Chow, D. R. Maidment, L. W. Mays, Applied Hydrology (1988),
 * section 14.4, from memory; the power law is common practice, no source).
 * @param area m², of which all rain runs off
 * @param hardestHour m of rain in the hardest hour; for alternating blocks only
 */
export function stormPieces(storm: Storm, area: number, hardestHour?: number): Piece[] {
  const { depth, duration, start = 0 } = storm;
  const end = { from: start + duration, inflow: 0, slope: 0 };
  const mean = (area * depth) / duration;
  if (storm.kind === "block") return [{ from: start, inflow: mean, slope: 0 }, end];
  if (storm.kind === "triangle") {
    const half = duration / 2;
    const slope = (2 * mean) / half;
    return [
      { from: start, inflow: 0, slope },
      { from: start + half, inflow: 2 * mean, slope: -slope },
      end,
    ];
  }
  const count = Math.min(Math.max(Math.floor(duration / SHORTEST_BLOCK), 2), MOST_BLOCKS);
  const step = duration / count;
  const exponent = powerOf(storm, hardestHour);
  const within = (time: number) => depth * (time / duration) ** exponent;
  const falling = Array.from(
    { length: count },
    (_, i) => within((i + 1) * step) - within(i * step),
  );
  // The hardest in the middle, the others by turns after and before it.
  const order = new Array<number>(count);
  const middle = Math.floor((count - 1) / 2);
  for (const [i, rain] of falling.entries()) {
    const away = Math.ceil(i / 2) * (i % 2 === 1 ? 1 : -1);
    order[middle + away] = rain;
  }
  return [
    ...order.map((rain, i) => ({
      from: start + i * step,
      inflow: (area * rain) / step,
      slope: 0,
    })),
    end,
  ];
}

/**
 * A storm to begin with: where the rain of the hardest hour was typed, that hour; of alternating blocks, which fall for
 * longer, as much in two hours as its power law makes of it.
 */
export function firstStorm(
  kind: Storm["kind"],
  hardestHour: number | undefined,
): Pick<Storm, "depth" | "duration" | "start"> {
  const start = 3600;
  if (hardestHour === undefined || hardestHour <= 0) return { depth: 0.03, duration: 7200, start };
  return kind === "alternating"
    ? { depth: hardestHour * 2 ** USUAL_POWER, duration: 7200, start }
    : { depth: hardestHour, duration: 3600, start };
}

/** Where no hardest hour is known. Common practice, no source. */
export const USUAL_POWER = 0.4;

/** How the rain of a time goes with the time: 1 is even, towards 0 it falls all at once. */
function powerOf({ depth, duration }: Storm, hardestHour: number | undefined): number {
  if (!hardestHour || duration <= 3600) return USUAL_POWER;
  return Math.min(Math.max(Math.log(depth / hardestHour) / Math.log(duration / 3600), 0.05), 1);
}

/** Rows of a table as pieces: each flow stands until the next. */
export const tablePieces = (rows: NonNullable<OverTimeDocument["hyetograph"]>): Piece[] =>
  rows.map(({ from, inflow }) => ({ from, inflow, slope: 0 }));

/** Inflow at a time, 0 before the first piece. Asked at rising times it does not search. */
export function inflowOf(pieces: readonly Piece[]): (time: number) => number {
  let at = 0;
  return (time) => {
    if (pieces.length === 0) return 0;
    while (at > 0 && (pieces[at] as Piece).from > time) at--;
    while (at + 1 < pieces.length && (pieces[at + 1] as Piece).from <= time) at++;
    const { from, inflow, slope } = pieces[at] as Piece;
    return time < from ? 0 : inflow + slope * (time - from);
  };
}
