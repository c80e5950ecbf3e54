/** Depth of water in a can, m, with the ground it stands for (m², or any measure all share). */
export interface Caught {
  depth: number;
  weight: number;
}

export interface Evenness {
  /** m, over the ground the cans stand for */
  mean: number;
  /** m, how far the cans lie off that mean on average; and the mean of the quarter of the ground that got least */
  deviation: number;
  least: number;
  /** Christiansen's coefficient, 1 when all caught the same; it may be negative */
  christiansen: number;
  /** mean of the quarter of the ground that got least, over the mean of all */
  lowQuarter: number;
}

/**
 * How evenly water fell. Each can counts for its ground: with equal weights the coefficient is the published one.
 * Sources: J. E. Christiansen, Irrigation by sprinkling, Univ. of California Bulletin 670 (1942); weighted after
 * D. Heermann, P. Hein, Trans. ASAE 11 (1968); the low quarter after the US Soil Conservation Service; all from memory.
 * All zero where nothing fell.
 */
export function evennessOf(caught: readonly Caught[]): Evenness {
  const ground = caught.reduce((sum, { weight }) => sum + weight, 0);
  const water = caught.reduce((sum, { depth, weight }) => sum + depth * weight, 0);
  if (!(ground > 0) || !(water > 0)) return NOTHING_FELL;
  const mean = water / ground;
  const off = caught.reduce((sum, { depth, weight }) => sum + weight * Math.abs(depth - mean), 0);
  const deviation = off / ground;
  const least = lowQuarterMean(caught, ground);
  return {
    ...{ mean, deviation, least },
    christiansen: christiansen(deviation, mean),
    lowQuarter: least / mean,
  };
}

const NOTHING_FELL: Evenness = { mean: 0, deviation: 0, least: 0, christiansen: 0, lowQuarter: 0 };

/**
 * Christiansen's coefficient, from how far the cans lie off their mean on average, and that mean.
 * @example christiansen(2, 12) // 0.833
 */
export function christiansen(deviation: number, mean: number): number {
  return 1 - deviation / mean;
}

/** Mean depth over the quarter of the ground that got least; the can on its border counts in part. */
function lowQuarterMean(caught: readonly Caught[], ground: number): number {
  let left = ground / 4;
  let water = 0;
  for (const { depth, weight } of caught.toSorted((a, b) => a.depth - b.depth)) {
    const part = Math.min(weight, left);
    water += part * depth;
    left -= part;
    if (left <= 0) break;
  }
  return water / (ground / 4);
}
