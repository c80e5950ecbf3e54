import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { USUAL_GRATE } from "#core/pipe/grate.ts";
import { MANNING_N } from "#core/pipe/manning.ts";
import { jetForce, type Run, type RunAtWork, yardAtWork } from "#model/demand/yard.ts";
import { GRAVEL } from "#model/simulation/begin.ts";
import { newId } from "../../api/client.ts";
import { AllFound } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";

const WALLS = {
  smooth: "smooth plastic",
  concrete: "concrete or clay",
  ribbed: "ribbed",
} as const;

/** The gravity runs that lead to the pit: what each carries in the hardest hour, and what it could. */
export function YardPart({ job }: { job: JobDocument }) {
  const runs = job.yard?.runs ?? [];
  const atWork = yardAtWork(job);
  const set = (change: (all: Run[]) => Run[]) =>
    edit((j) => ({ ...j, yard: { ...j.yard, runs: change([...(j.yard?.runs ?? [])]) } }));
  return (
    <section aria-label="Gravity runs" className="grid gap-3">
      {runs.map((run, i) => (
        <RunFields
          key={run.id}
          {...{ job, run, runs }}
          atWork={atWork[i]}
          onChange={(patch) =>
            set((all) => all.map((own) => (own.id === run.id ? { ...own, ...patch } : own)))
          }
          onRemove={() => set((all) => all.filter(({ id }) => id !== run.id))}
        />
      ))}
      <Thrust job={job} />
      <Button
        className="justify-self-start"
        onClick={() =>
          set((all) => [
            ...all,
            { id: newId(), bore: 0.1, slope: 0.01, length: 10, into: job.bodies?.[0]?.id } as Run,
          ])
        }
      >
        <Plus size={16} aria-hidden /> Drain that runs by its fall
      </Button>
    </section>
  );
}

/** What the jet does to a grate over the outlet. */
function Thrust({ job }: { job: JobDocument }) {
  const units = useUnits();
  const pipes = job.path.filter((item) => item.kind === "pipe");
  const last = pipes.at(-1);
  const bore = last?.kind === "pipe" ? findPipeStock(last.stock)?.bore : undefined;
  if (!bore || !job.wantedFlow) return null;
  const force = jetForce(job.wantedFlow, bore);
  const said = units === "us" ? `${(force / 4.448_22).toFixed(1)} lb` : `${force.toFixed(0)} N`;
  return (
    <p className="text-[14px] text-soft">
      At the flow wanted the jet lifts a grate over the outlet, or pushes at a joint that is not
      glued, with {said}: screw the grate down. Where the water may go is for local rules.
    </p>
  );
}

function RunFields({
  job,
  run,
  runs,
  atWork,
  onChange,
  onRemove,
}: {
  job: JobDocument;
  run: Run;
  runs: readonly Run[];
  atWork: RunAtWork | undefined;
  onChange: (patch: Partial<Run>) => void;
  onRemove: () => void;
}) {
  const name = run.name || `Run ${runs.indexOf(run) + 1}`;
  const wall =
    Object.entries(MANNING_N).find(([, n]) => n === (run.n ?? MANNING_N.smooth))?.[0] ?? "";
  return (
    <fieldset className="grid gap-2 rounded border border-rule p-2">
      <legend className="plate px-1 text-[17px]">{name}</legend>
      <div className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
        <TextField
          label="What it is"
          value={run.name ?? ""}
          maxLength={80}
          onVisit={visit}
          onChange={(value) => onChange({ name: value })}
        />
        <SelectField
          label="Runs into"
          visibleLabel
          value={run.into ?? ""}
          onChange={(into) => onChange({ into: into || undefined })}
        >
          <option value="">not said</option>
          {(job.bodies ?? []).map(({ id, name: own }) => (
            <option key={id} value={id}>
              {own || id}
            </option>
          ))}
          {runs
            .filter(({ id }) => id !== run.id)
            .map((other) => (
              <option key={other.id} value={other.id}>
                {other.name || `Run ${runs.indexOf(other) + 1}`}
              </option>
            ))}
        </SelectField>
        <SelectField
          label="Wall"
          visibleLabel
          value={wall}
          onChange={(value) => onChange({ n: MANNING_N[value as keyof typeof WALLS] })}
        >
          {wall === "" && <option value="">n {run.n}</option>}
          {Object.entries(WALLS).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </SelectField>
        <IconButton label={`Take ${name} out`} onClick={onRemove}>
          <Trash2 size={16} aria-hidden />
        </IconButton>
        <JobQuantity
          label="Bore"
          quantity="diameter"
          range={RANGES.bore}
          value={run.bore}
          onChange={(bore) => onChange({ bore })}
        />
        <JobQuantity
          label="Long"
          quantity="length"
          range={RANGES.length}
          value={run.length}
          onChange={(length) => onChange({ length })}
        />
        <NumberField
          label="Falls, in 100"
          visibleLabel
          value={run.slope * 100}
          min={0}
          max={100}
          onVisit={visit}
          onChange={(percent) => onChange({ slope: percent / 100 })}
        />
      </div>
      <Surfaces {...{ job, run, name, onChange }} />
      <GrateFields {...{ run, onChange }} />
      <div className="grid grid-cols-3 gap-2">
        <JobQuantity
          label="Gravel trench, wide"
          optional
          quantity="length"
          range={RANGES.length}
          value={run.trench?.width}
          onChange={(width) =>
            onChange({
              trench: width
                ? { porosity: GRAVEL, depth: run.trench?.depth ?? width, width }
                : undefined,
            } as Partial<Run>)
          }
        />
        {run.trench && (
          <JobQuantity
            label="Trench, deep"
            quantity="length"
            range={RANGES.depth}
            value={run.trench.depth}
            onChange={(depth) => onChange({ trench: { ...run.trench, depth } } as Partial<Run>)}
          />
        )}
      </div>
      {atWork && <AllFound of="yard-run" among={atWork.findings} />}
    </fieldset>
  );
}

/** The grate and the catch basin at the upper end of a run. */
function GrateFields({ run, onChange }: { run: Run; onChange: (patch: Partial<Run>) => void }) {
  const { grate, basin } = run;
  const small = useUnits() === "us" ? "in" : "mm";
  const put = (patch: object) => onChange({ grate: { ...grate, ...patch } } as Partial<Run>);
  return (
    <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
      <JobQuantity
        label="Grate, long"
        optional
        quantity="length"
        unit={small}
        range={RANGES.length}
        value={grate?.length}
        onChange={(length) =>
          length === undefined
            ? onChange({ grate: undefined } as Partial<Run>)
            : put({ length, width: grate?.width ?? length })
        }
      />
      {grate && (
        <>
          <JobQuantity
            label="Grate, wide"
            quantity="length"
            unit={small}
            range={RANGES.length}
            value={grate.width}
            onChange={(width) => put({ width })}
          />
          <NumberField
            label="Holes, %"
            visibleLabel
            value={Math.round((grate.open ?? USUAL_GRATE.open) * 100)}
            min={1}
            max={100}
            onVisit={visit}
            onChange={(percent) => put({ open: percent / 100 })}
          />
          <NumberField
            label="Blocked, %"
            visibleLabel
            value={Math.round((grate.blocked ?? USUAL_GRATE.blocked) * 100)}
            min={0}
            max={100}
            onVisit={visit}
            onChange={(percent) => put({ blocked: percent / 100 })}
          />
          <JobQuantity
            label="Water over it"
            quantity="length"
            unit={small}
            range={RANGES.depth}
            value={grate.ponded ?? USUAL_GRATE.ponded}
            onChange={(ponded) => put({ ponded })}
          />
        </>
      )}
      <JobQuantity
        label="Basin, across"
        optional
        quantity="length"
        unit={small}
        range={RANGES.length}
        value={basin?.across}
        onChange={(across) =>
          onChange({
            basin: across === undefined ? undefined : { depth: across, ...basin, across },
          } as Partial<Run>)
        }
      />
      {basin && (
        <JobQuantity
          label="Down to its pipe"
          quantity="length"
          unit={small}
          range={RANGES.depth}
          value={basin.depth}
          onChange={(depth) => onChange({ basin: { ...basin, depth } } as Partial<Run>)}
        />
      )}
    </div>
  );
}

function Surfaces({
  job,
  run,
  name,
  onChange,
}: {
  job: JobDocument;
  run: Run;
  name: string;
  onChange: (patch: Partial<Run>) => void;
}) {
  const units = useUnits();
  const catches = job.need?.kind === "rain" ? (job.need.catches ?? []) : [];
  if (catches.length < 2) return null;
  const takes = run.takes ?? catches.map((_, i) => i);
  return (
    <div role="group" aria-label={`What drains into ${name}`} className="flex flex-wrap gap-x-4">
      {catches.map(({ surface, area }, i) => (
        <label key={i} className="target flex items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="size-5"
            checked={takes.includes(i)}
            onChange={(event) =>
              onChange({
                takes: event.target.checked ? [...takes, i] : takes.filter((own) => own !== i),
              })
            }
          />
          {surface} {format(area, "area", units)}
        </label>
      ))}
    </div>
  );
}
