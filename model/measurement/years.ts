import { coreReading } from "#contract/documents/fieldTest.ts";
import type { Uncertainty } from "#core/condition/uncertainty.ts";
import type { Acceptance } from "#core/measurement/acceptance.ts";
import type { Estimate } from "#core/measurement/instruments.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import { isOpen } from "#core/measurement/reading.ts";
import { type Crossing, type Trend, trendOf } from "#core/measurement/trend.ts";
import { type Tolerance, toleranceOf } from "#core/pump/pump.ts";
import { type JobSolution, type SolvableJob, solveJob } from "../job/solveJob.ts";
import { type Judged, judgeTests, type KeptReading } from "./fieldTests.ts";

/** A visit with its readings, and the job as it was on its day where that is another than today's. */
export interface Visit {
  id: string;
  takenOn: string;
  title: string;
  readings: readonly KeptReading[];
  limits?: Tolerance | undefined;
  jobThen?: SolvableJob | undefined;
}

/** One line of the years of a pump. */
export interface YearRow {
  id: string;
  takenOn: string;
  title: string;
  readings: number;
  /** m³/s with the valve open, the largest */
  openFlow?: Estimate;
  /** by the job as it was on that day, and as it is today */
  onItsDay?: Strength;
  today?: Strength;
}

interface Strength extends Estimate {
  acceptance?: Acceptance;
}

export interface PumpYears {
  /** which of the line's pumps */
  at: number;
  rows: YearRow[];
  limit: number;
  /** of the strength as today's job has it; what the line gives on the days it is drawn on. Days are counted from 1970. */
  trend?: { slope: Estimate; line: (Estimate & { on: string })[]; crossing: Crossing };
}

const DAY = 86_400_000;
const dayNumber = (day: string) => Date.parse(`${day}T12:00:00Z`) / DAY;
const dayOf = (number: number) => new Date(number * DAY).toISOString().slice(0, 10);

/** Every visit to a job, by the pump it was of: as judged on its day, as judged today, and how it goes. */
export function yearsOf(
  job: SolvableJob,
  visits: readonly Visit[],
  uncertainty: Uncertainty,
  solved: JobSolution = solveJob(job),
): PumpYears[] {
  if (solved.kind !== "solved") return [];
  const inTime = visits.toSorted((a, b) => a.takenOn.localeCompare(b.takenOn));
  const judged = inTime.map((visit) => {
    const { readings, limits, jobThen } = visit;
    const then = jobThen ? solveJob(jobThen) : solved;
    return {
      visit,
      today: judgeTests(solved, job, readings, uncertainty, limits),
      onItsDay:
        then.kind === "solved" && jobThen
          ? judgeTests(then, jobThen, readings, uncertainty, limits)
          : undefined,
    };
  });
  return solved.solution.pumps.flatMap(({ pump }, at): PumpYears[] => {
    const rows = judged.flatMap(({ visit, today, onItsDay }): YearRow[] => {
      const own = today.find((one) => one.at === at);
      if (!own) return [];
      const flows = visit.readings
        .filter(({ id, document }) => own.ids.includes(id) && isOpen(coreReading(document)))
        .map(({ document }) => measuredFlow(document.flow))
        .toSorted((a, b) => b.value - a.value);
      const now = strengthOf(own);
      const before = onItsDay ? strengthOf(onItsDay.find((one) => one.at === at)) : now;
      const { id, takenOn, title } = visit;
      return [
        {
          ...{ id, takenOn, title, readings: own.ids.length },
          ...(flows[0] && { openFlow: flows[0] }),
          ...(now && { today: now }),
          ...(before && { onItsDay: before }),
        },
      ];
    });
    if (rows.length === 0) return [];
    const limit = 1 - toleranceOf(pump).head;
    const found = rows.flatMap(({ takenOn, today }) =>
      today ? [{ at: dayNumber(takenOn), ...today }] : [],
    );
    const trend = trendOf(found, limit);
    return [{ at, rows, limit, ...(trend && { trend: dated(trend, found) }) }];
  });
}

function strengthOf(judged: Judged | undefined): Strength | undefined {
  if (!judged) return undefined;
  const { whole, parting, points } = judged;
  if (whole) return { ...whole.headFactor, acceptance: whole.acceptance };
  if (parting.kind !== "parted" && parting.kind !== "pump-only") return undefined;
  const { value, standardUncertainty } = parting.pump;
  const acceptance = points[0]?.comparison.acceptance;
  return { value, standardUncertainty, ...(acceptance && { acceptance }) };
}

function dated({ slope, on, crossing }: Trend, found: readonly { at: number }[]) {
  const days = found.map(({ at }) => at);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const end = crossing.kind === "crosses" ? crossing.on : last + (last - first) / 4;
  const line = Array.from({ length: 25 }, (_, i) => {
    const at = first + ((end - first) * i) / 24;
    return { on: dayOf(at), ...on(at) };
  });
  return { slope, line, crossing };
}
