/** The last of rising times that is not after one. */
export function indexAt(times: readonly number[], time: number): number {
  let [low, high] = [0, times.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((times[middle] as number) <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}
