import { pressureRatingAt } from "../catalogue/pipes.ts";
import { WATER_LEVELS } from "../fluid/levels.ts";
import type { PumpState } from "../hydraulics/boundary.ts";
import { pressureHead } from "../hydraulics/boundary.ts";
import { type ShutHead, shutHeads } from "../hydraulics/shutHeads.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { beforeFork, type Segment } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import { segmentsInWater } from "../line/profile.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { type PumpCurve, pumpCurve } from "../pump/curve.ts";
import { headFactorUncertainty } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { flowAtHead } from "./acceptance.ts";

/** How far the discharge of a pump may be throttled for a test. */
export type Throttling =
  /** down to shut-off: Pa there on what is nearest to its rating, and that rating */
  | { kind: "to-shut"; tightest?: { itemId: string; pressure: number; rating: number } }
  /** a positive-displacement pump builds up pressure until something gives: never */
  | { kind: "never" }
  /** nobody knows what it makes shut off, or what a pipe on the way bears */
  | { kind: "unknown"; why: "shutoff" }
  | { kind: "unknown"; why: "rating"; itemId: string }
  /**
   * only while at least so much runs, m³/s: below it the item would feel more than its rating in Pa. `atPort`: Pa at
   * the pump's port when it does
   */
  | {
      kind: "down-to";
      flow: number;
      atPort: number;
      itemId: string;
      pressure: number;
      rating: number;
    };

/**
 * How far a discharge may be throttled at its valve, or at its end where it has none: not past the rating of any pipe
 * or hose on the way. The pressure is taken at its worst: the pump as strong as its tolerance lets it be, its water at
 * its highest, and the water that stands round a pipe at its lowest.
 */
export function throttling(on: LineModel, at: number, temperature: number): Throttling {
  const { line, boundaries, states, water, pumps } = on;
  const placed = line.pumps[at];
  const own = pumps[at];
  if (!placed || !own) return { kind: "unknown", why: "shutoff" };
  const { pump } = own;
  if (pump.family === "positive-displacement") return { kind: "never" };
  const { head: more } = headFactorUncertainty(pump);
  const strongest = pumpCurve(pump, placed.item.speedRatio ?? 1, { headFactor: 1 + more });
  if (strongest.firstFlow > 0) return { kind: "unknown", why: "shutoff" };

  const alone = states.map(
    (_, i): PumpState => (i === at ? { kind: "running", curve: strongest } : { kind: "stopped" }),
  );
  const highest = WATER_LEVELS.map(
    (level) => shutHeads(line, boundaries[level], alone)[placed.outlet],
  )
    .filter((shut): shut is ShutHead => shut !== undefined)
    .reduce((most, shut) => Math.max(most, shut.head), Number.NEGATIVE_INFINITY);
  const outside = Math.min(...Object.values(levelsOf(line.source)));
  const wet = segmentsInWater(line, outside);
  const path = beforeFork(line, placed);
  const valve = path.findIndex((i) => (line.segments[i] as Segment).fitting?.throttles);
  // Without a valve on its own way the line is shut somewhere past it: then all of the discharge feels it.
  const before =
    valve < 0
      ? line.segments.flatMap(({ side }, i) => (side === "discharge" ? [i] : []))
      : path.slice(0, valve);

  let tightest: { itemId: string; pressure: number; rating: number; felt: number } | undefined;
  for (const i of before) {
    const { stock, kind, itemId, startElevation, endElevation } = line.segments[i] as Segment;
    if (kind !== "pipe" || !stock) continue;
    const rating = pressureRatingAt(stock, temperature);
    if (rating === undefined) return { kind: "unknown", why: "rating", itemId };
    const bottom = Math.min(startElevation, endElevation);
    const felt = wet.has(i) ? Math.max(bottom, outside) : bottom;
    const pressure = (highest - felt) * water.density * GRAVITY;
    if (!tightest || pressure / rating > tightest.pressure / tightest.rating) {
      tightest = { itemId, pressure, rating, felt };
    }
  }
  if (!tightest) return { kind: "to-shut" };
  const { itemId, pressure, rating, felt } = tightest;
  if (pressure <= rating) return { kind: "to-shut", tightest: { itemId, pressure, rating } };
  // The pump's head at which that pipe feels just its rating.
  const head = strongest.peak.head - (highest - felt - pressureHead(rating, water));
  const flow = flowAtHead(strongest, head);
  if (typeof flow !== "number") return { kind: "never" };
  const atPort = rating + (felt - placed.elevation) * water.density * GRAVITY;
  return {
    kind: "down-to",
    flow,
    atPort,
    itemId,
    pressure,
    rating,
  };
}

/** Points a sweep takes, the open one and the last among them. */
export const SWEEP_POINTS = 5;

/** s the discharge is shut for at most: the water in the casing boils otherwise. Common practice, no source. */
export const SHUT_SECONDS = 30;

/** Where the next reading of a sweep is best taken. */
export type NextPoint =
  | { kind: "open" }
  /** m³/s and m of head by the published curve */
  | { kind: "throttle"; flow: number; head: number }
  | { kind: "shut"; head: number }
  | { kind: "done" };

/**
 * The next point of a sweep: the open one first, then where the curve is longest without a reading, shut-off last.
 * Lengths are taken on the curve drawn as high as it is wide, so that its flat part gets its share.
 * @param taken flows through the pump in m³/s; `openFlow` that with the valve open
 */
export function nextPoint(
  curve: PumpCurve,
  taken: readonly number[],
  openFlow: number | undefined,
  allowed: Throttling,
): NextPoint {
  if (openFlow === undefined) return { kind: "open" };
  if (allowed.kind === "never") return { kind: "done" };
  const most = Math.min(openFlow, curve.lastFlow);
  const toShut = allowed.kind === "to-shut";
  const least = toShut ? 0 : allowed.kind === "down-to" ? allowed.flow : HALF_WAY * most;
  if (least >= most) return { kind: "done" };
  const steps = 100;
  const flows = Array.from({ length: steps + 1 }, (_, i) => least + ((most - least) * i) / steps);
  const heads = flows.map((flow) => evaluate(curve.head, Math.max(flow, curve.firstFlow)));
  const span = Math.max(...heads) - Math.min(...heads) || 1;
  const along = [0];
  for (let i = 1; i <= steps; i++) {
    const rise = ((heads[i] as number) - (heads[i - 1] as number)) / span;
    along.push((along[i - 1] as number) + Math.hypot(1 / steps, rise));
  }
  const length = along.at(-1) as number;
  const placeOf = (flow: number) => {
    const i = Math.round(((flow - least) / (most - least)) * steps);
    return along[Math.min(Math.max(i, 0), steps)] as number;
  };
  const read = taken.map(placeOf);
  const wanted = Array.from(
    { length: SWEEP_POINTS },
    (_, i) => length * (1 - i / (SWEEP_POINTS - 1)),
  );
  const near = (length / (SWEEP_POINTS - 1)) * NEAR;
  const next = wanted.find((place) => !read.some((own) => Math.abs(own - place) < near));
  if (next === undefined) return { kind: "done" };
  const i = along.findIndex((place) => place >= next - 1e-9);
  const flow = flows[i] as number;
  const head = heads[i] as number;
  return toShut && i === 0 ? { kind: "shut", head } : { kind: "throttle", flow, head };
}

/** Part of the way between two points within which a reading counts for one of them. */
const NEAR = 0.5;
/** Part of the open flow a test stays above where it is not known how much the line bears. */
const HALF_WAY = 0.5;
