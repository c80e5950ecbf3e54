import type { WaterStore } from "./waterStore.ts";

/** A pump that a float switches: what it draws at a level of the pit, m³/s, net of what comes straight back. */
export interface Cycling {
  store: WaterStore;
  /** m above datum */
  on: number;
  off: number;
  drawn: (level: number) => number;
  /** m³ that falls back into the pit at each stop */
  fallsBack: number;
}

export interface Cycle {
  /** m³/s that runs in */
  inflow: number;
  /** s filling and s pumping */
  filling: number;
  pumping: number;
  startsPerHour: number;
}

/**
 * One cycle at a steady inflow: V/Q_in filling and ∫ dV / (Q − Q_in) pumping, less what fell back while it filled.
 * Undefined where the pump never stops, or never starts.
 */
export function cycleAt(cycling: Cycling, inflow: number): Cycle | undefined {
  const { store, on, off, drawn, fallsBack } = cycling;
  const [low, high] = [store.volumeAt(off), store.volumeAt(on)];
  const volume = high - low;
  if (!(inflow > 0) || !(volume > 0)) return undefined;
  // Simpson over the volume between the floats.
  let pumping = 0;
  for (let i = 0; i <= PIECES; i++) {
    const net = drawn(store.levelAt(low + (volume * i) / PIECES)) - inflow;
    if (!(net > 0)) return undefined;
    const weight = i === 0 || i === PIECES ? 1 : i % 2 === 1 ? 4 : 2;
    pumping += weight / net;
  }
  pumping *= volume / PIECES / 3;
  const filling = fillingTime(volume, fallsBack, inflow);
  return { inflow, filling, pumping, startsPerHour: startsAnHour(filling, pumping, 1) };
}

/**
 * s in which a volume fills, less what fell back into it.
 * @example fillingTime(0.2, 0.02, 0.001) // 180
 */
export const fillingTime = (volume: number, fallsBack: number, inflow: number): number =>
  Math.max(volume - fallsBack, 0) / inflow;

/**
 * s in which a volume is pumped out at a mean flow while more comes in.
 * @example pumpingTime(0.2, 0.003, 0.001) // 100
 */
export const pumpingTime = (volume: number, flow: number, inflow: number): number =>
  volume / (flow - inflow);

/** m³ a line took from a body of water, by what was there, came in, ran over, others drew and is left. */
export const movedBy = (
  start: number,
  came: number,
  over: number,
  others: number,
  left: number,
): number => start + came - over - others - left;

/**
 * Starts an hour of each of the pumps that take turns.
 * @example startsAnHour(180, 100, 1) // 12.9
 */
export const startsAnHour = (filling: number, pumping: number, turns: number): number =>
  3600 / (filling + pumping) / turns;

const PIECES = 12;

/**
 * The inflow at which the pump starts most often, and how often: near half of what it moves. Undefined where it moves
 * nothing between its floats.
 */
export function worstCycle(cycling: Cycling): Cycle | undefined {
  const { on, off, drawn } = cycling;
  const most = Math.min(drawn(off), drawn((on + off) / 2), drawn(on));
  if (!(most > 0)) return undefined;
  // Golden section: starts an hour rise to one peak and fall again.
  const startsAt = (inflow: number) => cycleAt(cycling, inflow)?.startsPerHour ?? 0;
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [most * 1e-3, most * (1 - 1e-6)];
  let [a, b] = [high - ratio * (high - low), low + ratio * (high - low)];
  let [atA, atB] = [startsAt(a), startsAt(b)];
  for (let i = 0; i < 60 && high - low > most * 1e-5; i++) {
    if (atA > atB) {
      [high, b, atB] = [b, a, atA];
      a = high - ratio * (high - low);
      atA = startsAt(a);
    } else {
      [low, a, atA] = [a, b, atB];
      b = low + ratio * (high - low);
      atB = startsAt(b);
    }
  }
  return cycleAt(cycling, (low + high) / 2);
}

/**
 * The level at which the float has to switch on so that the motor never starts more often than it bears; undefined
 * where not even a pit full to its rim would do.
 * @param most starts an hour
 */
export function floatFor(cycling: Cycling, most: number): number | undefined {
  const { store, off } = cycling;
  const startsWith = (on: number) => worstCycle({ ...cycling, on })?.startsPerHour ?? 0;
  if (startsWith(store.rim) > most) return undefined;
  let [low, high] = [off, store.rim];
  for (let i = 0; i < 50 && high - low > 1e-4; i++) {
    const middle = (low + high) / 2;
    if (middle > off && startsWith(middle) > most) low = middle;
    else if (middle <= off) low = middle;
    else high = middle;
  }
  return high;
}
