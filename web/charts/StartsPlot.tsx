import { format } from "#contract/units/format.ts";
import type { StartsAt } from "#core/well/pressureTank.ts";
import { useUnits } from "../state/settings.ts";

const WIDE = 400;
const HIGH = 190;
const [LEFT, RIGHT, TOP, FOOT] = [34, 12, 18, 30];

/** Starts an hour over everything that may be drawn. */
export function StartsPlot({
  curves,
  limit,
}: {
  curves: readonly { name: string; starts: readonly StartsAt[] }[];
  limit: number | undefined;
}) {
  const units = useUnits();
  const most = Math.max(...curves.flatMap(({ starts }) => starts.map(({ use }) => use)));
  const highest =
    1.12 *
    Math.max(
      ...curves.flatMap(({ starts }) => starts.map(({ startsPerHour }) => startsPerHour)),
      limit ?? 0,
      1,
    );
  const x = (use: number) => LEFT + (use / most) * (WIDE - LEFT - RIGHT);
  const y = (starts: number) => TOP + (1 - starts / highest) * (HIGH - TOP - FOOT);
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full max-w-120" role="img">
        <title>Starts an hour over what is drawn</title>
        <path
          d={`M${LEFT} ${HIGH - FOOT}H${WIDE - RIGHT}M${LEFT} ${TOP}V${HIGH - FOOT}`}
          className="stroke-soft"
        />
        {limit !== undefined && (
          <>
            <path
              d={`M${LEFT} ${y(limit)}H${WIDE - RIGHT}`}
              className="stroke-signal"
              strokeDasharray="6 4"
              strokeWidth={1.6}
            />
            <text
              x={WIDE - RIGHT}
              y={y(limit) - 4}
              textAnchor="end"
              className="fill-soft text-[13px]"
            >
              {limit} by its plate
            </text>
          </>
        )}
        {curves.map(({ name, starts }, i) => (
          <polyline
            key={name}
            points={starts
              .map((own) => `${x(own.use).toFixed(1)},${y(own.startsPerHour).toFixed(1)}`)
              .join(" ")}
            fill="none"
            className={i === 0 ? "stroke-water" : "stroke-pump"}
            strokeWidth={2.5}
            strokeDasharray={i === 0 ? undefined : "9 3"}
          />
        ))}
        <text x={LEFT - 4} y={TOP + 6} textAnchor="end" className="fill-soft text-[13px]">
          {Math.round(highest)}
        </text>
        <text x={LEFT - 4} y={HIGH - FOOT + 4} textAnchor="end" className="fill-soft text-[13px]">
          0
        </text>
        <text x={WIDE - RIGHT} y={HIGH - 10} textAnchor="end" className="fill-soft text-[13px]">
          {format(most, "flow", units)} drawn
        </text>
        <text x={LEFT} y={HIGH - 10} className="fill-soft text-[13px]">
          starts an hour
        </text>
      </svg>
      <figcaption className="text-[13px] text-soft">
        Solid: {curves[0]?.name}. Broken: {curves[1]?.name}. Where a line lies at nothing, the pump
        runs on for as long as the water does.
      </figcaption>
    </figure>
  );
}
