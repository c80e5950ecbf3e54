import { WATER_LEVELS } from "../fluid/levels.ts";
import { type Derivation, derive, formula, sign } from "../formula/formula.ts";
import {
  AIR_PRESSURE,
  BAROMETRIC,
  DIFFERENCE,
  DYNAMIC_LIFT,
  LIFT_LIMIT,
  NPSH_AVAILABLE,
  POINT_PRESSURE,
  SUBMERGENCE,
  VELOCITY,
} from "../formula/laws.ts";
import { submergence as least } from "../hydraulics/submergence.ts";
import { SEA_LEVEL_LIMIT } from "../hydraulics/suctionLimits.ts";
import { type CompiledLine, drawsItself } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  type CheckContext,
  check,
  eachPump,
  type Found,
  LIMITS,
  lessIsWorse,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  PRACTICE,
  pumpOf,
  type Severity,
  whileRunning,
} from "./check.ts";
import { type TooFast, withSlowerSize } from "./slowerSize.ts";

/** How the water reaches each pump. */

interface Lift {
  staticLift: number;
  friction: number;
}

export const suctionLiftBarometric = check<Lift>({
  quantity: "head",
  each: "item",
  find: (context) =>
    eachPump(context, ({ atWork: { itemId, suction }, on, solved }) => {
      if (on.pump.submersible || suction.dynamicLift <= 0) return [];
      const { dynamicLift: value, barometricLimit: limit, staticLift, friction } = suction;
      return [
        {
          severity: liftSeverity(value, limit),
          at: solved.at,
          itemId,
          value,
          limit,
          source: "Barometric limit: ISO 2533 air pressure, IAPWS vapour pressure",
          facts: { staticLift, friction },
        },
      ];
    }),
  rank: moreIsWorse,
  derive: ({ facts }, context) => [
    ...barometricSteps(context),
    derive(DYNAMIC_LIFT, [facts.staticLift, facts.friction]),
  ],
});

export const suctionLiftPump = check<Lift>({
  quantity: "head",
  each: "item",
  find: (context) =>
    eachPump(context, ({ atWork: { itemId, suction }, on, solved }) => {
      const { dynamicLift: value, ownLimit: limit, staticLift, friction } = suction;
      if (on.pump.submersible || value <= 0 || limit === undefined) return [];
      return [
        {
          severity: liftSeverity(value, limit),
          at: solved.at,
          itemId,
          value,
          limit,
          source: "Maker's suction lift, corrected for altitude and water temperature",
          facts: { staticLift, friction },
        },
      ];
    }),
  rank: moreIsWorse,
  derive: (found, context) => {
    const steps = barometricSteps(context);
    const rated = pumpOf(context, found)?.on.pump.maxSuctionLift ?? 0;
    const here = steps.at(-1)?.result.value ?? 0;
    const { staticLift, friction } = found.facts;
    return [
      ...steps,
      derive(LIFT_LIMIT, [rated, SEA_LEVEL_LIMIT, here]),
      derive(DYNAMIC_LIFT, [staticLift, friction]),
    ];
  },
});

function liftSeverity(lift: number, limit: number): Severity {
  if (lift >= limit) return "stop";
  return lift > LIMITS.suctionReserve * limit ? "watch" : "good";
}

function barometricSteps({ solution, line }: CheckContext): Derivation {
  const { water } = solution;
  const air = derive(AIR_PRESSURE, [line.site.altitude]);
  return [air, derive(BAROMETRIC, [air.result.value, water.vapourPressure, water.density])];
}

/** A submersible that the water leaves bare. */
export const pumpNotUnderWater = check<NoFacts>({
  quantity: "head",
  each: "item",
  find: (context) =>
    eachPump(context, ({ atWork: { itemId }, on, placed, running, solved }) => {
      const { line } = context.solution;
      // Where the water's surface is, whatever presses on it.
      const surface = levelUnder(context, running.state.nodeHeads[line.intakeNode] as number);
      const value = placed.elevation - surface;
      if (!on.pump.submersible || !drawsItself(line, placed) || value <= 0) return [];
      // A well that is pumped down to the intake is told of as that.
      if (line.source.kind === "well" && placed.elevation <= line.source.intake) return [];
      const { at } = solved;
      return [{ severity: "stop", at, itemId, value, source: PRACTICE, facts: NO_FACTS }];
    }),
  rank: moreIsWorse,
  derive: (found, context) => {
    const pump = pumpOf(context, found);
    const elevation = pump?.placed.elevation ?? 0;
    return [derive(OVER_WATER, [elevation, elevation - found.value])];
  },
});

const OVER_WATER = formula({
  ...DIFFERENCE,
  title: "Pump above the water",
  equation: "h = z_p - z_w",
  given: [sign("z_p", "pump", "length"), sign("z_w", "water while it runs", "length")],
});

/** Water boils where its pressure falls below what its warmth asks for. */
export const suctionBoils = check<{ where: string }>({
  quantity: "head",
  each: "item",
  find: (context) =>
    eachPump(context, ({ atWork: { itemId, suction }, solved }) => {
      const limit = -suction.barometricLimit;
      const { lowest } = suction;
      if (!lowest || lowest.pressureHead >= limit) return [];
      return [
        {
          severity: "stop",
          at: solved.at,
          itemId,
          value: lowest.pressureHead,
          limit,
          source: "IAPWS vapour pressure",
          facts: { where: lowest.itemId },
        },
      ];
    }),
  rank: ({ value }) => -value,
  derive: ({ at, facts, value }, { solution }) => [
    pointStep(solution.cases[at].running, facts.where, value),
  ],
});

/** Pressure at the point of a running head line that has this pressure head. */
export function pointStep(
  running: CheckContext["solution"]["cases"]["low"]["running"],
  itemId: string | undefined,
  value: number,
) {
  const point = running?.headLine.find(
    (own) => own.itemId === itemId && own.pressureHead === value,
  );
  const { totalHead = 0, elevation = 0 } = point ?? {};
  const spent = Math.max(totalHead - elevation - value, 0);
  return derive(POINT_PRESSURE, [totalHead, elevation, Math.sqrt(2 * GRAVITY * spent)]);
}

export const npshMargin = check<NoFacts>({
  quantity: "head",
  each: "item",
  find: (context) =>
    eachPump(context, ({ atWork: { itemId, suction, npshRequired: limit }, on, solved }) => {
      const value = suction.npshAvailable;
      if (limit === undefined) {
        // A maker's own lift limit judges the suction as well; nothing has to be known of a pump that water runs to.
        const judged = suction.ownLimit !== undefined || suction.dynamicLift <= 0;
        if (on.pump.submersible || judged) return [];
        const source = "Neither NPSH nor a suction lift is published for this flow";
        return [{ severity: "unknown", at: solved.at, itemId, value, source, facts: NO_FACTS }];
      }
      const margin = value - limit;
      const comfortable = margin >= LIMITS.npshMetres && value >= LIMITS.npshRatio * limit;
      return [
        {
          severity: margin < 0 ? "stop" : comfortable ? "good" : "watch",
          at: solved.at,
          itemId,
          value,
          limit,
          source: "ANSI/HI 9.6.1 suggests a ratio of 1.1–1.3 (from memory)",
          facts: NO_FACTS,
        },
      ];
    }),
  rank: lessIsWorse,
  derive: (found, context) => {
    const steps = barometricSteps(context);
    const { staticLift, friction } = pumpOf(context, found)?.atWork.suction ?? {
      staticLift: 0,
      friction: 0,
    };
    const held = steps.at(-1)?.result.value ?? 0;
    return [...steps, derive(NPSH_AVAILABLE, [held, staticLift, friction])];
  },
});

/** The ways into the line that start in the water, with where each begins. */
function intakes({ stretches, segments, intakeNode }: CompiledLine) {
  return stretches.flatMap(({ from, start, end }) => {
    const first = segments[start];
    if (from !== intakeNode || !first || start === end || first.kind === "supply") return [];
    // What floats goes up and down with the water, and keeps itself covered.
    const floats = segments.slice(start, end).some(({ fitting }) => fitting?.floats);
    return [{ first, index: start, floats }];
  });
}

/** Depth of water over every intake against what keeps a vortex from drawing air. */
export const submergence = check<NoFacts>({
  quantity: "head",
  each: "item",
  find: (context) =>
    whileRunning(context, ({ state }, { at }): Found<NoFacts>[] => {
      const { line } = context.solution;
      if (line.source.kind === "mains") return [];
      const surface = state.nodeHeads[line.intakeNode] as number;
      // Without a suction line the pump's own inlet decides, and its maker says how deep.
      return intakes(line).flatMap(({ first, index, floats }): Found<NoFacts>[] => {
        if (first.side === "discharge") return [];
        const value = levelUnder(context, surface) - first.startElevation;
        if (value <= 0 || floats) return [];
        const flow = Math.abs(state.bySegment[index] as number);
        const limit = least(first.bore, meanVelocity(flow, first.bore));
        const { itemId } = first;
        const severity = value < limit ? "watch" : "good";
        const source = "ANSI/HI 9.8, S = D (1 + 2.3 V/√(gD)) (from memory)";
        return [{ severity, at, itemId, value, limit, source, facts: NO_FACTS }];
      });
    }),
  rank: lessIsWorse,
  derive: ({ at, itemId }, context) => {
    const { line, cases } = context.solution;
    const { state } = cases[at].running ?? { state: undefined };
    const index = line.segments.findIndex((segment) => segment.itemId === itemId);
    const bore = line.segments[index]?.bore ?? 1;
    const velocity = derive(VELOCITY, [Math.abs(state?.bySegment[index] ?? 0), bore]);
    const surface = levelUnder(context, state?.nodeHeads[line.intakeNode] ?? 0);
    return [
      velocity,
      derive(SUBMERGENCE, [bore, velocity.result.value]),
      derive(COVER, [surface, line.segments[index]?.startElevation ?? 0]),
    ];
  },
});

/** The water's surface, where the head of a closed tank stands above it. */
function levelUnder({ solution: { line, boundaries } }: CheckContext, head: number): number {
  const pushed = boundaries.normal.source - levelsOf(line.source).normal;
  return head - pushed;
}

const COVER = formula({
  ...DIFFERENCE,
  title: "Water over the intake",
  equation: "h = z_w - z_i",
  given: [sign("z_w", "water while it runs", "length"), sign("z_i", "intake", "length")],
});

/** An intake that some level leaves above the water draws air. */
export const intakeUncovered = check<{ intake: number; level: number }>({
  quantity: "head",
  each: "item",
  find: ({ solution: { line } }) => {
    if (line.source.kind === "mains") return [];
    const levels = levelsOf(line.source);
    const starts = intakes(line);
    const places = starts.length > 0 ? starts : [{ first: undefined, floats: false }];
    return places.flatMap(({ first, floats }): Found<{ intake: number; level: number }>[] => {
      const intake = first?.startElevation ?? line.source.intake;
      if (floats) return [];
      return WATER_LEVELS.flatMap((at) =>
        intake > levels[at]
          ? [
              {
                severity: "stop",
                at,
                ...(starts.length > 1 && first && { itemId: first.itemId }),
                value: intake - levels[at],
                source: PRACTICE,
                facts: { intake, level: levels[at] },
              },
            ]
          : [],
      );
    });
  },
  rank: moreIsWorse,
  derive: ({ facts }) => [derive(BARE, [facts.intake, facts.level])],
});

const BARE = formula({
  ...DIFFERENCE,
  title: "Intake above the water",
  equation: "h = z_i - z_w",
  given: [sign("z_i", "intake", "length"), sign("z_w", "water", "length")],
});

export const OVER_PUMP = formula({
  ...DIFFERENCE,
  title: "Water over the pump",
  equation: "h = z_w - z_p",
  given: [sign("z_w", "water", "length"), sign("z_p", "pump", "length")],
});

/** Speed in the suction line; the fastest pipe decides. */
export const suctionVelocity = check<TooFast>({
  quantity: "velocity",
  each: "line",
  find: (context) =>
    whileRunning(context, ({ state }, { at }): Found<TooFast>[] => {
      const { segments } = context.solution.line;
      let found: Found<TooFast> | undefined;
      for (const [i, { kind, side, itemId, bore }] of segments.entries()) {
        if (kind !== "pipe" || side !== "suction") continue;
        const value = meanVelocity(Math.abs(state.bySegment[i] as number), bore);
        if (found && found.value >= value) continue;
        const { suctionVelocity: limit, suctionVelocityStop: most } = LIMITS;
        const severity = value > most ? "stop" : value > limit ? "watch" : "good";
        found = { severity, at, itemId, value, limit, source: PRACTICE, facts: {} };
      }
      return found ? [found] : [];
    }),
  rank: moreIsWorse,
  complete: withSlowerSize,
  derive: velocityOf,
});

/** The velocity in the segment a finding is about. */
export function velocityOf(
  { at, itemId, value }: Found<unknown>,
  { solution }: CheckContext,
): Derivation {
  const { segments } = solution.line;
  const state = solution.cases[at].running?.state;
  const speed = (i: number) =>
    meanVelocity(Math.abs(state?.bySegment[i] ?? 0), segments[i]?.bore ?? 1);
  // An item may be several segments: the one whose speed was judged.
  const own = segments.flatMap((segment, i) => (segment.itemId === itemId ? [i] : []));
  const index = own.find((i) => speed(i) === value) ?? own[0] ?? -1;
  return [derive(VELOCITY, [Math.abs(state?.bySegment[index] ?? 0), segments[index]?.bore ?? 1])];
}
