import type { PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { sweptPower } from "#core/driving/motor.ts";
import { fitSweep } from "#core/driving/sweepFit.ts";
import { useUnits } from "../state/settings.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { Plus, Trash2 } from "../ui/icons.ts";
import { OptionalNumber } from "../ui/OptionalNumber.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

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
  const put = (index: number, patch: object) =>
    onChange(sweep.map((row, i) => (i === index ? ({ ...row, ...patch } as Row) : row)));
  const fit = fitSweep(
    sweep.flatMap((row) => {
      const power = sweptPower(row, plate);
      return power === undefined ? [] : [{ speed: row.speed / ratedSpeed, power }];
    }),
  );
  return (
    <fieldset>
      <legend className="plate text-xl">Sweep of its speeds</legend>
      <ol aria-label="Rows of the sweep" className="grid gap-1.5">
        {sweep.map((row, i) => (
          <li key={i} className="grid grid-cols-[repeat(4,minmax(0,1fr))_auto] items-end gap-1.5">
            <QuantityField
              label="Speed"
              visibleLabel={i === 0}
              quantity="speed"
              range={RANGES.speed}
              value={row.speed}
              onChange={(speed) => put(i, { speed })}
            />
            <QuantityField
              label="Flow"
              visibleLabel={i === 0}
              optional
              quantity="flow"
              range={RANGES.curveFlow}
              value={row.flow}
              onChange={(flow) => put(i, { flow })}
            />
            <QuantityField
              label="Power taken"
              visibleLabel={i === 0}
              unit="W"
              optional
              quantity="power"
              range={RANGES.power}
              value={row.power}
              onChange={(power) => put(i, { power })}
            />
            <div className={i > 0 ? "[&_label]:sr-only" : ""}>
              <OptionalNumber
                label="Amps"
                most={5000}
                whole={false}
                value={row.current}
                onChange={(current) => put(i, { current })}
              />
            </div>
            <IconButton
              label={`Remove row ${i + 1} of the sweep`}
              onClick={() => onChange(sweep.toSpliced(i, 1))}
            >
              <Trash2 size={17} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ol>
      <Button
        className="mt-2"
        onClick={() => onChange([...sweep, { speed: sweep.at(-1)?.speed ?? speeds.most }])}
      >
        <Plus size={16} aria-hidden /> Speed
      </Button>
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
