import { useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { formatPercent } from "#contract/units/format.ts";
import type { Ranged } from "#model/simulation/range.ts";
import { amountOf, formatDuration } from "#words/simulation.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";

/** How far times and starts may differ from what was told: drawn when somebody asks. */
export function Range({ job }: { job: JobDocument }) {
  const [asked, setAsked] = useState(false);
  return asked ? (
    <Drawn job={job} />
  ) : (
    <Button className="justify-self-start" onClick={() => setAsked(true)}>
      How sure is this
    </Button>
  );
}

const NAMES: Record<Ranged, string> = {
  dry: "Dry after",
  full: "Full after",
  wet: "Floor wet after",
  unpumped: "Without a pump, wet in",
  starts: "Starts an hour, worst",
  moved: "Moved",
};

function Drawn({ job }: { job: JobDocument }) {
  const units = useUnits();
  const { kind, value, stale, progress, error, cancel, again } = useResult("timeRange", { job });
  const said = (which: Ranged, si: number) =>
    which === "starts"
      ? si.toFixed(si < 9.5 ? 1 : 0)
      : which === "moved"
        ? amountOf(si, units)
        : formatDuration(si);
  return (
    <section aria-label="How sure" aria-busy={kind === "working"} className="grid gap-1">
      {kind === "working" && (
        <p className="flex items-center gap-3">
          <progress className="h-3 flex-1 accent-(--water)" value={progress} max={1}>
            {formatPercent(progress)}
          </progress>
          <Button onClick={cancel}>Stop</Button>
        </p>
      )}
      {(kind === "failed" || kind === "cancelled") && (
        <p>
          {kind === "failed" ? `It could not be worked out: ${error} ` : "Stopped. "}
          <Button look="quiet" onClick={again}>
            Try again
          </Button>
        </p>
      )}
      {value?.kind === "range" && (
        <dl className={`grid grid-cols-2 gap-x-4 gap-y-1 ${stale ? "opacity-60" : ""}`}>
          {Object.entries(value.spreads).map(([which, { low, high, part }]) => (
            <div key={which}>
              <dt className="text-[13px] text-soft">{NAMES[which as Ranged]}</dt>
              <dd className="plate text-[19px]">
                {said(which as Ranged, low)} to {said(which as Ranged, high)}
                {part < 1 && (
                  <span className="block font-sans text-[13px] font-normal text-soft">
                    in {formatPercent(part)} of the draws
                  </span>
                )}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {value?.kind === "range" && (
        <p className="text-[13px] text-soft">
          Nineteen of twenty out of {value.tried} draws: levels, roughness, fittings, the pump
          within its tolerance, and what comes in.
        </p>
      )}
    </section>
  );
}
