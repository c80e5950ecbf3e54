import { useEffect, useRef, useState } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { LIMITS } from "#core/check/check.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { WATER_LEVELS, type WaterLevel } from "#core/line/path.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { bestEfficiencyFlow, type PumpCurve } from "#core/pump/curve.ts";
import { type Pump, toleranceOf } from "#core/pump/pump.ts";
import { waterOf } from "#words/items.ts";
import { useSettings } from "../state/settings.ts";
import { type Inks, inks } from "./inks.ts";
import { type Data, type Layout, loadPlotly, useResized } from "./plot.ts";

/** ms after the last change before a curve that is there is drawn again: longer than from key to key */
const AT_REST = 900;

/** A measured point with its standard uncertainties, SI. */
export interface MeasuredPoint {
  name: string;
  flow: number;
  head: number;
  flowUncertainty: number;
  headUncertainty: number;
  /** between their errors */
  correlation?: number;
  now?: boolean;
}

/** A pump as its readings have it: its heads over the published ones, and where it was read. */
export interface AsInstalled {
  strength: { value: number; standardUncertainty: number };
  /** m³/s */
  from: number;
  to: number;
}

interface Props {
  /** the pump, with its curve at the speed it runs; without it the line's curve is drawn alone */
  of?: { pump: Pump; curve: PumpCurve } | undefined;
  /** other lines of the pump's own sheet */
  others?: readonly { name: string; points: { flow: number; head: number }[] }[] | undefined;
  /** the line the pump works on, and which of its pumps this is; without it only the pump's own curve is drawn */
  on?: { solution: Solution; place: number } | undefined;
  measured?: readonly MeasuredPoint[];
  installed?: AsInstalled | undefined;
  /** where the duty likely lies */
  band?: Band | undefined;
  label: string;
}

/** The same list at every drawing, so that what has none is not drawn anew. */
const NONE: readonly never[] = [];

/**
 * The curve sheet: what the pump gives, what the line asks from low to high water, where they meet, the
 * region to run in, and what was measured with its doubt.
 */
export function CurvePlot({
  of,
  others = NONE,
  on,
  measured = NONE,
  installed,
  band,
  label,
}: Props) {
  const node = useRef<HTMLDivElement>(null);
  const [trouble, setTrouble] = useState(false);
  const { units, theme } = useSettings();

  useEffect(() => {
    const element = node.current;
    if (!element) return;
    let gone = false;
    const ink = inks();
    const { data, layout } = drawing(
      { of, others, on, measured, installed, band, label },
      units,
      ink,
    );
    const draw = () =>
      loadPlotly().then(
        (plotly) => {
          if (gone) return;
          element.ariaBusy = null;
          void plotly.react(element, data, layout, {
            displayModeBar: false,
            scrollZoom: false,
            doubleClick: "reset",
          });
        },
        () => setTrouble(true),
      );
    // Drawn once it is drawn again when typing rests: it takes longer than a key may.
    const isDrawn = element.classList.contains("js-plotly-plot");
    if (isDrawn) element.ariaBusy = "true";
    const timer = setTimeout(() => void draw(), isDrawn ? AT_REST : 0);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // The theme is read from the page's colours.
  }, [of, others, on, measured, installed, band, label, units, theme]);

  useResized(node);

  if (trouble)
    return <p className="p-4 text-signal">The chart could not be loaded. Reload the page.</p>;
  return (
    <div
      ref={node}
      role="img"
      aria-label={label}
      className="h-full min-h-64 w-full overflow-hidden"
    />
  );
}

function drawing(
  { of, others = NONE, on, measured = NONE, installed, band }: Props,
  units: UnitSystem,
  ink: Inks,
) {
  const q = (si: number) => toUnit(si, shownUnit("flow", units));
  const h = (si: number) => toUnit(si, shownUnit("head", units));
  const data: Data[] = [];
  const asked = on?.solution.cases.normal.running?.duty;
  const drawn = others.flatMap(({ points }) => points);
  const mostFlow = Math.max(
    of?.curve.lastFlow ?? 1.6 * (asked?.flow ?? 0),
    ...drawn.map(({ flow }) => flow),
  );
  const hover = (flow: number, head: number) =>
    `${format(flow, "flow", units)} at ${format(head, "head", units)}`;
  const trace = (name: string, points: { flow: number; head: number }[], extra: Data): Data => ({
    type: "scatter",
    mode: "lines",
    name,
    x: points.map((p) => q(p.flow)),
    y: points.map((p) => h(p.head)),
    text: points.map((p) => hover(p.flow, p.head)),
    hovertemplate: `${name}<br>%{text}<extra></extra>`,
    ...extra,
  });
  if (of) {
    const { pump, curve } = of;
    const flows = steps(curve.firstFlow, curve.lastFlow, 240);
    const pumpPoints = flows.map((flow) => ({ flow, head: evaluate(curve.head, flow) }));
    const tolerance = toleranceOf(pump);
    const edge = (sign: number) =>
      pumpPoints.map(({ flow, head }) => ({
        flow: flow * (1 + sign * tolerance.flow),
        head: head * (1 + sign * tolerance.head),
      }));
    data.push(
      trace("Tolerance", edge(-1), {
        line: { width: 0, simplify: false },
        hoverinfo: "skip",
        hovertemplate: null,
        showlegend: false,
      }),
      trace(
        pump.tolerance === "small" ? "Tolerance, small pump" : `Tolerance ${pump.tolerance}`,
        edge(1),
        {
          line: { width: 0, simplify: false },
          fill: "tonexty",
          fillcolor: alpha(ink.pump, 0.16),
          hoverinfo: "skip",
          hovertemplate: null,
        },
      ),
      trace("Pump", pumpPoints, { line: { color: ink.pump, width: 3.5, simplify: false } }),
    );
  }
  for (const { name, points } of others) {
    data.push(trace(name, points, { line: { color: ink.pump, width: 1.5, simplify: false } }));
  }
  if (on) {
    const { solution, place } = on;
    const { model, boundaries } = solution;
    const names = waterOf(solution.line.source);
    const last = mostFlow * 1.04;
    const lineAt = (at: WaterLevel) => {
      const systemHead = model.systemHead(boundaries[at], solution.cases[at].states, place);
      return steps(0, last, 80).flatMap((flow) => {
        const head = systemHead(flow);
        return head === undefined ? [] : [{ flow, head }];
      });
    };
    data.push(
      trace(`Line, ${names.low}`, lineAt("low"), {
        line: { color: ink.water, width: 1, dash: "dot", simplify: false },
        showlegend: false,
      }),
      trace(`Line, ${names.high}`, lineAt("high"), {
        line: { color: ink.water, width: 1, dash: "dot", simplify: false },
        fill: "tonexty",
        fillcolor: alpha(ink.water, 0.14),
        showlegend: false,
      }),
      trace("Line", lineAt("normal"), { line: { color: ink.water, width: 3, simplify: false } }),
    );
    const duties = WATER_LEVELS.flatMap((at) => {
      const outcome = solution.cases[at].outcomes[place];
      const duty = outcome && settledDuty(outcome);
      return duty ? [{ at, ...duty }] : [];
    });
    data.push({
      type: "scatter",
      mode: "markers",
      name: of ? "Duty" : "Asked",
      x: duties.map((d) => q(d.flow)),
      y: duties.map((d) => h(d.head)),
      text: duties.map((d) => `${names[d.at]}<br>${hover(d.flow, d.head)}`),
      hovertemplate: `${of ? "Duty" : "Asked"} at %{text}<extra></extra>`,
      marker: {
        size: duties.map((d) => (d.at === "normal" ? 13 : 8)),
        color: ink.paper,
        line: { color: ink.ink, width: 2.5 },
      },
    });
  }
  if (of && installed) {
    const { strength, from, to } = installed;
    const flows = steps(Math.max(from, of.curve.firstFlow), Math.min(to, of.curve.lastFlow), 60);
    const heads = (factor: number) =>
      flows.map((flow) => ({ flow, head: factor * evaluate(of.curve.head, flow) }));
    const spread = COVERAGE * strength.standardUncertainty;
    const edge = { line: { width: 0, simplify: false }, hoverinfo: "skip", hovertemplate: null };
    data.push(
      trace("As measured, low", heads(strength.value - spread), { ...edge, showlegend: false }),
      trace("As measured, high", heads(strength.value + spread), {
        ...edge,
        fill: "tonexty",
        fillcolor: alpha(ink.signal, 0.2),
        showlegend: false,
      }),
      trace("This pump as measured", heads(strength.value), {
        line: { color: ink.signal, width: 2, dash: "dash", simplify: false },
      }),
    );
  }
  if (measured.length > 0) {
    for (const point of measured) {
      const edge = ellipse(point);
      data.push({
        type: "scatter",
        mode: "lines",
        x: edge.map((p) => q(p.flow)),
        y: edge.map((p) => h(p.head)),
        line: { color: ink.signal, width: point.now ? 2 : 1.2, simplify: false },
        fill: "toself",
        fillcolor: alpha(ink.signal, point.now ? 0.16 : 0.07),
        hoverinfo: "skip",
        showlegend: false,
      });
    }
    data.push({
      type: "scatter",
      mode: "markers",
      name: "Measured",
      x: measured.map((m) => q(m.flow)),
      y: measured.map((m) => h(m.head)),
      text: measured.map((m) => `${m.name}<br>${hover(m.flow, m.head)}`),
      hovertemplate: "Measured: %{text}<extra></extra>",
      marker: {
        size: measured.map((m) => (m.now ? 13 : 10)),
        symbol: measured.map((m) => (m.now ? "diamond" : "diamond-open")),
        color: ink.signal,
      },
    });
  }
  const region = of && regionOf(of.curve);
  const topHead = Math.max(
    of ? Math.max(...of.curve.head.y) : 1.5 * Math.max(asked?.head ?? 0, 1),
    ...drawn.map(({ head }) => head),
  );
  const axis = (title: string) => ({
    title: { text: title, font: { size: 14 }, standoff: 6 },
    gridcolor: ink.rule,
    linecolor: ink.ink,
    zeroline: false,
    tickfont: { size: 13 },
    rangemode: "tozero",
    fixedrange: true,
  });
  const layout: Layout = {
    margin: { l: 52, r: 12, t: 30, b: 44 },
    paper_bgcolor: "rgba(0,0,0,0)",
    plot_bgcolor: "rgba(0,0,0,0)",
    font: { family: "Barlow, sans-serif", color: ink.ink, size: 13 },
    showlegend: true,
    legend: { orientation: "h", x: 0, y: 1.01, yanchor: "bottom", font: { size: 12 } },
    hoverlabel: { bgcolor: ink.paper, bordercolor: ink.ink, font: { color: ink.ink, size: 14 } },
    hovermode: "closest",
    xaxis: { ...axis(`Flow, ${SHOWN[units].flow}`), range: [0, q(mostFlow * 1.12)] },
    yaxis: { ...axis(`Total head, ${SHOWN[units].head}`), range: [0, h(topHead * 1.12)] },
    shapes: [
      ...(region
        ? [
            {
              type: "rect",
              xref: "x",
              yref: "paper",
              x0: q(region.from),
              x1: q(region.to),
              y0: 0,
              y1: 1,
              fillcolor: alpha(ink.soft, 0.09),
              line: { width: 0 },
              layer: "below",
            },
          ]
        : []),
      ...(band
        ? [
            {
              type: "rect",
              x0: q(band.flow.low),
              x1: q(band.flow.high),
              y0: h(band.head.low),
              y1: h(band.head.high),
              line: { color: ink.ink, width: 1.2, dash: "dot" },
              fillcolor: alpha(ink.ink, 0.06),
            },
          ]
        : []),
    ],
    annotations: region
      ? [
          {
            xref: "x",
            yref: "paper",
            x: q((region.from + region.to) / 2),
            y: 0.01,
            yanchor: "bottom",
            text: region.basis === "power" ? "best region" : "best region (guess)",
            showarrow: false,
            font: { size: 12, color: ink.soft },
          },
        ]
      : [],
  };
  return { data, layout };
}

/** Where nineteen of twenty readings of flow and head together would lie, to first order. */
function ellipse({ flow, head, flowUncertainty, headUncertainty, correlation = 0 }: MeasuredPoint) {
  const along = Math.sqrt(1 - Math.min(correlation ** 2, 1));
  return steps(0, 2 * Math.PI, 36).map((angle) => {
    const [x, y] = [Math.cos(angle), Math.sin(angle)];
    return {
      flow: flow + BOTH_COVERAGE * flowUncertainty * x,
      head: head + BOTH_COVERAGE * headUncertainty * (correlation * x + along * y),
    };
  });
}
/** √χ² of two degrees of freedom at 95 %. */
const BOTH_COVERAGE = 2.448;

/** The flows a pump is best run at. */
function regionOf(curve: PumpCurve) {
  const { flow, basis } = bestEfficiencyFlow(curve);
  const to = Math.min(flow * LIMITS.regionHigh, curve.lastFlow);
  return { from: flow * LIMITS.regionLow, to, basis };
}

function steps(from: number, to: number, count: number): number[] {
  return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
}

function alpha(hex: string, opacity: number): string {
  const value = Number.parseInt(hex.slice(1), 16);
  return `rgba(${value >> 16}, ${(value >> 8) & 255}, ${value & 255}, ${opacity})`;
}
