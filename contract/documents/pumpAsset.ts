import * as z from "zod";
import { attachmentsSchema, day, idSchema, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { type Versions, versioned } from "./versioned.ts";

export const pumpAssetVersions: Versions = {
  format: "upright-gusher/unit",
  version: 2,
  upgrades: {},
};

/** One real pump with a serial number: where it stands and since when. */
export const pumpAssetShape = z.looseObject({
  format: z.literal(pumpAssetVersions.format, {
    error: `This is not a unit: format must be “${pumpAssetVersions.format}”.`,
  }),
  version: z.literal(pumpAssetVersions.version, {
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

export const pumpAssetSchema = versioned(pumpAssetShape, pumpAssetVersions);
export type PumpAssetDocument = Known<z.output<typeof pumpAssetShape>>;
