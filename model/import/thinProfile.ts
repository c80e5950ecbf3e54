import type { Run } from "./readProfile.ts";

/**
 * A surveyed line with fewer runs: points are left out while the height at every point left out stays within
 * `tolerance` of the straight line between those kept. Length and rise in all stay as they were, so friction and lift
 * do too; only where in between the line is high or low moves, by at most the tolerance.
 *
 * Ramer (1972) and Douglas and Peucker (1973), with the deviation taken vertically, from memory.
 * @param tolerance m, 0 or more
 */
export function thinProfile(runs: readonly Run[], tolerance: number): Run[] {
  const along = [0];
  const height = [0];
  for (const { length, rise } of runs) {
    along.push((along.at(-1) as number) + length);
    height.push((height.at(-1) as number) + rise);
  }
  const kept = new Set([0, runs.length]);
  const open: [from: number, to: number][] = [[0, runs.length]];
  for (let span = open.pop(); span; span = open.pop()) {
    const [from, to] = span;
    const [a, b] = [along[from] as number, along[to] as number];
    const slope = b > a ? ((height[to] as number) - (height[from] as number)) / (b - a) : 0;
    let [worst, most] = [-1, tolerance];
    for (let i = from + 1; i < to; i++) {
      const straight = (height[from] as number) + slope * ((along[i] as number) - a);
      const apart = Math.abs((height[i] as number) - straight);
      if (apart > most) [worst, most] = [i, apart];
    }
    if (worst >= 0) {
      kept.add(worst);
      open.push([from, worst], [worst, to]);
    }
  }
  const points = [...kept].toSorted((a, b) => a - b);
  return points.slice(1).map((to, i) => {
    const from = points[i] as number;
    return {
      length: (along[to] as number) - (along[from] as number),
      rise: (height[to] as number) - (height[from] as number),
    };
  });
}
