import type { PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { sweptPower } from "#core/driving/motor.ts";
import { fitSweep } from "#core/driving/sweepFit.ts";
import { useUnits } from "../state/settings.ts";
import { OptionalNumber } from "../ui/OptionalNumber.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { Rows } from "../ui/Rows.tsx";

type Speeds = NonNullable<PumpDocument["speeds"]>;
type Row = NonNullable<Speeds["sweep"]>[number];

/** What a drive was read to take at several speeds: it tells what it takes idling. */
export function SweepEntry({
  speeds,
  ratedSpeed,
  plate,
  onChange,
}: {
  speeds: Speeds;
  /** by which amps are turned into power where that was not read */
  plate: PumpDocument["electric"];
  ratedSpeed: number;
  onChange: (sweep: Row[]) => void;
}) {
  const units = useUnits();
  const sweep = speeds.sweep ?? [];
  const fit = fitSweep(
    sweep.flatMap((row) => {
      const power = sweptPower(row, plate);
      return power === undefined ? [] : [{ speed: row.speed / ratedSpeed, power }];
    }),
  );
  return (
    <fieldset>
      <legend className="plate text-xl">Sweep of its speeds</legend>
      <Rows
        rows={sweep}
        onChange={onChange}
        label="Rows of the sweep"
        columns="grid-cols-[repeat(4,minmax(0,1fr))_auto] gap-1.5"
        called={(_, i) => `row ${i + 1} of the sweep`}
        add={{ name: "Speed", row: (): Row => ({ speed: sweep.at(-1)?.speed ?? speeds.most }) }}
      >
        {(row, set, i) => (
          <>
            <QuantityField
              label="Speed"
              visibleLabel={i === 0}
              quantity="speed"
              range={RANGES.speed}
              value={row.speed}
              onChange={(speed) => set({ speed })}
            />
            <QuantityField
              label="Flow"
              visibleLabel={i === 0}
              optional
              quantity="flow"
              range={RANGES.curveFlow}
              value={row.flow}
              onChange={(flow) => set({ flow })}
            />
            <QuantityField
              label="Power taken"
              visibleLabel={i === 0}
              unit="W"
              optional
              quantity="power"
              range={RANGES.power}
              value={row.power}
              onChange={(power) => set({ power })}
            />
            <div className={i > 0 ? "[&_label]:sr-only" : ""}>
              <OptionalNumber
                label="Amps"
                most={5000}
                whole={false}
                value={row.current}
                onChange={(current) => set({ current })}
              />
            </div>
          </>
        )}
      </Rows>
      <p className="pt-1 text-[14px] text-soft" aria-live="polite">
        {fit.kind === "fitted"
          ? `It takes ${format(fit.fit.idle, "power", "metric")} idling, and a part that goes with its speed to the power ${fit.fit.exponent.toFixed(2)}; left out, the idle part would make that look like ${fit.fit.plainSlope.toFixed(2)}.`
          : fit.kind === "too-few"
            ? "Four speeds with their power tell what it takes idling."
            : `The speeds lie too near each other, ${format(fit.from * ratedSpeed, "speed", units)} to ${format(fit.to * ratedSpeed, "speed", units)}: read it slower, too.`}
      </p>
    </fieldset>
  );
}
