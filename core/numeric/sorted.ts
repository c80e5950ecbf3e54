/**
 * The first of rising numbers that is not below one; their count where all are.
 * @example firstAtOrAfter([1, 3, 5], 3) // 1
 */
export function firstAtOrAfter(rising: ArrayLike<number>, at: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rising[middle] as number) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * The last of rising numbers that is not above one; −1 where all are.
 * @example lastAtOrBefore([1, 3, 5], 4) // 1
 */
export function lastAtOrBefore(rising: ArrayLike<number>, at: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rising[middle] as number) <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
