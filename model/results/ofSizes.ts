import { compareSizes } from "#core/sizes/sizes.ts";
import type { Computations } from "./graph.ts";

/** Sizes of pipe side by side. */
export const SIZE_COMPUTATIONS = {
  sizes: ({ sizing: { itemIds, sizes }, ...job }) =>
    compareSizes(job, job.pumps, itemIds, sizes, "normal", job.wantedFlow),
} satisfies Partial<Computations>;
