import type { PathItem } from "./path.ts";

/**
 * Elevation in m at which each item of a path starts, by its id. Where branches meet again the first that
 * does gives the height the path goes on from.
 */
export function startElevations(
  path: readonly PathItem[],
  from: number,
): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  follow(path, from, found);
  return found;
}

/** Follows a list; gives the elevation it ends at, or nothing where an outlet ends it. */
function follow(
  path: readonly PathItem[],
  from: number,
  found: Map<string, number>,
): number | undefined {
  let elevation: number | undefined = from;
  for (const item of path) {
    if (elevation === undefined) return undefined;
    found.set(item.id, elevation);
    if (item.kind === "pipe" || item.kind === "rise") elevation += item.rise;
    if (item.kind === "outlet") elevation = undefined;
    if (item.kind === "split") {
      const start: number = elevation as number;
      const ends = item.branches.map((branch) => follow(branch, start, found));
      elevation = ends.find((end) => end !== undefined);
    }
  }
  return elevation;
}

/**
 * The list with one run or rise made to end at an elevation in m. The next run of the list keeps the
 * elevation it ends at, as it does when levels are surveyed one after another.
 */
export function endAt<T extends { id: string; kind: string; rise?: number }>(
  list: readonly T[],
  id: string,
  start: number,
  end: number,
): T[] {
  const index = list.findIndex((item) => item.id === id);
  const item = list[index];
  if (item?.rise === undefined) return [...list];
  const change = end - start - item.rise;
  const next = list.findIndex((other, i) => i > index && other.rise !== undefined);
  return list.map((other, i) => {
    if (i === index) return { ...other, rise: end - start };
    return i === next ? { ...other, rise: (other.rise as number) - change } : other;
  });
}
