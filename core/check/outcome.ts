import type { WaterLevel } from "../fluid/levels.ts";
import {
  drivenDerivation,
  dutyDerivation,
  flowDerivation,
  shutOffStep,
  staticDerivation,
} from "../formula/duty.ts";
import { derive, formula, sign } from "../formula/formula.ts";
import { DIFFERENCE, RATIO } from "../formula/laws.ts";
import { outletLevel, type PumpState } from "../hydraulics/boundary.ts";
import { NOTHING } from "../hydraulics/hydraulicModel.ts";
import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import { type Stretch, segmentsInto } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import { ownChecks } from "../line/profile.ts";
import {
  type Check,
  type CheckContext,
  check,
  eachPump,
  type Found,
  inEachCase,
  LIMITS,
  lessIsWorse,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  pumpOf,
  WORTH_SAYING,
} from "./check.ts";

/** What came of every pump on the line. */

const CURVES = "Pump curve against line curve";

/** Every outcome of one kind, with the pump it is of. */
function outcomes<K extends Outcome["kind"], F>(
  context: CheckContext,
  kind: K,
  find: (
    outcome: Extract<Outcome, { kind: K }>,
    base: { at: WaterLevel; itemId?: string; source: string },
    moves: boolean,
  ) => Found<F>[],
): Found<F>[] {
  const { pumps } = context.solution;
  return inEachCase(context, ({ at, outcome: joint, outcomes: each, running }) => {
    const moves = running !== undefined && running.duty.flow > 0;
    const own = each.length > 0 ? each : [joint];
    return own.flatMap((outcome, i) => {
      if (outcome.kind !== kind) return [];
      const itemId = pumps[i]?.itemId;
      const base = { at, source: CURVES, ...(itemId !== undefined && { itemId }) };
      return find(outcome as Extract<Outcome, { kind: K }>, base, moves && each.length > 1);
    });
  });
}

interface LiftFacts {
  staticHead: number;
  bestHead: number;
  short: "static-head" | "friction" | "holes";
}

/** `asked`: what the head is called that the pump does not come to. */
const lifting = <F extends LiftFacts>(find: Check<F>["find"], asked: string) =>
  check<F>({
    find,
    quantity: "head",
    each: "item",
    rank: moreIsWorse,
    derive: ({ at, itemId, facts, value }, { solution }) => {
      const pump = Math.max(
        solution.pumps.findIndex((own) => own.itemId === itemId),
        0,
      );
      const most = solution.pumps.length > 0 ? [shutOffStep(solution, pump)] : [];
      const steps = [...staticDerivation(solution, at), ...most];
      const names = { 0: asked };
      return [...steps, derive(SHORT, [facts.bestHead + value, facts.bestHead], { names })];
    },
  });

/** Pumps that lift nothing; `othersRun` for those that only do not because others do. */
function liftless(context: CheckContext, othersRun: boolean): Found<LiftFacts>[] {
  return outcomes(context, "cannot-lift", (outcome, base, moves) => {
    const { shortfall, staticHead, bestHead, short } = outcome;
    if (moves !== othersRun) return [];
    const facts = { staticHead, bestHead, short };
    return [{ ...base, severity: "stop", value: shortfall, facts }];
  });
}

interface HeldShut extends LiftFacts {
  /** a check valve of its own stays shut; without one the others drive water back through it */
  guarded: boolean;
}

/** Pumps whose own check valve the others hold shut, though a hole below it lets some water go. */
function heldShut(context: CheckContext): Found<HeldShut>[] {
  const { line } = context.solution;
  if (line.pumps.length < 2) return [];
  return eachPump(context, ({ atWork, placed, running, solved }) => {
    const checks = ownChecks(line, placed);
    const { byStretch, nodeHeads } = running.state;
    const { flow, head: bestHead } = atWork.duty;
    if (!checks || checks.length === 0 || flow <= 0) return [];
    if (checks.some((i) => (byStretch[i] as number) > NOTHING)) return [];
    const beyond = checks.map((i) => nodeHeads[(line.stretches[i] as Stretch).to] as number);
    const staticHead = Math.min(...beyond) - (nodeHeads[placed.inlet] as number);
    return [
      {
        severity: "stop",
        at: solved.at,
        itemId: atWork.itemId,
        value: Math.max(staticHead - bestHead, 0),
        source: CURVES,
        facts: { staticHead, bestHead, short: "static-head", guarded: true },
      },
    ];
  });
}

/** What only stands because the others run, with whether anything holds their water from it. */
function heldByOthers(context: CheckContext): Found<HeldShut>[] {
  const { line } = context.solution;
  return liftless(context, true).map((found) => {
    const placed = line.pumps.find(({ item }) => item.id === found.itemId);
    const footed =
      placed && segmentsInto(line, placed.inlet).some(({ fitting }) => fitting?.group === "check");
    const guarded = placed !== undefined && (footed || ownChecks(line, placed) !== undefined);
    return { ...found, facts: { ...found.facts, guarded } };
  });
}

const SHORT = formula({
  ...DIFFERENCE,
  title: "What it falls short by",
  equation: "\\Delta = H_{line} - H_{pump}",
  given: [
    sign("H_{line}", "asked for by the line", "head"),
    sign("H_{pump}", "made there", "head"),
  ],
  source: CURVES,
});

export const cannotLift = lifting(
  (context) => liftless(context, false),
  "asked for where the two come closest",
);
export const pumpHeldShut = lifting(
  (context) => [...heldByOthers(context), ...heldShut(context)],
  "held against it by the others",
);

export const belowCurve = check<{ firstFlow: number; firstHead: number }>({
  quantity: "head",
  each: "item",
  find: (context) =>
    outcomes(context, "below-curve", ({ first, headNeeded }, base) => [
      {
        ...base,
        severity: "stop",
        value: headNeeded - first.head,
        limit: headNeeded,
        facts: { firstFlow: first.flow, firstHead: first.head },
      },
    ]),
  rank: ({ value }) => value,
  derive: ({ at, limit = 0, facts }, { solution }) => [
    ...staticDerivation(solution, at),
    derive(SHORT, [limit, facts.firstHead], {
      names: { 0: "asked for at the first published flow", 1: "published there" },
    }),
  ],
});

export const beyondCurve = check<{ lastHead: number; headNeeded: number }>({
  quantity: "flow",
  each: "item",
  find: (context) =>
    outcomes(context, "beyond-curve", ({ last, headNeeded }, base) => [
      {
        ...base,
        severity: "stop",
        value: last.flow,
        facts: { lastHead: last.head, headNeeded },
      },
    ]),
  // The more head is left at the end of the curve, the further past it the pump runs.
  rank: ({ facts }) => facts.lastHead - facts.headNeeded,
  derive: ({ at, itemId }, { solution }) => flowDerivation(solution, at, itemId),
});

export const twoCrossings = check<{ startsFromRest: boolean; sticksAt: number | null }>({
  quantity: "flow",
  each: "item",
  find: (context) =>
    outcomes(context, "two-crossings", ({ stable, unstable, startsFromRest, sticksAt }, base) => [
      {
        ...base,
        severity: startsFromRest ? "watch" : "stop",
        value: stable.flow,
        limit: unstable.flow,
        facts: { startsFromRest, sticksAt: sticksAt?.flow ?? null },
      },
    ]),
  rank: lessIsWorse,
  derive: ({ at, itemId }, { solution }) => flowDerivation(solution, at, itemId),
});

/** m the lowest way out lies below the water of the source, whatever presses on either; negative where it lies above. */
function belowWater({ solution: { line } }: CheckContext, at: WaterLevel): number {
  const ways = line.outlets.map(({ item, elevation }) => outletLevel(item.outlet, elevation, at));
  return levelsOf(line.source)[at] - Math.min(...ways);
}

export const siphons = check<{ fall: number; below: number }>({
  quantity: "flow",
  each: "line",
  find: (context) =>
    inEachCase(context, ({ at, siphonFlow, staticHead }) =>
      siphonFlow !== undefined && siphonFlow > WORTH_SAYING
        ? [
            {
              severity: "watch",
              at,
              value: siphonFlow,
              source: "Outlet below the water",
              facts: { fall: -staticHead, below: belowWater(context, at) },
            },
          ]
        : [],
    ),
  rank: moreIsWorse,
  derive: ({ at }, { solution }) => {
    const { model, boundaries, states } = solution;
    const standing = states.map((): PumpState => ({ kind: "stopped" }));
    const result = model.solve(boundaries[at], standing);
    const steps = staticDerivation(solution, at);
    return result.kind === "steady"
      ? [...steps, ...drivenDerivation(solution, boundaries[at], result.state)]
      : steps;
  },
});

/** Part of the wanted flow that meets it. Common practice, no source. */
const MET = 0.99;

/** The flow at the outlets against what the job is there for. */
export const wantedFlow = check<NoFacts>({
  quantity: "flow",
  each: "line",
  find: (context) => {
    const { wantedFlow: limit } = context;
    if (!limit) return [];
    return inEachCase(context, ({ at, outcome, running }): Found<NoFacts>[] => {
      if (!settledDuty(outcome) || !running) return [];
      const value = running.state.delivered;
      // An aim is not a limit, and within a hundredth it is met.
      const severity = value >= MET * limit ? "good" : "watch";
      const source = "Flow wanted for this job";
      return [{ severity, at, value, limit, source, facts: NO_FACTS }];
    });
  },
  rank: lessIsWorse,
  derive: ({ at }, { solution, line }) => dutyDerivation({ kind: "delivered", at }, solution, line),
});

/** How far each pump runs from its best-efficiency flow. */
export const operatingRegion = check<{ bestFlow: number; guessed: boolean; several: boolean }>({
  quantity: "ratio",
  each: "item",
  find: (context) =>
    eachPump(context, ({ index, atWork, solved }) => {
      const outcome = solved.outcomes[index];
      const region = context.best[index];
      if (!outcome || !region || !settledDuty(outcome)) return [];
      const value = atWork.duty.flow / region.flow;
      const inside = value >= LIMITS.regionLow && value <= LIMITS.regionHigh;
      return [
        {
          severity: inside ? "good" : "watch",
          at: solved.at,
          itemId: atWork.itemId,
          value,
          limit: value < 1 ? LIMITS.regionLow : LIMITS.regionHigh,
          source: "ANSI/HI 9.6.3 preferred region 70–120 % of best efficiency (from memory)",
          facts: {
            bestFlow: region.flow,
            guessed: region.basis === "guess",
            several: solved.outcomes.length > 1,
          },
        },
      ];
    }),
  // The nearer to an edge, or the further past it, as a share of the way from best efficiency to that edge.
  rank: ({ value }) =>
    value < 1 ? (1 - value) / (1 - LIMITS.regionLow) : (value - 1) / (LIMITS.regionHigh - 1),
  derive: (found, context) => {
    const pump = pumpOf(context, found);
    const { bestFlow, guessed } = found.facts;
    const assumed = guessed ? ["No power is published: the middle of the curve stands for it"] : [];
    return [
      ...flowDerivation(context.solution, found.at, found.itemId),
      derive(REGION, [pump?.atWork.duty.flow ?? 0, bestFlow], { assumed }),
    ];
  },
});

const REGION = formula({
  ...RATIO,
  title: "Share of best-efficiency flow",
  equation: "\\frac{Q}{Q_{bep}}",
  given: [sign("Q", "flow of the pump", "flow"), sign("Q_{bep}", "best-efficiency flow", "flow")],
  source: "ANSI/HI 9.6.3 preferred region, from memory",
});

/** The two friction formulas side by side. */
export const methodsDisagree = check<NoFacts>({
  quantity: "flow",
  each: "line",
  find: ({ solution: { cases, crossChecks } }) => {
    const duty = settledDuty(cases.normal.outcome);
    const other = crossChecks.friction.duty;
    if (!duty || !other || Math.abs(other.flow / duty.flow - 1) <= LIMITS.schoolsApart) return [];
    return [
      {
        severity: "watch",
        at: "normal",
        value: other.flow,
        limit: duty.flow,
        source: "Darcy–Weisbach against Hazen–Williams",
        facts: NO_FACTS,
      },
    ];
  },
  rank: moreIsWorse,
  derive: (_, { solution, line }) => dutyDerivation({ kind: "other-friction" }, solution, line),
});
