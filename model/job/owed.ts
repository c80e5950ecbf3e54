import type { JobSummary } from "#contract/api/api.ts";

/** What a job can be owed next, in the order of the work. */
export const OWED = ["survey", "choose", "mend", "measure", "nothing"] as const;
export type Owed = (typeof OWED)[number];

/** Judgements of a reading after which something has to be mended. */
const SHORT = new Set(["falls-short", "less"]);
/** … and after which it has to be taken again */
const DOUBTED = new Set(["cannot-be", "cannot-tell"]);

/** What a job is owed next: what is missing before what is wrong, and what is wrong before what is unproven. */
export function owedNext({ kind, missing, pumps, stops, readings, measured }: JobSummary): Owed {
  if (kind === "measuring" && (pumps.length === 0 || missing === "line"))
    return readings > 0 ? "nothing" : "measure";
  if (missing === "flow" || missing === "line") return "survey";
  if (pumps.length === 0) return "choose";
  if (missing || stops > 0 || (measured && SHORT.has(measured.acceptance))) return "mend";
  return readings === 0 || (measured && DOUBTED.has(measured.acceptance)) ? "measure" : "nothing";
}
