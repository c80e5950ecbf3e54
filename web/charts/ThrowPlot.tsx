import { format } from "#contract/units/format.ts";
import { type Calibration, expectedThrow, type Gun, throwAt } from "#core/irrigation/gun.ts";
import type { GunResult } from "#model/irrigation/guns.ts";
import { useUnits } from "../state/settings.ts";

const WIDTH = 440;
const HEIGHT = 220;
const [LEFT, RIGHT, TOP, BOTTOM] = [52, 14, 22, 34];
const STEPS = 48;

/** Throw over pressure: what is expected, what was measured, the window between, and where each gun is. */
export function ThrowPlot({
  gun,
  calibration,
  guns,
}: {
  gun: Gun;
  calibration: Calibration | undefined;
  /** those like it */
  guns: readonly GunResult[];
}) {
  const units = useUnits();
  const { leastPressure, greatestPressure } = gun;
  const seen = [
    ...guns.map(({ pressure }) => pressure),
    ...(calibration?.used ?? []).map(({ pressure }) => pressure),
  ];
  const windowed = leastPressure !== undefined && greatestPressure !== undefined;
  const from = leastPressure ?? 0.5 * Math.min(...seen);
  const to = greatestPressure ?? 1.6 * Math.max(...seen);
  const least = Math.min(from, ...seen) * 0.85;
  const most = Math.max(to, ...seen) * 1.05;
  const pressures = Array.from({ length: STEPS + 1 }, (_, i) => from + ((to - from) * i) / STEPS);
  const band = pressures.flatMap((pressure) => {
    const thrown = throwAt(gun, pressure, calibration);
    return thrown.kind === "throws" ? [{ pressure, ...thrown }] : [];
  });
  const highest = Math.max(
    ...band.map(({ high }) => high),
    ...(calibration?.used ?? []).map(({ radius }) => radius),
  );
  const lowest = 0.8 * Math.min(...band.map(({ low }) => low), highest);
  const x = (pressure: number) =>
    LEFT + ((pressure - least) / (most - least)) * (WIDTH - LEFT - RIGHT);
  const y = (radius: number) =>
    TOP + (1 - (radius - lowest) / (highest * 1.05 - lowest)) * (HEIGHT - TOP - BOTTOM);
  const line = (points: readonly (readonly [number, number])[]) =>
    points.map(([px, py]) => `${x(px).toFixed(1)},${y(py).toFixed(1)}`).join(" ");
  const say = (pressure: number) => format(pressure, "pressure", units);
  return (
    <figure className="grid gap-1">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full max-w-120" role="img">
        <title>Throw over the pressure at the gun’s base</title>
        {windowed && (
          <rect
            x={x(from)}
            y={TOP}
            width={x(to) - x(from)}
            height={HEIGHT - TOP - BOTTOM}
            className="fill-press"
            opacity={0.7}
          />
        )}
        <polygon
          points={line([
            ...band.map(({ pressure, high }) => [pressure, high] as const),
            ...band.toReversed().map(({ pressure, low }) => [pressure, low] as const),
          ])}
          className="fill-water"
          opacity={0.18}
        />
        <polyline
          points={line(pressures.map((p) => [p, expectedThrow(gun, p)] as const))}
          fill="none"
          className="stroke-soft"
          strokeWidth={1.5}
          strokeDasharray="5 4"
        />
        <polyline
          points={line(band.map(({ pressure, radius }) => [pressure, radius] as const))}
          fill="none"
          className="stroke-water"
          strokeWidth={2.5}
        />
        {(calibration?.used ?? []).map(({ pressure, radius }, i) => (
          <path
            key={i}
            d={`M${x(pressure) - 6} ${y(radius)}h12M${x(pressure)} ${y(radius) - 6}v12`}
            className="stroke-ink"
            strokeWidth={2}
          />
        ))}
        {guns.map(({ itemId, pressure, thrown }) => (
          <g key={itemId}>
            <line
              x1={x(pressure)}
              x2={x(pressure)}
              y1={TOP}
              y2={HEIGHT - BOTTOM}
              className="stroke-pump"
              strokeWidth={1.5}
            />
            {thrown.kind === "throws" && (
              <circle cx={x(pressure)} cy={y(thrown.radius)} r={5} className="fill-pump" />
            )}
          </g>
        ))}
        <line
          x1={LEFT}
          x2={WIDTH - RIGHT}
          y1={HEIGHT - BOTTOM}
          y2={HEIGHT - BOTTOM}
          className="stroke-ink"
        />
        {[from, to].map((pressure, i) => (
          <text
            key={pressure}
            x={x(pressure)}
            y={HEIGHT - BOTTOM + 17}
            textAnchor={i === 0 ? "start" : "end"}
            className="fill-soft text-[14px]"
          >
            {say(pressure)}
          </text>
        ))}
        {[band[0]?.radius, band.at(-1)?.radius].map(
          (radius, i) =>
            radius !== undefined && (
              <text
                key={i}
                x={LEFT - 4}
                y={y(radius) + 4}
                textAnchor="end"
                className="fill-soft text-[14px]"
              >
                {format(radius, "length", units)}
              </text>
            ),
        )}
      </svg>
      <figcaption className="text-[13px] text-soft">
        Solid, with its doubt: the throw taken. Broken: as{" "}
        {gun.chart && gun.chart.length > 0 ? "its chart" : "the textbook"} has it.
        {calibration && " Crosses: measured."} Upright: where{" "}
        {guns.length > 1 ? "the guns are" : "the gun is"}.
        {windowed && " Shaded: the pressure it is made for."}
      </figcaption>
    </figure>
  );
}
