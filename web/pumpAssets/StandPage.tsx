import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { standJob } from "#model/job/standJob.ts";
import { oneOf } from "../api/queries.ts";
import type { Owner } from "../openJob/owner.ts";
import { onPage } from "../openJob/results.ts";
import { useResult } from "../openJob/useResult.ts";
import MeasurePane from "../stages/measure/MeasurePane.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";

/** One real pump on the stand in the shop: measured as on a job, without one. */
export default function StandPage() {
  const { id = "" } = useParams();
  const unit = useQuery(oneOf("units", id));
  const pump = useQuery({
    ...oneOf("pumps", unit.data?.document.pumpId ?? ""),
    enabled: unit.data !== undefined,
  });
  if (unit.isError) return <Trouble error={unit.error} onRetry={() => void unit.refetch()} />;
  if (pump.isError) return <Trouble error={pump.error} onRetry={() => void pump.refetch()} />;
  if (!unit.data || !pump.data) return <Loading what="the pump" />;
  return <Stand id={id} serial={unit.data.document.serial ?? ""} pump={pump.data.document} />;
}

function Stand({ id, serial, pump }: { id: string; serial: string; pump: PumpDocument }) {
  const job = useMemo(() => standJob(pump), [pump]);
  const solved = onPage.look({ job })("solved");
  const { value, stale } = useResult("band", { job });
  const owner = useMemo(
    (): Owner => ({
      of: "units",
      id,
      test: { unitId: id, pumpId: pump.id, configuration: "shop-stand" },
    }),
    [id, pump.id],
  );
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-1.5">
        <h1 className="text-2xl">
          {pump.maker} {pump.model} {serial && `no ${serial}`}: on the stand
        </h1>
        <Link to={`/units/${id}`} className="target inline-flex items-center underline">
          The pump
        </Link>
        <p className="text-[14px] text-soft">
          A tub, a short pipe of its own size with a valve, and an open end.
        </p>
      </div>
      <MeasurePane
        {...{ job, solved, owner }}
        jobRevision={0}
        band={value?.kind === "band" && !stale ? value : undefined}
      />
    </div>
  );
}
