import type { JobDocument } from "#contract/documents/job.ts";
import type { WateringTold } from "#model/irrigation/watering.ts";

/** What every view of the ground is given. */
export interface ToldProps {
  job: JobDocument;
  told: WateringTold;
}
