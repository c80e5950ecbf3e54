import type { Config, Data, Layout, PlotlyHTMLElement } from "./plotly.d.ts";

export type { Data, Layout } from "./plotly.d.ts";

interface Plotly {
  react(node: HTMLElement, data: Data[], layout: Layout, config: Config): Promise<PlotlyHTMLElement>;
  purge(node: HTMLElement): void;
  Plots: { resize(node: HTMLElement): Promise<void> };
}

let loading: Promise<Plotly> | undefined;

/** The chart library, fetched when the first chart is drawn. */
export function loadPlotly(): Promise<Plotly> {
  loading ??= import("plotly.js-basic-dist-min").then((module) => module.default as unknown as Plotly);
  return loading;
}
