import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { findingsIn } from "#core/finding/registry.ts";
import { liftingOfSource } from "#model/simulation/uplift.ts";
import { RELIEF_VALVE } from "#words/simulation.ts";
import { Found } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, visit } from "../../openJob/jobStore.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { NumberField, TextField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { ShellFields } from "./ShellFields.tsx";

type Permission = NonNullable<JobDocument["site"]["permissions"]>[number];

/** What has to be settled before a room or a tank is emptied: how fast, and who allowed it to go where. */
export function EmptyingPart({ job }: { job: JobDocument }) {
  const permissions = job.site.permissions ?? [];
  const set = (change: (all: Permission[]) => Permission[]) =>
    edit((j) => ({
      ...j,
      site: { ...j.site, permissions: change([...(j.site.permissions ?? [])]) },
    }));
  const put = (index: number, patch: Partial<Permission>) =>
    set((all) => all.map((own, i) => (i === index ? { ...own, ...patch } : own)));
  const { lowering } = job.overTime ?? {};
  return (
    <section aria-label="Emptying" className="grid gap-2">
      <FloatUp job={job} />
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        <NumberField
          label="Hire of a pump, a day"
          visibleLabel
          value={job.overTime?.hirePerDay ?? 0}
          min={0}
          max={1e6}
          onVisit={visit}
          onChange={(hire) =>
            edit((j) => {
              const { hirePerDay: _, ...rest } = j.overTime ?? {};
              return { ...j, overTime: hire ? { ...rest, hirePerDay: hire } : rest };
            })
          }
        />
        <JobQuantity
          label="Let down at most, a day"
          optional
          quantity="length"
          range={RANGES.depth}
          value={lowering?.perDay}
          onChange={(perDay) =>
            edit((j) => {
              const { lowering: own, ...rest } = j.overTime ?? {};
              return { ...j, overTime: perDay ? { ...rest, lowering: { ...own, perDay } } : rest };
            })
          }
        />
        <p className="text-[13px] text-soft max-sm:col-span-2">
          Where the ground outside is full of water it pushes walls in and floors up: let it come
          down with the water inside. An engineer says how fast.
        </p>
      </div>
      {permissions.map((own, i) => (
        <div
          key={i}
          className="grid grid-cols-[1fr_1.6fr_auto_auto] items-end gap-2 max-sm:grid-cols-2"
        >
          <TextField
            label="Who allowed it"
            value={own.who}
            maxLength={120}
            onVisit={visit}
            onChange={(who) => put(i, { who })}
          />
          <TextField
            label="What may go where"
            value={own.what}
            maxLength={500}
            onVisit={visit}
            onChange={(what) => put(i, { what })}
          />
          <TextField
            label="On"
            type="date"
            value={own.on ?? ""}
            onVisit={visit}
            onChange={(on) => put(i, { on: on || undefined })}
          />
          <IconButton
            label={`Take permission ${i + 1} out`}
            onClick={() => set((all) => all.filter((_, n) => n !== i))}
          >
            <Trash2 size={16} aria-hidden />
          </IconButton>
        </div>
      ))}
      <Button
        className="justify-self-start"
        onClick={() => set((all) => [...all, { who: "", what: "" }])}
      >
        <Plus size={16} aria-hidden /> Who allowed the water to go
      </Button>
      <ul className="list-disc pl-5 text-[14px]">
        {CAUTIONS.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </section>
  );
}

/** Asked before a drop is pumped: whether ground water lifts the shell once it is empty. */
function FloatUp({ job }: { job: JobDocument }) {
  const found = liftingOfSource(job);
  if (!found) return null;
  const { body, lifting } = found;
  const findings = findingsIn("uplift", { body: 0, ...lifting });
  const named = () => body.name || "It";
  return (
    <fieldset className="grid gap-2" data-testid="float-up">
      <legend className="plate pb-1 text-[17px]">Before a drop is pumped: can it float up?</legend>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        <ShellFields
          shell={body.shell}
          onChange={(shell) =>
            edit((j) => ({
              ...j,
              bodies: (j.bodies ?? []).map((own) => (own.id === body.id ? { ...own, shell } : own)),
            }))
          }
        />
      </div>
      {findings.map((finding) => (
        <Found key={finding.code} finding={finding} body={named} />
      ))}
      {lifting.kind !== "cannot" && <p className="text-[14px]">{RELIEF_VALVE}</p>}
    </fieldset>
  );
}

const CAUTIONS = [
  "Power to the room off and locked before anyone steps into the water.",
  "A pump is lifted, or carpet cut, only with its plug out and its circuit dead. Lift it by a rope, never by its cable.",
  "Feed it through a residual-current device. Cones over the hose where people walk.",
  "Look at the outlet every ten minutes. Foul or chlorinated water does not go to the storm drain; local rules say where it may.",
];
