import { drawsOf, type Spread, spread, type Uncertainty } from "#core/condition/uncertainty.ts";
import { type LineModel, lineModel, type Refused } from "#core/hydraulics/solveLine.ts";
import { finish, type Steps } from "#core/numeric/steps.ts";
import { flowOfDemand } from "../demand/demand.ts";
import { answersOf } from "./answers.ts";
import { runOf, type SimulatedJob, settingOf } from "./overTime.ts";

/** Figures of a run that are told with their range. */
export const RANGED = ["dry", "full", "wet", "unpumped", "starts", "moved"] as const;
export type Ranged = (typeof RANGED)[number];

export interface TimeRange {
  kind: "range";
  /** where nineteen of twenty draws lie, of those in which it comes to that at all */
  spreads: Partial<Record<Ranged, Spread & { part: number }>>;
  tried: number;
}
export type TimeRangeResult = TimeRange | { kind: "none" };

/** Draws of a run shown to a person. */
export const TIME_DRAWS = 200;

/**
 * The likely range of a run's times and starts, by the same draws as the duty's, and the doubt of what comes in beside
 * them.
 */
export const timeRange = (
  job: SimulatedJob,
  uncertainty: Uncertainty,
  count: number,
): TimeRangeResult =>
  finish(timeRangeInSteps(job, uncertainty, count, lineModel(job, job.pumps, job.wantedFlow)));

/** The same in its steps, one a draw, of a line that is ready. */
export function* timeRangeInSteps(
  job: SimulatedJob,
  uncertainty: Uncertainty,
  count: number,
  ready: LineModel | Refused,
): Steps<TimeRangeResult> {
  if (ready.kind === "refused" || settingOf(job, ready).kind !== "setting") return { kind: "none" };
  const need = flowOfDemand(job.need);
  const found: Record<Ranged, number[]> = {
    ...{ dry: [], full: [], wet: [], unpumped: [], starts: [], moved: [] },
  };
  let tried = 0;
  for (const [done, { condition, more }] of drawsOf(ready, uncertainty, count).entries()) {
    yield { done: done / count };
    const inflow = need?.comesIn
      ? more < 0
        ? 1 + more * (1 - need.low / need.flow)
        : 1 + more * (need.high / need.flow - 1)
      : 1 + more * USUAL_INFLOW;
    const drawn = settingOf(job, ready, { condition, inflow });
    if (drawn.kind !== "setting") continue;
    tried++;
    const answers = answersOf(runOf(drawn.setting), job);
    const put = (which: Ranged, value: number | undefined) => {
      if (value !== undefined) found[which].push(value);
    };
    put("dry", answers.dry?.at);
    put("full", answers.full?.at);
    put("wet", answers.wet?.at);
    put("unpumped", answers.unpumped?.fromOn);
    put("starts", answers.switching?.worst.startsPerHour);
    put("moved", answers.moved);
  }
  const spreads = Object.fromEntries(
    RANGED.flatMap((which) => {
      const values = found[which];
      return values.length > 0 ? [[which, { ...spread(values), part: values.length / tried }]] : [];
    }),
  );
  return { kind: "range", spreads, tried };
}

/** How far water that comes in may differ where it was only typed. Common practice, no source. */
const USUAL_INFLOW = 0.15;
