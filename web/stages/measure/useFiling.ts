import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { judgementOf, keptPrediction } from "#words/comparison.ts";
import { testsOf } from "../../api/queries.ts";
import { useUnits } from "../../state/settings.ts";
import { toast } from "../../ui/toast.ts";
import { fileReading } from "./fileReading.ts";
import { nextDraft } from "./reading/readingDraft.ts";
import type { ReadingStore } from "./reading/readingStore.ts";
import type { ReadingInHand } from "./useReadingInHand.ts";
import type { VisitsInHand } from "./useVisits.ts";

/** Files the reading in hand with what is said of it today, and begins the next. */
export function useFiling(
  id: string,
  { draft, replace }: ReadingStore,
  { result, prediction, comparison }: ReadingInHand,
  { today, show }: VisitsInHand,
): { filing: boolean; file: () => Promise<void> } {
  const units = useUnits();
  const client = useQueryClient();
  const [filing, setFiling] = useState(false);
  async function file(): Promise<void> {
    setFiling(true);
    try {
      if (result.kind !== "ready") return;
      const judged = comparison
        ? judgementOf(comparison, draft.takenAt, units)
        : prediction && keptPrediction(prediction, draft.takenAt, units);
      const reading = { ...result.reading, ...(judged && { judged }) };
      const filed = await fileReading(id, today, draft.id, reading);
      replace(nextDraft(draft));
      // What was just filed is what is looked at.
      show(undefined);
      if (filed.kind === "filed") toast("Reading filed.");
      if (filed.kind === "held") {
        toast("Not on the server yet: the reading is kept on this device and goes by itself.");
      }
      if (filed.kind === "refused") {
        toast.error(`The server did not take it: ${filed.message} It stays on this device.`);
      }
    } catch (error) {
      toast.error(`Not filed: ${(error as Error).message} The reading stays here.`);
    } finally {
      setFiling(false);
      await client.invalidateQueries({ queryKey: testsOf(id).queryKey });
    }
  }
  return { filing, file };
}
