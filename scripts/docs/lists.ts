import type { FittingStock } from "#core/fitting/stock.ts";
import { FAMILIES, type PipeFamily, type PipeStock } from "#core/pipe/stock.ts";

/** The sizes and fittings a job file can name, as the last sections of its documentation. */
export function itemLists(pipes: readonly PipeStock[], fittings: readonly FittingStock[]): string {
  const families = (Object.keys(FAMILIES) as PipeFamily[]).map((family) => {
    const ids = pipes.filter((pipe) => pipe.family === family).map((pipe) => `\`${pipe.id}\``);
    return `- ${FAMILIES[family].label}: ${ids.join(", ")}`;
  });
  const rows = fittings.map(({ id, label, resistance, source }) => {
    const size =
      resistance.kind === "diameters"
        ? `L/D ${resistance.diameters}`
        : resistance.kind === "coefficient"
          ? `K ${resistance.k}`
          : `throat of ${resistance.boreRatio} bore`;
    return `| \`${id}\` | ${label} | ${size} | ${source} |`;
  });
  return [
    "## Sizes",
    "",
    ...families,
    "",
    "## Fittings",
    "",
    "| id | fitting | resistance | source |",
    "| --- | --- | --- | --- |",
    ...rows,
    "",
  ].join("\n");
}
