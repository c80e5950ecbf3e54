import type { CableChoice, CableRow } from "../driving/cableChoice.ts";
import { DROP } from "../driving/motor.ts";
import type { AirLiftResult } from "../well/airLift.ts";
import type { DrawdownFit } from "../well/drawdown.ts";
import { FOR_ONE, type Hangs, ROPE_FACTOR } from "../well/hanging.ts";
import { checksIn, when } from "./finding.ts";

type Fitted = Extract<DrawdownFit, { kind: "fitted" }>;
const ofTest = checksIn<DrawdownFit>()("drawdown-test");
/** What is said of a fit of one kind. */
const ofFit =
  <F>(find: (fit: Fitted) => F[]) =>
  (fit: DrawdownFit) =>
    fit.kind === "fitted" ? find(fit) : [];
/** No curve was held straight, or bent the wrong way. */
const asMeasured = <F>(find: (fit: Fitted) => F[]) =>
  ofFit((fit) => (fit.held === undefined ? find(fit) : []));

/** How far a pumping test may be trusted. */
export const DRAWDOWN_FINDINGS = {
  "drawdown-unknown": ofTest(({ kind }) => when(kind === "none", { severity: "unknown" as const })),
  "step-not-drawn": ofTest((fit) =>
    fit.kind === "no-drawdown" ? [{ severity: "stop" as const, at: fit.at }] : [],
  ),
  "drawdown-straightens": ofTest(
    ofFit(({ held, testedTo }) =>
      when(held === "quadratic", { severity: "watch" as const, testedTo }),
    ),
  ),
  "drawdown-chokes": ofTest(
    ofFit(({ held, testedTo }) =>
      when(held === "linear", { severity: "watch" as const, testedTo }),
    ),
  ),
  "one-step": ofTest(
    asMeasured(({ drawdown, testedTo }) =>
      when(drawdown.quadratic === 0, { severity: "watch" as const, testedTo }),
    ),
  ),
  "two-steps": ofTest(
    asMeasured(({ drawdown, scatter, testedTo }) =>
      when(drawdown.quadratic !== 0 && scatter === undefined, {
        ...{ severity: "watch" as const, testedTo },
      }),
    ),
  ),
  "steps-agree": ofTest(
    asMeasured(({ drawdown, scatter, testedTo }) =>
      drawdown.quadratic !== 0 && scatter !== undefined
        ? [{ severity: "good" as const, scatter, testedTo }]
        : [],
    ),
  ),
};

const ofHanging = checksIn<Hangs>()("hanging");

/** Who and what lifts what hangs in a well. */
export const HANGING_FINDINGS = {
  "lifting-weight": ofHanging(({ dry, full }) => [
    {
      severity: full > FOR_ONE ? ("watch" as const) : ("good" as const),
      ...{ value: full, limit: FOR_ONE, dry },
    },
  ]),
  "rope-strength": ofHanging(({ rope }) => [
    { severity: "good" as const, value: rope, factor: ROPE_FACTOR },
  ]),
  "pipe-pulled": ofHanging(({ pull }) =>
    pull
      ? [
          {
            severity: pull.stress > pull.allowed ? ("stop" as const) : ("good" as const),
            ...{ value: pull.stress, limit: pull.allowed },
          },
        ]
      : [],
  ),
};

/** A size of cable beside its breaker. */
export interface CableSize {
  row: CableRow;
  breaker: number | undefined;
}

/** How a size of cable stands: one that loses more than is good is watched. */
const sizeOf = ({ fails, assumed, part }: CableRow) =>
  fails.length > 0 ? "stop" : part > DROP.good ? "watch" : assumed.length > 0 ? "unknown" : "good";

/** What is wanted of a well in a day, and whether that could be followed. */
export interface DayFacts {
  /** in the dry season the water stands below the intake */
  noWater: boolean;
  /** a pump runs into the tank */
  runs: boolean;
  draws: number;
  /** m³ */
  volume: number;
}

export const CABLE_FINDINGS = {
  "cable-size": checksIn<CableSize>()("cable-size")(({ row, breaker }) => [
    { severity: sizeOf(row), value: row.part, limit: DROP.most, row, breaker },
  ]),
  "cable-choice": checksIn<CableChoice>()("cable")((choice) => [
    choice.kind === "none"
      ? { severity: "stop" as const, limit: DROP.most }
      : { severity: sizeOf(choice.row), value: choice.row.part, limit: DROP.most, row: choice.row },
  ]),
  "cable-motor": checksIn<CableLacks>()("cable-motor")(({ lacks: [lack] }) =>
    lack === undefined ? [] : [{ severity: "unknown" as const, lack }],
  ),
};

/** What a cable cannot be chosen without, and is not known. */
export interface CableLacks {
  lacks: readonly ("pump" | "current" | "volts")[];
}

/** A pressure tank with the pump that fills it. */
export interface TankFacts {
  tank: { volume: number; preCharge: number; cutIn: number };
  /** its air stands above the cut-in */
  overCharged: boolean;
  /** its cut-out lies at its cut-in or under it */
  upsideDown: boolean;
  /** on its switch; absent while no pump runs into it */
  switched?: {
    /** it never stops, even with nothing used */
    runsOn: boolean;
    /** s it runs at the least */
    shortest?: number;
    worst?: { startsPerHour: number; use: number };
  };
  /** an hour, by the pump's plate */
  startsLimit?: number;
  /** m³ of a tank in which it runs a minute */
  forMinute?: number;
}

const ofTank = checksIn<TankFacts>()("tank");
/** s a pump should run at the least. Common practice, no source. */
export const LEAST_RUN = 60;
/** Of a tank that works at all with the pump that is there. */
const atWork =
  <F>(find: (told: TankFacts, switched: NonNullable<TankFacts["switched"]>) => F[]) =>
  (told: TankFacts): F[] => {
    const { switched, upsideDown } = told;
    return switched && !switched.runsOn && !upsideDown ? find(told, switched) : [];
  };

/** What a pressure tank asks for. */
export const TANK_FINDINGS = {
  "tank-upside-down": ofTank(({ upsideDown }) => when(upsideDown, { severity: "stop" as const })),
  "tank-over-charged": ofTank(({ overCharged, upsideDown, tank: { preCharge, cutIn } }) =>
    when(overCharged && !upsideDown, {
      severity: "stop" as const,
      ...{ value: preCharge, limit: cutIn },
    }),
  ),
  "tank-starts-not-told": ofTank(({ switched, upsideDown }) =>
    when(!switched && !upsideDown, { severity: "unknown" as const }),
  ),
  "tank-never-stops": ofTank(({ switched, upsideDown }) =>
    when(switched?.runsOn === true && !upsideDown, { severity: "stop" as const }),
  ),
  "tank-run": ofTank(
    atWork(({ forMinute }, { shortest }) =>
      shortest === undefined
        ? []
        : [
            {
              severity: shortest < LEAST_RUN ? ("watch" as const) : ("good" as const),
              ...{ value: shortest, limit: LEAST_RUN, forMinute },
            },
          ],
    ),
  ),
  "tank-starts": ofTank(
    atWork(({ startsLimit: limit }, { worst }) => {
      if (!worst) return [];
      const { startsPerHour: value, use } = worst;
      const severity =
        limit === undefined ? "unknown" : value > limit ? ("watch" as const) : ("good" as const);
      return [{ severity, value, use, ...(limit !== undefined && { limit }) }];
    }),
  ),
};

/** A valve that holds the pressure, while it lets only its least flow through. */
export interface ValveFacts {
  /** m³/s it always lets through, and that cool the motor by its plate */
  least: number;
  plate: number | undefined;
  /** m/s past the motor meanwhile, and that cool it at full load */
  past: { velocity: number; limit: number } | undefined;
}

export const VALVE_FINDINGS = {
  "valve-least-flow": checksIn<ValveFacts>()("valve")(({ least, plate, past }) => {
    // What the plate states is what cools it; where it states nothing, the water past the motor has to.
    const warm = past !== undefined && past.velocity < past.limit;
    const severity =
      plate === undefined
        ? warm
          ? "watch"
          : "unknown"
        : least < plate
          ? "stop"
          : ("good" as const);
    return [
      {
        ...{ severity, value: least },
        ...(plate !== undefined && { limit: plate }),
        ...(plate === undefined && warm && { past }),
      },
    ];
  }),
};

/** A day, or a week, of draws by one way of control. */
export interface DrawsFacts {
  run: {
    worstHour: number;
    short: number;
    firstShort?: number;
    heldForWater: number;
    wanted: number;
    brokenOff: boolean;
  };
  startsLimit: number | undefined;
}

const ofDraws = checksIn<DrawsFacts>()("draws");
const tooOften = ({ run, startsLimit }: DrawsFacts) =>
  startsLimit !== undefined && run.worstHour > startsLimit;

export const DRAWS_FINDINGS = {
  "day-without-run": checksIn<DayFacts>()("well-day")(({ noWater, runs, draws, volume }) =>
    runs
      ? []
      : [
          noWater
            ? { severity: "stop" as const, why: "no-water" as const }
            : { severity: "unknown" as const, why: "no-pump" as const, draws, volume },
        ],
  ),
  "draws-broken-off": ofDraws(({ run }) => when(run.brokenOff, { severity: "stop" as const })),
  "draws-held-for-water": ofDraws(({ run: { heldForWater } }) =>
    when(heldForWater > 0, { severity: "stop" as const, value: heldForWater }),
  ),
  "draws-short": ofDraws(({ run: { short, wanted, firstShort } }) =>
    when(short > 0, { severity: "stop" as const, value: short, wanted, firstShort }),
  ),
  "draws-start-often": ofDraws(({ run: { worstHour }, startsLimit }) =>
    startsLimit === undefined
      ? []
      : when(worstHour > startsLimit, {
          severity: "watch" as const,
          ...{ value: worstHour, limit: startsLimit },
        }),
  ),
  "draws-met": ofDraws((given) => {
    const { brokenOff, heldForWater, short } = given.run;
    const good = !brokenOff && heldForWater === 0 && short === 0 && !tooOften(given);
    return when(good, { severity: "good" as const });
  }),
};

/** Pa at a tap below which nobody is content: 20 psi. Common practice, no source. */
export const WEAK_TAP = 138_000;

export const TAP_FINDINGS = {
  /** the least pressure at a tap while it draws, in Pa */
  "tap-pressure": checksIn<{ least: number }>()("tap")(({ least }) => [
    {
      severity:
        least <= 0 ? ("stop" as const) : least < WEAK_TAP ? ("watch" as const) : ("good" as const),
      ...{ value: least, limit: WEAK_TAP },
    },
  ]),
};

/** part of what can be sucked up from which it is told to be near */
const NEAR = 0.9;

/** Other ways to lift the water of a well: each is judged by itself, and none is the job's own. */
export const OTHER_PUMP_FINDINGS = {
  /** m the water stands down, and anything at the top holds here */
  "top-suction": checksIn<{ lift: number; limit: number }>()("top-suction")(({ lift, limit }) => [
    {
      severity:
        lift > limit
          ? ("stop" as const)
          : lift > NEAR * limit
            ? ("watch" as const)
            : ("good" as const),
      ...{ value: lift, limit },
    },
  ]),
  /** N at the handle, and a person keeps up */
  "handle-force": checksIn<HandFacts>()("hand-pump")(({ force, most }) => [
    { severity: force > most ? ("stop" as const) : ("good" as const), value: force, limit: most },
  ]),
  "hand-suction": checksIn<HandFacts>()("hand-pump")(({ sucked, limit }) =>
    when(sucked > 0, {
      severity: sucked > limit ? ("stop" as const) : ("good" as const),
      ...{ value: sucked, limit },
    }),
  ),
  "jet-suction": checksIn<JetFacts>()("jet")((jet) => {
    const { flow, lift, limit } = jet;
    const works = flow !== undefined && lift !== undefined && limit !== undefined && lift < limit;
    return [{ severity: works ? ("good" as const) : ("stop" as const), ...jet }];
  }),
  "air-lift": checksIn<AirLiftResult>()("air-lift")((result) =>
    result.kind === "lifts" ? [] : [{ severity: "stop" as const, result }],
  ),
  "pulse-pump": checksIn<PulseFacts>()("pulse-pump")((pulse) => [
    {
      severity: pulse.submergence <= 0 || !pulse.starts ? ("stop" as const) : ("good" as const),
      ...pulse,
    },
  ]),
};

export interface HandFacts {
  force: number;
  most: number;
  /** m it sucks, and can here */
  sucked: number;
  limit: number;
}

export interface JetFacts {
  name: string;
  flow?: number;
  lift?: number;
  limit?: number;
}

export interface PulseFacts {
  /** Pa */
  start: number;
  losses: number;
  starts: boolean;
  /** m */
  submergence: number;
}

/** What nobody told or measured of a well, and what is wrong with what was. */
export interface WellFacts {
  /** the line is solved with another drawdown than the test gives */
  differs: boolean;
  /** steps too short for the water to settle, and s it takes */
  short: readonly { step: number; needs: number }[];
  guarded?: { lifts: number; perDay: number; startsPerHour: number; runs: number };
  lacksWeight: boolean;
}

const ofWell = checksIn<WellFacts>()("well");

export const WELL_FINDINGS = {
  "drawdown-differs": ofWell(({ differs }) => when(differs, { severity: "watch" as const })),
  "step-too-short": ofWell(({ short }) =>
    short.map(({ step, needs }) => ({ severity: "watch" as const, value: needs, step })),
  ),
  "well-weaker-than-pump": ofWell(({ guarded }) =>
    guarded ? [{ severity: "watch" as const, ...guarded }] : [],
  ),
  "pump-weight-unknown": ofWell(({ lacksWeight }) =>
    when(lacksWeight, { severity: "unknown" as const }),
  ),
};
