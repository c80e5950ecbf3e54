/** The first of rising numbers that is not below one; their count where all are. */
export function firstAtOrAfter(rising: ArrayLike<number>, at: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rising[middle] as number) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The last of rising numbers that is not above one; −1 where all are. */
export function lastAtOrBefore(rising: ArrayLike<number>, at: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rising[middle] as number) <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
