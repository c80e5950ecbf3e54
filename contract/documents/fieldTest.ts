import * as z from "zod";
import type { Reading } from "#core/measurement/reading.ts";
import { amount, attachmentsSchema, day, fraction, idSchema, moment, text } from "./fields.ts";
import type { Known } from "./known.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";
import { type Versions, versioned } from "./versioned.ts";

export const fieldTestVersions: Versions = {
  format: "upright-gusher/field-test",
  version: 3,
  // Version 2 says whose pump it was and how it stood; version 3 the limits agreed on, and set-ups side by side.
  upgrades: { 1: (test) => test, 2: (test) => test },
};

export const readingVersions: Versions = {
  format: "upright-gusher/reading",
  version: 5,
  // The first readings said neither what they are nor how old.
  unnamed: 1,
  // Version 3 takes a flow without a gauge, and a set time into whatever holds it; version 4 says which pumps ran;
  // version 5 takes counters, the fall of a pit, a shut or throttled valve and what the supply gave.
  upgrades: {
    1: (reading) => reading,
    2: (reading) => reading,
    3: (reading) => reading,
    4: (reading) => reading,
  },
};

const timingTolerance = quantity("time", { ...RANGES.tolerance, what: "The timing tolerance" });

const gaugeFields = {
  pressure: quantity("pressure", RANGES.pressure),
  fullScale: quantity("pressure", RANGES.fullScale),
  accuracyClass: fraction("The gauge class"),
  elevation: quantity("length", RANGES.elevation),
};

/** What is seen to when a pump is measured, in the order of the work. */
export const SAFETY_CHECKLIST = [
  "isolated",
  "lifting",
  "exhaust",
  "pressure",
  "outlet",
  "valve",
] as const;
export type SafetyItem = (typeof SAFETY_CHECKLIST)[number];

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
        timingTolerance,
      }),
      z.looseObject({
        method: z.literal("timed"),
        // Nothing that ran is a reading too, by every way of measuring.
        volume: quantity("volume", RANGES.volumeOrNone),
        volumeTolerance: fraction("The tolerance of the volume"),
        time: quantity("time", RANGES.longTime),
        timingTolerance,
      }),
      z.looseObject({
        method: z.literal("meter"),
        flow: quantity("flow", RANGES.flowOrNone),
        tolerance: fraction("The meter tolerance"),
      }),
      z
        .looseObject({
          method: z.literal("counter"),
          start: quantity("volume", RANGES.counted),
          end: quantity("volume", RANGES.counted),
          time: quantity("time", RANGES.longTime),
          tolerance: fraction("The meter tolerance"),
          timingTolerance,
        })
        .refine(({ start, end }) => end >= start, {
          path: ["end"],
          error: "The meter cannot show less at the end than at the start.",
        }),
      z
        .looseObject({
          method: z.literal("draw-down"),
          area: quantity("area", RANGES.area),
          areaTolerance: fraction("The tolerance of the area"),
          fall: quantity("length", RANGES.fall),
          fallTolerance: quantity("length", { ...RANGES.tolerance, what: "The tolerance" }),
          time: quantity("time", RANGES.longTime),
          timingTolerance,
          inflow: quantity("flow", RANGES.flowOrNone),
          inflowTolerance: fraction("The tolerance of the inflow"),
        })
        .refine(({ area, fall, time, inflow }) => (area * fall) / time + inflow >= 0, {
          path: ["fall"],
          error:
            "It rose faster than its inflow brings: measure the inflow again, with the pump off.",
        }),
      z.looseObject({ method: z.literal("shut") }),
    ],
    { error: "Flow is measured by bucket, set time, meter, counter or the fall of the water." },
  ),
  /** the valve was partly closed, by how much nobody knows */
  throttled: z.boolean().optional(),
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
  speedTolerance: fraction("The tachometer's tolerance").optional(),
  /** at the supply */
  electric: z
    .looseObject({
      volts: amount("The voltage", 100_000).optional(),
      currents: z
        .array(amount("The current", 5000))
        .min(1, "Read at least one conductor.")
        .max(3, "At most three conductors.")
        .optional(),
      power: quantity("power", RANGES.power).optional(),
      powerFactor: z
        .number({ error: "The power factor must be a number." })
        .min(0.2, "A power factor is 0.2 to 1.")
        .max(1, "A power factor is 0.2 to 1.")
        .optional(),
      voltsTolerance: fraction("The voltmeter's tolerance").optional(),
      currentTolerance: fraction("The clamp meter's tolerance").optional(),
      powerTolerance: fraction("The power meter's tolerance").optional(),
    })
    .optional(),
  /** m a gun threw */
  throwDistance: quantity("length", RANGES.length).optional(),
  throwTolerance: fraction("The tolerance of the throw").optional(),
  /** why it is left out of what the test says; it is kept */
  leftOut: z.string().trim().min(1, "Say why it is left out.").max(200).optional(),
  /** which of the set-ups that the test holds side by side */
  setup: idSchema.optional(),
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
  /** what was seen to before and while measuring, so that nobody was hurt */
  cautions: z.array(z.enum(SAFETY_CHECKLIST)).max(20).optional(),
  /** the pump on a stand in the shop, where no job says it */
  pumpId: idSchema.optional(),
  /** how far the pump may lie from its curve, as the parties agreed, instead of a grade */
  limits: z
    .looseObject({ flow: fraction("The limit of flow"), head: fraction("The limit of head") })
    .optional(),
  /** set-ups measured at one place: the job as it is, or with one of its changes */
  setups: z
    .array(
      z.looseObject({
        id: idSchema,
        name: z.string().trim().min(1, "Give the set-up a name.").max(60),
        /** label of the job's change it stands for; the job as it is when absent */
        variant: text(80).optional(),
      }),
    )
    .max(10)
    .optional(),
});

export const readingSchema = versioned(readingShape, readingVersions);
export const fieldTestSchema = versioned(fieldTestShape, fieldTestVersions);

export type FieldTestDocument = Known<z.output<typeof fieldTestShape>>;
export type ReadingDocument = Known<z.output<typeof readingShape>>;

/** The compiler's proof that the document serves the core. */
export const coreReading = (reading: ReadingDocument): Reading => reading;

export type FieldTestInput = Known<z.input<typeof fieldTestShape>>;
export type ReadingInput = Known<z.input<typeof readingShape>>;
