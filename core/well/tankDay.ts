import type { Drawdown } from "../line/path.ts";
import { lastAtOrBefore } from "../numeric/sorted.ts";
import type { SimulatedStore, TimelineEvent } from "../simulation/dynamics.ts";
import { simulate } from "../simulation/simulate.ts";
import { pressureTankStore, uprightStore } from "../simulation/waterStore.ts";
import { flowDrawing } from "./drawdown.ts";
import { type PressureTank, type ThrottleValve, throughValve } from "./pressureTank.ts";
import type { PumpToTank } from "./pumpToTank.ts";
import type { Draw } from "./useOfDay.ts";

/** A well, its pump and its tank, as water is drawn. Levels in m above datum. */
export interface WellSystem {
  pump: PumpToTank;
  tank: PressureTank;
  /** holds the pressure while water is drawn */
  valve?: ThrottleValve | undefined;
  well: {
    standing: number;
    /** nothing known of it where both are 0: the water then stays */
    drawdown: Drawdown;
    /** m² of water in the casing */
    area: number;
    /** the pump's intake */
    intake: number;
  };
  /** the pump is stopped as the water falls to one level, until it is up at the other */
  protection?: { stop: number; restart: number } | undefined;
  /** Pa, of the air outside */
  air: number;
}

export interface TankDay {
  /** s, rising; Pa in the tank, m above datum in the well, m³/s drawn, and whether the pump runs from then on */
  times: number[];
  pressure: number[];
  level: number[];
  drawn: number[];
  runs: boolean[];
  starts: number;
  /** the most starts within any one hour */
  worstHour: number;
  /** s the pump ran in all, and the shortest it ran at a time; absent where it never stopped */
  runTime: number;
  shortestRun?: number;
  /** m³ pumped and drawn, and J; no energy where no power is published */
  pumped: number;
  wanted: number;
  energy?: number;
  /** m³ that was wanted and not there, and s of the first time */
  short: number;
  firstShort?: number;
  /** times it was stopped for want of water in the well */
  heldForWater: number;
  lowestLevel: number;
  events: TimelineEvent[];
  /** it was broken off: too much happens */
  brokenOff: boolean;
}

/** s a well takes to settle at the least: a quicker one is taken so, which moves its level by seconds. */
const QUICKEST = 8;

/** What happens while a list of draws is taken, from a tank at its cut-out and a well at rest. */
export function tankDay(system: WellSystem, draws: readonly Draw[], until: number): TankDay {
  const { pump, tank, valve, well, protection, air } = system;
  const steps = stepsOf(draws);
  const drawnAt = (time: number) => {
    const i = lastAtOrBefore(steps.times, time);
    return i < 0 ? 0 : (steps.flows[i] as number);
  };
  const moves = well.drawdown.linear > 0 || well.drawdown.quadratic > 0;
  const area = Math.max(well.area, QUICKEST / Math.max(well.drawdown.linear, 1e-9));
  const bottom = Math.min(well.intake, well.standing - 0.01);
  const greatest = 1.5 * tank.cutOut + 1e5;
  const stores: SimulatedStore[] = [
    pressureTankStore(tank.volume, Math.min(tank.preCharge, tank.cutOut - 1), greatest, air),
    uprightStore(bottom, well.standing - bottom + 0.001, moves ? area : 0.01),
  ];
  const delivered = (level: number, pressure: number) => {
    const open = pump.flowAt(level, pressure);
    return valve ? throughValve(valve, open, pressure) : open;
  };
  const capacities = stores.map(({ volumeAt, rim }) => volumeAt(rim));
  let powerKnown = true;
  const timeline = simulate(
    {
      stores,
      pumps: [{ supply: "mains" }],
      controls: [{ store: 0, on: tank.cutIn, off: tank.cutOut, pumps: [0] }],
      ...(protection && {
        guards: [{ store: 1, stop: protection.stop, release: protection.restart, pumps: [0] }],
      }),
      inflow: (time, into) => {
        into[0] = -drawnAt(time);
        into[1] = 0;
      },
      line: (levels, running, { taken, power }) => {
        const [pressure, level] = [levels[0] as number, levels[1] as number];
        const flow = running[0] ? delivered(level, pressure) : 0;
        taken[0] = -flow;
        const comes = moves ? flowDrawing(well.drawdown, well.standing - level) : flow;
        taken[1] = flow - comes;
        const own = flow > 0 || running[0] ? pump.powerAt(flow) : 0;
        if (own === undefined) powerKnown = false;
        power[0] = running[0] ? (own ?? 0) : 0;
      },
    },
    { levels: [tank.cutOut - 1, well.standing] },
    until,
    {
      longestStep: 1800,
      breaks: steps.times,
      // Of the smaller of the two: a large tank must not blur a slim well.
      tolerance: 1e-5 * (Math.min(...capacities) / Math.max(...capacities)),
      mostEvents: 20_000,
    },
  );
  const { times, levels, running, events, totals } = timeline;
  const runs = running.map((bits) => bits > 0);
  const ons = events.filter(({ kind }) => kind === "pump-on").map(({ time }) => time);
  const spells = spellsOf(events);
  const wanted = draws.reduce(
    (sum, own) => sum + own.flow * Math.max(Math.min(own.duration, until - own.start), 0),
    0,
  );
  // What the tank had, what was pumped into it and what is left tell what was really drawn.
  const pumped = totals.returned[0] as number;
  const had = (totals.start[0] as number) - (totals.final[0] as number);
  const short = Math.max(wanted - pumped - had, 0);
  const firstShort = events.find(({ kind, index }) => kind === "empty" && index === 0)?.time;
  return {
    times,
    pressure: levels.map(([own]) => own as number),
    level: levels.map(([, own]) => own as number),
    drawn: times.map(drawnAt),
    runs,
    starts: totals.starts[0] as number,
    worstHour: mostWithin(ons, 3600),
    runTime: totals.runTime[0] as number,
    ...(spells.length > 0 && { shortestRun: Math.min(...spells) }),
    pumped,
    wanted,
    ...(powerKnown && { energy: totals.energy[0] as number }),
    short: short > 1e-3 * Math.max(wanted, 1e-9) ? short : 0,
    ...(firstShort !== undefined && short > 1e-3 * wanted && { firstShort }),
    heldForWater: events.filter(({ kind }) => kind === "held").length,
    lowestLevel: levels.reduce((least, [, own]) => Math.min(least, own as number), well.standing),
    events,
    brokenOff: timeline.end === "event-limit",
  };
}

/** What is drawn at a time: the flow from each moment at which it changes. */
function stepsOf(draws: readonly Draw[]): { times: number[]; flows: number[] } {
  const changes = draws
    .flatMap(({ start, duration, flow }) => [
      { at: start, by: flow },
      { at: start + duration, by: -flow },
    ])
    .toSorted((a, b) => a.at - b.at);
  const times: number[] = [];
  const flows: number[] = [];
  let flow = 0;
  for (const { at, by } of changes) {
    flow += by;
    const now = Math.abs(flow) < 1e-12 ? 0 : flow;
    if (times.at(-1) === at) flows[flows.length - 1] = now;
    else {
      times.push(at);
      flows.push(now);
    }
  }
  return { times, flows };
}

/** s of every run that began and ended. */
function spellsOf(events: readonly TimelineEvent[]): number[] {
  const spells: number[] = [];
  let since: number | undefined;
  for (const { kind, time } of events) {
    if (kind === "pump-on") since = time;
    if (kind === "pump-off" && since !== undefined) {
      spells.push(time - since);
      since = undefined;
    }
  }
  return spells;
}

/** The most of a rising list of times that lie within so many s. */
function mostWithin(times: readonly number[], span: number): number {
  let most = 0;
  let first = 0;
  for (const [i, time] of times.entries()) {
    while ((times[first] as number) <= time - span) first++;
    most = Math.max(most, i - first + 1);
  }
  return most;
}

/** What a well gives a pump that never rests, in m³ over so many s, stopped and started by its protection. */
export function pumpedOff(
  system: Pick<WellSystem, "well"> & {
    protection: NonNullable<WellSystem["protection"]>;
    /** m³/s the pump lifts from a level */
    lifts: (level: number) => number;
  },
  until: number,
): { pumped: number; runTime: number; starts: number; holds: boolean } {
  const { well, protection, lifts } = system;
  const bottom = Math.min(protection.stop, well.standing - 0.01) - 0.5;
  const area = Math.max(well.area, QUICKEST / Math.max(well.drawdown.linear, 1e-9));
  const timeline = simulate(
    {
      stores: [uprightStore(bottom, well.standing - bottom + 0.001, area)],
      pumps: [{ supply: "mains" }],
      // Called for as long as there is any water at all.
      controls: [{ store: 0, on: bottom + 1e-3, off: bottom, pumps: [0] }],
      guards: [{ store: 0, stop: protection.stop, release: protection.restart, pumps: [0] }],
      inflow: (_, into) => {
        into[0] = 0;
      },
      line: (levels, running, { taken, power }) => {
        const level = levels[0] as number;
        const flow = running[0] ? lifts(level) : 0;
        taken[0] = flow - flowDrawing(well.drawdown, well.standing - level);
        // Summed up as a power is: m³ in place of J.
        power[0] = flow;
      },
    },
    { levels: [well.standing] },
    until,
    { longestStep: 600, tolerance: 1e-6, mostEvents: 20_000 },
  );
  const { totals, events } = timeline;
  return {
    pumped: totals.energy[0] as number,
    runTime: totals.runTime[0] as number,
    starts: totals.starts[0] as number,
    holds: !events.some(({ kind }) => kind === "held"),
  };
}
