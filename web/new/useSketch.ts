import { useMemo, useState } from "react";
import { useStore } from "zustand";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import type { Measure } from "#model/kinds/kind.ts";
import { useStepUnits, useUnits } from "../state/settings.ts";
import { entriesOf, sketchOf, sketchStore } from "./sketchDraft.ts";

/** A sketch being filled in, with what its texts mean to this reader. */
export function useSketch(kind: JobKindId) {
  const units = useUnits();
  const own = useStepUnits();
  const [{ store, forget, clear }] = useState(() => sketchStore(kind));
  const { draft, change, type } = useStore(store);
  const entries = useMemo(() => entriesOf(draft.typed, units, own), [draft.typed, units, own]);
  const sketch = useMemo(() => sketchOf(kind, draft, entries), [kind, draft, entries]);
  return {
    ...{ draft, change, entries, sketch, forget, clear },
    type: (measure: Measure, text: string) => type(measure, text, units),
  };
}
