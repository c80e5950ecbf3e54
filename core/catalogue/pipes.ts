import { HOSE_FAMILIES } from "./families/hose.ts";
import { METAL_FAMILIES } from "./families/metal.ts";
import { POLYETHYLENE_FAMILIES } from "./families/polyethylene.ts";
import { PVC_FAMILIES } from "./families/pvc.ts";
import type {
  FamilyFacts,
  FamilyTable,
  PipeAge,
  PipeFamily,
  PipeStock,
  SizeRow,
  Surface,
} from "./pipeTypes.ts";

export type { FamilyFacts, PipeAge, PipeFamily, PipeStock, Surface } from "./pipeTypes.ts";

/** Every family in the order they are offered. */
const TABLES: readonly FamilyTable[] = [
  ...PVC_FAMILIES.filter(({ family }) => family !== "thin-drain"),
  ...METAL_FAMILIES,
  ...POLYETHYLENE_FAMILIES,
  ...PVC_FAMILIES.filter(({ family }) => family === "thin-drain"),
  ...HOSE_FAMILIES,
];

export const FAMILIES = Object.fromEntries(
  TABLES.map(({ family, facts }) => [family, facts]),
) as Record<PipeFamily, FamilyFacts>;

/** Invented prices: so much per metre and square metre of bore; what is not named costs as plastic. */
const PRICE_PER_AREA: Partial<Record<PipeFamily, number>> = {
  "pvc-sch80": 2900,
  "steel-sch40": 5200,
  "steel-sch80": 7400,
  "copper-l": 21_000,
  "pe-sidr7": 2600,
  "pe4710-sidr7": 3100,
  "suction-hose": 4100,
  "lay-flat": 1500,
  "thin-drain": 700,
};

function inventedPrice(family: PipeFamily, bore: number): number {
  const rate = PRICE_PER_AREA[family] ?? 1900;
  return Math.round(100 * (0.6 + rate * bore * bore)) / 100;
}

function stockId(family: PipeFamily, nominal: string): string {
  return `${family}-${nominal.replace(/[ /]/g, "-").replace("-in", "in").replace("-mm", "mm")}`;
}

function stock({ family, facts }: FamilyTable, size: SizeRow): PipeStock {
  return {
    id: stockId(family, size.nominal),
    family,
    price: inventedPrice(family, size.bore),
    ...facts.surfaces[facts.usual],
    ...size,
  };
}

/** Every size in stock, each family from small to large. */
export const PIPE_STOCK: readonly PipeStock[] = TABLES.flatMap((table) =>
  table.sizes.map((size) => stock(table, size)),
);

/** The wall of a pipe at an age; as the family is usually found where none is said. */
export function surfaceOf({ family }: Pick<PipeStock, "family">, age?: PipeAge): Surface {
  const { surfaces, usual } = FAMILIES[family];
  return surfaces[age ?? usual];
}

const BY_ID = new Map(PIPE_STOCK.map((stock) => [stock.id, stock]));

export function findPipeStock(id: string): PipeStock | undefined {
  return BY_ID.get(id);
}

/** The next larger size of the same family, if one is stocked. */
export function nextSizeUp(stock: PipeStock): PipeStock | undefined {
  return PIPE_STOCK.filter((s) => s.family === stock.family && s.bore > stock.bore).sort(
    (a, b) => a.bore - b.bore,
  )[0];
}

/**
 * Working pressure in Pa at a water temperature in K. Undefined where no rating is stocked or where
 * the temperature is beyond the de-rating table: then nothing may be promised.
 */
export function pressureRatingAt(stock: PipeStock, temperature: number): number | undefined {
  const { pressureRating } = stock;
  const table = FAMILIES[stock.family].derating;
  if (pressureRating === undefined || !table) return pressureRating;
  const step = table.find(([limit]) => temperature <= limit + 1e-9);
  // Between two rows the lower factor holds: it errs on the safe side.
  return step ? pressureRating * step[1] : undefined;
}
