import { offersFor } from "../whatif/offers.ts";
import type { Computations } from "./graph.ts";

/** What may be asked of a job with one thing changed. */
export const OFFER_COMPUTATIONS = {
  offers: (job) => offersFor(job, job.documents),
} satisfies Partial<Computations>;
