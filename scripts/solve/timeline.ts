import type { FieldIssue } from "#contract/documents/issues.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { hasPump } from "#core/simulation/runningSet.ts";
import { csvOf } from "#model/import/csv.ts";
import type { RunResult, SimulationResult } from "#model/simulation/result.ts";
import { findingWords } from "#words/findings.ts";
import { itemName } from "#words/items.ts";
import { eventWords, troubleWords } from "#words/simulation.ts";

type Timeline =
  | { kind: "run"; run: RunResult }
  /** the job does not move in time */
  | { kind: "none" }
  | { kind: "refused"; problems: FieldIssue[] };

/** A job over time. */
export function timelineOf(told: SimulationResult): Timeline {
  if (told.kind === "wrong") {
    const problems = told.troubles
      .filter(({ stops }) => stops)
      .map((trouble) => ({ path: trouble.at, message: troubleWords(trouble, "metric") }));
    return { kind: "refused", problems };
  }
  return told.kind === "run" ? { kind: "run", run: told } : { kind: "none" };
}

/** The timeline as it stands in the report: SI, a row a time. */
export function timelineReport(job: JobDocument, run: RunResult): object {
  const { timeline, answers, bodies, pumps, inflow, byHand, troubles } = run;
  const called = calledOf(job, run);
  const { findings, ...figures } = answers;
  return {
    bodies: bodies.map(({ id, bottom, rim }) => ({ id, bottom, rim })),
    pumps,
    byHand,
    end: timeline.end,
    answers: figures,
    advice: [
      ...findings.map((own) => ({ ...own, ...findingWords(own, called) })),
      ...troubles.map((own) => ({ ...own, sentence: troubleWords(own, "metric") })),
    ],
    totals: timeline.totals,
    events: timeline.events.map((event) => ({ ...event, name: eventWords(event, called) })),
    rows: timeline.times.map((time, i) => ({
      time,
      levels: timeline.levels[i],
      inflow: inflow[i],
      running: runningAt(run, i),
    })),
  };
}

/** The rows alone: s, m above datum, m³/s, and 1 for a pump that runs from then on. */
export function timelineCsv({ timeline, inflow, bodies, pumps, ...run }: RunResult): string {
  const heading = [
    "time_s",
    ...bodies.map(({ id }) => `level_${id}_m`),
    "inflow_m3_per_s",
    ...pumps,
  ];
  const rows = timeline.times.map((time, i) => [
    time,
    ...(timeline.levels[i] ?? []),
    inflow[i],
    ...runningAt({ timeline, inflow, bodies, pumps, ...run }, i).map(Number),
  ]);
  return `${csvOf([heading, ...rows])}\n`;
}

const runningAt = ({ timeline, pumps }: RunResult, i: number): boolean[] =>
  pumps.map((_, k) => hasPump(timeline.running[i] as number, k));

function calledOf(job: JobDocument, { bodies, pumps }: RunResult) {
  return {
    pump: (k: number) => itemName(job.path, pumps[k] ?? "", "metric"),
    body: (k: number) =>
      job.bodies?.find(({ id }) => id === bodies[k]?.id)?.name ?? `Water ${k + 1}`,
    system: "metric" as const,
  };
}
