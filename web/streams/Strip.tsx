import { useMemo } from "react";
import { Chart } from "../charts/Chart.tsx";
import type { ChartSpec } from "../charts/chart.ts";

/** One channel over time. It is drawn again as often as the view moves, and keeps up with a hand. */
export function Strip({
  label,
  factor,
  data,
  from,
  to,
  last,
}: {
  label: string;
  /** values are shown divided by it */
  factor: number;
  /** as many as can be told apart, no more */
  data: { times: number[]; values: (number | null)[] };
  /** s since 1970 */
  from: number;
  to: number;
  /** the lowest of the strips: the one that shows the time for all */
  last: boolean;
}) {
  const spec = useMemo(
    (): ChartSpec => ({
      x: { title: "", clock: true, bare: !last, range: [inPlace(from), inPlace(to)] },
      y: { title: "", free: true },
      drawn: [
        {
          as: "curve",
          name: label,
          ink: "water",
          width: 1.5,
          points: data.times.map((time, i) => {
            const value = data.values[i];
            return { x: inPlace(time), y: typeof value === "number" ? value / factor : null };
          }),
        },
      ],
    }),
    [label, factor, data, from, to, last],
  );
  return (
    <figure className="min-w-0">
      <figcaption className="pl-2 text-[13px] text-soft">{label}</figcaption>
      <div className={last ? "h-32" : "h-27"}>
        <Chart {...{ label, spec }} moving />
      </div>
    </figure>
  );
}

/** ms since 1970 that show on a clock of the first meridian what this place's shows at a moment: charts know no other. */
const inPlace = (seconds: number) =>
  1000 * seconds - 60_000 * new Date(1000 * seconds).getTimezoneOffset();
