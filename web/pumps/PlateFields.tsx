import type { PumpDocument } from "#contract/documents/pump.ts";
import { PLATE_FIELDS, type PlateField, valueAt } from "#model/import/pumpTable/fields.ts";
import { choiceName } from "#words/plate.ts";
import { SelectField, TextField } from "../ui/Fields.tsx";
import { OptionalNumber } from "../ui/OptionalNumber.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

const PARTS: Record<PlateField["part"], string> = {
  name: "What it is",
  size: "Ports and size",
  limits: "What it needs and bears",
  electric: "Motor",
  engine: "Engine",
  firm: "In the firm",
};
/** Shown at once; the others wait under their heading. */
const OPEN: ReadonlySet<PlateField["part"]> = new Set(["name", "size"]);
/** Without these it is no pump. */
const NEEDED: ReadonlySet<string> = new Set([
  "maker",
  "model",
  "kind",
  "drive",
  "tolerance",
  "ratedSpeedRpm",
]);

type Plate = Partial<Pick<PumpDocument, "drive">> & object;

/** Every field of the plate, in the parts it stands in; a part that is rarely typed is folded. */
export function PlateFields({
  pump,
  onChange,
}: {
  pump: Plate;
  /** undefined takes a value out */
  onChange: (path: string, value: unknown) => void;
}) {
  return (
    <>
      {Object.entries(PARTS).map(([part, name]) => {
        const fields = PLATE_FIELDS.filter(
          (field) => field.part === part && (!field.only || field.only === pump.drive),
        );
        if (fields.length === 0) return null;
        const typed = fields.filter(({ path }) => valueAt(pump, path) !== undefined).length;
        const grid = (
          <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
            {fields.map((field) => (
              <Field key={field.path} {...{ field, onChange }} value={valueAt(pump, field.path)} />
            ))}
          </div>
        );
        return OPEN.has(part as PlateField["part"]) ? (
          <fieldset key={part}>
            <legend className="plate text-xl">{name}</legend>
            {grid}
          </fieldset>
        ) : (
          <details key={part} className="border-t border-rule pt-1">
            <summary className="plate min-h-9 cursor-pointer content-center text-xl">
              {name}{" "}
              <span className="text-[14px] font-normal text-soft">
                {typed === 0 ? "nothing said" : `${typed} of ${fields.length} said`}
              </span>
            </summary>
            {grid}
          </details>
        );
      })}
    </>
  );
}

function Field({
  field: { path, name, kind },
  value,
  onChange,
}: {
  field: PlateField;
  value: unknown;
  onChange: (path: string, value: unknown) => void;
}) {
  const set = (next: unknown) => onChange(path, next);
  switch (kind.is) {
    case "quantity":
      return (
        <QuantityField
          label={name}
          optional
          quantity={kind.quantity}
          range={kind.range}
          value={value as number | undefined}
          // What every pump has is not emptied.
          onChange={(next) => (next === undefined && NEEDED.has(path) ? undefined : set(next))}
        />
      );
    case "number":
      return (
        <OptionalNumber
          label={name}
          most={kind.most}
          whole={kind.whole ?? false}
          value={value as number | undefined}
          onChange={set}
        />
      );
    case "text":
      return (
        <TextField
          label={name}
          className={path === "note" ? "col-span-full" : ""}
          value={(value as string | undefined) ?? ""}
          maxLength={kind.longest}
          onChange={(next) => set(next === "" && !NEEDED.has(path) ? undefined : next)}
        />
      );
    case "yes-no":
      return (
        <SelectField
          label={name}
          visibleLabel
          value={value === undefined ? "" : value ? "yes" : "no"}
          onChange={(next) => set(next === "" ? undefined : next === "yes")}
        >
          {path !== "submersible" && <option value="">not said</option>}
          <option value="yes">yes</option>
          <option value="no">no</option>
        </SelectField>
      );
    case "choice":
      return (
        <SelectField
          label={name}
          visibleLabel
          value={value === undefined ? "" : String(value)}
          onChange={(next) =>
            set(next === "" ? undefined : path === "electric.phase" ? Number(next) : next)
          }
        >
          {!NEEDED.has(path) && <option value="">not said</option>}
          {kind.of.map((own) => (
            <option key={own} value={own}>
              {choiceName(path, own)}
            </option>
          ))}
        </SelectField>
      );
  }
}
