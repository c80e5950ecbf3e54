import plotlyUrl from "plotly.js-basic-dist-min/plotly-basic.min.js?url";

// The little of the chart library's API that is used here.
export type Data = Record<string, unknown>;
export type Layout = Record<string, unknown>;

interface Plotly {
  react(node: HTMLElement, data: Data[], layout: Layout, config: Data): Promise<unknown>;
  purge(node: HTMLElement): void;
  Plots: { resize(node: HTMLElement): Promise<unknown> };
}

let loading: Promise<Plotly> | undefined;

/**
 * The chart library, fetched when the first chart is drawn. It comes minified; taking its file as it is
 * instead of bundling it again saves seconds of every build.
 */
export function loadPlotly(): Promise<Plotly> {
  loading ??= new Promise((resolve, reject) => {
    const script = document.createElement("script");
    script.src = plotlyUrl;
    script.onload = () => resolve((globalThis as unknown as { Plotly: Plotly }).Plotly);
    script.onerror = () => {
      loading = undefined;
      reject(new Error("The chart library could not be loaded."));
    };
    document.head.append(script);
  });
  return loading;
}
