import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { inWell } from "#model/well/season.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { useLibraryPumps } from "./useChoice.ts";

/** What of the job its well depends on; the same object while none of that changes. */
function useWellJob(job: JobDocument) {
  const { source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank, house } =
    job;
  return useMemo(
    () => inWell(job),
    [source, path, site, method, pumps, wantedFlow, well, overTime, pressureTank, house],
  );
}

/** What a job's well comes to, worked out beside the page a moment after each change. */
export function useWell(job: JobDocument) {
  const asked = useWellJob(job);
  const library = useLibraryPumps(job.pumps);
  // Of a library only those that stand at the top are tried.
  const jets = useMemo(() => library.filter(({ kind }) => kind === "jet"), [library]);
  return useCalculation("well", [asked, jets]);
}

/** Its days, for whoever looks at them. */
export function useWellDay(job: JobDocument) {
  return useCalculation("wellDay", [useWellJob(job)]);
}
