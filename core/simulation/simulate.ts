import { type Derivative, dormandPrinceStep, nextStep, stepSlopes } from "../numeric/ode.ts";
import type { WaterStore } from "./waterStore.ts";

/**
 * Bodies of water that fill and are pumped: a system of ordinary differential equations in their volumes, with
 * floats, empty bottoms and full rims as events. SI; levels in m above datum.
 */
export interface Dynamics {
  stores: readonly WaterStore[];
  /** m³/s that runs into each store at a time in s */
  inflow: (time: number) => readonly number[];
  controls: readonly Control[];
  /** m³/s that the line takes out of each store at these levels; negative where it puts in */
  flows: (levels: readonly number[], running: readonly boolean[]) => readonly number[];
}

/**
 * A float or a pressure switch: the pump starts when the level of a store passes `on`, and stops when it passes
 * `off` the other way. `on` above `off` empties the store, below it fills it.
 */
export interface Control {
  pump: number;
  store: number;
  on: number;
  off: number;
}

export interface Start {
  levels: readonly number[];
  running: readonly boolean[];
}

export interface SimulationLimits {
  /** s: no step is longer, so that nothing short is stepped over */
  longestStep: number;
  /** times in s at which the inflow jumps */
  breaks?: readonly number[];
  /** allowed error of each step, as a fraction of a store's volume; 1e-8 when absent */
  tolerance?: number;
  /** stops after so many events, 100 000 when absent */
  mostEvents?: number;
}

export interface TimelineEvent {
  time: number;
  kind: "pump-on" | "pump-off" | "empty" | "full";
  /** which pump, or which store */
  index: number;
}

export interface Timeline {
  /** s, rising; the levels of every store at each */
  times: number[];
  levels: number[][];
  events: TimelineEvent[];
  /** how it ended; `event-limit` where events followed one another without end */
  end: "until" | "event-limit";
  final: Start;
}

/**
 * The run of things from a start until a time in s. Steps are as long as their error allows; each event is found
 * on the step by its cubic and then stepped to exactly. A full store spills what more comes in, an empty one gives
 * no more than comes in.
 */
export function simulate(
  dynamics: Dynamics,
  start: Start,
  until: number,
  limits: SimulationLimits,
): Timeline {
  const { stores, controls } = dynamics;
  const n = stores.length;
  const { longestStep, breaks = [], tolerance = 1e-8, mostEvents = 100_000 } = limits;
  const capacity = stores.map((store) => store.volumeAt(store.rim));
  const allowed = { relative: 0, absolute: tolerance * Math.max(...capacity) };
  const y = Float64Array.from(stores, (store, i) => store.volumeAt(start.levels[i] as number));
  const running = [...start.running];
  const slopes = stepSlopes(n);
  const next = new Float64Array(n);
  const stops = [...breaks.filter((time) => time > 0 && time < until), until].sort((a, b) => a - b);
  /** held at the bottom, or at the rim, until flows turn */
  const bound = new Int8Array(n);
  const levels = new Array<number>(n).fill(0);
  const justBefore = (time: number) => time - 1e-12 * Math.max(time, 1);
  let stop = 0;
  let edge = justBefore(stops[0] as number);

  const derivative: Derivative = (t, volumes, slope) => {
    for (let i = 0; i < n; i++) levels[i] = levelOf(i, volumes[i] as number);
    // A step that ends where the inflow jumps is still of the time before.
    const inflow = dynamics.inflow(Math.min(t, edge));
    const taken = dynamics.flows(levels, running);
    const share = givenShare(inflow, taken, bound);
    for (let i = 0; i < n; i++) {
      const net = netInto(inflow[i] as number, taken[i] as number, share);
      const stuck = (bound[i] === -1 && net < 0) || (bound[i] === 1 && net > 0);
      slope[i] = stuck ? 0 : net;
    }
  };
  const levelOf = (i: number, volume: number) => (stores[i] as WaterStore).levelAt(volume);

  const events: TimelineEvent[] = [];
  const times = [0];
  const record = [Array.from(y, (volume, i) => levelOf(i, volume))];
  const note = (time: number) => {
    times.push(time);
    record.push(Array.from(y, (volume, i) => levelOf(i, volume)));
  };
  const finish = (end: Timeline["end"]): Timeline => ({
    times,
    levels: record,
    events,
    end,
    final: { levels: Array.from(y, (volume, i) => levelOf(i, volume)), running: [...running] },
  });

  // Everything that can happen is a volume being passed: floats and ends are put as volumes once.
  const marks = watchList(dynamics, capacity);
  let t = 0;
  let h = Math.min(longestStep, until) / 16;
  applyStart(y, running, controls, stores, bound, capacity);
  derivative(t, y, slopes[0] as Float64Array);

  while (t < until) {
    const limit = stops[stop] as number;
    h = Math.min(h, longestStep, limit - t);
    const error = dormandPrinceStep(derivative, t, y, h, slopes, next, allowed);
    if (error > 1) {
      h = nextStep(h, error);
      continue;
    }
    const grown = nextStep(h, error);
    const hit = firstMark(marks, y, next, slopes, h, running, bound);
    if (hit && hit.part < 1) {
      // To the event itself by a step of its own, as exact as any other.
      const length = hit.part * h;
      dormandPrinceStep(derivative, t, y, length, slopes, next, allowed);
      t += length;
      y.set(next);
      y[hit.mark.store] = hit.mark.volume;
    } else {
      t = h === limit - t ? limit : t + h;
      y.set(next);
      if (hit) y[hit.mark.store] = hit.mark.volume;
    }
    if (hit) {
      // Floats that hang at one level act together.
      for (const mark of marks) {
        const { store, volume, rising } = hit.mark;
        const together = mark.store === store && mark.volume === volume && mark.rising === rising;
        if (together && isOpen(mark, running, bound)) happen(mark, t, events, running, bound);
      }
      note(t);
      if (events.length >= mostEvents) return finish("event-limit");
      derivative(t, y, slopes[0] as Float64Array);
    } else {
      note(t);
      if (t >= limit && stop < stops.length - 1) {
        stop++;
        edge = justBefore(stops[stop] as number);
        // Past a jump nothing of the old slope holds.
        derivative(t, y, slopes[0] as Float64Array);
      } else (slopes[0] as Float64Array).set(slopes[6] as Float64Array);
    }
    release(bound, dynamics, y, t, running, levelOf);
    h = grown;
  }
  return finish("until");
}

/** A volume of a store that means something when it is passed, rising or falling. */
interface Mark {
  store: number;
  volume: number;
  rising: boolean;
  kind: TimelineEvent["kind"];
  index: number;
}

function watchList({ stores, controls }: Dynamics, capacity: readonly number[]): Mark[] {
  const marks: Mark[] = [];
  for (const { pump, store, on, off } of controls) {
    const own = stores[store] as WaterStore;
    const emptying = on > off;
    marks.push(
      { store, volume: own.volumeAt(on), rising: emptying, kind: "pump-on", index: pump },
      { store, volume: own.volumeAt(off), rising: !emptying, kind: "pump-off", index: pump },
    );
  }
  for (let store = 0; store < stores.length; store++) {
    marks.push(
      { store, volume: 0, rising: false, kind: "empty", index: store },
      { store, volume: capacity[store] as number, rising: true, kind: "full", index: store },
    );
  }
  return marks;
}

/** Whether passing a mark would change anything. */
function isOpen(
  { kind, index, store }: Mark,
  running: readonly boolean[],
  bound: Int8Array,
): boolean {
  if (kind === "pump-on") return running[index] !== true;
  if (kind === "pump-off") return running[index] === true;
  return bound[store] === 0;
}

/**
 * What is given of all that the line takes out of the stores: an empty one gives no more than runs into it, and
 * what is put into others falls short by as much.
 */
function givenShare(inflow: readonly number[], taken: readonly number[], bound: Int8Array): number {
  let asked = 0;
  let given = 0;
  for (let i = 0; i < bound.length; i++) {
    const own = taken[i] as number;
    if (own <= 0) continue;
    asked += own;
    given += bound[i] === -1 ? Math.min(own, Math.max(inflow[i] as number, 0)) : own;
  }
  return asked > 0 ? given / asked : 1;
}

/** m³/s by which a store fills, where the line puts in only that share of what it is asked to. */
function netInto(inflow: number, taken: number, share: number): number {
  return inflow - (taken < 0 ? taken * share : taken);
}

/** The first mark passed on a step, and after what part of it, from the cubic through its ends. */
function firstMark(
  marks: readonly Mark[],
  y: Float64Array,
  next: Float64Array,
  slopes: readonly Float64Array[],
  h: number,
  running: readonly boolean[],
  bound: Int8Array,
): { mark: Mark; part: number } | undefined {
  let first: { mark: Mark; part: number } | undefined;
  for (const mark of marks) {
    const { store, volume, rising } = mark;
    if (!isOpen(mark, running, bound)) continue;
    const before = (y[store] as number) - volume;
    const after = (next[store] as number) - volume;
    const passed = rising ? before < 0 && after >= 0 : before > 0 && after <= 0;
    if (!passed) continue;
    const part = cubicRoot(
      before,
      after,
      (slopes[0]?.[store] as number) * h,
      (slopes[6]?.[store] as number) * h,
    );
    if (!first || part < first.part) first = { mark, part };
  }
  return first;
}

/** Where a cubic from `before` to `after` with these slopes at its ends is zero, 0 … 1. */
function cubicRoot(before: number, after: number, slopeBefore: number, slopeAfter: number): number {
  let low = 0;
  let high = 1;
  let x = before / (before - after);
  for (let i = 0; i < 40; i++) {
    const x2 = x * x;
    const x3 = x2 * x;
    const value =
      before * (2 * x3 - 3 * x2 + 1) +
      slopeBefore * (x3 - 2 * x2 + x) +
      after * (3 * x2 - 2 * x3) +
      slopeAfter * (x3 - x2);
    if (value < 0 === before < 0) low = x;
    else high = x;
    const slope =
      6 * (x2 - x) * (before - after) +
      slopeBefore * (3 * x2 - 4 * x + 1) +
      slopeAfter * (3 * x2 - 2 * x);
    const newton = x - value / slope;
    const to = newton > low && newton < high ? newton : (low + high) / 2;
    if (Math.abs(to - x) < 1e-14) return to;
    x = to;
  }
  return x;
}

function happen(
  { kind, index, store }: Mark,
  time: number,
  events: TimelineEvent[],
  running: boolean[],
  bound: Int8Array,
): void {
  events.push({ time, kind, index });
  if (kind === "pump-on") running[index] = true;
  if (kind === "pump-off") running[index] = false;
  if (kind === "empty") bound[store] = -1;
  if (kind === "full") bound[store] = 1;
}

/** A store at its end leaves it when its flows turn. */
function release(
  bound: Int8Array,
  { inflow, flows, stores }: Dynamics,
  y: Float64Array,
  t: number,
  running: readonly boolean[],
  levelOf: (i: number, volume: number) => number,
): void {
  if (bound.every((side) => side === 0)) return;
  const levels = stores.map((_, i) => levelOf(i, y[i] as number));
  const into = inflow(t);
  const taken = flows(levels, running);
  const share = givenShare(into, taken, bound);
  for (let i = 0; i < bound.length; i++) {
    const net = netInto(into[i] as number, taken[i] as number, share);
    if ((bound[i] === -1 && net > 0) || (bound[i] === 1 && net < 0)) bound[i] = 0;
  }
}

/** Floats that the start has passed already are obeyed at once. */
function applyStart(
  y: Float64Array,
  running: boolean[],
  controls: readonly Control[],
  stores: readonly WaterStore[],
  bound: Int8Array,
  capacity: readonly number[],
): void {
  for (const { pump, store, on, off } of controls) {
    const level = (stores[store] as WaterStore).levelAt(y[store] as number);
    const emptying = on > off;
    if (emptying ? level >= on : level <= on) running[pump] = true;
    if (emptying ? level <= off : level >= off) running[pump] = false;
  }
  for (let i = 0; i < bound.length; i++) {
    if ((y[i] as number) <= 0) bound[i] = -1;
    if ((y[i] as number) >= (capacity[i] as number)) bound[i] = 1;
  }
}
