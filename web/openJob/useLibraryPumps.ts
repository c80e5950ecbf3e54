import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { slimPump } from "#model/selection/slim.ts";
import { allPumps } from "../api/queries.ts";

export const useLibrary = () => useQuery(allPumps);

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

/** The same as the text they are sent in to be chosen from. */
export const useLibraryText = (pumps: readonly PumpDocument[]): string =>
  useMemo(() => JSON.stringify(pumps.map(slimPump)), [pumps]);
