import { RANGES } from "#contract/documents/ranges.ts";
import type { Pump } from "#core/pump/pump.ts";
import { OptionalNumber } from "../../../ui/OptionalNumber.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";
import { electricBy } from "./readingDraft.ts";

/** What a clamp meter or a power meter shows at the supply, and a tachometer at the shaft. */
export function SupplyPart({ draft, change, pump }: PartProps & { pump: Pump }) {
  const { volts, phase = 1 } = pump.electric ?? {};
  const conductors = phase === 3 ? ["L1", "L2", "L3"] : [""];
  const rated = pump.ratedSpeedRpm;
  const { electric } = draft;
  const set = (by: Partial<typeof electric>) => change(electricBy(by));
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Supply</legend>
      <p className="text-[13px] font-medium">
        Clamp round one insulated conductor with the cover on. Opening a terminal box or measuring
        bare terminals is a licensed electrician’s work.
      </p>
      <div className="grid grid-cols-3 gap-2">
        {conductors.map((name, i) => (
          <OptionalNumber
            key={name}
            label={name === "" ? "Current, A" : `${name}, A`}
            most={5000}
            whole={false}
            value={electric.currents[i]}
            onChange={(current) =>
              change((before) =>
                electricBy({
                  currents: conductors.map((_, k) =>
                    k === i ? current : before.electric.currents[k],
                  ),
                })(before),
              )
            }
          />
        ))}
        <OptionalNumber
          label={volts ? `Volts (plate ${volts})` : "Volts"}
          most={100_000}
          whole={false}
          value={electric.volts}
          onChange={(read) => set({ volts: read })}
        />
        <QuantityField
          label="Power meter"
          optional
          quantity="power"
          range={RANGES.power}
          value={electric.power}
          onChange={(power) => set({ power })}
        />
        <OptionalNumber
          label="Power factor"
          most={1}
          whole={false}
          value={electric.powerFactor}
          onChange={(powerFactor) => set({ powerFactor })}
        />
        <QuantityField
          label="Speed"
          optional
          quantity="speed"
          range={{ min: rated * 0.3, max: rated * 1.3, what: "The speed" }}
          value={draft.speedRatio === undefined ? undefined : draft.speedRatio * rated}
          onChange={(rpm) => change({ speedRatio: rpm === undefined ? undefined : rpm / rated })}
        />
      </div>
      <InstrumentPick {...{ draft, change }} of="electric" />
    </fieldset>
  );
}
