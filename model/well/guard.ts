import type { JobDocument } from "#contract/documents/job.ts";
import { pumpDepth } from "./settle.ts";
import { GUARD_OVER } from "./usual.ts";

/** Where the guard stops and lets go, in m down. */
export function guardOf(job: Pick<JobDocument, "well" | "source">, standing: number) {
  const { dryRun } = job.well ?? {};
  const depth = pumpDepth(job);
  // Where little water stands over the pump, halfway up it.
  const stop = dryRun?.stop ?? Math.max(depth - GUARD_OVER, (depth + standing) / 2);
  return {
    stop,
    // Half of the way back up.
    restart: Math.min(Math.max(dryRun?.restart ?? (stop + standing) / 2, standing), stop - 0.01),
  };
}
