import { GALLON } from "../quantity/constants.ts";

/** Water that is drawn once: s from midnight, s it takes, m³/s, and the number of the tap. */
export interface Draw {
  start: number;
  duration: number;
  flow: number;
  tap: number;
}

/** One thing water is used for: m³ each time, times a day and head, and the hours in which it mostly is. */
interface Habit {
  volume: number;
  times: number;
  /** of the day, each from and to in h */
  hours: readonly (readonly [number, number])[];
}

const MORNING = [6, 9] as const;
const EVENING = [17, 22] as const;
const DAYTIME = [9, 17] as const;

/** What a head uses in a house in a day, about 60 gal. Common practice, no source. */
const HOUSE: readonly Habit[] = [
  { volume: 1.6 * GALLON, times: 5, hours: [MORNING, EVENING, DAYTIME] },
  { volume: 0.5 * GALLON, times: 8, hours: [MORNING, EVENING, DAYTIME] },
  { volume: 17 * GALLON, times: 1, hours: [MORNING, EVENING] },
  { volume: 2 * GALLON, times: 4, hours: [MORNING, EVENING] },
  { volume: 10 * GALLON, times: 1, hours: [EVENING, DAYTIME] },
  { volume: 3 * GALLON, times: 3, hours: [DAYTIME, EVENING] },
];

/** What is drawn for one allotment plot in a dry week's day: cans and a hose, about 16 gal. Common practice, no source. */
const PLOT: readonly Habit[] = [
  { volume: 2 * GALLON, times: 3, hours: [EVENING, MORNING] },
  { volume: 10 * GALLON, times: 1, hours: [EVENING] },
];

const HABITS = { house: HOUSE, plots: PLOT } as const;
export type UsualUse = keyof typeof HABITS;

/**
 * A day's draws as they usually fall, for so many heads or plots: spread over their hours by a sequence that leaves no
 * gaps and repeats nothing (the golden section), so that the same count always gives the same day.
 * @param taps m³/s of each tap; a draw takes as long as its tap needs
 * @param day which day, from 0: no two fall alike
 */
export function usualDay(use: UsualUse, count: number, taps: readonly number[], day = 0): Draw[] {
  const draws: Draw[] = [];
  let n = 0;
  for (let head = 0; head < count; head++) {
    for (const [h, { volume, times, hours }] of HABITS[use].entries()) {
      for (let time = 0; time < times; time++) {
        const [from, to] = hours[(time + head) % hours.length] as readonly [number, number];
        const part = ((n + 1) * GOLDEN + day * 0.137) % 1;
        const tap = (h + head) % Math.max(taps.length, 1);
        const flow = taps[tap] ?? USUAL_TAP;
        draws.push({
          start: 3600 * (from + (to - from) * part),
          duration: volume / flow,
          flow,
          tap,
        });
        n++;
      }
    }
  }
  return draws.toSorted((a, b) => a.start - b.start);
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** m³/s of a tap where nobody says: 2.5 gpm. Common practice, no source. */
export const USUAL_TAP = (2.5 * GALLON) / 60;

/** m³ of a day's draws. */
export const volumeOf = (draws: readonly Draw[]): number =>
  draws.reduce((sum, { duration, flow }) => sum + duration * flow, 0);
