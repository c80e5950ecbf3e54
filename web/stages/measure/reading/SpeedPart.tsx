import { QuantityField } from "../../../ui/QuantityField.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";

/** The speed an engine ran at while the reading was taken. */
export function SpeedPart({ draft, change, rated }: PartProps & { rated: number }) {
  const ratio = draft.speedRatio ?? 1;
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Engine speed</legend>
      <QuantityField
        label="Tachometer reads"
        quantity="speed"
        range={{ min: rated * 0.3, max: rated * 1.3, what: "The speed" }}
        value={ratio * rated}
        onChange={(rpm) => change({ speedRatio: rpm / rated })}
        className="max-w-48"
      />
      <InstrumentPick {...{ draft, change }} of="speed" />
      <p className="text-[13px] text-soft">
        The rated curve is moved to this speed before comparing. Never run an engine indoors, in a
        pit or by an intake: exhaust kills.
      </p>
    </fieldset>
  );
}
