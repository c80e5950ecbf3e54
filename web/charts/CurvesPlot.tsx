import { useEffect, useRef, useState } from "react";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { SHOWN, shownUnit, toUnit } from "#contract/units/units.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { pumpCurve } from "#core/pump/curve.ts";
import { useSettings } from "../state/settings.ts";
import { inks } from "./inks.ts";
import { type Data, loadPlotly, useResized } from "./plot.ts";

const DASHES = ["solid", "dash", "dot"];
const STEPS = 80;

/** Curves of a few pumps over each other, told apart by dash as well as colour. */
export function CurvesPlot({ pumps }: { pumps: readonly PumpDocument[] }) {
  const node = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState(false);
  const { units, theme } = useSettings();
  useEffect(() => {
    const element = node.current;
    if (!element) return;
    let gone = false;
    const ink = inks();
    const colours = [ink.water, ink.pump, ink.signal];
    const data = pumps.map((pump, i): Data => {
      const curve = pumpCurve(pump);
      const flows = Array.from(
        { length: STEPS + 1 },
        (_, n) => curve.firstFlow + ((curve.lastFlow - curve.firstFlow) * n) / STEPS,
      );
      return {
        ...{ type: "scatter", mode: "lines", name: `${pump.maker} ${pump.model}` },
        x: flows.map((flow) => toUnit(flow, shownUnit("flow", units))),
        y: flows.map((flow) => toUnit(evaluate(curve.head, flow), shownUnit("head", units))),
        line: { color: colours[i], width: 2.5, dash: DASHES[i] },
      };
    });
    const axis = (text: string) => ({
      title: { text, standoff: 6 },
      gridcolor: ink.rule,
      rangemode: "tozero",
    });
    const layout = {
      margin: { l: 52, r: 8, t: 8, b: 42 },
      paper_bgcolor: "rgba(0,0,0,0)",
      plot_bgcolor: "rgba(0,0,0,0)",
      font: { family: "Barlow, sans-serif", size: 13, color: ink.ink },
      xaxis: axis(`Flow, ${SHOWN[units].flow}`),
      yaxis: axis(`Head, ${SHOWN[units].head}`),
      legend: { orientation: "h", y: 1.12 },
      dragmode: false,
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
  }, [pumps, units, theme]);
  useResized(node);
  if (trouble) {
    return <p className="p-4 text-signal">The chart could not be loaded. Reload the page.</p>;
  }
  return (
    <div
      ref={node}
      role="img"
      aria-label={`Curves of ${pumps.map(({ maker, model }) => `${maker} ${model}`).join(", ")}`}
      className="h-full w-full overflow-hidden"
    />
  );
}
