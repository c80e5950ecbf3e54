import * as z from "zod";
import { amount, day, part, text } from "./fields.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";

/** What a job that waters ground knows of the ground, the guns' work on it, and the water it wants. */

const stretch = quantity("length", RANGES.length);
const WIND = ["calm", "light", "fresh", "strong"] as const;

/** s from midnight */
const clock = z.number().min(0).max(86_400);
const bearing = z
  .number({ error: "The bearing must be a number." })
  .min(0, "A bearing runs from 0 to 360.")
  .max(360, "A bearing runs from 0 to 360.");

const groundSchema = z.discriminatedUnion("kind", [
  z.looseObject({ kind: z.literal("rectangle"), length: stretch, width: stretch }),
  z.looseObject({ kind: z.literal("circle"), diameter: stretch }),
  /** walked round: each side with its bearing, degrees clockwise from north */
  z.looseObject({
    kind: z.literal("walked"),
    legs: z
      .array(z.looseObject({ length: stretch, bearing }))
      .max(60, "A walk takes at most sixty sides."),
  }),
]);

const keepOffSchema = z.looseObject({
  what: z.enum(["hedge", "road", "building", "water", "other"]),
  name: text(80).optional(),
  /** an edge beside one side of the ground, m outside it: by the number of the side */
  side: z.number().int().min(0).max(119).optional(),
  away: z.number().min(-1000).max(1000).optional(),
  /** or a rectangle on the ground: its corner, and how far it reaches along and up */
  box: z
    .looseObject({
      x: z.number().min(-10_000).max(10_000),
      y: z.number().min(-10_000).max(10_000),
      length: stretch,
      width: stretch,
    })
    .optional(),
});

/** A throw as it was taken, m, with the pressure at the gun's base that day: read there, or as the line had it then. */
const throwSchema = z.looseObject({
  /** absent until it was taken */
  radius: quantity("length", RANGES.throw).optional(),
  pressure: quantity("pressure", RANGES.emitterPressure),
  read: z.boolean().optional(),
  /** the range nozzle it was taken with; it says nothing of another, and nothing at all where nobody noted it */
  bore: quantity("diameter", RANGES.bore).optional(),
  by: z.enum(["tape", "paces"]),
  on: day.optional(),
});

const cansSchema = z.looseObject({
  layout: z.enum(["legs", "grid"]),
  /** s it ran */
  seconds: quantity("time", RANGES.time).optional(),
  /** across the mouth of a can, to turn a volume into a depth */
  mouth: quantity("diameter", RANGES.bore).optional(),
  measure: z.enum(["depth", "volume"]).optional(),
  wind: z.enum(WIND).optional(),
  /** of a grid: m between cans, and how many in a row */
  apart: z.looseObject({ along: stretch, across: stretch }).optional(),
  columns: z.number().int().min(1).max(60).optional(),
  /** by leg and distance; of a grid in its order, row by row, with an empty can where nobody looked */
  cans: z
    .array(
      z.looseObject({
        leg: z.number().int().min(0).max(20).optional(),
        distance: quantity("length", RANGES.throw).optional(),
        depth: quantity("length", RANGES.canDepth).optional(),
        volume: quantity("volume", RANGES.canVolume).optional(),
      }),
    )
    .max(1000, "At most a thousand cans."),
});

const dayPlanSchema = z.looseObject({
  on: day.optional(),
  start: clock.optional(),
  move: quantity("time", RANGES.timeOrNone).optional(),
  prime: quantity("time", RANGES.timeOrNone).optional(),
  cooling: quantity("time", RANGES.timeOrNone).optional(),
  filling: quantity("time", RANGES.timeOrNone).optional(),
  /** where the pump's plate does not say them: m³, and m³/s while it runs */
  tank: quantity("volume", RANGES.volume).optional(),
  fuelRate: z.number().min(0).max(1e-3).optional(),
  calm: z.looseObject({ from: clock, to: clock }).optional(),
  /** where somebody is: the number of the set that comes next, from 0, and the part of the tank that is left */
  at: z
    .looseObject({
      set: z.number().int().min(0).max(10_000),
      on: day,
      time: clock,
      tankLeft: part("What is left in the tank").optional(),
    })
    .optional(),
});

const seasonSchema = z.looseObject({
  /** m wanted in the ground each week */
  weekly: quantity("length", RANGES.rain).optional(),
  /** part of what is put out that is lost on the way */
  loss: z.number().min(0).max(0.8).optional(),
  dripLoss: z.number().min(0).max(0.8).optional(),
  /** the part of the rain that counts */
  effective: part("The part of the rain that counts").optional(),
  from: day.optional(),
  /** m of rain in each week */
  rain: z
    .array(quantity("length", RANGES.rain))
    .max(53, "A season has at most 53 weeks.")
    .optional(),
  fuelPrice: amount("The price", 1000).optional(),
  energyPrice: amount("The price", 1000).optional(),
  wage: amount("The wage", 1000).optional(),
  attended: z.boolean().optional(),
});

const dripSchema = z.looseObject({
  laterals: z.number().int().min(1).max(1000),
  apart: quantity("length", RANGES.throw),
  emitters: z.number().int().min(1).max(2000),
  spacing: quantity("length", RANGES.throw),
  emitter: z.looseObject({
    flow: quantity("flow", RANGES.emitterFlow),
    pressure: quantity("pressure", RANGES.emitterPressure),
    exponent: z
      .number({ error: "The exponent must be a number." })
      .min(0.05, "The exponent cannot be less than 0.05.")
      .max(1, "The exponent cannot be more than 1."),
    /** the narrowest way through it */
    passage: quantity("diameter", RANGES.bore).optional(),
  }),
  lateral: quantity("diameter", RANGES.bore),
  submain: quantity("diameter", RANGES.bore),
  /** m up for each m along */
  slope: z.number().min(-1).max(1).optional(),
  submainSlope: z.number().min(-1).max(1).optional(),
  /** where the zone begins, behind filter and regulator */
  pressure: quantity("pressure", RANGES.emitterPressure),
});

/** Readings of one gun and of two on the same pump: the pressure at the base, or else how far it threw. */
const gunReading = z
  .looseObject({
    pressure: quantity("pressure", RANGES.emitterPressure).optional(),
    radius: quantity("length", RANGES.throw).optional(),
    by: z.enum(["tape", "paces"]).optional(),
  })
  .optional();

export const fieldSchema = z.looseObject({
  ground: groundSchema.optional(),
  keepOff: z.array(keepOffSchema).max(50, "At most fifty edges.").optional(),
  soil: z.enum(["sand", "loam", "clay"]).optional(),
  /** m laid once round */
  depth: quantity("length", RANGES.rain).optional(),
  wind: z.enum(WIND).optional(),
  /** part of the diameter between stands, in place of what the wind asks for */
  spacing: z.number().min(0.2).max(1).optional(),
  /** the corner of the ground the water comes from, by its number */
  from: z.number().int().min(0).max(119).optional(),
  throws: z.array(throwSchema).max(200).optional(),
  cans: cansSchema.optional(),
  day: dayPlanSchema.optional(),
  season: seasonSchema.optional(),
  drip: dripSchema.optional(),
  read: z
    .looseObject({
      /** of one gun: m³/s and Pa at its base, with half-widths as parts */
      flow: quantity("flow", RANGES.flow).optional(),
      pressure: quantity("pressure", RANGES.emitterPressure).optional(),
      flowDoubt: z.number().min(0).max(0.5).optional(),
      /** of the gauge, Pa either way */
      pressureDoubt: quantity("pressure", RANGES.emitterPressure).optional(),
      one: gunReading,
      two: gunReading,
    })
    .optional(),
});
