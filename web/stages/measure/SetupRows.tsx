import type { FieldTestDocument } from "#contract/documents/fieldTest.ts";
import { newId } from "../../api/client.ts";
import { Button } from "../../ui/Button.tsx";
import { SelectField, TextField } from "../../ui/Fields.tsx";
import { Rows } from "../../ui/Rows.tsx";

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
  const add = (...names: string[]) =>
    onChange([...setups, ...names.map((name) => ({ id: newId(), name }))]);
  return (
    <Rows
      rows={setups}
      onChange={onChange}
      columns="grid-cols-[1fr_1fr_auto]"
      called={(_, i) => `set-up ${i + 1}`}
      beside={
        <Button
          onClick={() => (setups.length === 0 ? add("As it is", "The other") : add("Another"))}
        >
          {setups.length === 0 ? "Hold two set-ups side by side" : "Add a set-up"}
        </Button>
      }
    >
      {(setup, set, i) => (
        <>
          <TextField
            label={`Set-up ${i + 1}`}
            required
            maxLength={60}
            value={setup.name}
            onChange={(name) => set({ name })}
          />
          <SelectField
            label="In the job it is"
            visibleLabel
            value={setup.variant ?? ""}
            onChange={(variant) => set({ variant: variant || undefined })}
          >
            <option value="">as the job is</option>
            {changes.map((label) => (
              <option key={label} value={label}>
                {label}
              </option>
            ))}
          </SelectField>
        </>
      )}
    </Rows>
  );
}
