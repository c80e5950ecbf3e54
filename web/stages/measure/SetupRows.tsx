import type { FieldTestDocument } from "#contract/documents/fieldTest.ts";
import { newId } from "../../api/client.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { SelectField, TextField } from "../../ui/Fields.tsx";
import { Trash2 } from "../../ui/icons.ts";

type Setup = NonNullable<FieldTestDocument["setups"]>[number];

/** Set-ups that are measured side by side at one place; each may be one of the job's changes. */
export function SetupRows({
  setups,
  changes,
  onChange,
}: {
  setups: readonly Setup[];
  /** labels of the job's changes */
  changes: readonly string[];
  onChange: (setups: Setup[]) => void;
}) {
  const set = (i: number, setup: Setup) =>
    onChange(setups.map((own, k) => (k === i ? setup : own)));
  const add = (...names: string[]) =>
    onChange([...setups, ...names.map((name) => ({ id: newId(), name }))]);
  return (
    <div className="grid gap-1.5">
      {setups.map((setup, i) => (
        <div key={setup.id} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <TextField
            label={`Set-up ${i + 1}`}
            required
            maxLength={60}
            value={setup.name}
            onChange={(name) => set(i, { ...setup, name })}
          />
          <SelectField
            label="In the job it is"
            visibleLabel
            value={setup.variant ?? ""}
            onChange={(variant) => {
              const { variant: _, ...rest } = setup;
              set(i, variant === "" ? rest : { ...rest, variant });
            }}
          >
            <option value="">as the job is</option>
            {changes.map((label) => (
              <option key={label} value={label}>
                {label}
              </option>
            ))}
          </SelectField>
          <IconButton
            label={`Take set-up ${i + 1} out`}
            onClick={() => onChange(setups.filter((own) => own !== setup))}
          >
            <Trash2 size={17} aria-hidden />
          </IconButton>
        </div>
      ))}
      <div>
        <Button
          onClick={() => (setups.length === 0 ? add("As it is", "The other") : add("Another"))}
        >
          {setups.length === 0 ? "Hold two set-ups side by side" : "Add a set-up"}
        </Button>
      </div>
    </div>
  );
}
