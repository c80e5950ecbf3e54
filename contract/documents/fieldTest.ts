import { z } from "zod";
import type { Reading } from "#core/measurement/reading.ts";
import type { Known } from "./known.ts";
import { idSchema } from "./pump.ts";
import { quantity, RANGES } from "./quantity.ts";

export const FIELD_TEST_FORMAT = "upright-gusher/field-test";
export const FIELD_TEST_VERSION = 1;

const fraction = (what: string) =>
  z
    .number({ error: `${what} must be a number.` })
    .min(0, `${what} cannot be negative.`)
    .max(0.5, `${what} cannot be more than 50 %.`);

const gaugeFields = {
  pressure: quantity("pressure", RANGES.pressure),
  fullScale: quantity("pressure", RANGES.fullScale),
  accuracyClass: fraction("The gauge class"),
  elevation: quantity("length", RANGES.elevation),
};

/** One reading of a field test. */
export const readingSchema = z.looseObject({
  testId: idSchema,
  takenAt: z.iso.datetime({ error: "Give the time as YYYY-MM-DDThh:mm:ssZ." }),
  note: z.string().max(1000).optional(),
  /** the pump it was taken on; a reading is held against no other */
  pumpId: idSchema.optional(),
  flow: z.discriminatedUnion(
    "method",
    [
      z.looseObject({
        method: z.literal("bucket"),
        volume: quantity("volume", RANGES.volume),
        volumeTolerance: fraction("The bucket tolerance"),
        times: z
          .array(quantity("time", RANGES.time))
          .min(1, "Time at least one fill.")
          .max(50, "At most fifty fills."),
        timingTolerance: quantity("time", { ...RANGES.tolerance, what: "The timing tolerance" }),
      }),
      z.looseObject({
        method: z.literal("meter"),
        flow: quantity("flow", RANGES.flow),
        tolerance: fraction("The meter tolerance"),
      }),
    ],
    { error: "Flow is measured by bucket or meter." },
  ),
  discharge: z.looseObject({ ...gaugeFields, afterItemId: idSchema }),
  suction: z.discriminatedUnion(
    "kind",
    [
      z.looseObject({ kind: z.literal("gauge"), ...gaugeFields }),
      z.looseObject({
        kind: z.literal("water-level"),
        level: quantity("length", RANGES.elevation),
        tolerance: quantity("length", { ...RANGES.tolerance, what: "The level tolerance" }),
      }),
    ],
    { error: "The suction side is a gauge or a water level." },
  ),
  speedRatio: z.number().min(0.3).max(1.3).optional(),
});

/** A day's measuring on a job. Its readings are kept beside it, one row each. */
export const fieldTestSchema = z.looseObject({
  format: z.literal(FIELD_TEST_FORMAT, {
    error: `This is not a field test: format must be “${FIELD_TEST_FORMAT}”.`,
  }),
  version: z.literal(FIELD_TEST_VERSION, {
    error: "This version of the field test document is not known.",
  }),
  jobId: idSchema,
  title: z.string().trim().min(1, "Give the test a title.").max(120),
  takenOn: z.iso.date({ error: "Give the day as YYYY-MM-DD." }),
  note: z.string().max(5000).optional(),
});

export type FieldTestDocument = Known<z.output<typeof fieldTestSchema>>;
export type ReadingDocument = Known<z.output<typeof readingSchema>>;

/** The compiler's proof that the document serves the core. */
export const coreReading = (reading: ReadingDocument): Reading => reading;

export type FieldTestInput = Known<z.input<typeof fieldTestSchema>>;
export type ReadingInput = Known<z.input<typeof readingSchema>>;
