import { useEffect, useRef, useState } from "react";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import type { PumpYears } from "#model/measurement/years.ts";
import { useSettings } from "../state/settings.ts";
import { inks } from "./inks.ts";
import { type Data, loadPlotly, useResized } from "./plot.ts";

/** The strength of a pump over the years with its doubt, the straight line through it, and the limit. */
export function YearsPlot({ years, label }: { years: PumpYears; label: string }) {
  const node = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState(false);
  const { theme } = useSettings();
  useEffect(() => {
    const element = node.current;
    if (!element) return;
    let gone = false;
    const ink = inks();
    const rows = years.rows.flatMap(({ takenOn, title, today }) =>
      today ? [{ takenOn, title, today }] : [],
    );
    const spread = (own: { standardUncertainty: number }) =>
      100 * COVERAGE * own.standardUncertainty;
    const data: Data[] = [];
    const line = years.trend?.line;
    if (line) {
      const edge = (sign: 1 | -1): Data => ({
        ...{ type: "scatter", mode: "lines", hoverinfo: "skip", showlegend: false },
        x: line.map(({ on }) => on),
        y: line.map((own) => 100 * own.value + sign * spread(own)),
        line: { width: 0 },
      });
      data.push(edge(-1), { ...edge(1), fill: "tonexty", fillcolor: `${ink.water}26` });
      data.push({
        ...{ type: "scatter", mode: "lines", name: "Straight line", hoverinfo: "skip" },
        x: line.map(({ on }) => on),
        y: line.map(({ value }) => 100 * value),
        line: { color: ink.water, width: 2, dash: "dash" },
      });
    }
    data.push({
      ...{ type: "scatter", mode: "markers", name: "Measured" },
      x: rows.map(({ takenOn }) => takenOn),
      y: rows.map(({ today }) => 100 * today.value),
      text: rows.map(({ title }) => title),
      hovertemplate: "%{x}, %{text}: %{y:.1f} %<extra></extra>",
      error_y: {
        type: "data",
        array: rows.map(({ today }) => spread(today)),
        color: ink.signal,
        thickness: 2,
        width: 5,
      },
      marker: { color: ink.signal, size: 11, symbol: "diamond" },
    });
    const axis = { gridcolor: ink.rule, linecolor: ink.ink, zeroline: false, fixedrange: true };
    const layout = {
      margin: { l: 52, r: 12, t: 26, b: 36 },
      paper_bgcolor: "rgba(0,0,0,0)",
      plot_bgcolor: "rgba(0,0,0,0)",
      font: { family: "Barlow, sans-serif", color: ink.ink, size: 13 },
      showlegend: true,
      legend: { orientation: "h", x: 0, y: 1.01, yanchor: "bottom", font: { size: 12 } },
      xaxis: { ...axis, type: "date", hoverformat: "%Y-%m-%d", tickformat: "%Y-%m" },
      yaxis: { ...axis, title: { text: "% of the published heads", standoff: 6 } },
      shapes: [
        {
          ...{ type: "line", xref: "paper", x0: 0, x1: 1 },
          y0: 100 * years.limit,
          y1: 100 * years.limit,
          line: { color: ink.ink, width: 1.5, dash: "dot" },
        },
      ],
      annotations: [
        {
          ...{ xref: "paper", x: 1, xanchor: "right", y: 100 * years.limit, yanchor: "bottom" },
          ...{ text: "limit", showarrow: false },
          font: { size: 12, color: ink.ink },
        },
      ],
    };
    loadPlotly().then(
      (plotly) => {
        if (!gone) void plotly.react(element, data, layout, { displayModeBar: false });
      },
      () => setTrouble(true),
    );
    return () => {
      gone = true;
    };
    // The theme is read from the page's colours.
  }, [years, theme]);
  useResized(node);
  if (trouble)
    return <p className="p-4 text-signal">The chart could not be loaded. Reload the page.</p>;
  return <div ref={node} role="img" aria-label={label} className="h-full w-full overflow-hidden" />;
}
