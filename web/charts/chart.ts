import type { Inks } from "./inks.ts";
import type { Data, Layout } from "./plotly.ts";

/** A chart as it is asked for: numbers in the units they are shown in, colours by the page's names for them. */
export interface ChartSpec {
  x: Axis;
  y: Axis;
  /** at the right, of what says it is read there */
  right?: Axis;
  /** one drawn over the other */
  drawn: readonly (Curve | Marks)[];
  /** areas behind what is drawn */
  shades?: readonly Shade[];
  /** straight lines across it */
  levels?: readonly Level[];
  /** what tells them apart stands over the chart, unless all is said beside it */
  legend?: false;
}

export interface Axis {
  title: string;
  range?: readonly [number, number];
  /** grows downwards, as depth does */
  down?: boolean;
  /** days, as "2026-05-02" */
  days?: boolean;
  /** moments in ms since 1970, as the clock of this place shows them */
  clock?: boolean;
  /** not from nothing, but from where its values begin */
  free?: boolean;
  /** without its numbers */
  bare?: boolean;
}

export interface Point {
  x: number | string;
  /** none leaves a gap */
  y: number | null;
  /** what is said of it under the pointer */
  says?: string;
  /** half of what it may be out by */
  doubt?: number;
  /** by which it is taken */
  id?: string;
}

interface Named {
  name: string;
  points: readonly Point[];
  ink: keyof Inks;
  /** not in the legend */
  unnamed?: boolean;
  /** read at the right */
  right?: boolean;
}

export interface Curve extends Named {
  as: "curve";
  width?: number;
  dash?: "dash" | "dot";
  /** how dark what lies between it and the curve before is; of a closed one what lies within */
  fill?: number;
  closed?: boolean;
  /** goes along, then up */
  stepped?: boolean;
}

export interface Marks extends Named {
  as: "marks";
  shape?: "round" | "diamond" | "cross";
  /** each of its own size where there are several */
  size?: number | readonly number[];
  hollow?: boolean | readonly boolean[];
  faint?: boolean;
}

export interface Shade {
  x?: readonly [number, number];
  y?: readonly [number, number];
  ink: keyof Inks;
  opacity: number;
  outlined?: boolean;
  /** stands at its foot */
  name?: string;
}

export interface Level {
  x?: number;
  y?: number;
  right?: boolean;
  ink: keyof Inks;
  dash?: "dash" | "dot";
  name?: string;
}

/** A chart as the chart library takes it. */
export function plotOf(spec: ChartSpec, ink: Inks): { data: Data[]; layout: Layout } {
  const { x, y, right, drawn, shades = [], levels = [], legend = true } = spec;
  const named = drawn.filter(({ unnamed }) => !unnamed);
  const hasLegend = legend && named.length > 1;
  return {
    data: drawn.map((own) => (own.as === "curve" ? curveOf(own, ink) : marksOf(own, ink))),
    layout: {
      margin: {
        ...{ l: y.bare ? 12 : 56, r: right ? 56 : 12 },
        ...{ t: hasLegend ? 30 : 10, b: x.bare ? 6 : x.title ? 44 : 28 },
      },
      paper_bgcolor: "rgba(0,0,0,0)",
      plot_bgcolor: "rgba(0,0,0,0)",
      font: { family: "Barlow, sans-serif", color: ink.ink, size: 13 },
      showlegend: hasLegend,
      legend: {
        ...{ orientation: "h", traceorder: "normal" },
        ...{ x: 0, y: 1.01, yanchor: "bottom", font: { size: 12 } },
      },
      hoverlabel: { bgcolor: ink.paper, bordercolor: ink.ink, font: { color: ink.ink, size: 14 } },
      hovermode: "closest",
      dragmode: false,
      xaxis: axisOf(x, ink),
      yaxis: axisOf(y, ink),
      ...(right && {
        yaxis2: {
          ...axisOf(right, ink),
          tickmode: "auto",
          side: "right",
          overlaying: "y",
          showgrid: false,
        },
      }),
      shapes: [
        ...shades.map((own) => shadeOf(own, ink)),
        ...levels.map((own) => levelOf(own, ink)),
      ],
      annotations: [
        ...shades.flatMap((own) => shadeName(own, ink)),
        ...levels.flatMap((own) => levelName(own, ink)),
      ],
    },
  };
}

function axisOf({ title, range, down, days, clock, free, bare }: Axis, ink: Inks): Layout {
  return {
    title: { text: title, font: { size: 14 }, standoff: 6 },
    gridcolor: ink.rule,
    linecolor: ink.ink,
    zeroline: false,
    tickfont: { size: 13 },
    fixedrange: true,
    showticklabels: !bare,
    ...(days
      ? { type: "date", hoverformat: "%Y-%m-%d", tickformat: "%Y-%m" }
      : clock
        ? { type: "date", nticks: 6 }
        : !free && { rangemode: "tozero" }),
    ...(range && { range: down ? [range[1], range[0]] : [...range] }),
    ...(down && !range && { autorange: "reversed" }),
  };
}

function pointsOf({ name, points, ink: own, unnamed, right }: Named, ink: Inks): Data {
  const says = points.some((point) => point.says !== undefined);
  const doubts = points.some(({ doubt }) => doubt !== undefined);
  return {
    type: "scatter",
    name,
    x: points.map((point) => point.x),
    y: points.map((point) => point.y),
    showlegend: !unnamed,
    ...(right && { yaxis: "y2" }),
    ...(says
      ? {
          text: points.map((point) => point.says ?? ""),
          hovertemplate: `${name}<br>%{text}<extra></extra>`,
        }
      : { hoverinfo: "skip", hovertemplate: null }),
    ...(doubts && {
      error_y: {
        ...{ type: "data", array: points.map(({ doubt = 0 }) => doubt) },
        ...{ color: ink[own], thickness: 2, width: 5 },
      },
    }),
    ...(points.some(({ id }) => id !== undefined) && { customdata: points.map(({ id }) => id) }),
  };
}

function curveOf(own: Curve, ink: Inks): Data {
  const { width = 2.5, dash = "solid", fill, closed, stepped } = own;
  return {
    ...pointsOf(own, ink),
    mode: "lines",
    line: { color: ink[own.ink], width, dash, simplify: false, ...(stepped && { shape: "hv" }) },
    ...(fill !== undefined && {
      fill: closed ? "toself" : "tonexty",
      fillcolor: alpha(ink[own.ink], fill),
    }),
  };
}

const SHAPES = { round: "circle", diamond: "diamond", cross: "cross-thin" } as const;

function marksOf(own: Marks, ink: Inks): Data {
  const { shape = "round", size = 10, hollow = false, faint } = own;
  const list = <T>(value: T | readonly T[]): T | T[] =>
    (Array.isArray(value) ? [...value] : value) as T | T[];
  const isHollow = (one: boolean) => `${SHAPES[shape]}${one && shape !== "round" ? "-open" : ""}`;
  return {
    ...pointsOf(own, ink),
    mode: "markers",
    marker: {
      size: list(size),
      symbol: Array.isArray(hollow) ? hollow.map(isHollow) : isHollow(hollow as boolean),
      color: hollow === true && shape === "round" ? ink.paper : ink[own.ink],
      // A cross is all edge; a round mark stands off from the curve it is on.
      line:
        shape === "cross" || hollow === true
          ? { color: ink[own.ink], width: 2.5 }
          : { color: ink.paper, width: 1 },
      ...(faint && { opacity: 0.45 }),
    },
  };
}

function shadeOf({ x, y, ink: own, opacity, outlined }: Shade, ink: Inks): Data {
  return {
    type: "rect",
    ...(x ? { xref: "x", x0: x[0], x1: x[1] } : { xref: "paper", x0: 0, x1: 1 }),
    ...(y ? { yref: "y", y0: y[0], y1: y[1] } : { yref: "paper", y0: 0, y1: 1 }),
    fillcolor: alpha(ink[own], opacity),
    line: outlined ? { color: ink[own], width: 1.2, dash: "dot" } : { width: 0 },
    ...(!outlined && { layer: "below" }),
  };
}

function shadeName({ x, name, ink: own }: Shade, ink: Inks): Data[] {
  if (!x || name === undefined) return [];
  return [
    {
      ...{ xref: "x", yref: "paper", x: (x[0] + x[1]) / 2, y: 0.01, yanchor: "bottom" },
      ...{ text: name, showarrow: false, font: { size: 12, color: ink[own] } },
    },
  ];
}

function levelOf({ x, y, right, ink: own, dash = "dot" }: Level, ink: Inks): Data {
  return {
    type: "line",
    ...(x === undefined ? { xref: "paper", x0: 0, x1: 1 } : { xref: "x", x0: x, x1: x }),
    ...(y === undefined
      ? { yref: "paper", y0: 0, y1: 1 }
      : { yref: right ? "y2" : "y", y0: y, y1: y }),
    line: { color: ink[own], width: 1.5, dash },
  };
}

function levelName({ x, y, right, name, ink: own }: Level, ink: Inks): Data[] {
  if (name === undefined) return [];
  const font = { size: 12, color: ink[own] };
  const where =
    y === undefined
      ? { xref: "x", x, yref: "paper", y: 1, yanchor: "top", xanchor: "left" }
      : { xref: "paper", x: 1, xanchor: "right", yref: right ? "y2" : "y", y, yanchor: "bottom" };
  return [{ ...where, text: name, showarrow: false, font }];
}

function alpha(hex: string, opacity: number): string {
  const value = Number.parseInt(hex.slice(1), 16);
  return `rgba(${value >> 16}, ${(value >> 8) & 255}, ${value & 255}, ${opacity})`;
}

/** So many equal steps from one value to another, both with it. */
export function steps(from: number, to: number, count: number): number[] {
  return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
}
