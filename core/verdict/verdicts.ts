import { GRAVITY } from "../constants/gravity.ts";
import { drainBackVolume, highPoints, holdsWater, primingVolume } from "../discharge/profile.ts";
import { joukowskySurge, waveSpeed } from "../discharge/surge.ts";
import { settledDuty } from "../duty/operatingPoint.ts";
import type { CaseSolution, Running, Solution } from "../duty/solveLine.ts";
import { LEVEL_CASES, type LevelCase, type Line } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { hazenWilliamsConcerns } from "../pipe/hazenWilliams.ts";
import { pressureRatingAt } from "../pipe/stock.ts";
import { bestEfficiencyFlow } from "../pump/curve.ts";
import { minimumSubmergence } from "../suction/submergence.ts";

export type Level = "stop" | "watch" | "good";

/**
 * One judgement on a solved line. `value` and `limit` are SI and belong to `quantity`; `extra` holds
 * the other numbers its sentence needs. Where several levels earn the same verdict the worst is kept.
 */
export interface Verdict {
  code: VerdictCode;
  level: Level;
  levelCase: LevelCase;
  itemId?: string;
  quantity: "flow" | "head" | "velocity" | "pressure" | "volume" | "ratio";
  value: number;
  limit?: number;
  extra?: Record<string, number>;
  source: string;
}

export type VerdictCode =
  | "cannot-lift"
  | "below-curve"
  | "beyond-curve"
  | "two-crossings"
  | "siphons"
  | "wanted-flow"
  | "intake-uncovered"
  | "pump-not-under-water"
  | "suction-lift-barometric"
  | "suction-lift-pump"
  | "suction-boils"
  | "npsh-margin"
  | "suction-velocity"
  | "discharge-velocity-high"
  | "discharge-velocity-low"
  | "discharge-velocity"
  | "check-valve-flutters"
  | "pressure-rating"
  | "pressure-rating-unknown"
  | "hole-wastes"
  | "surge"
  | "submergence"
  | "loses-prime"
  | "drains-back"
  | "traps-air"
  | "discharge-under-suction"
  | "operating-region"
  | "hazen-williams-range"
  | "schools-disagree";

/** Limits the verdicts use. Velocities in m/s; common practice, no source, unless said. */
export const LIMITS = {
  suctionVelocity: 1.5,
  suctionVelocityStop: 3,
  dischargeVelocityLow: 0.6,
  dischargeVelocityHigh: 2.4,
  /** share of a suction limit that is still comfortable */
  suctionReserve: 0.9,
  npshRatio: 1.1,
  npshMetres: 0.6,
  regionLow: 0.7,
  regionHigh: 1.2,
  schoolsApart: 0.1,
  /** share of the pump's flow a vent hole may waste */
  holeShare: 0.05,
} as const;

const PRACTICE = "Common practice, no source";
const SEVERITY: Record<Level, number> = { good: 0, watch: 1, stop: 2 };

export interface Wanted {
  /** m³/s */
  wantedFlow?: number | undefined;
}

/** Every verdict on a solution, the worst first. */
export function verdictsOn(solution: Solution, line: Line, wanted: Wanted): Verdict[] {
  const best = bestEfficiencyFlow(solution.curve);
  const all = LEVEL_CASES.flatMap((levelCase) => {
    const solved = solution.cases[levelCase];
    const outcome = outcomeVerdicts(solved);
    if (!solved.running) return outcome;
    return [
      ...outcome,
      ...wantedVerdict(solved, wanted),
      ...holeVerdicts(solution, solved, solved.running),
      ...suctionVerdicts(solution, solved, solved.running),
      ...submergenceVerdict(solution, solved, solved.running),
      ...velocityVerdicts(solution, solved, solved.running),
      ...surgeVerdicts(solution, line, solved, solved.running),
      ...dischargePressureVerdict(solved, solved.running),
      ...regionVerdict(solution, best, solved, solved.running),
      ...hazenWilliamsVerdict(solution, line, solved, solved.running),
    ];
  });
  all.push(
    ...intakeVerdict(line),
    ...waterHeldVerdicts(solution),
    ...trappedAirVerdicts(solution),
    ...pressureVerdicts(solution, line),
    ...schoolsVerdict(solution),
  );
  const kept = worstOfEach(all);
  const outside = kept.some(({ code }) => OUTSIDE_WINDOW.has(code));
  const said = outside ? kept.filter(({ code }) => code !== "discharge-velocity") : kept;
  return said.sort((a, b) => SEVERITY[b.level] - SEVERITY[a.level]);
}

export function worstLevel(verdicts: readonly Verdict[]): Level {
  return verdicts.reduce<Level>(
    (worst, { level }) => (SEVERITY[level] > SEVERITY[worst] ? level : worst),
    "good",
  );
}

function worstOfEach(verdicts: readonly Verdict[]): Verdict[] {
  const kept = new Map<string, Verdict>();
  for (const verdict of verdicts) {
    const held = kept.get(verdict.code);
    if (!held || isWorse(verdict, held)) kept.set(verdict.code, verdict);
  }
  return [...kept.values()];
}

/** More severe, or as severe and further past the limit in either direction. */
function isWorse(a: Verdict, b: Verdict): boolean {
  const severity = SEVERITY[a.level] - SEVERITY[b.level];
  if (severity !== 0) return severity > 0;
  if (a.limit === undefined || b.limit === undefined) return false;
  const direction = HIGHER_IS_BETTER.has(a.code) ? -1 : 1;
  return direction * (a.value / a.limit - b.value / b.limit) > 1e-12;
}

/** Either of these at one level takes the place of "inside the window" at another. */
const OUTSIDE_WINDOW = new Set<VerdictCode>(["discharge-velocity-high", "discharge-velocity-low"]);

const HIGHER_IS_BETTER = new Set<VerdictCode>([
  "wanted-flow",
  "npsh-margin",
  "discharge-velocity-low",
  "check-valve-flutters",
  "submergence",
]);

function outcomeVerdicts({ levelCase, staticHead, outcome, siphonFlow }: CaseSolution): Verdict[] {
  const verdicts: Verdict[] = [];
  const base = { levelCase, source: "Pump curve against line curve" } as const;
  switch (outcome.kind) {
    case "cannot-lift":
      verdicts.push({
        ...base,
        code: "cannot-lift",
        level: "stop",
        quantity: "head",
        value: outcome.bestHead,
        limit: outcome.staticHead,
        extra: { shortfall: outcome.shortfall },
      });
      break;
    case "below-curve":
      verdicts.push({
        ...base,
        code: "below-curve",
        level: "stop",
        quantity: "head",
        value: outcome.first.head,
        limit: outcome.headNeeded,
        extra: { firstFlow: outcome.first.flow },
      });
      break;
    case "beyond-curve":
      verdicts.push({
        ...base,
        code: "beyond-curve",
        level: "stop",
        quantity: "flow",
        value: outcome.last.flow,
        limit: outcome.last.flow,
        extra: { lastHead: outcome.last.head, headNeeded: outcome.headNeeded },
      });
      break;
    case "two-crossings":
      verdicts.push({
        ...base,
        code: "two-crossings",
        level: outcome.startsFromRest ? "watch" : "stop",
        quantity: "flow",
        value: outcome.stable.flow,
        limit: outcome.unstable.flow,
        extra: { startsFromRest: outcome.startsFromRest ? 1 : 0 },
      });
      break;
    case "runs":
      break;
  }
  if (siphonFlow !== undefined) {
    verdicts.push({
      levelCase,
      code: "siphons",
      level: "watch",
      quantity: "flow",
      value: siphonFlow,
      extra: { fall: -staticHead },
      source: "Outlet below the water",
    });
  }
  return verdicts;
}

function wantedVerdict(
  { levelCase, outcome, running }: CaseSolution,
  { wantedFlow }: Wanted,
): Verdict[] {
  if (!wantedFlow || !settledDuty(outcome) || !running) return [];
  const value = running.flows.delivered;
  const enough = value >= wantedFlow;
  const level: Level = enough ? "good" : levelCase === "low" ? "watch" : "stop";
  return [
    {
      code: "wanted-flow",
      level,
      levelCase,
      quantity: "flow",
      value,
      limit: wantedFlow,
      source: "Flow wanted for this job",
    },
  ];
}

/** What holes let go: a vent hole may waste a little, a leak nothing. */
function holeVerdicts(
  { line }: Solution,
  { levelCase }: CaseSolution,
  running: Running,
): Verdict[] {
  const { lost } = running.flows;
  const [hole] = line.holes;
  if (!hole) return [];
  const value = lost.reduce((sum, { flow }) => sum + flow, 0);
  const leaks = line.holes.some(({ purpose }) => purpose === "leak");
  const share = value / running.duty.flow;
  const level = leaks || share > LIMITS.holeShare ? "watch" : "good";
  const extra = { share, leaks: leaks ? 1 : 0 };
  const source = "Orifice q = Cd A √(2gh), Cd 0.61; share common practice, no source";
  const itemId = hole.itemId;
  return [
    { code: "hole-wastes", level, levelCase, itemId, quantity: "flow", value, extra, source },
  ];
}

function suctionVerdicts(solution: Solution, solved: CaseSolution, running: Running): Verdict[] {
  const { suction, npshRequired } = running;
  const { levelCase } = solved;
  const itemId = solution.line.pumpItem.id;
  const verdicts: Verdict[] = [];
  const judgeLift = (code: VerdictCode, limit: number, source: string): Verdict => ({
    code,
    level: liftLevel(suction.dynamicLift, limit),
    levelCase,
    itemId,
    quantity: "head",
    value: suction.dynamicLift,
    limit,
    extra: { staticLift: suction.staticLift, friction: suction.friction },
    source,
  });
  if (solution.pump.submersible) {
    if (suction.staticLift > 0) {
      verdicts.push({
        code: "pump-not-under-water",
        level: "stop",
        levelCase,
        itemId,
        quantity: "head",
        value: suction.staticLift,
        limit: 0,
        source: PRACTICE,
      });
    }
  } else if (suction.dynamicLift > 0) {
    verdicts.push(
      judgeLift(
        "suction-lift-barometric",
        suction.barometricLimit,
        "Barometric limit: ISO 2533 air pressure, IAPWS vapour pressure",
      ),
    );
    if (suction.ownLimit !== undefined) {
      verdicts.push(
        judgeLift(
          "suction-lift-pump",
          suction.ownLimit,
          "Maker's suction lift, corrected for altitude and water temperature",
        ),
      );
    }
  }
  const floor = -suction.barometricLimit;
  if (suction.lowest && suction.lowest.pressureHead < floor) {
    verdicts.push({
      code: "suction-boils",
      level: "stop",
      levelCase,
      itemId: suction.lowest.itemId,
      quantity: "head",
      value: suction.lowest.pressureHead,
      limit: floor,
      source: "IAPWS vapour pressure",
    });
  }
  if (npshRequired !== undefined) {
    const margin = suction.npshAvailable - npshRequired;
    const comfortable =
      margin >= LIMITS.npshMetres && suction.npshAvailable >= LIMITS.npshRatio * npshRequired;
    verdicts.push({
      code: "npsh-margin",
      level: margin < 0 ? "stop" : comfortable ? "good" : "watch",
      levelCase,
      itemId,
      quantity: "head",
      value: suction.npshAvailable,
      limit: npshRequired,
      source: "ANSI/HI 9.6.1 suggests a ratio of 1.1–1.3 (from memory)",
    });
  }
  return verdicts;
}

function liftLevel(lift: number, limit: number): Level {
  if (lift >= limit) return "stop";
  return lift > LIMITS.suctionReserve * limit ? "watch" : "good";
}

function velocityVerdicts(solution: Solution, solved: CaseSolution, running: Running): Verdict[] {
  const { levelCase } = solved;
  const verdicts: Verdict[] = [];
  const { segments } = solution.line;
  const velocityIn = (index: number, bore: number) =>
    meanVelocity(running.flows.bySegment[index] as number, bore);
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
    if (limit === undefined || value >= limit) continue;
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

function regionVerdict(
  solution: Solution,
  { flow: best, basis }: ReturnType<typeof bestEfficiencyFlow>,
  solved: CaseSolution,
  running: Running,
): Verdict[] {
  if (running.basis !== "duty") return [];
  const ratio = running.duty.flow / best;
  const inside = ratio >= LIMITS.regionLow && ratio <= LIMITS.regionHigh;
  return [
    {
      code: "operating-region",
      level: inside ? "good" : "watch",
      levelCase: solved.levelCase,
      itemId: solution.line.pumpItem.id,
      quantity: "ratio",
      value: ratio,
      limit: ratio < LIMITS.regionLow ? LIMITS.regionLow : LIMITS.regionHigh,
      extra: { bestFlow: best, guessed: basis === "guess" ? 1 : 0 },
      source: "ANSI/HI 9.6.3 preferred region 70–120 % of best efficiency (from memory)",
    },
  ];
}

function hazenWilliamsVerdict(
  solution: Solution,
  line: Line,
  solved: CaseSolution,
  running: Running,
): Verdict[] {
  if (line.method.friction !== "hazen-williams") return [];
  for (const { kind, itemId, bore } of solution.line.segments) {
    if (kind !== "pipe") continue;
    const value = meanVelocity(running.duty.flow, bore);
    const concerns = hazenWilliamsConcerns(bore, value, solution.water.temperature);
    if (concerns.length === 0) continue;
    return [
      {
        code: "hazen-williams-range",
        level: "watch",
        levelCase: solved.levelCase,
        itemId,
        quantity: "velocity",
        value,
        extra: Object.fromEntries(concerns.map((concern) => [concern, 1])),
        source: "Range of the Hazen–Williams formula",
      },
    ];
  }
  return [];
}

/**
 * Pressure in every discharge pipe with the outlet shut and the source at its highest, against the
 * rating at the water's temperature.
 */
function pressureVerdicts(solution: Solution, line: Line): Verdict[] {
  const { line: compiled, curve, water } = solution;
  const bestHead = Math.max(...curve.head.y);
  const shutLevel = compiled.source.high + bestHead;
  const base = { levelCase: "high", quantity: "pressure", source: "" } as const;
  const found = compiled.segments.flatMap((segment): Verdict[] => {
    if (segment.kind !== "pipe" || segment.side !== "discharge") return [];
    const { itemId, stock } = segment;
    const lowest = Math.min(segment.startElevation, segment.endElevation);
    const value = (shutLevel - lowest) * water.density * GRAVITY;
    const limit = pressureRatingAt(stock, line.site.waterTemperature);
    const { source } = stock;
    if (limit === undefined) {
      const code = "pressure-rating-unknown";
      // Gravity pipe has no business under pressure; other pipe may be rated by its joints.
      const level = stock.family === "thin-drain" ? "stop" : "watch";
      return [{ ...base, code, level, itemId, value, source }];
    }
    // Where no shut-off head is published the true pressure is higher than this.
    const shutoffUnknown = curve.firstFlow > 0;
    const close = value > 0.9 * limit || shutoffUnknown;
    const level = value > limit ? "stop" : close ? "watch" : "good";
    const extra = { shutoffUnknown: shutoffUnknown ? 1 : 0 };
    return [{ ...base, code: "pressure-rating", level, itemId, value, limit, extra, source }];
  });
  return found;
}

/** Depth of water over the intake against what keeps a vortex from drawing air. */
function submergenceVerdict(solution: Solution, solved: CaseSolution, running: Running): Verdict[] {
  const first = solution.line.segments[0];
  const depth = solution.line.source[solved.levelCase] - solution.line.intakeElevation;
  // Without a suction line the pump's own inlet decides, and its maker says how deep.
  if (!first || solution.line.pumpIndex === 0 || depth <= 0) return [];
  const limit = minimumSubmergence(first.bore, meanVelocity(running.duty.flow, first.bore));
  return [
    {
      code: "submergence",
      level: depth < limit ? "watch" : "good",
      levelCase: solved.levelCase,
      itemId: first.itemId,
      quantity: "head",
      value: depth,
      limit,
      source: "ANSI/HI 9.8, S = D (1 + 2.3 V/√(gD)) (from memory)",
    },
  ];
}

/** Running pressure and a sudden stop together against the rating, pipe by pipe. */
function surgeVerdicts(
  solution: Solution,
  line: Line,
  { levelCase }: CaseSolution,
  running: Running,
): Verdict[] {
  const { water } = solution;
  return solution.line.segments.flatMap((segment, index): Verdict[] => {
    if (segment.kind !== "pipe" || segment.side !== "discharge") return [];
    const { itemId, stock, bore } = segment;
    const speed = waveSpeed(stock, water);
    const limit = pressureRatingAt(stock, line.site.waterTemperature);
    if (speed === undefined || limit === undefined) return [];
    const velocity = meanVelocity(running.flows.bySegment[index] as number, bore);
    const rise = joukowskySurge(water.density, speed, velocity);
    const lowest = Math.min(segment.startElevation, segment.endElevation);
    const top = running.headLine.find((point) => point.side === "discharge")?.totalHead ?? 0;
    const value = (top - lowest) * water.density * GRAVITY + rise;
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
function dischargePressureVerdict({ levelCase }: CaseSolution, running: Running): Verdict[] {
  const lowest = running.headLine
    .filter((point) => point.side === "discharge")
    .reduce((low, point) => (point.pressureHead < low.pressureHead ? point : low));
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

/** What runs back or runs dry when the pump stops. */
function waterHeldVerdicts({ line, pump }: Solution): Verdict[] {
  const base = { levelCase: "low", quantity: "volume", source: PRACTICE } as const;
  const verdicts: Verdict[] = [];
  const drawsUp = !pump.submersible && line.pumpElevation > line.source.low;
  const foot = line.segments
    .slice(0, line.pumpIndex)
    .some((segment) => segment.fitting?.group === "check");
  if (drawsUp && line.pumpIndex > 0) {
    const value = primingVolume(line);
    const itemId = line.pumpItem.id;
    verdicts.push({ ...base, code: "loses-prime", level: foot ? "good" : "watch", itemId, value });
  }
  const value = drainBackVolume(line, line.source.low);
  if (value > 0 && !holdsWater(line)) {
    verdicts.push({ ...base, code: "drains-back", level: "watch", value });
  }
  return verdicts;
}

function trappedAirVerdicts({ line }: Solution): Verdict[] {
  const sides = [line.segments.slice(0, line.pumpIndex), line.segments.slice(line.pumpIndex)];
  return sides.flatMap((segments, side) =>
    highPoints(segments).map(
      ({ itemId, elevation }): Verdict => ({
        code: "traps-air",
        level: "watch",
        levelCase: "normal",
        itemId,
        quantity: "head",
        value: elevation,
        extra: { suction: side === 0 ? 1 : 0 },
        source: PRACTICE,
      }),
    ),
  );
}

function intakeVerdict(line: Line): Verdict[] {
  const { intake, level } = line.source;
  const levelCase = LEVEL_CASES.find((name) => intake > level[name]);
  if (!levelCase) return [];
  return [
    {
      code: "intake-uncovered",
      level: "stop",
      levelCase,
      quantity: "head",
      value: intake,
      limit: level[levelCase],
      source: PRACTICE,
    },
  ];
}

function schoolsVerdict({ cases, crossCheck }: Solution): Verdict[] {
  const duty = settledDuty(cases.normal.outcome);
  if (!duty || !crossCheck.duty) return [];
  const apart = crossCheck.duty.flow / duty.flow - 1;
  if (Math.abs(apart) <= LIMITS.schoolsApart) return [];
  return [
    {
      code: "schools-disagree",
      level: "watch",
      levelCase: "normal",
      quantity: "flow",
      value: crossCheck.duty.flow,
      limit: duty.flow,
      source: "Darcy–Weisbach against Hazen–Williams",
    },
  ];
}
