import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { itemName } from "#words/items.ts";
import { testsOf } from "../api/queries.ts";
import { type AsInstalled, CurvePlot, type MeasuredPoint } from "../charts/CurvePlot.tsx";
import { measuredPoints } from "../charts/measuredPoints.ts";
import { useJobStore } from "../openJob/jobStore.ts";
import type { Owner } from "../openJob/owner.ts";
import { Button } from "../ui/Button.tsx";

/** The curve sheet of a job, with every reading ever taken on it. */
export default function CurveSheet({
  job,
  solved,
  extra,
  installed,
  only,
  owner,
  band,
}: {
  job: JobDocument;
  solved: JobSolution;
  /** a reading being taken, and the pump it is of */
  extra?: (MeasuredPoint & { place: number }) | undefined;
  /** pumps as their readings have them, by their places on the line */
  installed?: readonly (AsInstalled & { place: number })[] | undefined;
  /** the one test whose readings are shown; those of all where none is named */
  only?: string | undefined;
  /** whose tests they are, where not the open job's */
  owner?: Owner | undefined;
  band?: Band | undefined;
}) {
  const open = useJobStore((s) => s.id);
  const tests = useQuery(testsOf(owner?.id ?? open, owner?.of));
  const [picked, setPlace] = useState<number>();
  const place = picked ?? extra?.place ?? 0;
  const measured = useMemo(
    () => [
      ...measuredPoints(
        solved,
        (tests.data ?? []).filter((test) => only === undefined || test.id === only),
        place,
      ),
      ...(extra?.place === place ? [extra] : []),
    ],
    [solved, tests.data, only, extra, place],
  );
  const on = useMemo(
    () =>
      solved.kind === "refused"
        ? undefined
        : {
            solution: solved.solution,
            place: Math.min(place, solved.solution.pumps.length - 1),
          },
    [solved, place],
  );
  if (!on)
    return <p className="p-4 text-soft">The curve sheet appears once the line can be solved.</p>;
  const { pumps } = on.solution;
  // Of a pump still to be chosen there is no curve: the line's stands alone.
  const of = solved.kind === "asked" ? undefined : pumps[on.place];
  const plot = (
    <CurvePlot
      {...{ of, on, measured }}
      installed={installed?.find((own) => own.place === on.place)}
      band={pumps.length > 1 ? undefined : band}
      label={`Curve sheet of ${job.name}`}
    />
  );
  if (pumps.length < 2) return plot;
  return (
    <div className="flex h-full flex-col">
      <div
        role="group"
        aria-label="Curve of"
        className="flex flex-wrap items-center gap-1 px-3 pt-2"
      >
        {pumps.map(({ itemId }, i) => (
          <Button
            key={itemId}
            look={i === on.place ? "strong" : "plain"}
            aria-pressed={i === on.place}
            onClick={() => setPlace(i)}
          >
            {itemName(job.path, itemId, "metric")}
          </Button>
        ))}
        <span className="text-[13px] text-soft">the line as it meets it, the others running</span>
      </div>
      <div className="min-h-0 flex-1">{plot}</div>
    </div>
  );
}
