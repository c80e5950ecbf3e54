/** Of so many pumps every set is told. */
const MOST_OF_SETS = 4;

/** The pumps of a line that may run together: each alone, and all of them; of few pumps every set, smallest first. */
export function pumpSets<T>(pumps: readonly T[]): T[][] {
  const { length } = pumps;
  const sets =
    length <= MOST_OF_SETS
      ? Array.from({ length: 2 ** length - 1 }, (_, bits) => bits + 1)
      : [...pumps.map((_, i) => 2 ** i), 2 ** length - 1];
  return sets
    .map((bits) => pumps.filter((_, i) => (bits >> i) & 1))
    .toSorted((a, b) => a.length - b.length);
}
