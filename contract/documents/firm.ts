import * as z from "zod";
import { amount, day, fraction, idSchema, text } from "./fields.ts";
import { gunFields } from "./gun.ts";
import type { Known } from "./known.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { type Versions, versioned } from "./versioned.ts";

export const firmVersions: Versions = {
  format: "upright-gusher/firm",
  version: 3,
  // Version 3 knows more of the instruments; what was there keeps its meaning.
  upgrades: { 2: (firm) => firm },
};

/** What a firm measures with, in the order it is offered. */
export const INSTRUMENT_KINDS = [
  "gauge",
  "bucket",
  "flow-meter",
  "clamp-meter",
  "power-meter",
  "tachometer",
  "tape",
  "watch",
] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

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
        kind: z.enum(INSTRUMENT_KINDS),
        /** of a gauge: the last mark on its dial */
        fullScale: quantity("pressure", RANGES.fullScale).optional(),
        /** of a bucket or drum */
        volume: quantity("volume", RANGES.volume).optional(),
        /** of a flow meter: the most it reads */
        greatestFlow: quantity("flow", RANGES.flow).optional(),
        /** half-width: of a gauge as a part of full scale, of anything else of what it reads */
        tolerance: fraction("The tolerance").optional(),
        /** when it was last held against something better, and what was found */
        checkedOn: day.optional(),
        checkNote: text(200).optional(),
      }),
    )
    .max(500)
    .optional(),
  /** sprinklers it knows, typed from their charts */
  guns: z
    .array(z.looseObject({ id: idSchema, name: text(120), ...gunFields }))
    .max(200)
    .optional(),
  /** sizes, fittings and pumps the van carries, with how many or how much */
  vanStock: z
    .array(z.looseObject({ item: text(80), amount: amount("The amount", 1e6) }))
    .max(2000)
    .optional(),
  /** days for which every sample of an instrument is kept; older ones thin to one a minute. Said by nobody: for ever */
  sampleDays: z
    .number({ error: "The days must be a number." })
    .int("Give whole days.")
    .min(1, "Every sample is kept for a day at least.")
    .max(3650, "At most ten years; leave it empty to keep every sample for ever.")
    .optional(),
  hireRates: z
    .array(z.looseObject({ what: text(80), perDay: amount("The rate", 1e6) }))
    .max(500)
    .optional(),
});

export const firmSchema = versioned(firmShape, firmVersions);
export type FirmDocument = Known<z.output<typeof firmShape>>;
