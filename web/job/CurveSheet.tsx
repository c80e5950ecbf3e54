import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#contract/solveJob.ts";
import type { Band } from "#core/uncertainty/dutyBand.ts";
import { api } from "../api/client.ts";
import { CurvePlot, type MeasuredPoint } from "../charts/CurvePlot.tsx";
import { measuredPoints } from "../measure/measuredPoints.ts";
import { useJobStore } from "./jobStore.ts";

/** The curve sheet of a job, with every reading ever taken on it. */
export default function CurveSheet({
  job,
  solved,
  extra,
  band,
}: {
  job: JobDocument;
  solved: JobSolution;
  extra?: MeasuredPoint | undefined;
  band?: Band | null | undefined;
}) {
  const id = useJobStore((s) => s.id);
  const tests = useQuery({ queryKey: ["tests", id], queryFn: () => api.tests(id) });
  const measured = useMemo(
    () => [...measuredPoints(job, solved, tests.data ?? []), ...(extra ? [extra] : [])],
    [job, solved, tests.data, extra],
  );
  const on = useMemo(
    () =>
      solved.kind === "solved"
        ? { solution: solved.solution, friction: job.method.friction }
        : undefined,
    [solved, job.method.friction],
  );
  if (!on)
    return <p className="p-4 text-soft">The curve sheet appears once the line can be solved.</p>;
  const { pump, curve } = on.solution;
  return (
    <CurvePlot {...{ pump, curve, on, measured, band }} label={`Curve sheet of ${job.name}`} />
  );
}
