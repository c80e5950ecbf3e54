import { drivingOf } from "../selection/driving.ts";
import type { Computations } from "./graph.ts";

/** What drives a pump on its line. */
export const DRIVING_COMPUTATIONS = {
  driving: (job, look) => drivingOf(job, job.place, job.documents, look("line")),
} satisfies Partial<Computations>;
