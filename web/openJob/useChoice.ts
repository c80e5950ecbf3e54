import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import type { Weighing } from "#core/selection/weights.ts";
import type { Chosen } from "#model/selection/choose.ts";
import { useLibrary, useLibraryPumps, useLibraryText } from "./useLibraryPumps.ts";
import { type Result, useResult } from "./useResult.ts";

export interface Choice extends Result<Chosen[]> {
  library: ReturnType<typeof useLibrary>;
  /** the pumps of the job and of the library, by id */
  documents: ReadonlyMap<string, PumpDocument>;
}

/** Everything of the library tried in one place of the line. */
export function useChoice(job: JobDocument, itemId: string, weighing: Weighing): Choice {
  const library = useLibrary();
  const all = useLibraryPumps(job.pumps);
  const documents = useMemo(() => new Map(all.map((pump) => [pump.id, pump])), [all]);
  const libraryText = useLibraryText(all);
  const chosen = useResult("chosen", { job, libraryText, place: itemId, weighing });
  return { library, documents, ...chosen };
}
