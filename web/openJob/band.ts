import type { Band, BandResult } from "#core/condition/uncertainty.ts";
import type { Result } from "./useResult.ts";

/** The likely range to draw: only one that is there. */
export function bandToDraw({ value }: Result<BandResult>): Band | undefined {
  return value?.kind === "band" ? value : undefined;
}

/** The likely range to judge by: only one that belongs to the job as it stands. */
export function bandToJudgeBy(result: Result<BandResult>): Band | undefined {
  return result.stale ? undefined : bandToDraw(result);
}
