import plotlyUrl from "plotly.js-basic-dist-min/plotly-basic.min.js?url";

// The little of the chart library's API that is used here.
export type Data = Record<string, unknown>;
export type Layout = Record<string, unknown>;

export interface Plotly {
  react(node: HTMLElement, data: Data[], layout: Layout, config: Data): Promise<unknown>;
  purge(node: HTMLElement): void;
  toImage(node: HTMLElement, how: Data): Promise<string>;
  Plots: { resize(node: HTMLElement): Promise<unknown> };
}

const MAP_STYLE = "9f215cf04c5486422605d13261cb87401f4e7763b6296af81e98efbc0130da53";

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
    // A style element of the map it also could draw is not written where one of that name is there.
    const map = document.createElement("style");
    map.id = MAP_STYLE;
    document.head.append(map, script);
  });
  return loading;
}

/** A chart as a drawing for paper; nothing where none is drawn. */
export async function chartSvg(around: HTMLElement | null): Promise<string | undefined> {
  const drawn = around?.querySelector<HTMLElement>(".js-plotly-plot");
  if (!drawn) return undefined;
  const plotly = await loadPlotly();
  const { clientWidth: width, clientHeight: height } = drawn;
  const url = await plotly.toImage(drawn, { format: "svg", width, height });
  return decodeURIComponent(url.slice(url.indexOf(",") + 1));
}
