import { BAR, GALLON, PSI } from "#core/quantity/constants.ts";

/** m³: the bucket of most vans, in each system of units. Common practice, no source. */
export const USUAL_BUCKET = { metric: 0.02, us: 5 * GALLON } as const;

/** Pa: the last mark of the gauge most vans carry. Common practice, no source. */
export const USUAL_SCALE = { metric: 6 * BAR, us: 100 * PSI } as const;
