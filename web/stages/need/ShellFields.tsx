import type { BodyOfWater } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { SelectField } from "../../ui/Fields.tsx";

type Shell = NonNullable<BodyOfWater["shell"]>;

/** What tells whether ground water lifts a vessel once it is empty. */
export function ShellFields({
  shell = {},
  onChange,
}: {
  shell: Shell | undefined;
  onChange: (shell: Shell) => void;
}) {
  const { inGround } = shell;
  return (
    <>
      <SelectField
        label="Its shell stands"
        visibleLabel
        value={inGround === undefined ? "" : inGround ? "in" : "free"}
        onChange={(value) => {
          const { inGround: _, ...rest } = shell;
          onChange(value === "" ? rest : { ...rest, inGround: value === "in" });
        }}
      >
        <option value="">not said</option>
        <option value="in">in the ground</option>
        <option value="free">free, or lets ground water in</option>
      </SelectField>
      {inGround !== false && (
        <>
          <JobQuantity
            label="Ground water outside, highest"
            optional
            quantity="length"
            range={RANGES.elevation}
            value={shell.groundwater}
            onChange={(groundwater) => onChange({ ...shell, groundwater } as Shell)}
          />
          <JobQuantity
            label="Weight of the empty shell"
            optional
            quantity="mass"
            range={RANGES.shellMass}
            value={shell.mass}
            onChange={(mass) => onChange({ ...shell, mass } as Shell)}
          />
        </>
      )}
    </>
  );
}
