import { useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { lastAtOrBefore } from "#core/numeric/sorted.ts";
import type { PressureTank } from "#core/well/pressureTank.ts";
import type { TankDay } from "#core/well/tankDay.ts";
import type { TapResult } from "#model/well/day.ts";
import { topOf } from "#model/well/settle.ts";
import type { WellResult } from "#model/well/well.ts";
import { clock, litres } from "#words/well.ts";
import { bars, Mark, MarkerLine, MarkerSlider, points, Row, WIDE } from "../../charts/rows.tsx";
import { thinned } from "../../charts/thinned.ts";
import { useUnits } from "../../state/settings.ts";
import { SelectField } from "../../ui/Fields.tsx";

const DRAWN = 44;
const PRESSURE = 96;
const LEVEL = 84;
const TAP = 44;
const BAR = 14;

/** What is drawn, the tank's pressure, the well's water and the pump, from the first midnight on. */
export function TankStrip({
  job,
  told,
  run,
  taps,
  days,
  tank,
}: {
  job: JobDocument;
  told: WellResult;
  run: TankDay;
  taps: readonly TapResult[];
  days: number;
  tank: PressureTank;
}) {
  const units = useUnits();
  const span = days * 86_400;
  const [marker, setMarker] = useState(7 * 3600);
  const at = Math.min(marker, span);
  const { times, pressure, level, drawn, runs } = run;
  const x = (time: number) => (WIDE * time) / span;
  const most = drawn.reduce((a, b) => Math.max(a, b), 1e-9);
  const highest = pressure.reduce((a, b) => Math.max(a, b), tank.cutOut);
  const lowest = Math.min(
    pressure.reduce((a, b) => Math.min(a, b), tank.cutIn),
    tank.cutIn,
  );
  const bottom = lowest - 0.08 * (highest - lowest);
  const up = (p: number) => PRESSURE - 3 - (PRESSURE - 10) * ((p - bottom) / (highest - bottom));
  const top = topOf(job);
  const standing = Math.max(level[0] ?? 0, run.lowestLevel + 0.01);
  const intake = job.source.intake;
  const down = (z: number) => 6 + (LEVEL - 12) * ((standing - z) / (standing - intake));
  const index = lastAtOrBefore(times, at);
  const [tap, setTap] = useState(0);
  const shown = taps[tap] ?? taps[0];
  const { volume, preCharge } = tank;
  const air = told.tank.air;
  const inTank = (p: number) =>
    litres(Math.max(volume * (1 - (preCharge + air) / (p + air)), 0), units);
  const length = (z: number) => format(top - z, "length", units);
  return (
    <figure className="min-w-0">
      <p className="text-[15px]" data-testid="marker">
        <span className="plate text-[24px]">{clock(at)}</span>{" "}
        {format(pressure[index] ?? 0, "pressure", units)} in the tank with{" "}
        {inTank(pressure[index] ?? 0)} in it, water {length(level[index] ?? standing)} down,{" "}
        {(drawn[index] ?? 0) > 0 ? `${format(drawn[index] ?? 0, "flow", units)} drawn, ` : ""}
        pump {runs[index] ? "runs" : "rests"}
      </p>
      <div className="relative select-none">
        <Row
          name="Drawn"
          top={format(most, "flow", units)}
          height={DRAWN}
          label={`Water drawn, at the most ${format(most, "flow", units)}`}
        >
          <path
            d={`M0 ${DRAWN}${points(
              steps(times, drawn),
              x,
              (q) => DRAWN - (DRAWN - 4) * (q / most),
            )}L${WIDE} ${DRAWN}Z`}
            fill="var(--water)"
            opacity={0.5}
          />
        </Row>
        <Row
          name="Pressure and water in the tank"
          top={`${format(highest, "pressure", units)}, ${inTank(highest)}`}
          bottom={`${format(Math.max(bottom, 0), "pressure", units)}, ${inTank(bottom)}`}
          height={PRESSURE}
          label={`Pressure in the tank, from ${format(lowest, "pressure", units)} to ${format(highest, "pressure", units)}`}
        >
          <path
            d={points(
              thinned(times, (i) => pressure[i] as number, WIDE),
              x,
              up,
            ).replace("L", "M")}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={days > 1 ? 1 : 1.6}
            opacity={days > 1 ? 0.75 : 1}
            vectorEffect="non-scaling-stroke"
          />
          <Mark y={up(tank.cutIn)} colour="var(--pump)" dashed />
          <Mark y={up(tank.cutOut)} colour="var(--pump)" dashed />
        </Row>
        {shown && (
          <Row
            name={`At ${shown.name}, while it draws`}
            top={format(highest, "pressure", units)}
            bottom="0"
            height={TAP}
            label={`Pressure at ${shown.name} through its draws`}
          >
            {shown.draws.map(({ from, to, least }) => {
              const high = (TAP - 4) * Math.min(Math.max(least / highest, 0.02), 1);
              return (
                <rect
                  key={from}
                  x={x(from)}
                  width={Math.max(x(to) - x(from), 1.4)}
                  y={TAP - high}
                  height={high}
                  fill={least <= 0 ? "var(--signal)" : "var(--water)"}
                />
              );
            })}
          </Row>
        )}
        <Row
          name="Water in the well"
          top={`${length(standing)} standing`}
          bottom={`${length(intake)} intake`}
          height={LEVEL}
          label={`Water in the well, down to ${length(run.lowestLevel)}`}
        >
          <path
            d={`M0 ${LEVEL}${points(
              thinned(times, (i) => level[i] as number, WIDE),
              x,
              down,
            )}L${WIDE} ${LEVEL}Z`}
            fill="var(--water)"
            fillOpacity={0.22}
            stroke="var(--water)"
            strokeWidth={1.6}
            vectorEffect="non-scaling-stroke"
          />
        </Row>
        <Row name="Pump" height={BAR} label="When the pump runs" slim>
          <rect width={WIDE} height={BAR} fill="var(--press)" />
          <path d={bars(times, (i) => runs[i] === true, span, x, BAR)} fill="var(--pump)" />
        </Row>
        <MarkerLine {...{ at, span }} />
      </div>
      <MarkerSlider {...{ at, span }} said={clock(at)} onAt={setMarker} />
      <figcaption className="flex justify-between text-[13px] text-soft">
        <span>00:00</span>
        <span>{clock(span / 2)}</span>
        <span>{days === 1 ? "24:00" : `after ${days} days`}</span>
      </figcaption>
      {taps.length > 1 && (
        <div className="max-w-56">
          <SelectField
            label="Pressure shown at"
            visibleLabel
            value={String(tap)}
            onChange={(next) => setTap(Number(next))}
          >
            {taps.map(({ name }, i) => (
              <option key={i} value={i}>
                {name || `Tap ${i + 1}`}
              </option>
            ))}
          </SelectField>
        </div>
      )}
    </figure>
  );
}

/** A curve that stays until it jumps, thinned to what can be seen. */
function steps(times: readonly number[], values: readonly number[]): [number, number][] {
  return thinned(times, (i) => values[i] as number, WIDE).flatMap(([time, value], i, all) => {
    const before = all[i - 1]?.[1];
    return before === undefined || before === value
      ? [[time, value] as [number, number]]
      : [[time, before] as [number, number], [time, value] as [number, number]];
  });
}
