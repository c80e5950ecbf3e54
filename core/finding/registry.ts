import type { Judgement } from "../check/registry.ts";
import { DRIVING_FINDINGS } from "./driving.ts";
import type { FindingCheck, Found } from "./finding.ts";
import { IRRIGATION_FINDINGS } from "./irrigation.ts";
import { RUN_FINDINGS, TROUBLE_FINDINGS, UPLIFT_FINDINGS } from "./run.ts";
import {
  CABLE_FINDINGS,
  DRAWDOWN_FINDINGS,
  DRAWS_FINDINGS,
  HANGING_FINDINGS,
  OTHER_PUMP_FINDINGS,
  TANK_FINDINGS,
  TAP_FINDINGS,
  VALVE_FINDINGS,
  WELL_FINDINGS,
} from "./well.ts";
import { YARD_FINDINGS } from "./yard.ts";

/**
 * Every judgement that is not of a solved line, by its code, in the order they are told within a context. Those of the
 * line stand in `CHECKS`.
 */
export const FINDINGS = {
  ...RUN_FINDINGS,
  ...UPLIFT_FINDINGS,
  ...TROUBLE_FINDINGS,
  ...WELL_FINDINGS,
  ...DRAWDOWN_FINDINGS,
  ...HANGING_FINDINGS,
  ...CABLE_FINDINGS,
  ...TANK_FINDINGS,
  ...VALVE_FINDINGS,
  ...DRAWS_FINDINGS,
  ...TAP_FINDINGS,
  ...OTHER_PUMP_FINDINGS,
  ...IRRIGATION_FINDINGS,
  ...DRIVING_FINDINGS,
  ...YARD_FINDINGS,
};

type Registry = typeof FINDINGS;
export type FindingCode = keyof Registry;
type FoundBy<C extends FindingCode> =
  Registry[C] extends FindingCheck<string, never, infer F extends Found> ? F : never;
type ContextOf<C extends FindingCode> = Registry[C]["context"];

/** One thing that was found, with where it belongs and where its limit comes from. */
export type Finding<C extends FindingCode = FindingCode> = {
  [K in C]: { code: K; context: ContextOf<K>; source: string } & FoundBy<K>;
}[C];

export type Context = ContextOf<FindingCode>;
/** The findings of one context. */
export type FindingIn<X extends Context> = Finding<
  { [C in FindingCode]: ContextOf<C> extends X ? C : never }[FindingCode]
>;
/** What the checks of a context are given. */
export type GivenIn<X extends Context> = {
  [C in FindingCode]: ContextOf<C> extends X ? Parameters<Registry[C]["find"]>[0] : never;
}[FindingCode];

const ENTRIES = Object.entries(FINDINGS) as [FindingCode, FindingCheck<Context, never, Found>][];

/**
 * Everything the checks of a context find in what they are given, in the order of the registry.
 * @example
 * findingsIn("tap", { least: 120_000 }); // [{ code: "tap-pressure", severity: "watch", … }]
 */
export function findingsIn<X extends Context>(context: X, given: GivenIn<X>): FindingIn<X>[] {
  return ENTRIES.filter(([, check]) => check.context === context).flatMap(
    ([code, { source, find }]) =>
      find(given as never).map((found) => ({ code, context, source, ...found })),
  ) as unknown as FindingIn<X>[];
}

/** Everything that is to be said of a job: of its line, and of all that was worked out beside it. */
export interface JobFindings {
  line: readonly Judgement[];
  beside: readonly Finding[];
}
