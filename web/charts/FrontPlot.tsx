import { useEffect, useRef, useState } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit } from "#contract/units/units.ts";
import type { Money } from "#core/selection/front.ts";
import type { TogetherFound, TogetherResult } from "#model/selection/together.ts";
import { useSettings } from "../state/settings.ts";
import { inks } from "./inks.ts";
import { type Data, loadPlotly, useResized } from "./plot.ts";

/** Flow against money: the front as a line of points to take, what it beats in grey. */
export function FrontPlot({
  value,
  money,
  nameOf,
  wanted,
  onTake,
}: {
  value: TogetherResult;
  money: Money;
  nameOf: (own: TogetherFound) => string;
  wanted: number | undefined;
  onTake: (own: TogetherFound) => void;
}) {
  const node = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState(false);
  const { units, theme } = useSettings();
  const taking = useRef(onTake);
  taking.current = onTake;
  const naming = useRef(nameOf);
  naming.current = nameOf;

  useEffect(() => {
    const element = node.current;
    if (!element) return;
    let gone = false;
    const ink = inks();
    const flow = (si: number) => toUnit(si, shownUnit("flow", units));
    const points = (name: string, all: readonly TogetherFound[], extra: Data): Data => ({
      ...{ type: "scatter", name },
      x: all.map((own) => own[money]),
      y: all.map((own) => flow(own.flow)),
      customdata: all.map((own) => [own.pump, own.stock]),
      text: all.map((own) => `${naming.current(own)}<br>${format(own.flow, "flow", units)}`),
      hovertemplate: "%{text}, %{x:.0f}<extra></extra>",
      ...extra,
    });
    const data = [
      points("Beaten by another", value.beaten, {
        mode: "markers",
        marker: { color: ink.soft, size: 5, opacity: 0.45 },
      }),
      points("Nothing beats", value.front, {
        mode: "lines+markers",
        line: { color: ink.water, width: 2, shape: "hv" },
        marker: { color: ink.water, size: 11, line: { color: ink.paper, width: 1.5 } },
      }),
    ];
    const axis = (title: string) => ({
      title: { text: title, standoff: 6 },
      gridcolor: ink.rule,
      zeroline: false,
      rangemode: "tozero",
    });
    const layout = {
      margin: { l: 52, r: 8, t: 8, b: 42 },
      paper_bgcolor: "rgba(0,0,0,0)",
      plot_bgcolor: "rgba(0,0,0,0)",
      font: { family: "Barlow, sans-serif", size: 13, color: ink.ink },
      xaxis: axis(money === "price" ? "Money to buy" : "Money a year"),
      yaxis: axis(`Flow, ${SHOWN[units].flow}`),
      showlegend: false,
      hovermode: "closest",
      dragmode: false,
      shapes:
        wanted === undefined
          ? []
          : [
              {
                ...{
                  type: "line",
                  xref: "paper",
                  x0: 0,
                  x1: 1,
                  y0: flow(wanted),
                  y1: flow(wanted),
                },
                line: { color: ink.signal, width: 1.5, dash: "dot" },
              },
            ],
    };
    loadPlotly().then(
      (plotly) => {
        if (gone) return;
        void plotly
          .react(element, data, layout, { displayModeBar: false, scrollZoom: false })
          .then(() => {
            const drawn = element as unknown as Clickable;
            drawn.removeAllListeners?.("plotly_click");
            drawn.on?.("plotly_click", ({ points: [first] }) => {
              const [pump, stock] = first?.customdata ?? [];
              const own = [...value.front, ...value.beaten].find(
                (each) => each.pump === pump && each.stock === stock,
              );
              if (own) taking.current(own);
            });
          });
      },
      () => setTrouble(true),
    );
    return () => {
      gone = true;
    };
    // The theme is read from the page's colours.
  }, [value, money, wanted, units, theme]);
  useResized(node);

  if (trouble) {
    return <p className="p-4 text-signal">The chart could not be loaded. Reload the page.</p>;
  }
  return (
    <div
      ref={node}
      role="img"
      aria-label="Flow against money, every pump in every size"
      className="h-full w-full overflow-hidden"
    />
  );
}

/** What the chart library adds to the element it draws in. */
interface Clickable {
  on?: (name: string, heard: (event: { points: { customdata?: string[] }[] }) => void) => void;
  removeAllListeners?: (name: string) => void;
}
