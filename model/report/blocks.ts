import type { Severity } from "#core/check/check.ts";
import type { Derivation } from "#core/formula/formula.ts";

/**
 * What a report is made of: one description, rendered to a screen and to paper. A table's cells are text as it is
 * read; numbers in it stand to the right.
 */
export type Block =
  | { kind: "heading"; level: 1 | 2; text: string }
  | { kind: "paragraph"; text: string }
  | { kind: "table"; caption: string; columns: Column[]; rows: string[][] }
  | { kind: "derivation"; title: string; steps: Derivation }
  /** what stops the job, has to be watched or cannot be judged, with what would mend it */
  | {
      kind: "finding";
      severity: Exclude<Severity, "good">;
      title: string;
      text: string;
      mend?: string;
    }
  /** what was seen to, and what was not */
  | { kind: "ticks"; caption: string; items: { text: string; done: boolean }[] }
  /** what can hurt someone */
  | { kind: "caution"; text: string };

export interface Column {
  name: string;
  align: "left" | "right";
}

export const left = (name: string): Column => ({ name, align: "left" });
export const right = (name: string): Column => ({ name, align: "right" });
