import type { SmallSection } from "#contract/api/api.ts";
import { acrossScale, sectionGeometry } from "./sectionGeometry.ts";
import type { JobSolution } from "./solveJob.ts";

/** Height of the small picture, where its width is 100. */
export const SMALL_HEIGHT = 44;
/** Points nearer than this, in hundredths of the width, are drawn as one. */
const APART = 2;

/** A section small enough for a list; nothing where no line is drawn. */
export function smallSection(solved: JobSolution): SmallSection | undefined {
  const geometry = sectionGeometry(solved);
  if (!geometry) return undefined;
  const { intake, runs, pumps, source, outlets } = geometry;
  const points = [intake, ...runs.flatMap(({ from, to }) => [from, to])];
  const ends = [...pumps, ...outlets].map(({ at }) => at);
  const heights = [...points, ...ends].map(({ height }) => height);
  const top = Math.max(...heights, source.high);
  const span = Math.max(top - Math.min(...heights, source.low), 0.5);
  const across = acrossScale(geometry, 0.2);
  const place = ({ distance, height }: { distance: number; height: number }) => {
    const x = Math.round(8 + 86 * across(distance));
    const y = Math.round(4 + ((top - height) / span) * (SMALL_HEIGHT - 8));
    return [x, y] as const;
  };
  const end = outlets.at(-1)?.at ?? points.at(-1);
  const line: number[] = [];
  for (const point of end ? [...points, end] : points) {
    const [x, y] = place(point);
    const [px, py] = [line.at(-2), line.at(-1)];
    if (px !== undefined && py !== undefined && Math.hypot(x - px, y - py) < APART) continue;
    line.push(x, y);
  }
  const [first] = pumps;
  const [, water] = place({ distance: 0, height: source.normal });
  return { line, water, ...(first && { pump: [...place(first.at)] as [number, number] }) };
}
