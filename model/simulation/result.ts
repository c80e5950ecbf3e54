import type { LineModel, Refused } from "#core/hydraulics/solveLine.ts";
import type { Trouble } from "#core/simulation/answers.ts";
import type { Timeline } from "#core/simulation/dynamics.ts";
import { answersOf, type RunAnswers } from "./answers.ts";
import { overTime, type SimulatedJob, type SimulationRun } from "./overTime.ts";
import { troublesOf } from "./troubles.ts";

/** A run as plain data, to be kept, drawn and sent on. */
export interface RunResult {
  kind: "run";
  timeline: Timeline;
  answers: RunAnswers;
  /** things that are wrong, and stand in no way */
  troubles: Trouble[];
  /** m³/s into the watched body at each time of the timeline */
  inflow: number[];
  bodies: RunBody[];
  /** places of the path where pumps stand, in the order of the timeline's numbers */
  pumps: string[];
  /** the body that is watched: the source, or else the receiver */
  watched: number;
  receiver?: number;
  byHand: boolean;
  /** the pump is still to be chosen, and is taken to move what is wanted */
  asked: boolean;
  /** s */
  span: number;
  powerCut?: { from: number; to: number };
}

export interface RunBody {
  id: string;
  /** m above datum */
  bottom: number;
  rim: number;
  dry?: number;
  alarm?: number;
  floats: { on: number; off: number }[];
}

export type SimulationResult = Exclude<ReturnType<typeof overTime>, SimulationRun> | RunResult;

/** What is told of a job over time. */
export function simulationOf(job: SimulatedJob, ready?: LineModel | Refused): SimulationResult {
  const run = overTime(job, ready);
  return run.kind === "run" ? runResult(run, job) : run;
}

export function runResult(run: SimulationRun, job: SimulatedJob): RunResult {
  const { setting, timeline } = run;
  const { stores, bodies, pumps, source, receiver, byHand, asked, dynamics } = setting;
  const watched = source ?? receiver ?? 0;
  const { powerCut } = dynamics;
  return {
    kind: "run",
    timeline,
    answers: answersOf(run, job),
    troubles: troublesOf(job),
    inflow: timeline.times.map((time) => setting.inflowAt(time)[watched] as number),
    bodies: bodies.map(({ id }, i) => {
      const { bottom, rim, dry, alarm } = stores[i] as (typeof stores)[number];
      return {
        ...{ id, bottom, rim },
        ...(dry !== undefined && { dry }),
        ...(alarm !== undefined && { alarm }),
        floats: byHand
          ? []
          : dynamics.controls.flatMap(({ store, on, off }) => (store === i ? [{ on, off }] : [])),
      };
    }),
    pumps: [...pumps],
    ...{ watched, byHand, asked },
    ...(receiver !== undefined && { receiver }),
    span: timeline.times.at(-1) as number,
    ...(powerCut && { powerCut }),
  };
}
