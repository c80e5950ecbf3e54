/**
 * `count` points in the unit cube of `dimensions`, one in each of `count` equal slices of every axis.
 * The same seed gives the same points.
 * Source: M. D. McKay, R. J. Beckman, W. J. Conover, Technometrics 21 (1979) 239–245.
 */
export function latinHypercube(count: number, dimensions: number, seed: number): number[][] {
  const random = uniform(seed);
  const axes = Array.from({ length: dimensions }, () => {
    const slices = Array.from({ length: count }, (_, i) => i);
    for (let i = count - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [slices[i], slices[j]] = [slices[j] as number, slices[i] as number];
    }
    return slices.map((slice) => (slice + random()) / count);
  });
  return Array.from({ length: count }, (_, i) => axes.map((axis) => axis[i] as number));
}

/**
 * Numbers spread evenly between 0 and 1. Source: the minimal standard generator, S. K. Park,
 * K. W. Miller, Communications of the ACM 31 (1988) 1192–1201, with the multiplier 48271.
 */
export function uniform(seed: number): () => number {
  let state = Math.max(1, Math.floor(seed) % 2147483647);
  return () => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
}
