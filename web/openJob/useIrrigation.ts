import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { irrigationJob } from "#model/irrigation/irrigation.ts";
import { useCalculation } from "../calculations/useCalculation.ts";

/** What a job's watering comes to, worked out beside the page a moment after each change. */
export function useIrrigation(job: JobDocument) {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, field } = job;
  const asked = useMemo(
    () => irrigationJob(job),
    [source, path, site, method, pumps, wantedFlow, well, overTime, field],
  );
  return useCalculation("watering", [asked]);
}
