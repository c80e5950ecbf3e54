import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { waters } from "#model/irrigation/waters.ts";
import { jobSheet } from "#report/jobSheet.ts";
import { oneOf } from "../api/queries.ts";
import { Section } from "../drawings/Section.tsx";
import { onPage } from "../openJob/results.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { Blocks } from "./Blocks.tsx";

/** The job on one sheet, as it was last saved, to read or to print. */
export default function JobSheetPage() {
  const { id = "" } = useParams();
  const query = useQuery(oneOf("jobs", id));
  if (query.isPending) return <Loading what="the job" />;
  if (query.isError) return <Trouble error={query.error} onRetry={() => void query.refetch()} />;
  return <Sheet id={id} job={query.data.document} />;
}

function Sheet({ id, job }: { id: string; job: JobDocument }) {
  const units = useUnits();
  const solved = onPage.look({ job })("solved");
  const { value, stale } = useResult("band", { job });
  const band = value?.kind === "band" && !stale ? value : undefined;
  const told = useResult("run", { job });
  const run = told.value?.kind === "run" && !told.stale ? told.value : undefined;
  const watered = useResult("irrigation", { job });
  const watering = waters(job) && !watered.stale ? watered.value : undefined;
  const welled = useResult("well", { job });
  const well = welled.stale ? undefined : welled.value;
  const found = useResult("findings", { job });
  const beside = found.stale ? undefined : found.value?.beside;
  const { sheet, working } = useMemo(
    () => jobSheet(job, solved, units, { band, run, watering, well, beside }),
    [job, solved, units, band, run, watering, well, beside],
  );
  const [withWorking, setWithWorking] = useState(false);
  const [title, ...rest] = sheet;
  return (
    <div className="relative h-full overflow-y-auto print:h-auto print:overflow-visible">
      <div className="mx-auto max-w-4xl p-4 print:p-0 print:text-[13px]">
        <div className="no-print flex flex-wrap items-center gap-2 pb-3">
          <Link to={`/jobs/${id}`} className="underline">
            Back to the job
          </Link>
          <span className="flex-1" />
          {working.length > 0 && (
            <label className="target inline-flex items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-(--water)"
                checked={withWorking}
                onChange={(event) => setWithWorking(event.target.checked)}
              />
              Print the working too
            </label>
          )}
          <Button look="strong" onClick={() => print()}>
            Print
          </Button>
        </div>
        {title && <Blocks blocks={[title]} />}
        <div className="mt-2 h-60 border border-rule bg-sheet print:h-36" aria-hidden>
          <Section job={job} solved={solved} selected={undefined} onPart={() => undefined} />
        </div>
        <Blocks blocks={rest} />
        <div className={withWorking ? "print:break-before-page" : "no-print"}>
          <Blocks blocks={working} />
        </div>
      </div>
    </div>
  );
}
