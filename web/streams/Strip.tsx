import { useEffect, useRef } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { inks } from "../charts/inks.ts";

/** One channel over time. It is drawn again as often as the view moves, and keeps up with a hand. */
export function Strip({
  label,
  factor,
  data,
  from,
  to,
  last,
  theme,
}: {
  label: string;
  /** values are shown divided by it */
  factor: number;
  data: { times: number[]; values: (number | null)[] };
  /** s since 1970 */
  from: number;
  to: number;
  /** the lowest of the strips: the one that shows the time for all */
  last: boolean;
  theme: string;
}) {
  const node = useRef<HTMLDivElement>(null);
  const plot = useRef<uPlot | undefined>(undefined);
  const latest = useRef({ from, to });
  latest.current = { from, to };
  const height = last ? HEIGHT + 26 : HEIGHT;
  useEffect(() => {
    const element = node.current;
    if (!element) return;
    const ink = inks();
    const axis = {
      stroke: ink.ink,
      grid: { stroke: ink.rule, width: 1 },
      ticks: { stroke: ink.rule },
    };
    const made = new uPlot(
      {
        width: element.clientWidth,
        height,
        legend: { show: false },
        cursor: { show: false },
        scales: { x: { time: true, range: () => [latest.current.from, latest.current.to] } },
        axes: [
          { ...axis, font: FONT, ...(last ? { values: clock } : { size: 8, values: noWords }) },
          { ...axis, font: FONT, size: 58 },
        ],
        series: [{}, { stroke: ink.water, width: 1.5, spanGaps: false, points: { show: false } }],
      },
      [[], []],
      element,
    );
    plot.current = made;
    const observer = new ResizeObserver(() => made.setSize({ width: element.clientWidth, height }));
    observer.observe(element);
    return () => {
      observer.disconnect();
      made.destroy();
      plot.current = undefined;
    };
    // The theme is read from the page's colours.
  }, [theme, height, last]);
  useEffect(() => {
    const shown = data.values.map((value) => (value === null ? null : value / factor));
    plot.current?.setData([data.times, shown]);
  }, [data, factor, from, to, theme, last]);
  return (
    <figure className="min-w-0">
      <figcaption className="pl-2 text-[13px] text-soft">{label}</figcaption>
      <div ref={node} role="img" aria-label={label} className="w-full overflow-hidden" />
    </figure>
  );
}

const noWords = (_: uPlot, splits: number[]) => splits.map(() => "");

/** Times of the day, with seconds where a few minutes fill the width. */
function clock({ scales }: uPlot, splits: number[]): string[] {
  const { min = 0, max = 0 } = scales.x ?? {};
  const seconds = (max ?? 0) - (min ?? 0) < 600;
  return splits.map((at) =>
    new Date(1000 * at).toLocaleTimeString("en-GB", {
      hour: "2-digit",
      minute: "2-digit",
      ...(seconds && { second: "2-digit" }),
    }),
  );
}

const HEIGHT = 104;
const FONT = "13px Barlow, sans-serif";
