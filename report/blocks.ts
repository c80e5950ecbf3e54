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
      advice?: string;
    }
  /** what was seen to, and what was not */
  | { kind: "ticks"; caption: string; items: { text: string; done: boolean }[] }
  /** by the ids of attachments, each with what it shows */
  | { kind: "pictures"; caption: string; pictures: { id: string; name: string }[] }
  /** what can hurt someone */
  | { kind: "caution"; text: string };

/** "Bell End Nurseries, 01234 5": who a sheet is for, with how to reach them. */
export const customerWords = ({
  customer,
}: {
  customer?: { name: string; contact?: string | undefined } | undefined;
}): string | undefined => customer && [customer.name, customer.contact].filter(Boolean).join(", ");

/** "14:05" on the wall where the sheet is read, from an ISO moment. */
export function wallTime(moment: string): string {
  const at = new Date(moment);
  return `${String(at.getHours()).padStart(2, "0")}:${String(at.getMinutes()).padStart(2, "0")}`;
}

export interface Column {
  name: string;
  align: "left" | "right";
}

export const left = (name: string): Column => ({ name, align: "left" });
export const right = (name: string): Column => ({ name, align: "right" });
