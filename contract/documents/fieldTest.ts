import * as z from "zod";
import type { Reading } from "#core/measurement/reading.ts";
import { attachmentsSchema, day, fraction, idSchema, moment, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { type Versions, versioned } from "./versioned.ts";

export const fieldTestVersions: Versions = {
  format: "upright-gusher/field-test",
  version: 2,
  upgrades: { 1: (test) => test },
};

export const readingVersions: Versions = {
  format: "upright-gusher/reading",
  version: 4,
  // The first readings said neither what they are nor how old.
  unnamed: 1,
  // Version 3 takes a flow without a gauge, and a set time into whatever holds it; version 4 says which pumps ran.
  upgrades: { 1: (reading) => reading, 2: (reading) => reading, 3: (reading) => reading },
};

const gaugeFields = {
  pressure: quantity("pressure", RANGES.pressure),
  fullScale: quantity("pressure", RANGES.fullScale),
  accuracyClass: fraction("The gauge class"),
  elevation: quantity("length", RANGES.elevation),
};

/** One reading of a field test. */
export const readingShape = z.looseObject({
  format: z.literal(readingVersions.format, {
    error: `This is not a reading: format must be “${readingVersions.format}”.`,
  }),
  version: z.literal(readingVersions.version, {
    error: "This version of the reading document is not known.",
  }),
  testId: idSchema,
  takenAt: moment,
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
        method: z.literal("timed"),
        volume: quantity("volume", RANGES.volume),
        volumeTolerance: fraction("The tolerance of the volume"),
        time: quantity("time", RANGES.longTime),
        timingTolerance: quantity("time", { ...RANGES.tolerance, what: "The timing tolerance" }),
      }),
      z.looseObject({
        method: z.literal("meter"),
        flow: quantity("flow", RANGES.flow),
        tolerance: fraction("The meter tolerance"),
      }),
    ],
    { error: "Flow is measured by bucket, set time or meter." },
  ),
  discharge: z.looseObject({ ...gaugeFields, afterItemId: idSchema }).optional(),
  suction: z
    .discriminatedUnion(
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
    )
    .optional(),
  speedRatio: z.number().min(0.1).max(1.3).optional(),
  /** which outlet was measured, where there are several */
  outletId: idSchema.optional(),
  /** items of the pumps that ran, where others on the line stood */
  running: z.array(idSchema).min(1, "At least one pump ran.").max(20).optional(),
  /** instruments of the firm's, by id */
  instruments: z.array(idSchema).max(20).optional(),
  /** the job as it stood when the reading was taken */
  jobRevision: z.number().int().min(1).optional(),
  /** what was said of it that day; later changes of job or pump do not touch it */
  judged: z
    .looseObject({
      on: moment,
      /** of the pump against its curve, or of a flow alone against what the line was promised */
      acceptance: z.enum([
        "meets",
        "falls-short",
        "cannot-tell",
        "beyond-curve",
        "cannot-be",
        "as-promised",
        "less",
        "more",
      ]),
      /** m³/s and m through the pump, or m³/s at the outlet, with their standard uncertainties */
      flow: z.number(),
      flowUncertainty: z.number().min(0),
      head: z.number().optional(),
      headUncertainty: z.number().min(0).optional(),
      /** m³/s promised at the outlet that day, and its likely range */
      promised: z.number().optional(),
      low: z.number().optional(),
      high: z.number().optional(),
      /** the words of that day */
      sentences: z.array(z.string().max(1000)).max(12),
    })
    .optional(),
  attachments: attachmentsSchema.optional(),
});

/** A day's measuring, on a job or on a stand in the shop. Its readings are kept beside it, one row each. */
export const fieldTestShape = z.looseObject({
  format: z.literal(fieldTestVersions.format, {
    error: `This is not a field test: format must be “${fieldTestVersions.format}”.`,
  }),
  version: z.literal(fieldTestVersions.version, {
    error: "This version of the field test document is not known.",
  }),
  jobId: idSchema.optional(),
  title: z.string().trim().min(1, "Give the test a title.").max(120),
  takenOn: day,
  note: z.string().max(5000).optional(),
  /** the very pump that was measured */
  unitId: idSchema.optional(),
  configuration: z.enum(["as-found", "as-left", "shop-stand"]).optional(),
  by: text(80).optional(),
});

export const readingSchema = versioned(readingShape, readingVersions);
export const fieldTestSchema = versioned(fieldTestShape, fieldTestVersions);

export type FieldTestDocument = Known<z.output<typeof fieldTestShape>>;
export type ReadingDocument = Known<z.output<typeof readingShape>>;

/** The compiler's proof that the document serves the core. */
export const coreReading = (reading: ReadingDocument): Reading => reading;

export type FieldTestInput = Known<z.input<typeof fieldTestShape>>;
export type ReadingInput = Known<z.input<typeof readingShape>>;
