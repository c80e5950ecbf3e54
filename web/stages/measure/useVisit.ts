import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import {
  type Judged,
  type KeptReading,
  pumpTests,
  type SweepState,
  sweepOf,
} from "#model/measurement/fieldTests.ts";
import type { TestWithReadings } from "../../api/client.ts";
import type { AsInstalled } from "../../charts/CurvePlot.tsx";
import { onPage } from "../../openJob/results.ts";
import { type Result, useResult } from "../../openJob/useResult.ts";

/** What the readings of one visit say together, worked out beside the page. */
export interface VisitInView {
  readings: KeptReading[];
  judged: Result<Judged[]>;
  /** pumps as their readings have them, for the curve sheet */
  installed: (AsInstalled & { place: number })[] | undefined;
  /** deviations of the readings that lie off the others, by their ids */
  outliers: ReadonlyMap<string, number>;
}

export function useVisit(job: JobDocument, test: TestWithReadings | undefined): VisitInView {
  const readings = useReadings(test);
  const limits = test?.document.limits;
  const calculation = useResult("judged", { job, readings, limits });
  // What was worked out of other readings is not said of these.
  const { stale } = calculation;
  const judged = stale ? { ...calculation, value: undefined } : calculation;
  const installed = useMemo(
    () =>
      judged.value?.flatMap(({ at, whole, range }) =>
        whole && range ? [{ place: at, headFactor: whole.headFactor, ...range }] : [],
      ),
    [judged.value],
  );
  const outliers = useMemo(() => {
    const found = (judged.value ?? []).flatMap(({ ids, outliers: own }) =>
      own.map(({ reading, apart }) => [ids[reading] as string, apart] as const),
    );
    return new Map(found);
  }, [judged.value]);
  return { readings, judged, installed, outliers };
}

/** Where a sweep of a pump of the line stands after the readings of a visit. */
export function useSweep(
  job: JobDocument,
  solved: JobSolution,
  test: TestWithReadings | undefined,
  place: number,
): SweepState | undefined {
  const doubt = onPage.look({ job })("uncertainty");
  const readings = useReadings(test);
  const { site } = job;
  return useMemo(
    () =>
      solved.kind === "solved"
        ? sweepOf(solved, { site }, place, pumpTests(solved, readings, doubt))
        : undefined,
    [solved, site, place, readings, doubt],
  );
}

/** The same list until a reading is added, taken away or changed. */
function useReadings(test: TestWithReadings | undefined): KeptReading[] {
  const rows = test?.readings ?? [];
  const key = rows.map(({ id, revision }) => `${id} ${revision}`).join();
  // What is held on this device is put in anew at every drawing: its key says whether it is another.
  return useMemo(() => rows.map(({ id, document }) => ({ id, document })), [key]);
}
