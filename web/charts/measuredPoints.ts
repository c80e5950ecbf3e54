import type { JobSolution } from "#model/job/solveJob.ts";
import { placeOfReading, readingPoint } from "#model/measurement/readings.ts";
import type { TestWithReadings } from "../api/client.ts";
import type { MeasuredPoint } from "./CurvePlot.tsx";

/** Every reading of a job that can be placed on the curve sheet of one of its pumps. */
export function measuredPoints(
  solved: JobSolution,
  tests: readonly TestWithReadings[],
  place: number,
): MeasuredPoint[] {
  // With one pump a reading of another before it is shown as it was judged.
  const several = solved.kind === "solved" && solved.solution.pumps.length > 1;
  return tests.flatMap((test) =>
    test.readings.flatMap(({ document }) => {
      if (several && placeOfReading(solved, document) !== place) return [];
      const point = readingPoint(solved, document);
      const name = `${test.document.takenOn}, ${test.document.title}`;
      return point ? [{ name, ...point }] : [];
    }),
  );
}
