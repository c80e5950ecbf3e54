import { NOTHING } from "../hydraulics/flowsAlong.ts";
import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import type { CaseSolution, Running, Solution } from "../hydraulics/solveLine.ts";
import type { Line, OutletItem } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { hazenWilliamsConcerns } from "../pipe/hazenWilliams.ts";
import type { bestEfficiencyFlow } from "../pump/curve.ts";
import { type Level, LIMITS, PRACTICE, type Verdict, type Wanted } from "./verdict.ts";

/** What came of every pump on the line. */
export function outcomeVerdicts(solution: Solution, solved: CaseSolution): Verdict[] {
  const { levelCase, staticHead, siphonFlow, outcomes, running } = solved;
  const moves = running !== undefined && running.duty.flow > 0;
  const verdicts = outcomes.flatMap((outcome, i) => {
    const itemId = solution.pumps[i]?.itemId as string;
    return pumpVerdict(outcome, { levelCase, itemId }, moves && outcomes.length > 1);
  });
  if (siphonFlow !== undefined && siphonFlow > 0) {
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

function pumpVerdict(
  outcome: Outcome,
  where: Pick<Verdict, "levelCase" | "itemId">,
  othersRun: boolean,
): Verdict[] {
  const base = { ...where, source: "Pump curve against line curve" } as const;
  switch (outcome.kind) {
    case "cannot-lift":
      return [
        {
          ...base,
          code: othersRun ? "pump-held-shut" : "cannot-lift",
          level: "stop",
          quantity: "head",
          value: outcome.bestHead,
          limit: outcome.staticHead,
          extra: { shortfall: outcome.shortfall },
        },
      ];
    case "below-curve":
      return [
        {
          ...base,
          code: "below-curve",
          level: "stop",
          quantity: "head",
          value: outcome.first.head,
          limit: outcome.headNeeded,
          extra: { firstFlow: outcome.first.flow },
        },
      ];
    case "beyond-curve":
      return [
        {
          ...base,
          code: "beyond-curve",
          level: "stop",
          quantity: "flow",
          value: outcome.last.flow,
          limit: outcome.last.flow,
          extra: { lastHead: outcome.last.head, headNeeded: outcome.headNeeded },
        },
      ];
    case "two-crossings":
      return [
        {
          ...base,
          code: "two-crossings",
          level: outcome.startsFromRest ? "watch" : "stop",
          quantity: "flow",
          value: outcome.stable.flow,
          limit: outcome.unstable.flow,
          extra: { startsFromRest: outcome.startsFromRest ? 1 : 0 },
        },
      ];
    case "runs":
      return [];
  }
}

/** The flow at the outlets against what the job is there for. */
export function wantedVerdict(
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
export function holeVerdicts(
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

/** How far each pump runs from its best-efficiency flow. */
export function regionVerdicts(
  best: readonly ReturnType<typeof bestEfficiencyFlow>[],
  { levelCase, outcomes }: CaseSolution,
  running: Running,
): Verdict[] {
  return running.pumps.flatMap(({ itemId, duty }, i): Verdict[] => {
    const outcome = outcomes[i];
    const region = best[i];
    if (!outcome || !region || !settledDuty(outcome)) return [];
    const ratio = duty.flow / region.flow;
    const inside = ratio >= LIMITS.regionLow && ratio <= LIMITS.regionHigh;
    return [
      {
        code: "operating-region",
        level: inside ? "good" : "watch",
        levelCase,
        itemId,
        quantity: "ratio",
        value: ratio,
        limit: ratio < LIMITS.regionLow ? LIMITS.regionLow : LIMITS.regionHigh,
        extra: { bestFlow: region.flow, guessed: region.basis === "guess" ? 1 : 0 },
        source: "ANSI/HI 9.6.3 preferred region 70–120 % of best efficiency (from memory)",
      },
    ];
  });
}

/** The two friction formulas side by side. */
export function schoolsVerdict({ cases, crossChecks }: Solution): Verdict[] {
  const duty = settledDuty(cases.normal.outcome);
  const other = crossChecks.friction.duty;
  if (!duty || !other) return [];
  const apart = other.flow / duty.flow - 1;
  if (Math.abs(apart) <= LIMITS.schoolsApart) return [];
  return [
    {
      code: "schools-disagree",
      level: "watch",
      levelCase: "normal",
      quantity: "flow",
      value: other.flow,
      limit: duty.flow,
      source: "Darcy–Weisbach against Hazen–Williams",
    },
  ];
}

/** Where the Hazen–Williams formula is used outside what it was fitted to. */
export function hazenWilliamsVerdict(
  solution: Solution,
  line: Line,
  solved: CaseSolution,
  running: Running,
): Verdict[] {
  if (line.method.friction !== "hazen-williams") return [];
  for (const [index, { kind, itemId, bore }] of solution.line.segments.entries()) {
    if (kind !== "pipe") continue;
    const value = meanVelocity(Math.abs(running.flows.bySegment[index] as number), bore);
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

/** Where the line parts: water that runs against the path, and equal outlets that share badly. */
export function branchVerdicts(
  { line }: Solution,
  { levelCase }: CaseSolution,
  { flows }: Running,
): Verdict[] {
  const verdicts: Verdict[] = [];
  const back = flows.bySegment.findIndex((flow) => flow < 0);
  const segment = line.segments[back];
  if (segment) {
    verdicts.push({
      code: "branch-runs-back",
      level: "watch",
      levelCase,
      itemId: segment.itemId,
      quantity: "flow",
      value: -(flows.bySegment[back] as number),
      source: "Balance of the network",
    });
  }
  const dry = flows.byOutlet.findIndex((flow) => Math.abs(flow) <= NOTHING);
  const dryOutlet = line.outlets[dry];
  if (dryOutlet) {
    verdicts.push({
      code: "outlet-dry",
      level: "stop",
      levelCase,
      itemId: dryOutlet.item.id,
      quantity: "flow",
      value: 0,
      source: "Balance of the network",
    });
  }
  const [first, ...others] = line.outlets;
  // Guns and sprinklers are there to wet evenly; a tap and a tank are not.
  const sprays = first?.item.outlet.type === "nozzle" || first?.item.outlet.type === "emitter";
  const alike = others.every((outlet) => sameOutlet(outlet.item, first?.item));
  if (first && sprays && others.length > 0 && alike) {
    const value = Math.min(...flows.byOutlet);
    const limit = Math.max(...flows.byOutlet);
    const weakest = line.outlets[flows.byOutlet.indexOf(value)];
    verdicts.push({
      code: "outlets-uneven",
      level: value <= 0 ? "stop" : value < LIMITS.evenness * limit ? "watch" : "good",
      levelCase,
      itemId: weakest?.item.id as string,
      quantity: "flow",
      value,
      limit,
      source: PRACTICE,
    });
  }
  return verdicts;
}

function sameOutlet(a: OutletItem, b: OutletItem | undefined): boolean {
  return JSON.stringify(a.outlet) === JSON.stringify(b?.outlet);
}
