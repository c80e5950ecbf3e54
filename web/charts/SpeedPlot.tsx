import { useMemo } from "react";
import { format, formatNumber } from "#contract/units/format.ts";
import type { SpeedSheet } from "#core/driving/variableSpeed.ts";
import { useUnits } from "../state/settings.ts";

const WIDTH = 420;
const HEIGHT = 220;
const LEFT = 46;
const RIGHT = 46;
const TOP = 26;
const BOTTOM = 42;

/** Where it runs now, on the curve that tells. */
const Now = ({ x, y }: { x: number; y: number }) => (
  <g>
    <circle cx={x} cy={y} r={5} className="fill-ink" />
    <text
      x={x}
      y={y - 9}
      textAnchor={x > WIDTH / 2 ? "end" : "start"}
      className="fill-ink stroke-sheet text-[13px]"
      paintOrder="stroke"
      strokeWidth={3}
    >
      now
    </text>
  </g>
);

/** Energy for a volume over speed with the floor the lift sets, and the flow each speed moves. */
export function SpeedPlot({
  speeds,
  speedRatio,
  rated,
  wanted,
  lot,
  now,
}: {
  speeds: SpeedSheet;
  speedRatio: number;
  rated: number;
  wanted: number | undefined;
  lot: { volume: number; name: string };
  /** m³/s at the outlets and J for a m³ as it runs; absent where it does not settle */
  now: { flow: number; perVolume?: number } | undefined;
}) {
  const units = useUnits();
  const { rows, floor, slowest, cheapest } = speeds;
  const drawn = useMemo(() => {
    const known = rows.filter(({ flow }) => flow !== undefined);
    const energies = known.flatMap(({ perVolume }) => perVolume ?? []);
    // What hardly moves water takes any amount for it: the picture ends at three times the least.
    const top = Math.min(Math.max(...energies, floor), 3 * Math.min(...energies)) * 1.08;
    const flows = Math.max(...known.map(({ flow = 0 }) => flow), wanted ?? 0) * 1.08;
    const [from, to] = [rows[0]?.ratio ?? 0, rows.at(-1)?.ratio ?? 1];
    const x = (ratio: number) => LEFT + ((ratio - from) / (to - from)) * (WIDTH - LEFT - RIGHT);
    const y = (part: number) => TOP + (1 - Math.min(part, 1.02)) * (HEIGHT - TOP - BOTTOM);
    const path = (of: (row: (typeof known)[number]) => number | undefined, most: number) =>
      known
        .flatMap((row) => {
          const value = of(row);
          return value === undefined || value > most ? [] : [`${x(row.ratio)},${y(value / most)}`];
        })
        .join(" ");
    return {
      ...{ x, y, top, flows, from, to },
      energy: energies.length > 0 ? path(({ perVolume }) => perVolume, top) : "",
      flow: path(({ flow }) => flow, flows),
    };
  }, [rows, floor, wanted]);
  const { x, y, top, flows, from, to } = drawn;
  const ratioNow = Math.min(Math.max(speedRatio, from), to);
  const kwh = (perVolume: number) => formatNumber(perVolume * lot.volume, "energy", units);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-full w-full"
      role="img"
      aria-label={`Energy for ${lot.name} and flow over speed`}
    >
      <title>Energy and flow over speed</title>
      {[from, (from + to) / 2, to].map((ratio) => (
        <g key={ratio}>
          <line x1={x(ratio)} x2={x(ratio)} y1={TOP} y2={HEIGHT - BOTTOM} className="stroke-rule" />
          <text
            x={x(ratio)}
            y={HEIGHT - BOTTOM + 16}
            textAnchor={ratio === from ? "start" : ratio === to ? "end" : "middle"}
            className="fill-soft text-[13px]"
          >
            {(ratio * rated).toFixed(0)} rpm
          </text>
        </g>
      ))}
      {Number.isFinite(top) && drawn.energy && (
        <>
          <line
            x1={LEFT}
            x2={WIDTH - RIGHT}
            y1={y(floor / top)}
            y2={y(floor / top)}
            className="stroke-signal"
            strokeDasharray="5 4"
          />
          <polyline points={drawn.energy} fill="none" className="stroke-ink" strokeWidth={2.5} />
          <text x={2} y={14} className="fill-ink text-[13px]">
            {kwh(top)}
          </text>
          <text x={2} y={HEIGHT - BOTTOM} className="fill-ink text-[13px]">
            0 kWh
          </text>
          <text x={LEFT + 4} y={y(floor / top) - 5} className="fill-signal text-[13px]">
            the lift alone
          </text>
        </>
      )}
      <polyline
        points={drawn.flow}
        fill="none"
        className="stroke-water"
        strokeWidth={2}
        strokeDasharray="2 3"
      />
      <text x={WIDTH - 2} y={14} textAnchor="end" className="fill-water text-[13px]">
        {format(flows, "flow", units)}
      </text>
      {slowest && (
        <line
          x1={x(slowest.ratio)}
          x2={x(slowest.ratio)}
          y1={TOP}
          y2={HEIGHT - BOTTOM}
          className="stroke-water"
          strokeWidth={1.5}
        />
      )}
      {cheapest?.perVolume !== undefined && cheapest.perVolume <= top && (
        <circle
          cx={x(cheapest.ratio)}
          cy={y(cheapest.perVolume / top)}
          r={5}
          className="fill-sheet stroke-ink"
          strokeWidth={2}
        />
      )}
      {now?.perVolume !== undefined && now.perVolume <= top ? (
        <Now x={x(ratioNow)} y={y(now.perVolume / top)} />
      ) : (
        now?.flow !== undefined && <Now x={x(ratioNow)} y={y(now.flow / flows)} />
      )}
      <text x={LEFT} y={HEIGHT - 4} className="fill-ink text-[13px]">
        Solid: energy for {lot.name}
      </text>
      <text x={WIDTH - RIGHT} y={HEIGHT - 4} textAnchor="end" className="fill-water text-[13px]">
        Dotted: flow
      </text>
    </svg>
  );
}
