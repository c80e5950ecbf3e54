import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { inWatering } from "#model/irrigation/watering.ts";
import { useCalculation } from "../calculations/useCalculation.ts";

/** What a job's watering comes to, worked out beside the page a moment after each change. */
export function useWatering(job: JobDocument) {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, field } = job;
  const asked = useMemo(
    () => inWatering(job),
    [source, path, site, method, pumps, wantedFlow, well, overTime, field],
  );
  return useCalculation("watering", [asked]);
}
