/** Surface of a body of water at three states, m above datum, low ≤ normal ≤ high. */
export interface Levels {
  low: number;
  normal: number;
  high: number;
}

/** The three states of the water a job is judged at. */
export type WaterLevel = keyof Levels;
export const WATER_LEVELS = ["low", "normal", "high"] as const satisfies readonly WaterLevel[];

/** Low water at the source is the hardest with high water at the outlet, and the other way round. */
export const OPPOSITE: Record<WaterLevel, WaterLevel> = {
  low: "high",
  normal: "normal",
  high: "low",
};

/** @example inOrder({ low: 0, normal: 0.5, high: 0.4 }) // false */
export function inOrder({ low, normal, high }: Levels): boolean {
  return low <= normal && normal <= high;
}
