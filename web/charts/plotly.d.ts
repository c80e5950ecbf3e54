// The little of the chart library's API that is used here.
export type Data = Record<string, unknown>;
export type Layout = Record<string, unknown>;
export type Config = Record<string, unknown>;
export type PlotlyHTMLElement = HTMLElement;
