import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { levelsOf } from "#core/line/path.ts";
import type { Outlet } from "#core/outlet/outlets.ts";
import { newId } from "../../api/client.ts";
import { newOutlet, OutletKindFields, OutletOptions } from "../../jobFields/outletKinds.tsx";
import { editItem, insertItem, outletItems } from "../../openJob/jobStore.ts";
import { Button } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Plus } from "../../ui/icons.ts";

/** Where the water leaves: one place, or every end of a line that parts. */
export default function OutletPart({
  job,
  selected,
}: {
  job: JobDocument;
  selected: string | undefined;
}) {
  const outlets = outletItems(job.path);
  const last = job.path.at(-1);
  return (
    <div className="grid gap-4 p-3">
      {outlets.map((item, index) => (
        <section
          key={item.id}
          aria-label={outlets.length > 1 ? `Outlet ${index + 1}` : "Outlet"}
          className={outlets.length > 1 && item.id === selected ? "rounded bg-press p-2" : ""}
        >
          {outlets.length > 1 && <h2 className="plate text-[17px]">Outlet {index + 1}</h2>}
          <OutletFields {...{ item, job }} />
        </section>
      ))}
      {(outlets.length === 0 || (last?.kind !== "outlet" && last?.kind !== "split")) && (
        <div>
          <p className="pb-2 text-soft">The path has no outlet at its end yet.</p>
          <Button
            onClick={() =>
              insertItem(job.path.length, { kind: "outlet", id: newId(), outlet: { type: "free" } })
            }
          >
            <Plus size={16} aria-hidden /> Outlet
          </Button>
        </div>
      )}
    </div>
  );
}

function OutletFields({
  item,
  job,
}: {
  item: Extract<JobPathItem, { kind: "outlet" }>;
  job: JobDocument;
}) {
  const { outlet } = item;
  const set = (next: Outlet) => editItem<"outlet">(item.id, { outlet: next });
  return (
    <div className="grid gap-3">
      <SelectField
        label="The water leaves"
        visibleLabel
        value={outlet.type}
        onChange={(type) => set(newOutlet(type, levelsOf(job.source)))}
      >
        <OutletOptions />
      </SelectField>
      <OutletKindFields {...{ outlet, set }} />
    </div>
  );
}
