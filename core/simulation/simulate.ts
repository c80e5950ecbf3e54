import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import {
  type Derivative,
  dormandPrinceStep,
  nextStep,
  stepSlopes,
  withinStep,
} from "../numeric/ode.ts";
import type {
  Control,
  Dynamics,
  LineFlows,
  SimulatedStore,
  SimulationLimits,
  Start,
  Timeline,
  TimelineEvent,
} from "./dynamics.ts";
import { setOf } from "./runningSet.ts";
import type { WaterStore } from "./waterStore.ts";

/**
 * The run of things from a start until a time in s. Steps are as long as their error allows; each event is met within
 * the step that passed it. A full store spills what more comes in, an empty one gives no more than
 * comes in.
 */
export function simulate(
  dynamics: Dynamics,
  start: Start,
  until: number,
  limits: SimulationLimits,
): Timeline {
  const run = new Run(dynamics, start, until, limits);
  run.go();
  return run.timeline();
}

/** Sums kept beside the volumes, each a row as long as there are stores. */
const IN = 1;
const TAKEN = 2;
const SPILLED = 3;
const RETURNED = 4;
const ROWS = 5;

/** How far past an expected event a step reaches, and s it is never cut shorter than for that. */
const BEYOND = 1.1;
const LEAST_STEP = 1e-3;

/** Something that happens when a volume, or a sum, passes a value. */
interface Mark {
  /** which of the state, and the value of it */
  at: number;
  value: number;
  rising: boolean;
  does: (time: number) => void;
  isOpen: () => boolean;
}

class Run {
  private readonly n: number;
  private readonly y: Float64Array;
  private readonly next: Float64Array;
  private readonly there: Float64Array;
  private readonly slopes: Float64Array[];
  private readonly capacity: number[];
  /** m³ that stays */
  private readonly residue: number[];
  /** held at the bottom (−1) or at the rim (1) until flows turn */
  private readonly bound: Int8Array;
  /** stores, each after all that spill into it */
  private readonly downhill: readonly number[];
  private someHeld = false;
  private readonly levels: Float64Array;
  private readonly into: Float64Array;
  private readonly over: Float64Array;
  private readonly flows: LineFlows;
  private readonly called: boolean[];
  private readonly blocked: boolean[];
  private readonly turn: number[];
  private running: boolean[];
  private powered = true;
  private flat = false;
  private fallsUntil = Number.NEGATIVE_INFINITY;
  /** m³/s that runs back until then */
  private falling = 0;
  private t = 0;
  /** just before the next jump of the inflow: a step that ends there is still of the time before */
  private edge = 0;
  private readonly marks: Mark[];
  private readonly stops: { time: number; does?: () => void }[];
  private readonly times: number[] = [];
  private readonly record: number[][] = [];
  private readonly ran: number[] = [];
  private readonly events: TimelineEvent[] = [];
  private readonly startVolumes: number[];
  private readonly runTime: number[];
  private readonly starts: number[];
  private end: Timeline["end"] = "until";
  private done = false;

  constructor(
    private readonly dynamics: Dynamics,
    start: Start,
    private readonly until: number,
    private readonly limits: SimulationLimits,
  ) {
    const { stores, pumps, controls, guards = [], powerCut } = dynamics;
    const n = stores.length;
    this.n = n;
    const size = n * ROWS + pumps.length + 1;
    this.y = new Float64Array(size);
    this.next = new Float64Array(size);
    this.there = new Float64Array(size);
    this.slopes = stepSlopes(size);
    this.capacity = stores.map((store) => store.volumeAt(store.rim));
    this.residue = stores.map((store) =>
      store.dry === undefined ? 0 : Math.max(store.volumeAt(store.dry), 0),
    );
    this.bound = new Int8Array(n);
    this.downhill = downhillOrder(stores);
    this.levels = new Float64Array(n);
    this.into = new Float64Array(n);
    this.over = new Float64Array(n);
    this.flows = { taken: new Float64Array(n), power: new Float64Array(pumps.length) };
    this.called = controls.map((_, i) => start.called?.[i] ?? false);
    this.blocked = guards.map(() => false);
    this.turn = controls.map(() => 0);
    this.running = pumps.map(() => false);
    this.runTime = pumps.map(() => 0);
    this.starts = pumps.map(() => 0);
    for (const [i, store] of stores.entries()) {
      this.y[i] = store.volumeAt(start.levels[i] as number);
    }
    this.startVolumes = Array.from(this.y.subarray(0, n));
    this.marks = this.watchList();
    const timed = [
      ...(limits.breaks ?? []).map((time) => ({ time })),
      ...(powerCut
        ? [
            { time: powerCut.from, does: () => this.setPower(false) },
            { time: powerCut.to, does: () => this.setPower(true) },
          ]
        : []),
    ];
    this.stops = timed
      .filter(({ time }) => time > 0 && time < until)
      .toSorted((a, b) => a.time - b.time);
    if (powerCut && powerCut.from <= 0 && powerCut.to > 0) this.powered = false;
    this.obeyStart();
  }

  go(): void {
    const { y, next, slopes, until, limits } = this;
    const { longestStep, tolerance = 1e-8 } = limits;
    // Only volumes steer the step; sums follow them.
    const allowed = { relative: 0, absolute: tolerance * Math.max(...this.capacity), of: this.n };
    const slope0 = slopes[0] as Float64Array;
    let stop = 0;
    let h = Math.min(longestStep, until) / 16;
    this.note();
    this.edge = justBefore(this.stops[0]?.time ?? until);
    this.derivative(this.t, y, slope0);
    while (this.t < until && !this.done) {
      const jump = this.stops[stop]?.time ?? until;
      if (this.t >= jump) {
        // Several things may be due at one time.
        for (let due = this.stops[stop]; due && due.time <= this.t; due = this.stops[++stop]) {
          due.does?.();
        }
        this.edge = justBefore(this.stops[stop]?.time ?? until);
        this.afterEvent(slope0);
        continue;
      }
      const falling = this.fallsUntil > this.t ? this.fallsUntil : Number.POSITIVE_INFINITY;
      const limit = Math.min(jump, falling);
      h = Math.min(h, longestStep, limit - this.t, this.reach());
      const error = dormandPrinceStep(this.derivative, this.t, y, h, slopes, next, allowed);
      if (error > 1) {
        h = nextStep(h, error);
        continue;
      }
      const grown = nextStep(h, error);
      const hit = this.firstMark(h);
      if (hit) {
        this.stepTo(hit.mark, hit.part, h);
        this.pass(hit.mark);
        this.afterEvent(slope0);
        h = grown;
        continue;
      }
      this.t = h === limit - this.t ? limit : this.t + h;
      this.sumRunTime(h);
      y.set(next);
      if (this.t >= falling) this.afterEvent(slope0);
      else {
        this.note();
        slope0.set(slopes[6] as Float64Array);
        if (this.release()) this.derivative(this.t, y, slope0);
      }
      h = grown;
    }
  }

  timeline(): Timeline {
    const { n, y, dynamics } = this;
    const row = (k: number) => Array.from(y.subarray(k * n, k * n + n));
    const energy = Array.from(y.subarray(n * ROWS, n * ROWS + dynamics.pumps.length));
    return {
      times: this.times,
      levels: this.record,
      running: this.ran,
      events: this.events,
      end: this.end,
      final: { levels: this.levelsNow() },
      totals: {
        start: this.startVolumes,
        inflow: row(IN),
        taken: row(TAKEN),
        spilled: row(SPILLED),
        received: this.dynamics.stores.map((_, i) => this.receivedBy(i)),
        returned: row(RETURNED),
        final: row(0),
        energy,
        runTime: this.runTime,
        starts: this.starts,
        batteryUsed: y[y.length - 1] as number,
      },
    };
  }

  private receivedBy(store: number): number {
    return this.dynamics.stores.reduce((sum, { overflowTo }, i) => {
      return overflowTo === store ? sum + (this.y[this.n * SPILLED + i] as number) : sum;
    }, 0);
  }

  private readonly derivative: Derivative = (t, y, slope) => {
    const { n, dynamics, levels, into, over, flows, running, bound } = this;
    const { stores, pumps, battery } = dynamics;
    for (let i = 0; i < n; i++) {
      levels[i] = (stores[i] as WaterStore).levelAt(y[i] as number);
      over[i] = 0;
    }
    dynamics.inflow(Math.min(t, this.edge), into);
    dynamics.line(levels, running, flows);
    const { taken, power } = flows;
    const back = this.fallsUntil > this.t ? dynamics.fallBack : undefined;
    if (back) taken[back.store] = (taken[back.store] as number) - this.falling;
    const share = this.someHeld ? this.givenShare() : 1;
    // What runs over a rim may fill another to its own: each is looked at after all that spill into it.
    for (let k = 0; k < n; k++) {
      const i = this.downhill[k] as number;
      const asked = taken[i] as number;
      const supply = (into[i] as number) + (over[i] as number);
      const took =
        asked < 0 ? asked * share : bound[i] === -1 ? Math.min(asked, Math.max(supply, 0)) : asked;
      const net = supply - took;
      const spilled = bound[i] === 1 && net > 0 ? net : 0;
      // Held where it is, or filling and falling.
      slope[i] = bound[i] === -1 && net < 0 ? 0 : net - spilled;
      slope[n * IN + i] = into[i] as number;
      slope[n * TAKEN + i] = took;
      slope[n * SPILLED + i] = spilled;
      slope[n * RETURNED + i] = Math.max(-took, 0);
      const to = (stores[i] as SimulatedStore).overflowTo;
      if (spilled > 0 && to !== undefined) over[to] = (over[to] as number) + spilled;
    }
    let drawn = 0;
    for (let k = 0; k < pumps.length; k++) {
      const own = running[k] ? (power[k] as number) : 0;
      slope[n * ROWS + k] = own;
      if (pumps[k]?.supply === "battery") drawn += own;
    }
    slope[slope.length - 1] = drawn > 0 && battery ? 1 / battery.lasts(drawn) : 0;
  };

  /**
   * What is given of all that the line takes out of the stores: an empty one gives no more than runs into it, and
   * what is put into others falls short by as much.
   */
  private givenShare(): number {
    const { bound, into, over, flows } = this;
    let asked = 0;
    let given = 0;
    for (let i = 0; i < bound.length; i++) {
      const own = flows.taken[i] as number;
      if (own <= 0) continue;
      const supply = Math.max((into[i] as number) + (over[i] as number), 0);
      asked += own;
      given += bound[i] === -1 ? Math.min(own, supply) : own;
    }
    return asked > 0 ? given / asked : 1;
  }

  /** Everything that can happen is a value of the state being passed: floats and ends are put as volumes once. */
  private watchList(): Mark[] {
    const { stores, controls, guards = [], battery } = this.dynamics;
    const { n, bound, called, blocked } = this;
    const volumeAt = (store: number, level: number) =>
      (stores[store] as WaterStore).volumeAt(level);
    const floats = controls.flatMap(({ store, on, off }, i): Mark[] => {
      const emptying = on > off;
      return [
        {
          ...{ at: store, value: volumeAt(store, on), rising: emptying },
          isOpen: () => called[i] === false,
          does: () => {
            called[i] = true;
          },
        },
        {
          ...{ at: store, value: volumeAt(store, off), rising: !emptying },
          isOpen: () => called[i] === true,
          does: () => this.letGo(i),
        },
      ];
    });
    const stoppers = guards.flatMap(({ store, stop, release }, i): Mark[] => {
      const below = stop < release;
      return [
        {
          ...{ at: store, value: volumeAt(store, stop), rising: !below },
          isOpen: () => blocked[i] === false,
          does: (time) => {
            blocked[i] = true;
            this.tell(time, "held", store);
          },
        },
        {
          ...{ at: store, value: volumeAt(store, release), rising: below },
          isOpen: () => blocked[i] === true,
          does: (time) => {
            blocked[i] = false;
            this.tell(time, "freed", store);
          },
        },
      ];
    });
    const ends = stores.flatMap((store, i): Mark[] => [
      {
        ...{ at: i, value: this.residue[i] as number, rising: false },
        isOpen: () => bound[i] === 0,
        does: (time) => {
          this.hold(i, -1);
          this.tell(time, "empty", i);
        },
      },
      {
        ...{ at: i, value: this.capacity[i] as number, rising: true },
        isOpen: () => bound[i] === 0,
        does: (time) => {
          this.hold(i, 1);
          this.tell(time, "full", i);
        },
      },
      ...(store.alarm === undefined
        ? []
        : [
            {
              ...{ at: i, value: store.volumeAt(store.alarm), rising: true },
              isOpen: () => true,
              does: (time: number) => this.tell(time, "alarm", i),
            },
          ]),
    ]);
    const dead: Mark[] = battery
      ? [
          {
            ...{ at: n * ROWS + this.dynamics.pumps.length, value: 1, rising: true },
            isOpen: () => !this.flat,
            does: (time) => {
              this.flat = true;
              this.tell(time, "battery-flat", 0);
            },
          },
        ]
      : [];
    return [...floats, ...stoppers, ...ends, ...dead];
  }

  /** Floats and guards that the start has passed already are obeyed at once. */
  private obeyStart(): void {
    const { stores, controls, guards = [] } = this.dynamics;
    // By volumes, as what is watched later: a start that stands at a float to the last digit has passed it, or nothing
    // ever would.
    const over = (store: number, level: number) =>
      (this.y[store] as number) - (stores[store] as WaterStore).volumeAt(level);
    for (const [i, { store, on, off }] of controls.entries()) {
      const emptying = on > off;
      if (emptying ? over(store, on) >= 0 : over(store, on) <= 0) this.called[i] = true;
      if (emptying ? over(store, off) <= 0 : over(store, off) >= 0) this.called[i] = false;
    }
    for (const [i, { store, stop, release }] of guards.entries()) {
      const past = over(store, stop);
      this.blocked[i] = stop < release ? past <= 0 : past >= 0;
    }
    for (let i = 0; i < this.n; i++) {
      if ((this.y[i] as number) <= (this.residue[i] as number)) this.hold(i, -1);
      if ((this.y[i] as number) >= (this.capacity[i] as number)) this.hold(i, 1);
    }
    this.running = this.assigned();
    for (const [k, runs] of this.running.entries()) if (runs) this.startOf(k);
  }

  private hold(i: number, where: -1 | 0 | 1): void {
    this.bound[i] = where;
    this.someHeld = this.bound.some((held) => held !== 0);
  }

  private letGo(i: number): void {
    this.called[i] = false;
    const { pumps, alternate } = this.dynamics.controls[i] as Control;
    if (alternate) this.turn[i] = ((this.turn[i] as number) + 1) % Math.max(pumps.length, 1);
  }

  private setPower(on: boolean): void {
    this.powered = on;
    this.tell(this.t, on ? "power-back" : "power-cut", 0);
  }

  private tell(time: number, kind: TimelineEvent["kind"], index: number): void {
    const event: TimelineEvent = { time, kind, index };
    this.events.push(event);
    if (this.limits.enough?.(event)) {
      this.end = "enough";
      this.done = true;
    }
  }

  /** Which pumps run, by what calls for them, what holds them, and what feeds them. */
  private assigned(): boolean[] {
    const { controls, guards = [], pumps } = this.dynamics;
    const on = pumps.map(() => false);
    const can = pumps.map(({ supply }) => (supply === "mains" ? this.powered : !this.flat));
    for (const [i, guard] of guards.entries()) {
      if (this.blocked[i]) for (const k of guard.pumps) can[k] = false;
    }
    for (const [i, control] of controls.entries()) {
      if (!this.called[i]) continue;
      const turn = this.turn[i] as number;
      const count = control.pumps.length;
      for (let k = 0; k < count; k++) {
        const pump = control.pumps[(k + turn) % count] as number;
        if (on[pump] || !can[pump]) continue;
        on[pump] = true;
        break;
      }
    }
    return on;
  }

  private startOf(k: number): void {
    this.starts[k] = (this.starts[k] as number) + 1;
  }

  /** Pumps start and stop as they are called; what lies above the last to stop falls back. */
  private switchPumps(): void {
    const was = this.running;
    const is = this.assigned();
    if (is.every((on, k) => on === was[k])) return;
    this.running = is;
    for (const [k, on] of is.entries()) {
      if (on === was[k]) continue;
      if (on) this.startOf(k);
      this.tell(this.t, on ? "pump-on" : "pump-off", k);
    }
    const { fallBack, stores } = this.dynamics;
    this.fallsUntil = Number.NEGATIVE_INFINITY;
    if (!fallBack || is.some(Boolean)) return;
    const { store } = fallBack;
    const level = (stores[store] as WaterStore).levelAt(this.y[store] as number);
    const { volume, time } = fallBack.at(level);
    if (volume <= 0) return;
    this.falling = volume / time;
    this.fallsUntil = this.t + time;
  }

  /**
   * s until the next mark as things move now, and a little more: a step that ran far past it would be work thrown away,
   * and might meet what lies behind it.
   */
  private reach(): number {
    const { y } = this;
    const slope = this.slopes[0] as Float64Array;
    let soonest = Number.POSITIVE_INFINITY;
    for (const mark of this.marks) {
      const speed = slope[mark.at] as number;
      const away = mark.value - (y[mark.at] as number);
      if (mark.rising ? !(speed > 0 && away > 0) : !(speed < 0 && away < 0)) continue;
      if (mark.isOpen()) soonest = Math.min(soonest, away / speed);
    }
    return Math.max(soonest * BEYOND, LEAST_STEP);
  }

  /** The first mark passed on a step, and after what part of it. */
  private firstMark(h: number): { mark: Mark; part: number } | undefined {
    const { y, next } = this;
    let first: { mark: Mark; part: number } | undefined;
    for (const mark of this.marks) {
      const { at, value, rising } = mark;
      const before = (y[at] as number) - value;
      const after = (next[at] as number) - value;
      const passed = rising ? before < 0 && after >= 0 : before > 0 && after <= 0;
      if (!passed || !mark.isOpen()) continue;
      const part = this.partUntil(at, value, before, after, h);
      if (!first || part < first.part) first = { mark, part };
    }
    return first;
  }

  /** The part of a step, 0 … 1, after which a component has a value that lies between its ends. */
  private partUntil(at: number, value: number, before: number, after: number, h: number): number {
    const off = (part: number) => withinStep(this.y, this.next, h, this.slopes, at, part) - value;
    return after === 0 ? 1 : bracketedRoot(off, 0, 1, before, after, 1e-13);
  }

  /** To the event itself, within the step that passed it: what balances in the step balances there. */
  private stepTo({ at, value }: Mark, part: number, h: number): void {
    const { y, next, slopes } = this;
    for (let i = 0; i < y.length; i++) {
      this.there[i] = part === 1 ? (next[i] as number) : withinStep(y, next, h, slopes, i, part);
    }
    this.sumRunTime(part * h);
    this.t += part * h;
    y.set(this.there);
    y[at] = value;
  }

  /** Floats that hang at one level act together. */
  private pass({ at, value, rising }: Mark): void {
    for (const mark of this.marks) {
      const together = mark.at === at && mark.value === value && mark.rising === rising;
      if (together && mark.isOpen()) mark.does(this.t);
    }
  }

  private afterEvent(slope: Float64Array): void {
    this.switchPumps();
    this.note();
    if (this.events.length >= (this.limits.mostEvents ?? 100_000)) {
      this.end = "event-limit";
      this.done = true;
    }
    this.derivative(this.t, this.y, slope);
    if (this.release()) this.derivative(this.t, this.y, slope);
  }

  /** Lets go of a bottom or a rim once flows have turned. */
  private release(): boolean {
    const { n, bound, into, over, flows } = this;
    if (!this.someHeld) return false;
    const share = this.givenShare();
    let any = false;
    for (let i = 0; i < n; i++) {
      if (bound[i] === 0) continue;
      const asked = flows.taken[i] as number;
      const net = (into[i] as number) + (over[i] as number) - (asked < 0 ? asked * share : asked);
      if ((bound[i] === -1 && net > 0) || (bound[i] === 1 && net < 0)) {
        if (bound[i] === 1) this.tell(this.t, "below-rim", i);
        this.hold(i, 0);
        any = true;
      }
    }
    return any;
  }

  private levelsNow(): number[] {
    return this.dynamics.stores.map((store, i) => store.levelAt(this.y[i] as number));
  }

  private note(): void {
    this.times.push(this.t);
    this.record.push(this.levelsNow());
    this.ran.push(setOf(this.running));
  }

  private sumRunTime(h: number): void {
    for (let k = 0; k < this.running.length; k++) {
      if (this.running[k]) this.runTime[k] = (this.runTime[k] as number) + h;
    }
  }
}

const justBefore = (time: number) => time - 1e-12 * Math.max(time, 1);

/** Stores, each after all that spill into it; of a ring, as they come. */
function downhillOrder(stores: readonly SimulatedStore[]): number[] {
  const order: number[] = [];
  const seen = new Set<number>();
  const visit = (i: number): void => {
    if (seen.has(i)) return;
    seen.add(i);
    for (const [j, { overflowTo }] of stores.entries()) if (overflowTo === i) visit(j);
    order.push(i);
  };
  for (const i of stores.keys()) visit(i);
  return order;
}
