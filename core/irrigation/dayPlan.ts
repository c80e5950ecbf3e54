/** A plan by the clock. Times in s; those of the plan count from midnight of its first day. */

const DAY = 86_400;

export interface DayAsked {
  /** s each set is to run, in order */
  runs: readonly number[];
  /** number of the first set that is still to do, from 0, and the s from midnight it may begin */
  next: number;
  start: number;
  /** s to carry the guns to the next set, and to prime the pump when it was stopped for fuel or overnight */
  move: number;
  prime: number;
  /** the part of each day it may run, s from midnight; over midnight where `to` is not after `from` */
  calm?: { from: number; to: number };
  engine?: Engine;
}

export interface Engine {
  /** s it runs on a full tank, and on what is in it at the start */
  tankLasts: number;
  left: number;
  /** s it cools before it may be filled, and filling takes */
  cooling: number;
  filling: number;
}

export type DayStep =
  | { kind: "prime"; from: number; to: number }
  /** number of the set, from 0 */
  | { kind: "run"; set: number; from: number; to: number }
  | { kind: "move"; set: number; from: number; to: number }
  /** stopped: the guns are carried while it cools, then it is filled and primed */
  | { kind: "fuel"; set: number; from: number; fillFrom: number; to: number }
  /** too windy, or night */
  | { kind: "wait"; from: number; to: number };

export type DayPlan =
  | { kind: "planned"; steps: DayStep[]; end: number; running: number; fuelStops: number }
  /** number of the set and the s it takes, against the s there are */
  | { kind: "refused"; why: "tank-shorter-than-set"; set: number; takes: number; has: number }
  | { kind: "refused"; why: "calm-shorter-than-set"; set: number; takes: number; has: number }
  | { kind: "refused"; why: "no-sets-left" }
  | { kind: "refused"; why: "too-long"; days: number };

/** A plan over more days is none. */
const MOST_DAYS = 120;

/**
 * Clock times of every set, move, fuel stop and wait. No set is begun that the tank, or the calm part of the day,
 * would not see to its end. While nobody waters overnight the engine cools and is filled.
 */
export function dayPlan(asked: DayAsked): DayPlan {
  const { runs, next, move, prime, engine } = asked;
  if (next >= runs.length) return { kind: "refused", why: "no-sets-left" };
  const calm = calmLength(asked);
  for (let set = next; set < runs.length; set++) {
    const takes = runs[set] as number;
    if (engine && takes > engine.tankLasts) {
      return { kind: "refused", why: "tank-shorter-than-set", set, takes, has: engine.tankLasts };
    }
    if (calm !== undefined && takes + prime > calm) {
      return { kind: "refused", why: "calm-shorter-than-set", set, takes, has: calm };
    }
  }
  const steps: DayStep[] = [];
  let [now, fuel, running, fuelStops, primed] = [
    asked.start,
    engine?.left ?? Infinity,
    0,
    0,
    false,
  ];
  const add = (step: DayStep) => {
    if (step.to > step.from) steps.push(step);
    now = step.to;
  };
  for (let set = next; set < runs.length; set++) {
    const takes = runs[set] as number;
    if (set > next || fuel < takes) {
      if (engine && fuel < takes) {
        // Before the first set nothing is hot, and nothing is to be carried.
        const idle = set > next ? Math.max(move, engine.cooling) : 0;
        const fillFrom = now + idle;
        add({ kind: "fuel", set, from: now, fillFrom, to: fillFrom + engine.filling });
        [fuel, primed] = [engine.tankLasts, false];
        fuelStops++;
      } else add({ kind: "move", set, from: now, to: now + move });
    }
    const begin = nextCalm(asked, now, takes + (primed ? 0 : prime));
    if (begin > now) {
      const waited = begin - now;
      add({ kind: "wait", from: now, to: begin });
      primed = false;
      if (engine && waited >= engine.cooling + engine.filling) fuel = engine.tankLasts;
      // Primed anew it may take longer than the calm that is left.
      const later = nextCalm(asked, now, takes + prime);
      if (later > now) add({ kind: "wait", from: now, to: later });
    }
    if (!primed) add({ kind: "prime", from: now, to: now + prime });
    primed = true;
    add({ kind: "run", set, from: now, to: now + takes });
    fuel -= takes;
    running += takes;
    if (now > MOST_DAYS * DAY) return { kind: "refused", why: "too-long", days: MOST_DAYS };
  }
  return { kind: "planned", steps, end: now, running, fuelStops };
}

/** s of each day that are calm; undefined where all of it is. */
function calmLength({ calm }: DayAsked): number | undefined {
  if (!calm || calm.from === calm.to) return undefined;
  return (calm.to - calm.from + DAY) % DAY;
}

/** The first moment from `now` on with so many calm s after it. */
function nextCalm(asked: DayAsked, now: number, takes: number): number {
  const length = calmLength(asked);
  if (length === undefined || !asked.calm) return now;
  const { from } = asked.calm;
  const day = Math.floor((now - from) / DAY);
  const opened = from + day * DAY;
  return now + takes <= opened + length ? now : opened + DAY;
}
