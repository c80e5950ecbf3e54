import type { UnitSystem } from "#contract/units/units.ts";
import type { Finding, FindingCode } from "#core/finding/registry.ts";

/** A finding in words: what and how much, under a title where it has one, and what would mend it. */
export interface FindingSaid {
  title?: string;
  sentence: string;
  advice?: string;
  /** causes that may be, the likeliest first */
  reasons?: string[];
}

/** What things are called where a finding is told. */
export interface FindingVoice {
  system: UnitSystem;
  /** a body of water, and an edge that is to be kept dry, by their numbers */
  body?: (index: number) => string;
  keepOff?: (index: number) => string;
}

/** One entry a finding: the compiler names what is missing. */
export type FindingWords<C extends FindingCode> = {
  [K in C]: (finding: Finding<K>, voice: Required<FindingVoice>) => FindingSaid;
};
