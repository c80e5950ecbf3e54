import { FITTING_STOCK } from "#core/catalogue/fittings.ts";
import { FAMILIES, PIPE_STOCK, type PipeFamily } from "#core/catalogue/pipes.ts";
import { stockName } from "#words/items.ts";
import type { SearchOption } from "../ui/SearchField.tsx";

/** Every size in stock, family by family. */
export const STOCK_OPTIONS: readonly SearchOption[] = (
  Object.keys(FAMILIES) as PipeFamily[]
).flatMap((family) =>
  PIPE_STOCK.filter((stock) => stock.family === family).map(({ id }) => ({
    value: id,
    name: stockName(id),
    group: FAMILIES[family].label,
  })),
);

/** … and before them the size of the pipe a fitting stands in. */
export const AS_PIPE = "as pipe";
export const FITTING_SIZES: readonly SearchOption[] = [
  { value: "", name: AS_PIPE, group: "Usually" },
  ...STOCK_OPTIONS,
];

const GROUPS = {
  bend: "Bends",
  tee: "Tees and wyes",
  valve: "Valves",
  check: "Check and foot valves",
  coupling: "Couplings and reducers",
  strainer: "Strainers",
  entrance: "Entrances",
} as const;

export const FITTING_OPTIONS: readonly SearchOption[] = FITTING_STOCK.map(
  ({ id, label, group }) => ({ value: id, name: label, group: GROUPS[group] }),
);
