import type { Remedy } from "#model/whatif/remedies.ts";

export interface MendProps {
  words: string;
  /** one that was tried and holds */
  remedy: Remedy | undefined;
}
