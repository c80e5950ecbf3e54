import * as z from "zod";
import { attachmentsSchema, day, idSchema, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { type Versions, versioned } from "./versioned.ts";

export const unitVersions: Versions = {
  format: "upright-gusher/unit",
  version: 2,
  upgrades: {},
};

/** One real pump with a serial number: where it stands and since when. */
export const unitShape = z.looseObject({
  format: z.literal(unitVersions.format, {
    error: `This is not a unit: format must be “${unitVersions.format}”.`,
  }),
  version: z.literal(unitVersions.version, {
    error: "This version of the unit document is not known.",
  }),
  pumpId: idSchema,
  serial: text(80).optional(),
  bought: day.optional(),
  warrantyUntil: day.optional(),
  standsAt: text(200).optional(),
  installed: day.optional(),
  removed: day.optional(),
  attachments: attachmentsSchema.optional(),
});

export const unitSchema = versioned(unitShape, unitVersions);
export type UnitDocument = Known<z.output<typeof unitShape>>;
