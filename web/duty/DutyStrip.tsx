import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { countOf } from "#core/finding/count.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";

/** Where the duty stands on the page. */
export const DUTY = "duty-and-checks";

/** On a phone the duty and what stands against it stay in sight while rows are typed; a tap brings both up whole. */
export function DutyStrip({ job, solved }: { job: JobDocument; solved: JobSolution }) {
  const units = useUnits();
  const known = solved.kind === "refused" ? undefined : solved;
  const normal = known?.solution.cases.normal;
  const duty = normal && settledDuty(normal.outcome);
  const flow = normal?.running?.state.delivered ?? duty?.flow;
  const { value } = useResult("findings", { job });
  // What the line says is there at once; what was found beside it joins that.
  const found = { line: known?.judgements ?? [], beside: value?.beside ?? [] };
  const said = [
    [countOf(found, "stop"), "stop"],
    [countOf(found, "watch"), "watch"],
  ].flatMap(([many, word]) => (many ? [`${many} ${word}`] : []));
  return (
    <button
      type="button"
      aria-label="Duty and checks"
      onClick={() => document.getElementById(DUTY)?.scrollIntoView({ block: "start" })}
      className="no-print sticky bottom-0 order-5 z-10 flex min-h-11 items-center justify-between gap-3 border-t border-rule bg-ink px-3 py-1.5 text-left text-paper lg:hidden"
    >
      <span className="plate text-2xl">
        {duty && flow !== undefined
          ? `${format(flow, "flow", units)} at ${format(duty.head, "head", units)}`
          : "No duty yet"}
        {known?.kind === "asked" && " asked"}
      </span>
      <span className="plate text-lg whitespace-nowrap">{said.join(", ")}</span>
    </button>
  );
}
