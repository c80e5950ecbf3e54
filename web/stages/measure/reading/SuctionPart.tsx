import { RANGES } from "#contract/documents/ranges.ts";
import { SelectField } from "../../../ui/Fields.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";
import { type ReadingDraft, suctionBy } from "./readingDraft.ts";

/** What the pump draws from: the water's level, or a gauge before the pump. */
export function SuctionPart({
  draft,
  change,
  pump,
  water,
}: PartProps & { pump: number | undefined; water: number | undefined }) {
  const { gauge, "water-level": surface } = draft.suctions;
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Suction side</legend>
      <div className="grid grid-cols-3 gap-2">
        <SelectField
          label="Known by"
          visibleLabel
          value={draft.suctionKind}
          onChange={(kind) => change({ suctionKind: kind as ReadingDraft["suctionKind"] })}
        >
          <option value="water-level">Water level</option>
          <option value="gauge">Gauge</option>
          <option value="unknown">Not known</option>
        </SelectField>
        {draft.suctionKind === "unknown" && (
          <p className="col-span-2 text-[14px] text-soft">
            The pump then tells where the water stands, if it does what is published.
          </p>
        )}
        {draft.suctionKind === "water-level" && (
          <>
            <QuantityField
              label="Level while running"
              optional
              quantity="length"
              range={RANGES.elevation}
              value={surface.level ?? water}
              onChange={(level) => change(suctionBy("water-level", { level }))}
            />
            <QuantityField
              label="Level ±"
              quantity="length"
              range={{ ...RANGES.tolerance, what: "The tolerance" }}
              value={surface.tolerance}
              onChange={(tolerance) => change(suctionBy("water-level", { tolerance }))}
            />
          </>
        )}
        {draft.suctionKind === "gauge" && (
          <>
            <QuantityField
              label="Reads (− for vacuum)"
              optional
              quantity="pressure"
              range={RANGES.pressure}
              value={gauge.pressure}
              onChange={(pressure) => change(suctionBy("gauge", { pressure }))}
            />
            <QuantityField
              label="Dial’s height"
              optional
              quantity="length"
              range={RANGES.elevation}
              value={gauge.elevation ?? pump}
              onChange={(elevation) => change(suctionBy("gauge", { elevation }))}
            />
          </>
        )}
      </div>
      {draft.suctionKind === "gauge" && <InstrumentPick {...{ draft, change }} of="suction" />}
    </fieldset>
  );
}
