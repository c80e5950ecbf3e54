import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import type { Candidate } from "#core/choose/rankPumps.ts";
import { allPumps } from "../api/queries.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { pumpItems } from "./jobStore.ts";
import { useLine } from "./useLine.ts";

/** Solving so many parts for pumps all together is quick enough for the page itself. */
const QUICK = 400;

export interface Candidates {
  library: ReturnType<typeof useLibrary>;
  /** the pumps of the job and of the library */
  documents: readonly PumpDocument[];
  /** those that could be solved, the ones that suit first; nothing while they are first worked out */
  ranked: readonly Candidate[] | undefined;
  /** worked out for the job as it was a moment ago */
  stale: boolean;
}

const useLibrary = () => useQuery(allPumps);

/** The pumps of a job and of the library, each once. */
export function useLibraryPumps(pumps: readonly PumpDocument[]): readonly PumpDocument[] {
  const { data } = useLibrary();
  return useMemo(() => {
    const all = new Map(pumps.map((pump) => [pump.id, pump]));
    for (const { document } of data ?? []) {
      if (!all.has(document.id)) all.set(document.id, document);
    }
    return [...all.values()];
  }, [data, pumps]);
}

/** Every pump of the library tried in one place of the line. */
export function useCandidates(job: JobDocument, itemId: string): Candidates {
  const library = useLibrary();
  const { path, wantedFlow, pumps } = job;
  const documents = useLibraryPumps(pumps);
  const line = useLine(job);
  const place = useMemo(() => {
    const elsewhere = new Set(
      pumpItems(path).flatMap((row) => (row.id === itemId ? [] : [row.pump])),
    );
    return { itemId, others: pumps.filter(({ id }) => elsewhere.has(id)) };
  }, [path, pumps, itemId]);
  const { value, stale } = useCalculation(
    "ranked",
    [line, documents, wantedFlow, place],
    path.length * documents.length <= QUICK,
  );
  return { library, documents, ranked: value, stale };
}
