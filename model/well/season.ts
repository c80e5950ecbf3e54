import type { JobDocument } from "#contract/documents/job.ts";
import { lowestSurface } from "#core/check/well.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { levelsOf } from "#core/line/path.ts";
import { type DrawdownFit, drawdownUncertainty, flowDrawing } from "#core/well/drawdown.ts";
import { UNDER_WATER } from "#core/well/setting.ts";
import type { SolvableJob } from "../job/solveJob.ts";
import { pumpDepth, topOf } from "./settle.ts";

/** What of a job its well depends on. */
export type JobWithWell = SolvableJob & Pick<JobDocument, "house">;

/** A season of the well: depths in m down from the casing's top. */
export interface Season {
  at: WaterLevel;
  standing: number;
  /** nobody measured it in this season */
  assumed: boolean;
  /** absent while nothing runs or no drawdown is known */
  pumping?: number;
  /** m³/s of the pump at the cut-in, and m drawn down, with its doubt where there was a test */
  flow?: number;
  drawdown?: number;
  doubt?: number;
  /** m³/s that leaves 3 ft over the intake */
  gives?: number;
}

/** The well at one season, at its lowest: the flow is found at the level it causes itself. */
export function seasonOf(
  job: JobWithWell,
  at: WaterLevel,
  solution: Solution | undefined,
  fit: DrawdownFit,
): Season {
  const top = topOf(job);
  const { source } = job;
  const standing = top - levelsOf(source)[at];
  const assumed = at !== "normal" && (job.assumed?.includes(`source.level.${at}`) ?? false);
  // Where a switch lets the pressure fall to its cut-in the pump gives most, and draws the water lowest.
  const surface = solution && lowestSurface(solution, job, at);
  const drawdown = source.kind === "well" ? source.drawdown : undefined;
  const known = drawdown && (drawdown.linear > 0 || drawdown.quadratic > 0);
  if (surface === undefined || !known) return { at, standing, assumed };
  const pumping = top - surface;
  const drawn = pumping - standing;
  const flow = flowDrawing(drawdown, drawn);
  const room = pumpDepth(job) - UNDER_WATER - standing;
  return {
    ...{ at, standing, assumed, pumping, flow, drawdown: drawn },
    ...(fit.kind === "fitted" && { doubt: drawdownUncertainty(fit, flow) }),
    gives: flowDrawing(drawdown, room),
  };
}
