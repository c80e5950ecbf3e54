import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { extent, sectionGeometry } from "#model/job/sectionGeometry.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { useUnits } from "../state/settings.ts";

/** The section folded: its heights and its length in a line. */
export function SectionStrip({ job, solved }: { job: JobDocument; solved: JobSolution }) {
  const units = useUnits();
  const geometry = useMemo(() => sectionGeometry(solved), [solved]);
  const level = (height: number) => format(height, "length", units);
  const [pump] = geometry?.pumps ?? [];
  const out = geometry?.outlets.at(-1);
  return (
    <p className="flex min-h-11 flex-wrap items-center gap-x-4 py-1 pr-20 pl-3 text-[15px]">
      {geometry ? (
        <>
          <span>water {level(geometry.source.normal)}</span>
          {pump && <span>pump {level(pump.at.height)}</span>}
          {out && <span>outlet {level(out.at.height)}</span>}
          <span>{level(extent(geometry).end)} along</span>
          {job.datum && <span className="text-soft">from {job.datum}</span>}
        </>
      ) : (
        "No line to draw yet"
      )}
    </p>
  );
}
