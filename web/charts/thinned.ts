/**
 * A curve of as many points as can be seen: where more fall on one place its first, lowest, highest and last stand for
 * them, so that no peak is lost.
 * @param places how many can be told apart from the first time to the last
 */
export function thinned(
  times: readonly number[],
  valueAt: (index: number) => number,
  places: number,
): [time: number, value: number][] {
  const count = times.length;
  if (count <= 2 * places) return times.map((time, i) => [time, valueAt(i)]);
  const first = times[0] as number;
  const step = ((times[count - 1] as number) - first) / places;
  const found: [number, number][] = [];
  for (let i = 0; i < count; ) {
    const place = Math.floor(((times[i] as number) - first) / step);
    let [low, high, last] = [i, i, i];
    for (; i < count && Math.floor(((times[i] as number) - first) / step) === place; i++) {
      if (valueAt(i) < valueAt(low)) low = i;
      if (valueAt(i) > valueAt(high)) high = i;
      last = i;
    }
    const start = found.length;
    for (const own of [...new Set([low, high, last])].sort((a, b) => a - b)) {
      found.push([times[own] as number, valueAt(own)]);
    }
    if (found.length === start) i++;
  }
  return found;
}
