import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import { SEVERITY_ORDER } from "#core/check/registry.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import type { RunFacts } from "#core/finding/run.ts";
import { USUAL_STARTS } from "#core/finding/run.ts";
import { receivingWater } from "#core/outlet/outlets.ts";
import type { Answers, Balance, Switching } from "#core/simulation/answers.ts";
import {
  type Cycle,
  cycleAt,
  fillingTime,
  floatFor,
  movedBy,
  worstCycle,
} from "#core/simulation/cycle.ts";
import type { Control, Dynamics, Timeline } from "#core/simulation/dynamics.ts";
import { simulate } from "#core/simulation/simulate.ts";
import type { WaterStore } from "#core/simulation/waterStore.ts";
import { LEAD_ACID } from "./battery.ts";
import { emptyingOf } from "./emptying.ts";
import type { Setting, SimulationRun } from "./overTime.ts";
import { liftingOf } from "./uplift.ts";

/** What a run comes to, and what is to be said of that. */
export interface RunAnswers extends Answers {
  /** the worst first */
  findings: RunFinding[];
}
export type RunFinding = FindingIn<"run" | "uplift">;

export function answersOf(
  { setting, timeline }: SimulationRun,
  job: Pick<JobDocument, "pumps" | "overTime" | "path">,
): RunAnswers {
  const { totals, events } = timeline;
  const { source, receiver, byHand } = setting;
  const own = source ?? receiver;
  const switching = switchingOf(setting, timeline, job);
  const greatestInflow = greatestOf(setting, timeline);
  // A float that empties the source makes it a pit: something comes in that has to be held.
  const isPit = !byHand && leadFloat(setting.dynamics, source) !== undefined;
  const survives = isPit ? heldAtRim(setting) : undefined;
  const unpumped = !isPit ? undefined : unpumpedOf(setting, greatestInflow);
  const sum = (values: readonly number[]) => values.reduce((all, value) => all + value, 0);
  const span = timeline.times.at(-1) as number;
  const balance = balanceOf(setting, timeline, span);
  const moved = (balance.of === "source" ? 1 : -1) * movedBy(...amountsOf(balance));
  const at = (kind: string, index: number | undefined) =>
    events.find((event) => event.kind === kind && event.index === index)?.time;
  const wetAt = isPit ? at("full", source) : undefined;
  const wet = wetAt !== undefined &&
    source !== undefined && {
      at: wetAt,
      lasts: timeAtRim(timeline, source),
      spilled: totals.spilled[source] as number,
    };
  const dryAt = byHand && own === source ? (at("empty", source) ?? doneAt(timeline)) : undefined;
  const fullAt = receiver === undefined ? undefined : at("full", receiver);
  const heldAt = at("held", source);
  const left = source === undefined ? 0 : (totals.final[source] as number);
  const energy = sum(totals.energy);
  const price = job.overTime?.energyPrice;
  const flatAt = events.find(({ kind }) => kind === "battery-flat")?.time;
  const batteryUsed = setting.dynamics.pumps.some(({ supply }) => supply === "battery")
    ? totals.batteryUsed
    : undefined;
  const needed = flatAt === undefined ? undefined : neededCapacity(setting, job, greatestInflow);
  const answers: Answers = {
    ...(switching && { switching }),
    ...(unpumped && { unpumped }),
    greatestInflow,
    ...(survives !== undefined && {
      survives,
      rim: setting.stores[source as number]?.rim as number,
    }),
    ...(wet && { wet }),
    ...(dryAt !== undefined && { dry: { at: dryAt, left } }),
    ...(fullAt !== undefined && {
      full: {
        at: fullAt,
        spilled: totals.spilled[receiver as number] as number,
        room: roomIn(setting, receiver as number),
      },
    }),
    ...{ moved, balance },
    cameIn: source === undefined ? 0 : (totals.inflow[source] as number),
    ranBack: byHand
      ? afterStop(setting, timeline)
      : source === undefined
        ? 0
        : (totals.returned[source] as number),
    ...(energy > 0 && { energy }),
    ...(energy > 0 && price !== undefined && { cost: (energy / 3.6e6) * price }),
    runTime: sum(totals.runTime),
    starts: sum(totals.starts),
    ...(batteryUsed !== undefined && {
      battery: {
        used: batteryUsed,
        ran: sum(totals.runTime.filter((_, k) => setting.dynamics.pumps[k]?.supply === "battery")),
        ...(flatAt !== undefined && { flatAt }),
        ...(needed !== undefined && { needed }),
      },
    }),
    ...(heldAt !== undefined && { sourceLow: heldAt }),
    // Carried away, and not moved to where it is wanted.
    ...(byHand &&
      source !== undefined &&
      receiver === undefined &&
      emptyingOf(timeline, source, moved, job)),
    uplift: setting.bodies.flatMap((body, i) => {
      const found = liftingIn(setting, timeline, body, i);
      return found.kind === "known" ? [{ body: i, uplift: found.uplift }] : [];
    }),
  };
  const findings: RunFinding[] = [
    ...findingsIn("run", factsOf(answers, setting, timeline)),
    ...setting.bodies.flatMap((body, i) =>
      findingsIn("uplift", { body: i, ...liftingIn(setting, timeline, body, i) }),
    ),
  ];
  return {
    ...answers,
    findings: findings.sort((a, b) => SEVERITY_ORDER[b.severity] - SEVERITY_ORDER[a.severity]),
  };
}

/** What the line took of the source or put into the receiver, by what else is known of it. */
function balanceOf(
  { source, receiver, bodies }: Setting,
  { totals }: Timeline,
  span: number,
): Balance {
  const i = source ?? receiver ?? 0;
  const of = (sums: readonly number[]) => sums[i] as number;
  return {
    of: source === undefined ? "receiver" : "source",
    start: of(totals.start),
    came: of(totals.inflow) + of(totals.received),
    over: of(totals.spilled),
    others: (bodies[i]?.drawn ?? 0) * span,
    left: of(totals.final),
  };
}

const amountsOf = ({ start, came, over, others, left }: Balance) =>
  [start, came, over, others, left] as const;

/** m³ from what is there at a receiver's start to its rim. */
function roomIn({ stores, startLevels }: Setting, receiver: number): number {
  const store = stores[receiver] as WaterStore;
  return store.volumeAt(store.rim) - store.volumeAt(startLevels[receiver] as number);
}

/** Whether a body of water can be lifted at the lowest it comes to. */
const liftingIn = ({ stores, source }: Setting, timeline: Timeline, body: BodyOfWater, i: number) =>
  liftingOf(body, stores[i]?.bottom ?? 0, lowestOf(timeline, i), i === source);

/** What of a run is to be judged. */
function factsOf(answers: Answers, setting: Setting, timeline: Timeline): RunFacts {
  const { byHand, source, pumps, dynamics, stores } = setting;
  const end = timeline.times.at(-1) as number;
  const lead = byHand ? undefined : leadFloat(dynamics, source);
  const own = source === undefined ? undefined : stores[source];
  const atEnd = atEndOf(answers, setting, timeline);
  const notDry = notDryOf(answers, setting, timeline);
  return {
    ...{ answers, byHand, pumps: pumps.length, drained: drainedAt(setting, timeline) },
    ...(timeline.end === "event-limit" && { brokenOffAt: end }),
    ...(notDry && { notDry }),
    ...(lead && { lead: lead.on }),
    hasAlarm: own?.alarm !== undefined,
    overflows: own?.overflowTo !== undefined,
    ...(atEnd && { atEnd }),
  };
}

function notDryOf(
  { dry, full }: Answers,
  { byHand, source, inflowAt, table, pumps }: Setting,
  { final, times }: Timeline,
): RunFacts["notDry"] {
  if (!byHand || source === undefined || dry || full) return undefined;
  const after = times.at(-1) as number;
  const drawn = table.drawn(
    final.levels,
    pumps.map(() => true),
  );
  const inflow = inflowAt(after)[source] as number;
  return { level: final.levels[source] as number, after, inflow, drawn };
}

function atEndOf(
  { wet, survives, greatestInflow }: Answers,
  { source, stores, inflowAt }: Setting,
  { levels, times, totals }: Timeline,
): RunFacts["atEnd"] {
  if (wet || source === undefined || survives === undefined || !(greatestInflow > 0)) {
    return undefined;
  }
  const highest = levels.reduce(
    (most, row) => Math.max(most, row[source] as number),
    Number.NEGATIVE_INFINITY,
  );
  const store = stores[source] as (typeof stores)[number];
  return {
    under: store.rim - highest,
    inflow: inflowAt(times.at(-1) as number)[source] as number,
    room: store.volumeAt(store.rim) - (totals.final[source] as number),
  };
}

function switchingOf(
  setting: Setting,
  timeline: Timeline,
  job: Pick<JobDocument, "pumps">,
): Switching | undefined {
  const { dynamics, source, stores, table, pumps, ready } = setting;
  const lead = setting.byHand ? undefined : leadFloat(dynamics, source);
  if (!lead || source === undefined) return undefined;
  const store = stores[source];
  const index = lead.pumps[0];
  if (!store || index === undefined) return undefined;
  const alone = pumps.map((_, k) => k === index);
  const levels = [...setting.startLevels];
  const cycling = {
    ...{
      store,
      on: lead.on,
      off: lead.off,
      fallsBack: dynamics.fallBack?.at(lead.off).volume ?? 0,
    },
    drawn: (level: number) => {
      levels[source] = level;
      return table.drawn(levels, alone);
    },
  };
  const worst = worstCycle(cycling);
  if (!worst) return undefined;
  // Pumps that take turns share the starts.
  const turns = lead.alternate ? lead.pumps.length : 1;
  const shared = (cycle: Cycle): Cycle => ({
    ...cycle,
    startsPerHour: cycle.startsPerHour / turns,
  });
  const pumpId = ready.pumps[index]?.pump.id;
  const stated = job.pumps.find(({ id }) => id === pumpId)?.startsPerHour;
  const limit = stated ?? USUAL_STARTS;
  const now = cycleAt(cycling, setting.inflowAt(0)[source] as number);
  const often = shared(worst).startsPerHour > limit;
  const floatAt = often ? floatFor(cycling, limit * turns) : undefined;
  const filled = often && floatAt === undefined && worstCycle({ ...cycling, on: store.rim });
  return {
    pump: pumps[index] as string,
    worst: shared(worst),
    ...(now && { now: shared(now) }),
    volume: store.volumeAt(lead.on) - store.volumeAt(lead.off),
    ...{ fallsBack: cycling.fallsBack, turns },
    most: Math.max(0, ...pumps.map((_, k) => startsInAnHour(timeline, k))),
    limit,
    assumed: stated === undefined,
    ...(floatAt !== undefined && { floatAt }),
    // Starts go with one over the volume between the floats.
    ...(filled && { larger: shared(filled).startsPerHour / limit }),
  };
}

/** The most times one pump started within any hour. */
function startsInAnHour({ events }: Timeline, pump: number): number {
  const times: number[] = [];
  let most = 0;
  let first = 0;
  for (const { kind, index, time } of events) {
    if (kind !== "pump-on" || index !== pump) continue;
    times.push(time);
    while ((times[first] as number) <= time - 3600) first++;
    most = Math.max(most, times.length - first);
  }
  return most;
}

/** m³/s into the source, or else the receiver, at the most. */
function greatestOf({ inflowAt, breaks, source, receiver }: Setting, { times }: Timeline): number {
  const own = source ?? receiver ?? 0;
  let most = 0;
  const end = times.at(-1) as number;
  for (const time of [0, ...breaks, ...times]) {
    if (time <= end) most = Math.max(most, inflowAt(time)[own] as number);
  }
  return most;
}

/** The float that first starts a pump to empty the source. */
const leadFloat = ({ controls }: Dynamics, source: number | undefined): Control | undefined =>
  controls.find(({ store, on, off }) => store === source && on > off);

/** m³/s drawn with the water at the rim, by all pumps on the mains that a float calls for by then. */
function heldAtRim({ dynamics, stores, source, table, startLevels }: Setting): number {
  const levels = [...startLevels];
  if (source !== undefined) levels[source] = stores[source]?.rim as number;
  const on = dynamics.pumps.map(() => false);
  for (const { store, on: starts, off, pumps } of dynamics.controls) {
    if (store !== source || starts <= off) continue;
    const next = pumps.find((k) => !on[k] && dynamics.pumps[k]?.supply === "mains");
    if (next !== undefined) on[next] = true;
  }
  return table.drawn(levels, on);
}

/** m³ that drain out of the pipe back into the source at the level its water came to. */
function drainedAt({ source, dynamics }: Setting, { final }: Timeline): number {
  if (source === undefined) return 0;
  return dynamics.fallBack?.at(final.levels[source] as number).volume ?? 0;
}

/** m³ that come back into the source once what was started by hand is stopped. */
function afterStop(setting: Setting, timeline: Timeline): number {
  const { source, dynamics, ready } = setting;
  if (source === undefined) return 0;
  const drained = drainedAt(setting, timeline);
  // An outlet into the open lets nothing in again: there is nothing to be run.
  if (!ready.line.outlets.some(({ item }) => receivingWater(item.outlet))) return drained;
  const still = {
    ...dynamics,
    controls: [],
    inflow: (_: number, into: Float64Array) => into.fill(0),
  };
  const { totals } = simulate(
    { ...still, line: setting.table.line },
    { levels: timeline.final.levels },
    AFTER,
    { longestStep: AFTER / 50 },
  );
  return (totals.returned[source] as number) + drained;
}

/** s after which what runs back has run back. */
const AFTER = 12 * 3600;

function unpumpedOf({ dynamics, stores, source }: Setting, inflow: number) {
  const lead = leadFloat(dynamics, source);
  const store = source === undefined ? undefined : stores[source];
  if (!lead || !store || !(inflow > 0)) return undefined;
  const room = (level: number) => store.volumeAt(store.rim) - store.volumeAt(level);
  const from = (level: number) => fillingTime(room(level), 0, inflow);
  return { inflow, fromOn: from(lead.on), fromOff: from(lead.off), room: room(lead.on) };
}

/** s a store stood at its rim. */
function timeAtRim({ events, times }: Timeline, store: number): number {
  let since: number | undefined;
  let sum = 0;
  for (const { kind, index, time } of events) {
    if (index !== store) continue;
    if (kind === "full") since ??= time;
    if (kind === "below-rim" && since !== undefined) {
      sum += time - since;
      since = undefined;
    }
  }
  return since === undefined ? sum : sum + (times.at(-1) as number) - since;
}

const doneAt = ({ events, end }: Timeline): number | undefined =>
  end === "enough" ? events.findLast(({ kind }) => kind === "pump-off")?.time : undefined;

const lowestOf = ({ levels }: Timeline, store: number): number =>
  levels.reduce((least, row) => Math.min(least, row[store] as number), Number.POSITIVE_INFINITY);

/** Ah that would carry its pumps through the power cut, at the share of the time they have to run. */
function neededCapacity(
  { dynamics, table, startLevels, source }: Setting,
  job: Pick<JobDocument, "overTime">,
  inflow: number,
): number | undefined {
  const { battery, powerCut } = job.overTime ?? {};
  const { ampereHours, volts } = battery ?? {};
  const lead = leadFloat(dynamics, source);
  if (!ampereHours || !volts || !powerCut || !dynamics.battery || !lead) return undefined;
  const on = dynamics.pumps.map(({ supply }) => supply === "battery");
  const levels = [...startLevels];
  if (source !== undefined) levels[source] = (lead.on + lead.off) / 2;
  const flows = {
    taken: new Float64Array(startLevels.length),
    power: new Float64Array(dynamics.pumps.length),
  };
  table.line(levels, on, flows);
  const drawn = source === undefined ? 0 : (flows.taken[source] as number);
  const power = flows.power.reduce((sum, own) => sum + own, 0);
  if (!(drawn > 0) || !(power > 0)) return undefined;
  const running = (powerCut.to - powerCut.from) * Math.min(inflow / drawn, 1);
  const { peukert = LEAD_ACID.peukert } = battery ?? {};
  // The time it lasts goes with its capacity to the power k.
  return ampereHours * (running / dynamics.battery.lasts(power)) ** (1 / peukert);
}
