import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { alarmFor, nextFloat } from "#model/simulation/begin.ts";
import { troublesOf } from "#model/simulation/troubles.ts";
import { itemName } from "#words/items.ts";
import { troubleWords } from "#words/simulation.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, pumpItems } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";

type Control = NonNullable<NonNullable<JobDocument["overTime"]>["controls"]>[number];
type Float = Extract<Control, { kind: "float" }>;

const ROLES = { lead: "first", lag: "second", guard: "holds" } as const;

/** The floats and the alarm in each body of water; none of them means somebody switches by hand. */
export function FloatsPart({ job }: { job: JobDocument }) {
  const { bodies = [], overTime } = job;
  const controls = overTime?.controls ?? [];
  const set = (change: (controls: Control[]) => Control[]) =>
    edit((j) => ({
      ...j,
      overTime: { ...j.overTime, controls: change([...(j.overTime?.controls ?? [])]) },
    }));
  const put = (index: number, patch: object) =>
    set((all) => all.map((own, i) => (i === index ? ({ ...own, ...patch } as Control) : own)));
  const add = (control: Control) => set((all) => [...all, control]);
  if (bodies.length === 0) return null;
  return (
    <section aria-label="Floats" className="grid gap-2">
      <h2 className="plate text-[17px]">
        Floats{" "}
        {controls.every(({ kind }) => kind !== "float") && (
          <span className="text-[14px] font-normal text-soft">
            none: the pump is started by hand, and stopped when it draws air
          </span>
        )}
      </h2>
      {controls.map((control, i) =>
        control.kind === "float" || control.kind === "alarm" ? (
          <Row
            key={i}
            {...{ job, control, bodies }}
            index={i}
            onChange={(patch) => put(i, patch)}
            onRemove={() => set((all) => all.filter((_, n) => n !== i))}
          />
        ) : null,
      )}
      <div className="flex flex-wrap gap-2">
        {bodies.slice(0, 4).map((body, i) => (
          <Button key={body.id} onClick={() => add(nextFloat(job, body))}>
            <Plus size={16} aria-hidden /> Float in {nameOf(body, i)}
          </Button>
        ))}
        {bodies[0] && !controls.some(({ kind }) => kind === "alarm") && (
          <Button onClick={() => add(alarmFor(job, bodies[0] as BodyOfWater))}>
            <Plus size={16} aria-hidden /> Alarm
          </Button>
        )}
      </div>
    </section>
  );
}

function Row({
  job,
  control,
  bodies,
  index,
  onChange,
  onRemove,
}: {
  job: JobDocument;
  control: Float | Extract<Control, { kind: "alarm" }>;
  bodies: readonly BodyOfWater[];
  index: number;
  onChange: (patch: object) => void;
  onRemove: () => void;
}) {
  const units = useUnits();
  const problems = troublesOf(job).filter(({ at }) => at.startsWith(`overTime.controls.${index}.`));
  const where = bodies.findIndex(({ id }) => id === control.body);
  const own = bodies[where];
  const pumps = pumpItems(job.path);
  const name = control.kind === "alarm" ? "Alarm" : `Float ${index + 1}`;
  const level = (label: string, field: string, value: number) => (
    <JobQuantity
      label={control.kind === "alarm" ? `Alarm ${label}` : `${sentence(label)}, float ${index + 1}`}
      quantity="length"
      range={RANGES.elevation}
      value={value}
      onChange={(next) => onChange({ [field]: next })}
    />
  );
  return (
    <div className="grid gap-1">
      <div className="grid grid-cols-[1fr_1fr_1fr_1fr_auto] items-end gap-2 max-sm:grid-cols-[1fr_1fr_auto]">
        {control.kind === "float" ? (
          <>
            <SelectField
              label={own ? `${name}, in ${nameOf(own, where)}` : name}
              visibleLabel
              value={control.role ?? "lead"}
              onChange={(role) => onChange({ role })}
            >
              {Object.entries(ROLES).map(([value, said]) => (
                <option key={value} value={value}>
                  {said}
                </option>
              ))}
            </SelectField>
            {level(control.role === "guard" ? "lets go" : "on", "on", control.on)}
            {level(control.role === "guard" ? "stops" : "off", "off", control.off)}
            <SelectField
              label="Which pump"
              visibleLabel
              value={control.alternate ? "turns" : (control.pumps?.[0] ?? "")}
              onChange={(value) =>
                onChange({
                  alternate: value === "turns" ? true : undefined,
                  pumps: value === "" || value === "turns" ? undefined : [value],
                })
              }
            >
              <option value="">any</option>
              {pumps.length > 1 && <option value="turns">in turn</option>}
              {pumps.map(({ id }) => (
                <option key={id} value={id}>
                  {itemName(job.path, id, units)}
                </option>
              ))}
            </SelectField>
          </>
        ) : (
          <>
            <span className="plate self-center text-[17px]">Alarm</span>
            {level("at", "at", control.at)}
            <span className="max-sm:hidden" />
            <span className="max-sm:hidden" />
          </>
        )}
        <IconButton label={`Take ${name} out`} onClick={onRemove}>
          <Trash2 size={16} aria-hidden />
        </IconButton>
      </div>
      {problems.map((trouble) => (
        <p
          key={trouble.code + trouble.at}
          role="alert"
          className={`text-[14px] ${trouble.stops ? "text-signal" : "text-soft"}`}
        >
          {troubleWords(trouble, units)}
        </p>
      ))}
    </div>
  );
}

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

const nameOf = (body: BodyOfWater, index: number) => body.name || `water ${index + 1}`;
