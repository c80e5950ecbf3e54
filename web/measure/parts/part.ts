import type { ReadingDraft } from "../readingDraft.ts";

/** What every part of the measuring form works on. */
export interface PartProps {
  draft: ReadingDraft;
  change: (patch: Partial<ReadingDraft>) => void;
}

export const legend = "plate text-xl";
