import type { Change, ReadingDraft } from "./readingDraft.ts";

/** What every part of the measuring form works on. */
export interface PartProps {
  draft: ReadingDraft;
  change: (by: Change) => void;
}

export const legend = "plate text-xl";
