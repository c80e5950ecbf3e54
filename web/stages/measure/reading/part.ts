import type { ChangeDraft, ReadingDraft } from "./readingDraft.ts";

/** What every part of the measuring form works on. */
export interface PartProps {
  draft: ReadingDraft;
  change: ChangeDraft;
}

export const legend = "plate text-xl";
