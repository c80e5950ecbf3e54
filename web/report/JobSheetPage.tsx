import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import { jobSheet } from "#model/report/jobSheet.ts";
import { solveJob } from "#model/solveJob.ts";
import { oneOf } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { Blocks } from "./Blocks.tsx";

/** The job on one sheet, as it was last saved, to read or to print. */
export default function JobSheetPage() {
  const { id = "" } = useParams();
  const units = useUnits();
  const query = useQuery(oneOf("jobs", id));
  const job = query.data?.document;
  const blocks = useMemo(() => (job ? jobSheet(job, solveJob(job), units) : []), [job, units]);
  if (query.isPending) return <Loading what="the job" />;
  if (query.isError) return <Trouble error={query.error} onRetry={() => void query.refetch()} />;
  return (
    <div className="relative h-full overflow-y-auto print:h-auto print:overflow-visible">
      <div className="mx-auto max-w-4xl p-4 print:p-0">
        <div className="no-print flex flex-wrap items-center gap-2 pb-3">
          <Link to={`/jobs/${id}`} className="underline">
            Back to the job
          </Link>
          <span className="flex-1" />
          <Button look="strong" onClick={() => print()}>
            Print
          </Button>
        </div>
        <Blocks blocks={blocks} />
      </div>
    </div>
  );
}
