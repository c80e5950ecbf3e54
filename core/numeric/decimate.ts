import { firstAtOrAfter } from "./sorted.ts";

/**
 * A signal thinned for drawing: of every stretch of time that one of `columns` columns shows, its least and its
 * greatest value in the order they came, so that no peak is lost. One sample either side of the window is kept, so that
 * the line goes on to the edge. `times` rise; NaN is a gap and is kept as one.
 */
export function decimated(
  times: Float64Array,
  values: Float64Array,
  from: number,
  to: number,
  columns: number,
): { times: number[]; values: (number | null)[] } {
  const first = Math.max(firstAtOrAfter(times, from) - 1, 0);
  const end = Math.min(firstAtOrAfter(times, to) + 1, times.length);
  const out: { times: number[]; values: (number | null)[] } = { times: [], values: [] };
  const put = (i: number) => {
    out.times.push(times[i] as number);
    const value = values[i] as number;
    out.values.push(Number.isNaN(value) ? null : value);
  };
  if (end - first <= 2 * columns) {
    for (let i = first; i < end; i++) put(i);
    return out;
  }
  const width = (to - from) / columns;
  let i = first;
  while (i < end) {
    const column = Math.floor(((times[i] as number) - from) / width);
    const edge = from + (column + 1) * width;
    let [least, most, gap] = [i, i, -1];
    let k = i;
    for (; k < end && (k === i || (times[k] as number) < edge); k++) {
      const value = values[k] as number;
      if (Number.isNaN(value)) gap = k;
      else {
        if (!(value >= (values[least] as number))) least = k;
        if (!(value <= (values[most] as number))) most = k;
      }
    }
    const kept = [...new Set([least, most, ...(gap >= 0 ? [gap] : [])])].sort((a, b) => a - b);
    for (const at of kept) put(at);
    i = k;
  }
  return out;
}
