import type { JobDocument } from "#contract/documents/job.ts";
import { pumpDepth } from "./settle.ts";
import { GUARD_OVER } from "./usual.ts";

/** Where the guard stops and lets go, in m down. */
export function guardOf(job: Pick<JobDocument, "well" | "source">, standing: number) {
  const { dryRun } = job.well ?? {};
  const stop = dryRun?.stop ?? pumpDepth(job) - GUARD_OVER;
  return {
    stop,
    // Half of the way back up.
    restart: Math.min(dryRun?.restart ?? (stop + standing) / 2, stop - 0.01),
    assumed: dryRun?.stop === undefined || dryRun.restart === undefined,
  };
}
