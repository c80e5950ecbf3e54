import * as z from "zod";
import { amount, attachmentsSchema, fraction, idSchema, phases, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { type Versions, versioned } from "./versioned.ts";

export const pumpVersions: Versions = {
  format: "upright-gusher/pump",
  version: 3,
  // Versions 2 and 3 only add fields that may be absent, and kinds.
  upgrades: { 1: (pump) => pump, 2: (pump) => pump },
};

/** What a pump may be, in the order they are offered. */
export const PUMP_FAMILIES = [
  "sump",
  "effluent",
  "puddle",
  "battery",
  "transfer",
  "jet",
  "well",
  "circulation",
  "engine-pressure",
  "engine-trash",
] as const;
export type PumpFamily = (typeof PUMP_FAMILIES)[number];

/** How a curve was come by, in the order the ways are offered. */
export const CURVE_WAYS = ["table", "three-points", "sticker", "chart-rows", "traced"] as const;
export type CurveWay = (typeof CURVE_WAYS)[number];

export const pumpPointSchema = z.looseObject({
  flow: quantity("flow", RANGES.curveFlow),
  head: quantity("head", RANGES.head),
  power: quantity("power", RANGES.power).optional(),
  npshRequired: quantity("head", RANGES.npsh).optional(),
  current: amount("The current", 5000).optional(),
});

const pixel = z.tuple([z.number(), z.number()]);
const mark = z.looseObject({ at: pixel, value: z.number() });

/** How a printed curve was read: where its sheet and its axes lie in the picture, and what was clicked along it. */
const traceSchema = z.looseObject({
  /** of a rectangle on the sheet, from the top left clockwise; absent where the picture is straight */
  corners: z.tuple([pixel, pixel, pixel, pixel]).optional(),
  /** two places on each axis with what is printed there */
  flowAxis: z.tuple([mark, mark]),
  headAxis: z.tuple([mark, mark]),
  flowUnit: text(20),
  headUnit: text(20),
  lines: z
    .array(z.looseObject({ name: text(40), clicks: z.array(pixel).max(200) }))
    .min(1)
    .max(12),
});

/** A pump as its plate and its published curve describe it. Quantities are SI or text with a unit. */
export const pumpShape = z
  .looseObject({
    format: z.literal(pumpVersions.format, {
      error: `This is not a pump: format must be “${pumpVersions.format}”.`,
    }),
    version: z.literal(pumpVersions.version, {
      error: "This version of the pump document is not known.",
    }),
    id: idSchema,
    maker: z.string().trim().min(1, "Name the maker.").max(80),
    model: z.string().trim().min(1, "Name the model.").max(80),
    kind: z.enum(PUMP_FAMILIES),
    /** made up to learn on, and not to be bought */
    invented: z.boolean().optional(),
    /** kept, and not offered any more */
    archived: z.boolean().optional(),
    /** how many the firm has, and whether one is in the van */
    owned: amount("The number owned", 10_000).optional(),
    inVan: z.boolean().optional(),
    /** wearing parts can be had */
    spares: z.boolean().optional(),
    drive: z.enum(["electric", "engine"]),
    submersible: z.boolean(),
    /** how its power goes with flow, and whether a shut valve hurts it */
    family: z
      .enum(["radial", "mixed", "axial", "regenerative", "positive-displacement"])
      .optional(),
    ratedSpeedRpm: quantity("speed", RANGES.speed),
    points: z
      .array(pumpPointSchema)
      .min(3, "A curve needs at least three points.")
      .max(60, "A curve takes at most sixty points."),
    maxSuctionLift: quantity("head", RANGES.lift).optional(),
    suctionPort: quantity("diameter", RANGES.bore).optional(),
    dischargePort: quantity("diameter", RANGES.bore).optional(),
    /** the largest body that passes */
    solids: quantity("diameter", RANGES.solids).optional(),
    /** outside, where it goes down a casing or through a hatch */
    diameter: quantity("diameter", RANGES.bore).optional(),
    mass: quantity("mass", RANGES.mass).optional(),
    tolerance: z.enum(["1B", "2B", "3B", "small"]),
    electric: z
      .looseObject({
        volts: amount("The voltage", 1000).optional(),
        phase: phases.optional(),
        /** direct current, from a battery */
        direct: z.boolean().optional(),
        runningCurrent: amount("The current", 5000).optional(),
        startingCurrent: amount("The starting current", 20_000).optional(),
        powerFactor: z.number().min(0.2).max(1).optional(),
        cord: quantity("length", RANGES.length).optional(),
        plug: text(40).optional(),
      })
      .optional(),
    switch: z
      .looseObject({
        kind: z.enum(["none", "tethered-float", "vertical-float", "sensor", "pressure-switch"]),
        /** between switching on and off */
        band: quantity("length", RANGES.depth).optional(),
      })
      .optional(),
    /** depth of water it needs round it */
    leastDepth: quantity("length", RANGES.depth).optional(),
    /** below the top of its pit or well, as far as its cord and its cover let it */
    greatestDepth: quantity("length", RANGES.depth).optional(),
    /** of water over it */
    greatestImmersion: quantity("length", RANGES.depth).optional(),
    /** what it leaves on a floor */
    film: quantity("diameter", RANGES.solids).optional(),
    greatestTemperature: quantity("temperature", RANGES.waterTemperature).optional(),
    startsPerHour: amount("The starts an hour", 3600).optional(),
    leastFlow: quantity("flow", RANGES.flow).optional(),
    engine: z
      .looseObject({
        power: quantity("power", RANGES.power).optional(),
        fuel: z.enum(["petrol", "diesel", "gas"]).optional(),
        tank: quantity("volume", RANGES.volume).optional(),
      })
      .optional(),
    /** how slow and how fast its drive can turn it, and what was read of it at several speeds */
    speeds: z
      .looseObject({
        least: quantity("speed", RANGES.speed),
        most: quantity("speed", RANGES.speed),
        sweep: z
          .array(
            z.looseObject({
              speed: quantity("speed", RANGES.speed),
              flow: quantity("flow", RANGES.curveFlow).optional(),
              power: quantity("power", RANGES.power).optional(),
              current: amount("The current", 5000).optional(),
            }),
          )
          .max(60)
          .optional(),
      })
      .optional(),
    /** in the firm's money */
    price: amount("The price", 1e7).optional(),
    /** half-width of the published curve where it is only a sticker's, as a fraction */
    curveDoubt: fraction("The doubt of the curve").optional(),
    /** how the curve was come by, and the picture it was traced on */
    curve: z
      .looseObject({
        from: z.enum(CURVE_WAYS),
        picture: idSchema.optional(),
        /** what the picture was read by, in its own pixels */
        trace: traceSchema.optional(),
      })
      .optional(),
    /** the other lines of its sheet: at another speed, or where that is not said with another impeller */
    otherLines: z
      .array(
        z.looseObject({
          name: z.string().trim().min(1, "Give the line a name.").max(40),
          speed: quantity("speed", RANGES.speed).optional(),
          points: z.array(pumpPointSchema).min(2).max(60),
        }),
      )
      .max(10)
      .optional(),
    attachments: attachmentsSchema.optional(),
    note: z.string().max(2000).optional(),
  })
  .superRefine((pump, context) => {
    const { least, most } = pump.speeds ?? {};
    if (least !== undefined && most !== undefined && least > most) {
      const message = "The least speed is above the greatest.";
      context.addIssue({ code: "custom", path: ["speeds", "least"], message });
    }
    const rising = (points: readonly { flow: number }[], path: (string | number)[]) => {
      for (const [i, { flow }] of points.entries()) {
        const before = points[i - 1];
        if (!before || flow > before.flow) continue;
        const message = "Flow must rise from one point of the curve to the next.";
        context.addIssue({ code: "custom", path: [...path, i, "flow"], message });
      }
    };
    rising(pump.points, ["points"]);
    for (const [i, { points }] of (pump.otherLines ?? []).entries()) {
      rising(points, ["otherLines", i, "points"]);
    }
    if (pump.points.every((point) => point.head <= 0)) {
      context.addIssue({
        code: "custom",
        path: ["points"],
        message: "A curve needs a head above 0 somewhere.",
      });
    }
  });

export const pumpSchema = versioned(pumpShape, pumpVersions);
export type PumpDocument = Known<z.output<typeof pumpShape>>;
export type CurveTrace = z.output<typeof traceSchema>;
export type PumpInput = Known<z.input<typeof pumpShape>>;
