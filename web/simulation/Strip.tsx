import type { PointerEvent } from "react";
import { format } from "#contract/units/format.ts";
import { hasPump } from "#core/simulation/runningSet.ts";
import type { RunResult } from "#model/simulation/result.ts";
import { clockOf } from "#words/simulation.ts";
import { bars, Mark, MarkerLine, MarkerSlider, points, Row, WIDE } from "../charts/rows.tsx";
import { thinned } from "../charts/thinned.ts";
import { useUnits } from "../state/settings.ts";

const INFLOW = 52;
const LEVEL = 150;
const BAR = 14;

/** A run from left to right: what comes in, the levels between bottom and rim, and which pumps run. */
export function Strip({
  run,
  pumpName,
  bodyName,
  at,
  onAt,
}: {
  run: RunResult;
  pumpName: (index: number) => string;
  bodyName: (index: number) => string;
  /** s: where the marker stands */
  at: number;
  onAt: (time: number) => void;
}) {
  const units = useUnits();
  const { timeline, inflow, bodies, pumps, watched, receiver, span, powerCut } = run;
  const { times, levels, running } = timeline;
  const x = (time: number) => (WIDE * time) / span;
  const most = Math.max(highestOf(inflow), 1e-9);
  const shown = [watched, ...(receiver !== undefined && receiver !== watched ? [receiver] : [])];
  const clamp = (time: number) => Math.min(Math.max(time, 0), span);
  return (
    <figure className="min-w-0">
      {/* A pointer may pull the marker; keys move the slider below. */}
      <div
        className="relative touch-pan-y select-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          onAt(clamp(timeUnder(event, span)));
        }}
        onPointerMove={(event) => {
          if (event.buttons > 0) onAt(clamp(timeUnder(event, span)));
        }}
      >
        {most > 1e-9 && (
          <Row
            name="Water coming in"
            top={format(most, "flow", units)}
            bottom="0"
            height={INFLOW}
            label={`Inflow, at the most ${format(most, "flow", units)}`}
          >
            <Outage {...{ powerCut, x, height: INFLOW }} />
            <path
              d={`M0 ${INFLOW}${points(
                thinned(times, (i) => inflow[i] as number, WIDE),
                x,
                (q) => INFLOW - (INFLOW - 4) * (q / most),
              )}L${WIDE} ${INFLOW}Z`}
              fill="var(--water)"
              opacity={0.45}
            />
          </Row>
        )}
        {shown.map((body) => {
          const { bottom, rim, dry, alarm, floats } = bodies[body] as (typeof bodies)[number];
          const own = levels.map((row) => row[body] as number);
          // A room deeper than its water is drawn up to a little over the water.
          const highest = Math.max(
            highestOf(own),
            ...floats.map(({ on, off }) => Math.max(on, off)),
          );
          const top =
            highest - bottom < (rim - bottom) / 2 ? bottom + 1.25 * (highest - bottom) : rim;
          const y = (z: number) => LEVEL - 4 - (LEVEL - 12) * ((z - bottom) / (top - bottom));
          return (
            <Row
              key={body}
              name={bodyName(body)}
              top={`${top === rim ? "rim " : ""}${format(top, "length", units)}`}
              bottom={format(bottom, "length", units)}
              height={LEVEL}
              label={`Level of ${bodyName(body)}, from ${format(own[0] as number, "length", units)} to ${format(own.at(-1) as number, "length", units)}`}
            >
              <Outage {...{ powerCut, x, height: LEVEL }} />
              <path
                d={`M0 ${LEVEL}${points(
                  thinned(times, (i) => own[i] as number, WIDE),
                  x,
                  y,
                )}L${WIDE} ${LEVEL}Z`}
                fill="var(--water)"
                fillOpacity={0.22}
                stroke="var(--water)"
                strokeWidth={2}
                vectorEffect="non-scaling-stroke"
              />
              <Mark y={y(rim)} colour="var(--ink)" />
              {dry !== undefined && dry > bottom && <Mark y={y(dry)} colour="var(--soft)" dashed />}
              {alarm !== undefined && <Mark y={y(alarm)} colour="var(--signal)" dashed />}
              {floats.map(({ on, off }) => (
                <g key={`${on} ${off}`}>
                  <Mark y={y(on)} colour="var(--pump)" dashed />
                  <Mark y={y(off)} colour="var(--pump)" dashed />
                </g>
              ))}
            </Row>
          );
        })}
        {pumps.map((id, k) => (
          <Row key={id} name={pumpName(k)} height={BAR} label={`When ${pumpName(k)} runs`} slim>
            <rect width={WIDE} height={BAR} fill="var(--press)" />
            <path
              d={bars(times, (i) => hasPump(running[i] as number, k), span, x, BAR)}
              fill="var(--pump)"
            />
          </Row>
        ))}
        <MarkerLine {...{ at, span }} />
      </div>
      <MarkerSlider {...{ at, span }} said={clockOf(at)} onAt={onAt} />
      <figcaption className="flex justify-between text-[13px] text-soft">
        <span>0</span>
        <span>{powerCut ? "shaded: no power" : clockOf(span / 2)}</span>
        <span>{clockOf(span)}</span>
      </figcaption>
    </figure>
  );
}

function Outage({
  powerCut,
  x,
  height,
}: {
  powerCut: RunResult["powerCut"];
  x: (time: number) => number;
  height: number;
}) {
  if (!powerCut) return null;
  return (
    <rect
      x={x(powerCut.from)}
      width={x(powerCut.to) - x(powerCut.from)}
      height={height}
      fill="var(--ink)"
      opacity={0.14}
    />
  );
}

function timeUnder(event: PointerEvent<HTMLElement>, span: number): number {
  const { left, width } = event.currentTarget.getBoundingClientRect();
  return (span * (event.clientX - left)) / width;
}

/** Of more values than a call takes arguments. */
const highestOf = (values: readonly number[]) =>
  values.reduce((most, value) => Math.max(most, value), Number.NEGATIVE_INFINITY);
