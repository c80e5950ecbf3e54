import type { Need } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { RUNOFF } from "#model/demand/demand.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { visit } from "../../openJob/jobStore.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { PercentField, SelectField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";

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
  const put = (index: number, patch: Partial<Catch>) =>
    onChange(catches.map((own, i) => (i === index ? { ...own, ...patch } : own)));
  return (
    <div className="grid gap-2">
      {catches.map((own, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
          <SelectField
            label={`Surface ${i + 1}`}
            visibleLabel
            value={own.surface}
            onChange={(value) => {
              const { runoff: _, ...rest } = own;
              onChange(
                catches.map((each, n) =>
                  n === i ? { ...rest, surface: value as Catch["surface"] } : each,
                ),
              );
            }}
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
            onChange={(area) => put(i, { area })}
          />
          <PercentField
            label={own.runoff === undefined ? "Runs off, assumed" : "Runs off"}
            value={own.runoff ?? RUNOFF[own.surface].usual}
            max={100}
            onVisit={visit}
            onChange={(runoff) => put(i, { runoff })}
          />
          <IconButton
            label={`Take ${SURFACES[own.surface].toLowerCase()} ${i + 1} out`}
            disabled={catches.length === 1}
            onClick={() => onChange(catches.filter((_, n) => n !== i))}
          >
            <Trash2 size={16} aria-hidden />
          </IconButton>
        </div>
      ))}
      <Button
        className="justify-self-start"
        onClick={() => onChange([...catches, { surface: "paving", area: 0 }])}
      >
        <Plus size={16} aria-hidden /> Another surface
      </Button>
    </div>
  );
}
