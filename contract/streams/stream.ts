import * as z from "zod";
import { fraction, idSchema, moment, text } from "../documents/fields.ts";
import { quantity } from "../documents/quantity.ts";
import { RANGES } from "../documents/ranges.ts";
import type { Quantity } from "../units/units.ts";

/**
 * What a logger may send, and what a number of it is: m³/s, Pa, A, W, m; the speed as turns a minute.
 */
export const CHANNELS = {
  flow: { name: "Flow", quantity: "flow" },
  discharge: { name: "Discharge gauge", quantity: "pressure" },
  suction: { name: "Suction gauge", quantity: "pressure" },
  level: { name: "Water level", quantity: "length" },
  current: { name: "Current", quantity: undefined },
  power: { name: "Power", quantity: "power" },
  speed: { name: "Speed", quantity: "speed" },
} as const satisfies Record<string, { name: string; quantity: Quantity | undefined }>;
export type ChannelName = keyof typeof CHANNELS;
export const CHANNEL_NAMES = Object.keys(CHANNELS) as ChannelName[];

const channel = z.object({
  /** what it reads; each at most once in a stream */
  reads: z.enum(CHANNEL_NAMES as [ChannelName, ...ChannelName[]], {
    error: `A channel reads one of ${CHANNEL_NAMES.join(", ")}.`,
  }),
  /** half-width, as a part of full scale where that is given, otherwise of the reading */
  tolerance: fraction("The tolerance").optional(),
  fullScale: z.number().positive("The full scale must be more than 0.").optional(),
  /** of a gauge: m above the job's datum, and the item it is tapped in after */
  elevation: quantity("length", RANGES.elevation).optional(),
  afterItemId: idSchema.optional(),
});
export type Channel = z.output<typeof channel>;

/** What begins a stream. */
export const streamSchema = z.object({
  name: z.string().trim().min(1, "Give the stream a name.").max(120),
  jobId: idSchema.optional(),
  note: text(1000).optional(),
  channels: z
    .array(channel)
    .min(1, "A stream has at least one channel.")
    .max(CHANNEL_NAMES.length)
    .refine((all) => new Set(all.map(({ reads }) => reads)).size === all.length, {
      error: "Each quantity may be read by one channel only.",
    }),
});
export type StreamInput = z.input<typeof streamSchema>;
export type StreamDocument = z.output<typeof streamSchema>;

/** Samples sent at once. */
export const MOST_SAMPLES = 2000;

export const samplesSchema = z.object({
  samples: z
    .array(
      z.object({
        /** counts up from 0 at the logger: a sample sent twice is one sample */
        n: z
          .number()
          .int()
          .min(0)
          .max(2 ** 40),
        at: moment,
        /** in the order of the channels; null where an instrument had nothing to say */
        values: z.array(z.number().nullable()).min(1).max(CHANNEL_NAMES.length),
      }),
    )
    .min(1, "Send at least one sample.")
    .max(MOST_SAMPLES, `Send at most ${MOST_SAMPLES} samples at once.`),
});
export type Sample = z.output<typeof samplesSchema>["samples"][number];

/** A stream as the server has it. */
export interface StreamLine extends StreamDocument {
  id: string;
  createdAt: string;
  /** how many samples there are, and the first and last moment */
  count: number;
  from?: string;
  to?: string;
  /** the simulated box behind it, while it runs */
  box?: BoxState;
}

/** What the simulated box is told. */
export const boxSchema = z.object({
  jobId: idSchema,
  /** what is hidden in it; a surprise draws one by itself */
  fault: z.enum(["none", "worn", "silted", "low-water", "surprise"]).default("none"),
  /** standard deviation of every reading, as a part of it */
  noise: z.number().min(0).max(0.2).default(0.01),
  /** how far a reading wanders in an hour, as a part of it */
  drift: z.number().min(0).max(0.2).default(0),
  /** ms from sample to sample */
  every: z.number().int().min(50).max(60_000).default(1000),
  seed: z
    .number()
    .int()
    .min(1)
    .max(2 ** 31 - 2)
    .optional(),
});
export type BoxInput = z.input<typeof boxSchema>;
export type BoxOptions = z.output<typeof boxSchema>;

export const boxChangeSchema = z.object({
  /** of the hand valve on the discharge, 0 shut … 1 open */
  valve: z.number().min(0).max(1).optional(),
  running: z.boolean().optional(),
});
export type BoxChange = z.output<typeof boxChangeSchema>;

export interface BoxState {
  valve: number;
  running: boolean;
}

/** What was wrong in the simulated installation. */
export interface BoxTruth {
  /** of the pump's published heads */
  strength: number;
  /** of the bore of the longest run */
  bore: number;
  /** m the water stands over its usual level */
  level: number;
}
