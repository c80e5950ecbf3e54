import * as z from "zod";
import { amount, fraction, idSchema, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { type Versions, versioned } from "./versioned.ts";

export const firmVersions: Versions = {
  format: "upright-gusher/firm",
  version: 2,
  upgrades: {},
};

/** What the firm owns, carries and pays: the same for every job. */
export const firmShape = z.looseObject({
  format: z.literal(firmVersions.format, {
    error: `This is not a firm: format must be “${firmVersions.format}”.`,
  }),
  version: z.literal(firmVersions.version, {
    error: "This version of the firm document is not known.",
  }),
  name: text(120).optional(),
  units: z.enum(["us", "metric"]).optional(),
  /** money a kWh, and a litre */
  tariff: amount("The tariff", 1000).optional(),
  fuelPrice: amount("The fuel price", 1000).optional(),
  instruments: z
    .array(
      z.looseObject({
        id: idSchema,
        name: text(80),
        kind: z.enum(["gauge", "bucket", "flow-meter", "clamp-meter", "tape", "watch"]),
        fullScale: quantity("pressure", RANGES.fullScale).optional(),
        tolerance: fraction("The tolerance").optional(),
      }),
    )
    .max(500)
    .optional(),
  /** sizes, fittings and pumps the van carries, with how many or how much */
  vanStock: z
    .array(z.looseObject({ item: text(80), amount: amount("The amount", 1e6) }))
    .max(2000)
    .optional(),
  hireRates: z
    .array(z.looseObject({ what: text(80), perDay: amount("The rate", 1e6) }))
    .max(500)
    .optional(),
});

export const firmSchema = versioned(firmShape, firmVersions);
export type FirmDocument = Known<z.output<typeof firmShape>>;
