import { RANGES } from "#contract/documents/quantity.ts";
import { PercentField, SelectField } from "../../ui/Fields.tsx";
import { QuantityField } from "../../ui/QuantityField.tsx";
import type { ReadingDraft } from "../readingDraft.ts";
import { Stopwatch } from "../Stopwatch.tsx";
import { legend, type PartProps } from "./part.ts";

/** The flow, by bucket and watch or by a meter. */
export function FlowPart({
  draft,
  change,
  addFill,
  outlets,
}: PartProps & { addFill: (seconds: number) => void; outlets: number }) {
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Flow</legend>
      {outlets > 1 && (
        <p className="text-[14px]">
          This line has {outlets} outlets: what counts is the flow of all of them together.
        </p>
      )}
      <div className="grid grid-cols-[1fr_1fr_1fr] gap-2">
        <SelectField
          label="Measured by"
          visibleLabel
          value={draft.method}
          onChange={(method) => change({ method: method as ReadingDraft["method"] })}
        >
          <option value="bucket">Bucket</option>
          <option value="meter">Meter</option>
        </SelectField>
        {draft.method === "bucket" ? (
          <>
            <QuantityField
              label="Bucket holds"
              quantity="volume"
              range={RANGES.volume}
              value={draft.volume}
              onChange={(volume) => change({ volume })}
            />
            <PercentField
              label="Bucket ±"
              max={50}
              value={draft.volumeTolerance}
              onChange={(fraction) => change({ volumeTolerance: fraction })}
            />
          </>
        ) : (
          <>
            <QuantityField
              label="Meter reads"
              optional
              quantity="flow"
              range={RANGES.flow}
              value={draft.meterFlow}
              onChange={(meterFlow) => change({ meterFlow })}
            />
            <PercentField
              label="Meter ±"
              max={50}
              value={draft.meterTolerance}
              onChange={(fraction) => change({ meterTolerance: fraction })}
            />
          </>
        )}
      </div>
      {draft.method === "bucket" && (
        <>
          <Stopwatch times={draft.times} onFill={addFill} onChange={(times) => change({ times })} />
          <p className="text-[13px] text-soft">
            Wet the bucket, open the discharge fully, time three fills. Keep hands and cords clear
            of the outlet: a hose under pressure whips.
          </p>
        </>
      )}
    </fieldset>
  );
}
