import type { Need } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { RUNOFF } from "#model/demand/demand.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { visit } from "../../openJob/jobStore.ts";
import { PercentField, SelectField } from "../../ui/Fields.tsx";
import { Rows } from "../../ui/Rows.tsx";

export type Catch = NonNullable<Extract<Need, { kind: "rain" }>["catches"]>[number];

const SURFACES: Record<Catch["surface"], string> = {
  roof: "Roof",
  paving: "Paving",
  lawn: "Lawn",
  other: "Other ground",
};

/** What the rain falls on, a row each. */
export function CatchRows({
  catches,
  onChange,
}: {
  catches: readonly Catch[];
  onChange: (catches: Catch[]) => void;
}) {
  return (
    <Rows
      rows={catches}
      onChange={onChange}
      columns="grid-cols-[1fr_1fr_1fr_auto]"
      called={({ surface }, i) => `${SURFACES[surface].toLowerCase()} ${i + 1}`}
      least={1}
      add={{ name: "Another surface", row: (): Catch => ({ surface: "paving", area: 0 }) }}
    >
      {(own, set, i) => (
        <>
          <SelectField
            label={`Surface ${i + 1}`}
            visibleLabel
            value={own.surface}
            // What runs off is of the surface it was typed for.
            onChange={(value) => set({ surface: value as Catch["surface"], runoff: undefined })}
          >
            {Object.entries(SURFACES).map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </SelectField>
          <JobQuantity
            label="Area"
            quantity="area"
            range={RANGES.areaOrNone}
            value={own.area}
            onChange={(area) => set({ area })}
          />
          <PercentField
            label={own.runoff === undefined ? "Runs off, assumed" : "Runs off"}
            value={own.runoff ?? RUNOFF[own.surface].usual}
            max={100}
            onVisit={visit}
            onChange={(runoff) => set({ runoff })}
          />
        </>
      )}
    </Rows>
  );
}
