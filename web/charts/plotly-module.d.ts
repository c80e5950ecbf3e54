declare module "plotly.js-basic-dist-min" {
  const plotly: unknown;
  export default plotly;
}
