import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import type { Weighing } from "#core/selection/weights.ts";
import type { Chosen } from "#model/selection/choose.ts";
import { slimPump } from "#model/selection/slim.ts";
import { allPumps } from "../api/queries.ts";
import { useCalculation } from "../calculations/useCalculation.ts";
import { useSimulatedJob } from "./useSimulation.ts";

export interface Choice {
  library: ReturnType<typeof useLibrary>;
  /** the pumps of the job and of the library, by id */
  documents: ReadonlyMap<string, PumpDocument>;
  /** the best first; nothing while they are first worked out */
  chosen: readonly Chosen[] | undefined;
  /** still being looked at */
  working: boolean;
  /** worked out for the job as it was a moment ago */
  stale: boolean;
  cancel: () => void;
  again: () => void;
  cancelled: boolean;
  error: string | undefined;
}

const useLibrary = () => useQuery(allPumps);

/** The pumps of a job and of the library that are still offered, each once. */
export function useLibraryPumps(pumps: readonly PumpDocument[]): readonly PumpDocument[] {
  const { data } = useLibrary();
  return useMemo(() => {
    const all = new Map(pumps.map((pump) => [pump.id, pump]));
    for (const { document } of data ?? []) {
      if (!all.has(document.id) && !document.archived) all.set(document.id, document);
    }
    return [...all.values()];
  }, [data, pumps]);
}

/** Everything of the library tried in one place of the line. */
export function useChoice(job: JobDocument, itemId: string, weighing: Weighing): Choice {
  const library = useLibrary();
  const all = useLibraryPumps(job.pumps);
  const documents = useMemo(() => new Map(all.map((pump) => [pump.id, pump])), [all]);
  // As text it crosses to the worker in a moment, however often; it is read there, once.
  const text = useMemo(() => JSON.stringify(all.map(slimPump)), [all]);
  const asked = useSimulatedJob(job);
  const { value, stale, kind, cancel, again, error } = useCalculation("chosen", [
    ...([asked, text, itemId, weighing] as const),
  ]);
  return {
    ...{ library, documents, stale, cancel, again, error },
    chosen: value,
    working: kind === "working",
    cancelled: kind === "cancelled",
  };
}
