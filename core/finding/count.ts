import type { Severity } from "../check/check.ts";
import type { JobFindings } from "./registry.ts";

/** How many findings of a job are of a severity. */
export const countOf = ({ line, beside }: JobFindings, which: Severity): number =>
  [...line, ...beside].filter(({ severity }) => severity === which).length;
