import type { FieldDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { without } from "../../lib/without.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { setField } from "./field.ts";

/** Throws that were taken by tape or paces, with the pressure that stood at the gun. */
export function Throws({
  field,
  told,
}: {
  field: FieldDocument;
  told: IrrigationResult | undefined;
}) {
  const throws = field.throws ?? [];
  const first = told?.guns[0];
  const set = (next: typeof throws) => setField({ throws: next.length > 0 ? next : undefined });
  return (
    <section aria-label="Throws measured" className="grid gap-2">
      <h2 className="text-xl">Throws measured</h2>
      <p className="text-[14px] text-soft">
        Walk out to where the last drops fall, in the calm. One is enough to carry to every other
        pressure.
      </p>
      {throws.map((own, i) => {
        const change = (
          patch: {
            [K in keyof typeof own]?: (typeof own)[K] | undefined;
          },
        ) => set(throws.with(i, without({ ...own, ...patch }) as typeof own));
        return (
          <div
            key={i}
            className="grid grid-cols-[1fr_1fr_1fr_5.5rem_auto] max-sm:grid-cols-[1fr_1fr_auto] items-end gap-2"
          >
            <JobQuantity
              label="Throw"
              optional
              quantity="length"
              range={RANGES.throw}
              value={own.radius}
              onChange={(radius) => change({ radius })}
            />
            <JobQuantity
              label={own.read ? "At its base" : "At its base (the line’s)"}
              quantity="pressure"
              range={RANGES.emitterPressure}
              value={own.pressure}
              onChange={(pressure) => change({ pressure, read: true })}
            />
            <JobQuantity
              label="With nozzle"
              optional
              quantity="diameter"
              range={RANGES.bore}
              value={own.bore}
              onChange={(bore) => change({ bore })}
            />
            <SelectField
              label="Taken by"
              visibleLabel
              value={own.by}
              onChange={(by) => change({ by: by as typeof own.by })}
            >
              <option value="tape">Tape</option>
              <option value="paces">Paces</option>
            </SelectField>
            <IconButton
              label={`Take throw ${i + 1} out`}
              onClick={() => set(throws.toSpliced(i, 1))}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </div>
        );
      })}
      <Button
        className="justify-self-start"
        disabled={!first || !(first.pressure > 0)}
        onClick={() =>
          first &&
          set([
            ...throws,
            {
              pressure: Math.round(first.pressure),
              bore: first.gun.bore,
              by: "paces",
            },
          ])
        }
      >
        <Plus size={16} aria-hidden /> A throw
      </Button>
    </section>
  );
}
