import type { CanAgreement } from "../irrigation/catchCans.ts";
import type { DayPlan } from "../irrigation/dayPlan.ts";
import type { DripResult } from "../irrigation/drip.ts";
import type { Surveyed } from "../irrigation/ground.ts";
import type { ThrowResult } from "../irrigation/gun.ts";
import type { SetPlanResult } from "../irrigation/sets.ts";
import type { Runoff, Soil } from "../irrigation/soil.ts";
import { checksIn, when } from "./finding.ts";

export interface GunFacts {
  thrown: ThrowResult;
  /** Pa at its base */
  pressure: number;
}

export interface RunoffFacts {
  soil: Soil;
  guns: number;
  /** m/s that come down where a gun turns widest, and what of it stays on top */
  rate: number;
  runoff: Runoff;
  /** and where it turns least, through so many degrees */
  narrow?: { rate: number; arc: number; runoff?: Runoff };
}

/** Part of the ground that may get hardly any water before it is worth a word. Common practice, no source. */
const DRY_PART = 0.02;
/** Christiansen's coefficient of a pattern that is even, and that is enough for grass. Common practice, no source. */
export const EVENNESS = { even: 0.84, fair: 0.7 };
/** Emission uniformity of drip that is even, and that still does. Common practice, no source. */
export const DRIP_EVEN = { good: 0.9, fair: 0.8 };

export interface SetsFacts {
  ground: Surveyed | undefined;
  sets: SetPlanResult | undefined;
  /** what is kept off takes water away from some of it */
  keptOff: boolean;
}

const ofSets = checksIn<SetsFacts>()("sets");
const ofRunoff = checksIn<RunoffFacts>()("runoff");
const ofDay = checksIn<DayPlan>()("day-plan");
const ofDrip = checksIn<DripResult>()("drip");

/** A throw that was walked, which of the guns it is of. */
export interface ThrownOutside {
  stood: "one" | "two";
}

export const IRRIGATION_FINDINGS = {
  "throw-outside-window": checksIn<ThrownOutside>()("worked-back")(({ stood }) => [
    { severity: "watch" as const, stood },
  ]),
  "gun-throw": checksIn<GunFacts>()("gun")(({ thrown, pressure }) => [
    {
      severity:
        thrown.kind !== "throws"
          ? ("stop" as const)
          : thrown.windowKnown
            ? ("good" as const)
            : ("unknown" as const),
      ...{ value: pressure, thrown },
      ...(thrown.kind !== "throws" && { limit: thrown.limit }),
    },
  ]),
  runoff: ofRunoff((given) => {
    const { runoff, narrow } = given;
    const worse = narrow?.runoff !== undefined && narrow.runoff.kind !== "soaks-in";
    const soaks = runoff.kind === "soaks-in" && !worse;
    const severity = soaks ? ("good" as const) : ("watch" as const);
    return [{ severity, value: given.rate, limit: runoff.low, of: given }];
  }),
  "ground-refused": ofSets(({ ground }) =>
    ground?.kind === "refused" ? [{ severity: "stop" as const, why: ground.why }] : [],
  ),
  "sets-refused": ofSets(({ sets }) =>
    sets?.kind === "refused" ? [{ severity: "stop" as const, why: sets.why }] : [],
  ),
  "set-note": ofSets(({ sets }) =>
    sets?.kind === "planned"
      ? sets.notes.map((note) => ({ severity: "watch" as const, note, outside: sets.outside }))
      : [],
  ),
  "ground-dry": ofSets(({ sets, keptOff }) =>
    sets?.kind === "planned"
      ? when(sets.dry > DRY_PART, {
          severity: "watch" as const,
          ...{ value: sets.dry, limit: DRY_PART, keptOff },
        })
      : [],
  ),
  "day-refused": ofDay((plan) =>
    plan.kind === "refused"
      ? [{ severity: plan.why === "no-sets-left" ? ("good" as const) : ("stop" as const), plan }]
      : [],
  ),
  "cans-agree": checksIn<{ agreement: CanAgreement; caught: number; modelled: number }>()("cans")(
    ({ agreement, caught, modelled }) => [
      {
        severity: agreement.kind === "agree" ? ("good" as const) : ("watch" as const),
        ...{ value: caught, limit: modelled, agreement },
      },
    ],
  ),
  "drip-refused": ofDrip((result) =>
    result.kind === "refused" ? [{ severity: "stop" as const, why: result.why }] : [],
  ),
  "drip-evenness": ofDrip((result) =>
    result.kind === "solved"
      ? [
          {
            severity: result.uniformity >= DRIP_EVEN.good ? ("good" as const) : ("watch" as const),
            ...{ value: result.uniformity, limit: DRIP_EVEN.good },
          },
        ]
      : [],
  ),
};
