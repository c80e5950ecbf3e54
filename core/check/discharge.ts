import { pressureRatingAt } from "../catalogue/pipes.ts";
import { type ShutHead, shutHeads } from "../hydraulics/shutHeads.ts";
import type { CaseSolution, Running, Solution } from "../hydraulics/solveLine.ts";
import { joukowskySurge, waveSpeed } from "../hydraulics/surge.ts";
import type { Line } from "../line/path.ts";
import { unguardedOutlets } from "../line/profile.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { LIMITS, PRACTICE, type Verdict } from "./verdict.ts";

/** Speeds in suction and discharge against their windows, and what keeps check valves open. */
export function velocityVerdicts(
  solution: Solution,
  solved: CaseSolution,
  running: Running,
): Verdict[] {
  const { levelCase } = solved;
  const verdicts: Verdict[] = [];
  const { segments } = solution.line;
  const velocityIn = (index: number, bore: number) =>
    meanVelocity(Math.abs(running.flows.bySegment[index] as number), bore);
  const speeds = segments.flatMap(({ kind, itemId, side, bore }, index) =>
    kind === "pipe" ? [{ itemId, side, velocity: velocityIn(index, bore) }] : [],
  );
  const suction = speeds.filter((s) => s.side === "suction");
  const discharge = speeds.filter((s) => s.side === "discharge");
  const base = { levelCase, quantity: "velocity", source: PRACTICE } as const;

  const fastestSuction = extreme(suction, (a, b) => a > b);
  if (fastestSuction) {
    const { itemId, velocity: value } = fastestSuction;
    const level =
      value > LIMITS.suctionVelocityStop
        ? "stop"
        : value > LIMITS.suctionVelocity
          ? "watch"
          : "good";
    const limit = LIMITS.suctionVelocity;
    verdicts.push({ ...base, code: "suction-velocity", level, itemId, value, limit });
  }
  const fastest = extreme(discharge, (a, b) => a > b);
  const slowest = extreme(discharge, (a, b) => a < b);
  if (fastest && slowest) {
    const { dischargeVelocityHigh: high, dischargeVelocityLow: low } = LIMITS;
    const tooFast = fastest.velocity > high;
    const tooSlow = slowest.velocity < low;
    if (tooFast) {
      const { itemId, velocity: value } = fastest;
      const code = "discharge-velocity-high";
      verdicts.push({ ...base, code, level: "watch", itemId, value, limit: high });
    }
    if (tooSlow) {
      const { itemId, velocity: value } = slowest;
      const code = "discharge-velocity-low";
      verdicts.push({ ...base, code, level: "watch", itemId, value, limit: low });
    }
    if (!tooFast && !tooSlow) {
      const { itemId, velocity: value } = fastest;
      const extra = { slowest: slowest.velocity, low };
      const code = "discharge-velocity";
      verdicts.push({ ...base, code, level: "good", itemId, value, limit: high, extra });
    }
  }
  for (const [index, { fitting, itemId, bore }] of segments.entries()) {
    const limit = fitting?.opensFullyAt;
    const value = velocityIn(index, bore);
    // Nothing flutters where nothing runs.
    if (limit === undefined || value >= limit || value === 0) continue;
    verdicts.push({
      ...base,
      code: "check-valve-flutters",
      level: "watch",
      itemId,
      value,
      limit,
      source: "Crane TP 410, from memory",
    });
  }
  return verdicts;
}

function extreme<T extends { velocity: number }>(
  items: readonly T[],
  beats: (a: number, b: number) => boolean,
): T | undefined {
  return items.reduce<T | undefined>(
    (best, item) => (best && !beats(item.velocity, best.velocity) ? best : item),
    undefined,
  );
}

/**
 * Pressure in every discharge pipe with the outlets shut and the source at its highest, against the rating
 * at the water's temperature. Pumps in series add up; of pumps side by side the strongest counts.
 */
export function pressureVerdicts(solution: Solution, line: Line): Verdict[] {
  const { line: compiled, water } = solution;
  const base = { levelCase: "high", quantity: "pressure", source: "" } as const;
  const curves = solution.pumps.map(({ curve }) => curve);
  const shut = shutHeads(compiled, curves, "high", water);
  return compiled.stretches.flatMap(({ from, start, end }) =>
    compiled.segments.slice(start, end).flatMap((segment): Verdict[] => {
      if (segment.kind !== "pipe" || segment.side !== "discharge") return [];
      const { itemId, stock } = segment;
      const lowest = Math.min(segment.startElevation, segment.endElevation);
      const { head, published } = shut[from] as ShutHead;
      const value = (head - lowest) * water.density * GRAVITY;
      const limit = pressureRatingAt(stock, line.site.waterTemperature);
      const { source } = stock;
      if (limit === undefined) {
        const code = "pressure-rating-unknown";
        // Gravity pipe has no business under pressure; other pipe may be rated by its joints.
        const level = stock.family === "thin-drain" ? "stop" : "watch";
        return [{ ...base, code, level, itemId, value, source }];
      }
      // Where no shut-off head is published the true pressure is higher than this.
      const close = value > 0.9 * limit || !published;
      const level = value > limit ? "stop" : close ? "watch" : "good";
      const extra = { shutoffUnknown: published ? 0 : 1 };
      return [{ ...base, code: "pressure-rating", level, itemId, value, limit, extra, source }];
    }),
  );
}

/** Running pressure and a sudden stop together against the rating, pipe by pipe. */
export function surgeVerdicts(
  solution: Solution,
  line: Line,
  { levelCase }: CaseSolution,
  running: Running,
): Verdict[] {
  const { water } = solution;
  const pumpHead = Math.max(
    ...solution.line.pumps.map(({ outlet }) => running.flows.nodeHeads[outlet] as number),
  );
  return solution.line.segments.flatMap((segment, index): Verdict[] => {
    if (segment.kind !== "pipe" || segment.side !== "discharge") return [];
    const { itemId, stock, bore } = segment;
    const speed = waveSpeed(stock, water);
    const limit = pressureRatingAt(stock, line.site.waterTemperature);
    if (speed === undefined || limit === undefined) return [];
    const velocity = meanVelocity(Math.abs(running.flows.bySegment[index] as number), bore);
    const rise = joukowskySurge(water.density, speed, velocity);
    const lowest = Math.min(segment.startElevation, segment.endElevation);
    const value = (pumpHead - lowest) * water.density * GRAVITY + rise;
    const level = value > limit ? "watch" : "good";
    const extra = { rise, speed };
    const source = "Joukowsky Δp = ρ a Δv, stopped faster than the wave runs there and back";
    return [
      {
        code: "surge",
        level,
        levelCase,
        itemId,
        quantity: "pressure",
        value,
        limit,
        extra,
        source,
      },
    ];
  });
}

/** Where the discharge falls below air pressure, lay-flat collapses and joints draw air. */
export function dischargePressureVerdict({ levelCase }: CaseSolution, running: Running): Verdict[] {
  const points = running.headLine.filter((point) => point.side === "discharge");
  const [first, ...others] = points;
  if (!first) return [];
  const lowest = others.reduce(
    (low, point) => (point.pressureHead < low.pressureHead ? point : low),
    first,
  );
  if (lowest.pressureHead > -0.1) return [];
  return [
    {
      code: "discharge-under-suction",
      level: "watch",
      levelCase,
      itemId: lowest.itemId,
      quantity: "head",
      value: lowest.pressureHead,
      source: "Head line against the pipe's height",
    },
  ];
}

/** An outlet that high water covers, with nothing to hold it, lets silt and the flood back in. */
export function floodedOutletVerdicts({ line }: Solution): Verdict[] {
  const open = new Set(line.pumps.flatMap((pump) => [...unguardedOutlets(line, pump)]));
  return line.outlets.flatMap(({ item, node, elevation }): Verdict[] => {
    const { outlet } = item;
    if (outlet.type !== "submerged" || elevation >= outlet.level.high) return [];
    if (!open.has(node)) return [];
    return [
      {
        code: "outlet-floods",
        level: "watch",
        levelCase: "high",
        itemId: item.id,
        quantity: "head",
        value: elevation,
        limit: outlet.level.high,
        source: PRACTICE,
      },
    ];
  });
}
