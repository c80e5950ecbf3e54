import type { JobDocument } from "#contract/documents/job.ts";
import { confirmed } from "#model/job/assumed.ts";
import { assumedName } from "#words/assumed.ts";
import { edit } from "../openJob/jobStore.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";

/** What stands in the job without having been measured: it goes when it is changed, or found right. */
export function AssumedList({ job }: { job: JobDocument }) {
  const units = useUnits();
  const { assumed = [] } = job;
  if (assumed.length === 0) return null;
  const name = (field: string) => assumedName(job, field, units);
  const confirm = (fields: readonly string[]) => edit((j) => confirmed(j, fields));
  return (
    <section aria-label="Assumed" className="rounded border border-rule bg-sheet p-2">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="plate text-[17px]">
          Assumed, not measured <span className="text-soft">{assumed.length}</span>
        </h2>
        <Button look="quiet" className="text-[14px]" onClick={() => confirm(assumed)}>
          All of it is right
        </Button>
      </div>
      <ul className="columns-2 gap-4 max-sm:columns-1">
        {assumed.map((field) => (
          <li key={field} className="flex break-inside-avoid items-center gap-2 text-[14px]">
            <span className="min-w-0 flex-1">{name(field)}</span>
            <Button
              look="quiet"
              className="px-2! text-[13px] text-soft"
              aria-label={`Right: ${name(field)}`}
              onClick={() => confirm([field])}
            >
              Right
            </Button>
          </li>
        ))}
      </ul>
      <p className="text-[13px] text-soft">
        While the water levels or the fittings are assumed, the likely range is taken wider.
      </p>
    </section>
  );
}
