import { readingPoint } from "#model/readings.ts";
import type { JobSolution } from "#model/solveJob.ts";
import type { TestWithReadings } from "../api/client.ts";
import type { MeasuredPoint } from "../charts/CurvePlot.tsx";

/** Every reading of a job that can be placed on its curve sheet. */
export function measuredPoints(
  solved: JobSolution,
  tests: readonly TestWithReadings[],
): MeasuredPoint[] {
  return tests.flatMap((test) =>
    test.readings.flatMap(({ document }) => {
      const point = readingPoint(solved, document);
      const name = `${test.document.takenOn}, ${test.document.title}`;
      return point ? [{ name, ...point }] : [];
    }),
  );
}
