import type { Answers, OfUplift, Trouble, Uplift } from "../simulation/answers.ts";
import { checksIn, when } from "./finding.ts";

/** A run over time with what is to be judged of it. SI; heights in m above datum. */
export interface RunFacts {
  answers: Answers;
  byHand: boolean;
  /** s, where more happened than is followed */
  brokenOffAt?: number;
  /** pumped by hand and not dry at the end: m³/s that come in and are drawn there, and s it was followed */
  notDry?: { level: number; after: number; inflow: number; drawn: number };
  /** the level that starts the first pump of a pit; absent where no float empties it */
  lead?: number;
  hasAlarm: boolean;
  overflows: boolean;
  pumps: number;
  /** m³ that only drain out of the pipe */
  drained: number;
  /** of a pit that stays dry: m the water stays under the rim, m³/s that come in at the end, m³ of room left by then */
  atEnd?: { under: number; inflow: number; room: number };
}

/** Starts an hour of a motor whose plate does not say. Common practice, no source. */
export const USUAL_STARTS = 20;
/** Flows that differ by less are as good as one. */
const EVEN = 1e-3;
/** m³: less than a bucket is not worth a word. */
const SOME = 0.01;

const of = checksIn<RunFacts>()("run");

/** What is to be said of a run, in the order it is told. */
export const RUN_FINDINGS = {
  "too-many-events": of(({ brokenOffAt }) =>
    brokenOffAt === undefined ? [] : [{ severity: "stop" as const, at: brokenOffAt }],
  ),
  "floor-wet": of(({ answers: { wet, greatestInflow, survives = 0 } }) =>
    wet ? [{ severity: "stop" as const, ...wet, inflow: greatestInflow, survives }] : [],
  ),
  "not-dry-yet": of(({ notDry }) =>
    notDry && notDry.drawn > notDry.inflow * (1 + EVEN)
      ? [{ severity: "watch" as const, level: notDry.level, after: notDry.after }]
      : [],
  ),
  "never-dry": of(({ notDry }) => {
    if (!notDry || notDry.drawn > notDry.inflow * (1 + EVEN)) return [];
    const { level, inflow, drawn } = notDry;
    return [{ severity: "stop" as const, level, inflow, drawn }];
  }),
  "starts-too-often": of(({ answers: { switching }, lead }) => {
    if (!switching || switching.worst.startsPerHour <= switching.limit) return [];
    const { worst, limit, floatAt, larger } = switching;
    return [
      {
        severity: "watch" as const,
        ...{ starts: worst.startsPerHour, limit },
        ...(floatAt !== undefined && lead !== undefined && { raiseBy: floatAt - lead }),
        ...(larger !== undefined && { larger }),
      },
    ];
  }),
  "battery-flat": of(({ answers: { battery } }) =>
    battery?.flatAt === undefined
      ? []
      : [
          {
            severity: "watch" as const,
            at: battery.flatAt,
            ...(battery.needed !== undefined && { needed: battery.needed }),
          },
        ],
  ),
  "no-alarm": of(({ lead, hasAlarm }) =>
    when(lead !== undefined && !hasAlarm, { severity: "watch" as const }),
  ),
  "one-pump": of(({ lead, pumps, overflows }) =>
    when(lead !== undefined && pumps === 1 && !overflows, { severity: "watch" as const }),
  ),
  "source-low": of(({ answers: { sourceLow } }) =>
    sourceLow === undefined ? [] : [{ severity: "watch" as const, at: sourceLow }],
  ),
  "receiver-full": of(({ answers: { full } }) =>
    full && full.spilled > 0 ? [{ severity: "watch" as const, at: full.at }] : [],
  ),
  // What only drains out of the pipe is a check of the line already.
  "runs-back": of(({ answers: { ranBack }, byHand, drained }) =>
    when(byHand && ranBack > drained + SOME, { severity: "watch" as const, volume: ranBack }),
  ),
  /** dry so far, but more comes in at the end than the pumps hold: s from the end until it is wet */
  "falls-behind": of(({ answers: { survives }, atEnd }) =>
    atEnd && survives !== undefined && atEnd.inflow > survives
      ? [
          {
            severity: "stop" as const,
            ...{ inflow: atEnd.inflow, survives, wetIn: atEnd.room / (atEnd.inflow - survives) },
          },
        ]
      : [],
  ),
  "keeps-up": of(({ answers: { survives, greatestInflow: inflow }, atEnd }) =>
    atEnd && survives !== undefined && atEnd.inflow <= survives
      ? [{ severity: "good" as const, under: atEnd.under, inflow, survives }]
      : [],
  ),
};

/** A body of water at the lowest it comes to: what lifts it out of wet ground, or what has to be known for that. */
export type UpliftFacts = { body: number } & (
  | { kind: "cannot" }
  | { kind: "known"; uplift: Uplift }
  | { kind: "not-known"; lacks: readonly OfUplift[] }
);

const ofUplift = checksIn<UpliftFacts>()("uplift");

export const UPLIFT_FINDINGS = {
  "floats-up": ofUplift((given) => {
    if (given.kind !== "known") return [];
    const { body, uplift } = given;
    return when(uplift.force > uplift.holding, {
      severity: "stop" as const,
      ...{ value: uplift.force, limit: uplift.holding, body, uplift },
    });
  }),
  "uplift-unknown": ofUplift((given) =>
    given.kind === "not-known"
      ? [{ severity: "unknown" as const, body: given.body, lacks: given.lacks }]
      : [],
  ),
};

/** What is wrong with how a job moves in time; nothing more is told before what stops is mended. */
export const TROUBLE_FINDINGS = {
  "run-trouble": checksIn<Trouble>()("run-trouble")((trouble) => [
    { severity: trouble.stops ? ("stop" as const) : ("watch" as const), trouble },
  ]),
};
