import { FAMILIES, type PipeStock, pressureRatingAt } from "../catalogue/pipes.ts";
import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import { derive, deriveOver, formula, sign, term } from "../formula/formula.ts";
import {
  DIFFERENCE,
  JOUKOWSKY,
  STATIC_PRESSURE,
  SUM_OF_HEADS,
  VELOCITY,
  WAVE_SPEED,
} from "../formula/laws.ts";
import { type TubeHeads, tubeHeads } from "../hydraulics/headLine.ts";
import type { SteadyState } from "../hydraulics/hydraulicModel.ts";
import { segmentLoss } from "../hydraulics/resistance.ts";
import { type ShutHead, shutHeads } from "../hydraulics/shutHeads.ts";
import type { Running } from "../hydraulics/solveLine.ts";
import { BULK_MODULUS, joukowskySurge, waveSpeed } from "../hydraulics/surge.ts";
import { type CompiledLine, type Segment, type Stretch, suctionOf } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import { segmentsInWater, unguardedOutlets } from "../line/profile.ts";
import { receivingWater } from "../outlet/outlets.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { type HazenWilliamsConcern, hazenWilliamsConcerns } from "../pipe/hazenWilliams.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  type CheckContext,
  check,
  type Found,
  LIMITS,
  lessIsWorse,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  PRACTICE,
  WORTH_SAYING,
  whileRunning,
} from "./check.ts";
import { type TooFast, withSlowerSize } from "./slowerSize.ts";
import { pointStep, velocityOf } from "./suction.ts";

/** What the discharge carries and holds. */

interface Speed {
  itemId: string;
  velocity: number;
}

/** Fastest and slowest discharge pipe while the line runs. */
function speeds({ solution }: CheckContext, { state }: Running) {
  let fastest: Speed | undefined;
  let slowest: Speed | undefined;
  for (const [i, { kind, side, itemId, bore }] of solution.line.segments.entries()) {
    if (kind !== "pipe" || side !== "discharge") continue;
    const flow = Math.abs(state.bySegment[i] as number);
    // Where nothing runs, another check says why.
    if (flow <= WORTH_SAYING) continue;
    const velocity = meanVelocity(flow, bore);
    if (!fastest || velocity > fastest.velocity) fastest = { itemId, velocity };
    if (!slowest || velocity < slowest.velocity) slowest = { itemId, velocity };
  }
  return fastest && slowest ? { fastest, slowest } : undefined;
}

export const dischargeVelocityHigh = check<TooFast>({
  quantity: "velocity",
  each: "line",
  find: (context) =>
    whileRunning(context, (running, { at }) => {
      const found = speeds(context, running)?.fastest;
      const limit = LIMITS.dischargeVelocityHigh;
      if (!found || found.velocity <= limit) return [];
      const { itemId, velocity: value } = found;
      return [{ severity: "watch", at, itemId, value, limit, source: PRACTICE, facts: {} }];
    }),
  rank: moreIsWorse,
  complete: withSlowerSize,
  derive: velocityOf,
});

export const dischargeVelocityLow = check<NoFacts>({
  quantity: "velocity",
  each: "line",
  find: (context) =>
    whileRunning(context, (running, { at }) => {
      const found = speeds(context, running)?.slowest;
      const limit = LIMITS.dischargeVelocityLow;
      if (!found || found.velocity >= limit) return [];
      const { itemId, velocity: value } = found;
      return [{ severity: "watch", at, itemId, value, limit, source: PRACTICE, facts: NO_FACTS }];
    }),
  rank: lessIsWorse,
  derive: velocityOf,
});

/** Inside the window at every state of the water. */
export const dischargeVelocity = check<{ slowest: number }>({
  quantity: "velocity",
  each: "line",
  find: (context) => {
    const { dischargeVelocityHigh: high, dischargeVelocityLow: low } = LIMITS;
    let inside = true;
    const all = whileRunning(context, (running, { at }) => {
      const found = speeds(context, running);
      if (!found) return [];
      const { fastest, slowest } = found;
      inside &&= fastest.velocity <= high && slowest.velocity >= low;
      return [
        {
          severity: "good" as const,
          at,
          itemId: fastest.itemId,
          value: fastest.velocity,
          limit: high,
          source: PRACTICE,
          facts: { slowest: slowest.velocity },
        },
      ];
    });
    return inside ? all : [];
  },
  rank: moreIsWorse,
  derive: velocityOf,
});

export const checkValveFlutters = check<NoFacts>({
  quantity: "velocity",
  each: "item",
  find: (context) =>
    whileRunning(context, ({ state }, { at }) =>
      context.solution.line.segments.flatMap(({ fitting, itemId, bore }, i): Found<NoFacts>[] => {
        const limit = fitting?.opensFullyAt;
        const value = meanVelocity(Math.abs(state.bySegment[i] as number), bore);
        // Nothing flutters where nothing runs.
        const runs = Math.abs(state.bySegment[i] as number) > WORTH_SAYING;
        if (limit === undefined || value >= limit || !runs) return [];
        const source = "Crane TP 410, from memory";
        return [{ severity: "watch", at, itemId, value, limit, source, facts: NO_FACTS }];
      }),
    ),
  rank: lessIsWorse,
  derive: velocityOf,
});

interface Pressures {
  /** Pa at the worst place of it while it runs at that state of the water; absent where nothing runs */
  running?: number;
  /** a pump on the way has no published shut-off head: the true pressure is higher */
  shutoffUnknown: boolean;
  /** the water outside carries a part of it */
  inWater: boolean;
  gravityPipe: boolean;
}

/**
 * Pressure across the wall of every discharge pipe with the outlets shut, at each state of the water. A pipe that
 * stands in the source's water feels the difference only.
 */
function shutPressures(context: CheckContext): PipePressure[] {
  const known = PRESSURES.get(context);
  if (known) return known;
  const found = findShutPressures(context);
  PRESSURES.set(context, found);
  return found;
}
/** Two checks and their workings ask for the same pressures. */
const PRESSURES = new WeakMap<CheckContext, PipePressure[]>();

function findShutPressures(context: CheckContext): PipePressure[] {
  const { line, boundaries, states, water, cases } = context.solution;
  const perMetre = water.density * GRAVITY;
  return WATER_LEVELS.flatMap((at) => {
    const shut = shutHeads(line, boundaries[at], states);
    const still = levelsOf(line.source)[at];
    const wet = segmentsInWater(line, still);
    const state = cases[at].running?.state;
    const moving = state?.nodeHeads;
    const heads = state && headsOf(context, state);
    // While it runs, a well stands at the level it is drawn down to.
    const drawn = line.source.kind === "well" ? moving?.[line.intakeNode] : undefined;
    return line.stretches.flatMap((stretch) => {
      const { from } = stretch;
      const found: PipePressure[] = [];
      for (const { segment, index, lowest: bottom, inWater } of lowestOfEach(line, stretch, wet)) {
        const felt = (surface: number) => (inWater ? Math.max(bottom, surface) : bottom);
        const { head, published } = shut[from] as ShutHead;
        const height = felt(still);
        const facts: Pressures = {
          shutoffUnknown: !published,
          inWater,
          gravityPipe: segment.stock.family === "thin-drain",
        };
        const own = heads?.[index];
        if (own) {
          const outside = drawn ?? still;
          const at = (head: number, z: number) => head - (inWater ? Math.max(z, outside) : z);
          const { startElevation, endElevation } = segment;
          facts.running =
            Math.max(at(own.start, startElevation), at(own.end, endElevation)) * perMetre;
        }
        found.push({
          at,
          segment,
          head,
          height,
          value: (head - height) * perMetre,
          facts,
        });
      }
      return found;
    });
  });
}

const headsOf = ({ solution: { line, model } }: CheckContext, state: SteadyState): TubeHeads[] =>
  tubeHeads(line, state, (segment, flow) => segmentLoss(segment, flow, model.context));

interface Lowest {
  segment: Segment & { stock: PipeStock };
  index: number;
  lowest: number;
  inWater: boolean;
}

/**
 * Of a stretch, which has one flow and one head, the lowest run of each size on the discharge: the one that feels
 * most. Runs in the water the pump draws from are apart, since that water holds against what is inside.
 */
function lowestOfEach(
  { segments }: CompiledLine,
  { start, end }: Pick<Stretch, "start" | "end">,
  wet?: ReadonlySet<number>,
): Lowest[] {
  const found = new Map<string, Lowest>();
  for (let i = start; i < end; i++) {
    const segment = segments[i] as Segment;
    const { stock, kind, side } = segment;
    if (kind !== "pipe" || side !== "discharge" || !stock) continue;
    const inWater = wet?.has(i) ?? false;
    const key = inWater ? `${stock.id} in water` : stock.id;
    const lowest = Math.min(segment.startElevation, segment.endElevation);
    const held = found.get(key);
    if (!held || lowest < held.lowest) {
      found.set(key, { segment: segment as Lowest["segment"], index: i, lowest, inWater });
    }
  }
  return [...found.values()];
}

interface PipePressure {
  at: WaterLevel;
  segment: Segment;
  head: number;
  height: number;
  value: number;
  facts: Pressures;
}

/** How a pressure across a wall stands to what the pipe is rated, both in Pa. Its reserve: common practice, no source. */
export function heldBy(pressure: number, rating: number): "stop" | "watch" | "good" {
  if (pressure > rating) return "stop";
  return pressure > LIMITS.pressureReserve * rating ? "watch" : "good";
}

export const pressureRating = check<Pressures>({
  quantity: "pressure",
  each: "line",
  find: (context) =>
    shutPressures(context).flatMap(({ at, segment, value, facts }): Found<Pressures>[] => {
      const { stock, itemId } = segment;
      const limit = stock && pressureRatingAt(stock, context.line.site.waterTemperature);
      if (!stock || limit === undefined) return [];
      const held = heldBy(value, limit);
      const severity = facts.shutoffUnknown && held !== "stop" ? "unknown" : held;
      return [{ severity, at, itemId, value, limit, source: stock.source, facts }];
    }),
  rank: moreIsWorse,
  derive: pressureSteps,
});

export const pressureRatingUnknown = check<Pressures>({
  quantity: "pressure",
  each: "line",
  find: (context) =>
    shutPressures(context).flatMap(({ at, segment, value, facts }): Found<Pressures>[] => {
      const { stock, itemId } = segment;
      if (!stock || pressureRatingAt(stock, context.line.site.waterTemperature) !== undefined) {
        return [];
      }
      // Gravity pipe has no business under pressure; other pipe may be rated by its joints.
      const severity = facts.gravityPipe ? "stop" : "unknown";
      return [{ severity, at, itemId, value, source: stock.source, facts }];
    }),
  rank: moreIsWorse,
  derive: pressureSteps,
});

function pressureSteps({ at, itemId, value }: Found<Pressures>, context: CheckContext) {
  const own = shutPressures(context).find(
    (pipe) => pipe.at === at && pipe.segment.itemId === itemId && pipe.value === value,
  );
  const { line, site } = { line: context.solution.line, site: context.line.site };
  const { density } = context.solution.water;
  const assumed = [
    "Every pump at the most it can make, and nothing running out",
    ...(own?.facts.inWater ? ["Outside stands the same water it draws from"] : []),
  ];
  const steps = [];
  const { stock } = own?.segment ?? {};
  const limit = stock && pressureRatingAt(stock, site.waterTemperature);
  if (stock?.pressureRating && limit !== undefined) {
    const factor = term(
      sign("k_T", "factor for the water's temperature", "ratio"),
      limit / stock.pressureRating,
    );
    const rated = term(sign("p_r", "rating at 20 to 23 °C", "pressure"), stock.pressureRating);
    steps.push(deriveOver(RATING, [factor, rated], { source: stock.source }));
  }
  const height = own?.height ?? line.source.intake;
  const names = {
    1: "the water's level and the most the pumps can add",
    2: own?.facts.inWater ? "level of the water outside" : "lowest point of this run",
  };
  return [...steps, derive(STATIC_PRESSURE, [density, own?.head ?? 0, height], { assumed, names })];
}

const RATING = {
  ...SUM_OF_HEADS,
  title: "Rating at this water temperature",
  equation: "p_{max} = k_T\\, p_r",
  result: sign("p_{max}", "rating here", "pressure"),
  of: (...factors: number[]) => factors.reduce((product, factor) => product * factor, 1),
};

interface Surge {
  /** Pa */
  rise: number;
  /** m³/s */
  flow: number;
  /** m above datum: where a tube would fill to at the worst place of the run while it runs, and that place */
  head: number;
  lowest: number;
}

/** Running pressure and a sudden stop together against the rating, pipe by pipe. */
export const surge = check<Surge>({
  quantity: "pressure",
  each: "line",
  find: (context) =>
    whileRunning(context, ({ state }, { at }) => {
      const { line, water } = context.solution;
      const heads = headsOf(context, state);
      return line.segments.flatMap((segment, i): Found<Surge>[] => {
        const { stock, kind, side, itemId, bore, startElevation, endElevation } = segment;
        if (kind !== "pipe" || side !== "discharge" || !stock) return [];
        const flow = Math.abs(state.bySegment[i] as number);
        const speed = waveSpeed(stock, water);
        const limit = pressureRatingAt(stock, context.line.site.waterTemperature);
        if (flow <= WORTH_SAYING || speed === undefined || limit === undefined) return [];
        const { start, end } = heads[i] as TubeHeads;
        const first = start - startElevation > end - endElevation;
        const [head, lowest] = first ? [start, startElevation] : [end, endElevation];
        const rise = joukowskySurge(water.density, speed, meanVelocity(flow, bore));
        const standing = (head - lowest) * water.density * GRAVITY;
        // Where the pressure that stands there is too much already, another check says so.
        if (standing > limit) return [];
        const value = standing + rise;
        const severity = value > limit ? "watch" : "good";
        const source = "Joukowsky Δp = ρ a Δv, stopped faster than the wave runs there and back";
        const facts = { rise, flow, head, lowest };
        return [{ severity, at, itemId, value, limit, source, facts }];
      });
    }),
  rank: moreIsWorse,
  derive: ({ itemId, facts }, context) => {
    const { line, water } = context.solution;
    const stock = line.segments.find(
      (segment) => segment.itemId === itemId && segment.kind === "pipe",
    )?.stock as PipeStock;
    const { bore, outsideDiameter = bore } = stock;
    const velocity = derive(VELOCITY, [facts.flow, bore]);
    const wall = (outsideDiameter - bore) / 2;
    const modulus = FAMILIES[stock.family].youngsModulus ?? 0;
    const speed = derive(WAVE_SPEED, [BULK_MODULUS, water.density, bore, modulus, wall]);
    const rise = derive(JOUKOWSKY, [water.density, speed.result.value, velocity.result.value]);
    const names = { 1: "where a tube would fill to", 2: "the worst place of this run" };
    const still = derive(STATIC_PRESSURE, [water.density, facts.head, facts.lowest], { names });
    const together = deriveOver(MOST_PRESSURE, [still.result, rise.result]);
    return [velocity, speed, rise, still, together];
  },
});

const MOST_PRESSURE = {
  ...SUM_OF_HEADS,
  title: "Running pressure and surge together",
  equation: "p_{max} = p + \\Delta p",
  result: sign("p_{max}", "most the pipe sees", "pressure"),
  source: "Hydrostatics and Joukowsky",
};

/**
 * Where the discharge falls below air pressure, lay-flat collapses and joints draw air. Where it would fall to that of
 * vapour the column breaks, and what lies beyond no longer draws.
 */
export const dischargeUnderSuction = check<{ breaks: boolean }>({
  quantity: "head",
  each: "line",
  find: (context) =>
    whileRunning(context, ({ headLine, state }, { at }): Found<{ breaks: boolean }>[] => {
      const { line, model } = context.solution;
      const limit = -(model.context.barometric ?? Number.POSITIVE_INFINITY);
      const source = "Head line against the pipe's height";
      if (state.broken) {
        // The pressure there were the line full beyond it: what breaks it.
        const { segment, drop } = state.broken;
        const { itemId } = line.segments[segment] as Segment;
        const facts = { breaks: true };
        return [{ severity: "stop", at, itemId, value: -drop, limit, source, facts }];
      }
      const drawn = new Set(line.pumps.flatMap((pump) => (pump.fed ? [] : suctionOf(line, pump))));
      let value = -UNDER_AIR;
      let itemId: string | undefined;
      for (const point of headLine) {
        if (point.side !== "discharge" || point.pressureHead > value) continue;
        // What a pump draws with is judged as its suction, also where it draws from the mains.
        if (line.pumps.some(({ item }) => item.id === point.itemId)) continue;
        const i = line.segments.findIndex((own) => own.itemId === point.itemId);
        if (i >= 0 && drawn.has(line.segments[i] as Segment)) continue;
        // Of a way that no water takes nothing is said here.
        if (i >= 0 && Math.abs(state.bySegment[i] as number) <= WORTH_SAYING) continue;
        ({ itemId, pressureHead: value } = point);
      }
      if (itemId === undefined) return [];
      const breaks = value <= limit;
      const severity = breaks ? "stop" : "watch";
      const held = Number.isFinite(limit) ? { limit } : {};
      return [{ severity, at, itemId, value, ...held, source, facts: { breaks } }];
    }),
  rank: ({ value }) => -value,
  derive: ({ at, itemId, value }, { solution }) => {
    const { running } = solution.cases[at];
    const drop = running?.state.broken?.drop;
    if (drop !== undefined && value === -drop) return [derive(BREAKS, [drop])];
    return [pointStep(running, itemId, value)];
  },
});

const BREAKS = formula({
  title: "Pressure over the hill, were the line full beyond it",
  equation: "h = -\\Delta",
  given: [sign("\\Delta", "what falls behind it, beyond what that takes", "head")],
  result: sign("h", "pressure over the hill", "head"),
  source: "Balance of heads",
  of: (drop: number) => -drop,
});

/** m under air pressure from which it is said. */
const UNDER_AIR = 0.1;

/** An outlet that high water covers, with nothing to hold it, lets silt and the flood back in. */
export const outletFloods = check<{ outlet: number; level: number }>({
  quantity: "head",
  each: "item",
  find: ({ solution: { line } }) => {
    const open = new Set(line.pumps.flatMap((pump) => [...unguardedOutlets(line, pump)]));
    return line.outlets.flatMap(
      ({ item, node, elevation }): Found<{ outlet: number; level: number }>[] => {
        const level = receivingWater(item.outlet)?.high;
        if (level === undefined || elevation >= level || !open.has(node)) return [];
        return [
          {
            severity: "watch",
            at: "high",
            itemId: item.id,
            value: level - elevation,
            source: PRACTICE,
            facts: { outlet: elevation, level },
          },
        ];
      },
    );
  },
  rank: moreIsWorse,
  derive: ({ facts }) => [derive(OVER_OUTLET, [facts.level, facts.outlet])],
});

const OVER_OUTLET = formula({
  ...DIFFERENCE,
  title: "Water over the outlet",
  equation: "h = z_w - z_o",
  given: [sign("z_w", "high water there", "length"), sign("z_o", "outlet", "length")],
});

/** Where the Hazen–Williams formula is used outside what it was fitted to. */
export const hazenWilliamsRange = check<{ concerns: HazenWilliamsConcern[] }>({
  quantity: "velocity",
  each: "line",
  find: (context) => {
    if (context.line.method.friction !== "hazen-williams") return [];
    const { line, water } = context.solution;
    return whileRunning(context, ({ state }, { at }) =>
      line.segments.flatMap(
        ({ kind, itemId, bore }, i): Found<{ concerns: HazenWilliamsConcern[] }>[] => {
          if (kind !== "pipe") return [];
          const value = meanVelocity(Math.abs(state.bySegment[i] as number), bore);
          const concerns = hazenWilliamsConcerns(bore, value, water.temperature);
          if (concerns.length === 0) return [];
          const source = "Range of the Hazen–Williams formula";
          return [{ severity: "watch", at, itemId, value, source, facts: { concerns } }];
        },
      ),
    );
  },
  rank: ({ facts, value }) => facts.concerns.length * 1000 + value,
  derive: velocityOf,
});
