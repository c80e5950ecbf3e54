import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { useLibraryPumps } from "./useLibraryPumps.ts";
import { useResult } from "./useResult.ts";

/** Other ways to lift the water of a well. Of the library only pumps that stand at the top are tried. */
export function useOtherPumps(job: JobDocument) {
  const library = useLibraryPumps(job.pumps);
  const jets = useMemo(() => library.filter(({ kind }) => kind === "jet"), [library]);
  return useResult("otherPumps", { job, jets });
}
