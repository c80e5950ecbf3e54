/** Something that belongs at a height of a drawing. */
export interface Placed {
  at: number;
}

/**
 * Puts things of one height beside a drawing as near as may be to where they belong, in order and without covering one
 * another: each is pushed down by the one over it, then all that would hang out below are pushed up again.
 */
export function spread<T extends Placed>(
  things: readonly T[],
  { high, from, to }: { high: number; from: number; to: number },
): (T & { centre: number })[] {
  const placed = things.toSorted((a, b) => a.at - b.at).map((own) => ({ ...own, centre: own.at }));
  let edge = from;
  for (const own of placed) {
    own.centre = Math.max(own.centre, edge + high / 2);
    edge = own.centre + high / 2;
  }
  edge = to;
  for (const own of placed.toReversed()) {
    own.centre = Math.min(own.centre, edge - high / 2);
    edge = own.centre - high / 2;
  }
  return placed;
}
