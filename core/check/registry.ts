import type { Derivation } from "../formula/formula.ts";
import type { Solution } from "../hydraulics/solveLine.ts";
import type { Line } from "../line/path.ts";
import { bestEfficiencyFlow } from "../pump/curve.ts";
import type { Quantity } from "../quantity/quantity.ts";
import {
  branchRunsBack,
  drainFloods,
  holeMisplaced,
  holeWastes,
  outletDry,
  outletsUneven,
} from "./branches.ts";
import type { Check, CheckContext, Found, Severity } from "./check.ts";
import {
  checkValveFlutters,
  dischargeUnderSuction,
  dischargeVelocity,
  dischargeVelocityHigh,
  dischargeVelocityLow,
  hazenWilliamsRange,
  outletFloods,
  pressureRating,
  pressureRatingUnknown,
  surge,
} from "./discharge.ts";
import { floatingHose, motorCooling, primingTime } from "./intake.ts";
import {
  belowCurve,
  beyondCurve,
  cannotLift,
  methodsDisagree,
  operatingRegion,
  pumpHeldShut,
  siphons,
  twoCrossings,
  wantedFlow,
} from "./outcome.ts";
import {
  gunPressure,
  pumpPassage,
  pumpPlacement,
  pumpWidth,
  waterTooDeep,
  waterTooShallow,
  waterTooWarm,
  waterUnfit,
} from "./placing.ts";
import { airLock, backflowUnguarded, drainsBack, losesPrime, trapsAir } from "./standstill.ts";
import {
  intakeUncovered,
  npshMargin,
  pumpNotUnderWater,
  submergence,
  suctionBoils,
  suctionLiftBarometric,
  suctionLiftPump,
  suctionVelocity,
} from "./suction.ts";
import { cutOutReached, wellDry, wellSetting } from "./well.ts";

/** Every judgement there is, by its code, in the order they are told within one severity. */
export const CHECKS = {
  "pump-placement": pumpPlacement,
  "pump-width": pumpWidth,
  "pump-passage": pumpPassage,
  "water-too-shallow": waterTooShallow,
  "water-too-deep": waterTooDeep,
  "water-too-warm": waterTooWarm,
  "motor-cooling": motorCooling,
  "water-unfit": waterUnfit,
  "cannot-lift": cannotLift,
  "below-curve": belowCurve,
  "beyond-curve": beyondCurve,
  "two-crossings": twoCrossings,
  "pump-held-shut": pumpHeldShut,
  "backflow-unguarded": backflowUnguarded,
  "branch-runs-back": branchRunsBack,
  "drain-floods": drainFloods,
  "outlet-dry": outletDry,
  "outlets-uneven": outletsUneven,
  siphons,
  "gun-pressure": gunPressure,
  "wanted-flow": wantedFlow,
  "well-dry": wellDry,
  "well-setting": wellSetting,
  "cut-out-reached": cutOutReached,
  "intake-uncovered": intakeUncovered,
  "pump-not-under-water": pumpNotUnderWater,
  "suction-lift-barometric": suctionLiftBarometric,
  "suction-lift-pump": suctionLiftPump,
  "suction-boils": suctionBoils,
  "npsh-margin": npshMargin,
  "suction-velocity": suctionVelocity,
  "discharge-velocity-high": dischargeVelocityHigh,
  "discharge-velocity-low": dischargeVelocityLow,
  "discharge-velocity": dischargeVelocity,
  "check-valve-flutters": checkValveFlutters,
  "pressure-rating": pressureRating,
  "pressure-rating-unknown": pressureRatingUnknown,
  "hole-misplaced": holeMisplaced,
  "hole-wastes": holeWastes,
  "air-lock": airLock,
  "outlet-floods": outletFloods,
  surge,
  submergence,
  "loses-prime": losesPrime,
  "priming-time": primingTime,
  "floating-hose": floatingHose,
  "drains-back": drainsBack,
  "traps-air": trapsAir,
  "discharge-under-suction": dischargeUnderSuction,
  "operating-region": operatingRegion,
  "hazen-williams-range": hazenWilliamsRange,
  "schools-disagree": methodsDisagree,
} as const;

export type CheckCode = keyof typeof CHECKS;
export type FactsOf<C extends CheckCode> =
  (typeof CHECKS)[C] extends Check<infer Facts> ? Facts : never;

/** One check on one solution, the worst it found. */
export type Judgement = {
  [C in CheckCode]: { code: C; quantity: Quantity } & Found<FactsOf<C>>;
}[CheckCode];

export const SEVERITY_ORDER: Record<Severity, number> = {
  good: 0,
  unknown: 1,
  watch: 2,
  stop: 3,
};

export function checkContext(solution: Solution, line: Line, wantedFlow?: number): CheckContext {
  const best = solution.pumps.map(({ curve }) => bestEfficiencyFlow(curve));
  return { solution, line, wantedFlow, best };
}

/** What can be said of a line before its pump is chosen: of the water in it at the flow it is asked for. */
const OF_THE_LINE: readonly CheckCode[] = [
  "intake-uncovered",
  "suction-lift-barometric",
  "suction-boils",
  "suction-velocity",
  "discharge-velocity-high",
  "discharge-velocity-low",
  "discharge-velocity",
  "check-valve-flutters",
  "drain-floods",
  "outlet-dry",
  "outlets-uneven",
  "outlet-floods",
  "hole-misplaced",
  "hole-wastes",
  "air-lock",
  "surge",
  "traps-air",
  "well-dry",
  "well-setting",
  "water-unfit",
  "hazen-williams-range",
];

/** What is said of the water and where it comes from, and of a depth that is still to be chosen: of no pump in a list of them. */
export const OF_NO_PUMP: ReadonlySet<CheckCode> = new Set(["water-unfit", "well-setting"]);

/** Every judgement on a solution, the worst first; of one check on one thing the worst state of the water. */
export function judge(context: CheckContext): Judgement[] {
  const codes = context.solution.asked ? OF_THE_LINE : (Object.keys(CHECKS) as CheckCode[]);
  const said = codes.flatMap((code) => worstOf(code, context));
  return said.sort((a, b) => SEVERITY_ORDER[b.severity] - SEVERITY_ORDER[a.severity]);
}

/** Judgements with what had to be tried for them: for those a person is told, not for every pump of a library. */
export function completed(judgements: readonly Judgement[], context: CheckContext): Judgement[] {
  return judgements.map((judgement) => {
    const { complete } = CHECKS[judgement.code] as Check<unknown>;
    return complete ? ({ ...judgement, ...complete(judgement, context) } as Judgement) : judgement;
  });
}

function worstOf(code: CheckCode, context: CheckContext): Judgement[] {
  const own = CHECKS[code] as Check<unknown>;
  const kept = new Map<string | undefined, Found<unknown>>();
  for (const found of own.find(context)) {
    const key = own.each === "item" ? found.itemId : undefined;
    const held = kept.get(key);
    if (!held || isWorse(own, found, held)) kept.set(key, found);
  }
  return [...kept.values()].map(
    (found) => ({ code, quantity: own.quantity, ...found }) as Judgement,
  );
}

/** More severe, or as severe and worse by the check's own ranking; of equals the harder state is kept. */
function isWorse(own: Check<unknown>, a: Found<unknown>, b: Found<unknown>): boolean {
  const severity = SEVERITY_ORDER[a.severity] - SEVERITY_ORDER[b.severity];
  return severity !== 0 ? severity > 0 : own.rank(a) > own.rank(b) + 1e-12;
}

/** The worst severity among judgements; good where there are none. */
export function worstSeverity(judgements: readonly Judgement[]): Severity {
  return judgements.reduce<Severity>(
    (worst, { severity }) => (SEVERITY_ORDER[severity] > SEVERITY_ORDER[worst] ? severity : worst),
    "good",
  );
}

/** Tells judgements of one solution apart. */
export function judgementKey({ code, itemId }: Pick<Judgement, "code" | "itemId">): string {
  return CHECKS[code].each === "item" && itemId !== undefined ? `${code} ${itemId}` : code;
}

/** How the number of a judgement comes about. */
export function judgementDerivation(judgement: Judgement, context: CheckContext): Derivation {
  return (CHECKS[judgement.code] as Check<unknown>).derive(judgement, context);
}
