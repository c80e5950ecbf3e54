import type { FittingStock } from "#core/catalogue/fittings.ts";
import { FAMILIES, type PipeFamily, type PipeStock } from "#core/catalogue/pipes.ts";

/** The sizes and fittings a job file can name, as the last sections of its documentation. */
export function itemLists(pipes: readonly PipeStock[], fittings: readonly FittingStock[]): string {
  const families = (Object.keys(FAMILIES) as PipeFamily[]).map((family) => {
    const ids = pipes.filter((pipe) => pipe.family === family).map((pipe) => `\`${pipe.id}\``);
    return `- ${FAMILIES[family].label}: ${ids.join(", ")}`;
  });
  const rows = fittings.map(({ id, label, resistance, source }) => {
    return `| \`${id}\` | ${label} | ${inWords(resistance)} | ${source} |`;
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

function inWords(resistance: FittingStock["resistance"]): string {
  switch (resistance.kind) {
    case "diameters":
      return `L/D ${resistance.diameters}`;
    case "coefficient":
      return `K ${resistance.k}`;
    case "throat":
      return `throat of ${resistance.boreRatio} bore`;
    case "taper":
      return `cone of ${resistance.angle}°`;
  }
}
