import { z } from "zod";
import type { Known } from "./known.ts";
import { quantity, RANGES } from "./quantity.ts";

export const PUMP_FORMAT = "upright-gusher/pump";
export const PUMP_VERSION = 1;

export const pumpPointSchema = z.looseObject({
  flow: quantity("flow", RANGES.curveFlow),
  head: quantity("head", RANGES.head),
  power: quantity("power", RANGES.power).optional(),
  npshRequired: quantity("head", RANGES.npsh).optional(),
});

export const idSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,63}$/, "An id is 1 to 64 small letters, digits and hyphens.");

/** A pump as its plate and its published curve describe it. Quantities are SI or text with a unit. */
export const pumpSchema = z
  .looseObject({
    format: z.literal(PUMP_FORMAT, {
      error: `This is not a pump: format must be “${PUMP_FORMAT}”.`,
    }),
    version: z.literal(PUMP_VERSION, { error: "This version of the pump document is not known." }),
    id: idSchema,
    maker: z.string().trim().min(1, "Name the maker.").max(80),
    model: z.string().trim().min(1, "Name the model.").max(80),
    kind: z.enum(["sump", "transfer", "well", "engine-pressure", "engine-trash"]),
    drive: z.enum(["electric", "engine"]),
    submersible: z.boolean(),
    ratedSpeedRpm: quantity("speed", RANGES.speed),
    points: z
      .array(pumpPointSchema)
      .min(3, "A curve needs at least three points.")
      .max(60, "A curve takes at most sixty points."),
    maxSuctionLift: quantity("head", RANGES.lift).optional(),
    suctionPort: quantity("diameter", RANGES.bore).optional(),
    dischargePort: quantity("diameter", RANGES.bore).optional(),
    solids: quantity("diameter", RANGES.solids).optional(),
    mass: quantity("mass", RANGES.mass).optional(),
    tolerance: z.enum(["1B", "2B", "3B", "small"]),
    note: z.string().max(2000).optional(),
  })
  .superRefine((pump, context) => {
    pump.points.forEach((point, i) => {
      const before = pump.points[i - 1];
      if (before && point.flow <= before.flow) {
        context.addIssue({
          code: "custom",
          path: ["points", i, "flow"],
          message: "Flow must rise from one point of the curve to the next.",
        });
      }
    });
    if (pump.points.every((point) => point.head <= 0)) {
      context.addIssue({
        code: "custom",
        path: ["points"],
        message: "A curve needs a head above 0 somewhere.",
      });
    }
  });

export type PumpDocument = Known<z.output<typeof pumpSchema>>;
export type PumpInput = Known<z.input<typeof pumpSchema>>;

export const PUMP_KINDS: Record<PumpDocument["kind"], string> = {
  sump: "Sump",
  transfer: "Transfer",
  well: "Well",
  "engine-pressure": "Engine, pressure",
  "engine-trash": "Engine, trash",
};
