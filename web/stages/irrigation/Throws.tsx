import type { FieldDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { Rows } from "../../ui/Rows.tsx";
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
  return (
    <section aria-label="Throws measured" className="grid gap-2">
      <h2 className="text-xl">Throws measured</h2>
      <p className="text-[14px] text-soft">
        Walk out to where the last drops fall, in the calm. One is enough to carry to every other
        pressure.
      </p>
      <Rows
        rows={throws}
        onChange={(next) => setField({ throws: next.length > 0 ? next : undefined })}
        columns="grid-cols-3 border-b border-rule pb-2"
        called={(_, i) => `throw ${i + 1}`}
        add={{
          name: "A throw",
          disabled: !first || !(first.pressure > 0),
          row: (): (typeof throws)[number] => ({
            pressure: Math.round(first?.pressure ?? 0),
            ...(first && { bore: first.gun.bore }),
            by: "paces",
          }),
        }}
      >
        {(own, set) => (
          <>
            <JobQuantity
              label="Throw"
              optional
              quantity="length"
              range={RANGES.throw}
              value={own.radius}
              onChange={(radius) => set({ radius })}
            />
            <JobQuantity
              label={own.read ? "At its base" : "At its base (the line’s)"}
              quantity="pressure"
              range={RANGES.emitterPressure}
              value={own.pressure}
              onChange={(pressure) => set({ pressure, read: true })}
            />
            <JobQuantity
              label="With nozzle"
              optional
              quantity="diameter"
              range={RANGES.bore}
              value={own.bore}
              onChange={(bore) => set({ bore })}
            />
            <SelectField
              className="col-span-2"
              label="Taken by"
              visibleLabel
              value={own.by}
              onChange={(by) => set({ by: by as typeof own.by })}
            >
              <option value="tape">Tape</option>
              <option value="paces">Paces</option>
            </SelectField>
          </>
        )}
      </Rows>
    </section>
  );
}
