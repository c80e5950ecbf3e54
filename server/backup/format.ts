import * as z from "zod";
import { COLLECTION_NAMES } from "#contract/collections.ts";
import { LARGEST_ATTACHMENT } from "#contract/documents/attachment.ts";
import { idSchema } from "#contract/documents/fields.ts";

/**
 * A backup is a gzip file of lines, each of them JSON: a head, every revision of every document in the order they
 * were saved, what is deleted, the bytes of attachments, streams with their samples, and an end with what all before
 * it add up to. Version 1 had no streams.
 */
export const FORMAT = "upright-gusher/backup";
export const VERSION = 2;

/** Characters of the longest line that there can be: the largest picture in base64, and what stands around it. */
export const LONGEST_LINE = Math.ceil((LARGEST_ATTACHMENT * 4) / 3) + 1_000_000;
/** Samples in a line. */
export const SAMPLES = 4096;

const collection = z.enum(COLLECTION_NAMES);
const time = z.iso.datetime();
const sha256 = z.string().regex(/^[0-9a-f]{64}$/);

export const headSchema = z.object({
  format: z.literal(FORMAT),
  version: z.number().int(),
  madeAt: time,
  /** the version of the application */
  application: z.string(),
  /** the same for two backups of the same data */
  state: z.string(),
});

/** A picture, or a run of samples, that is in the folder of parts beside the file. */
const beside = z.strictObject({ part: sha256 });
const attachment = z.strictObject({ attachment: sha256, bytes: z.base64() });
const samples = z.strictObject({
  samples: idSchema,
  /** number, moment in ms since 1970, and values of each */
  rows: z
    .array(z.tuple([z.number().int(), z.number(), z.array(z.number().nullable())]))
    .min(1)
    .max(SAMPLES),
});
const end = z.strictObject({
  end: z.strictObject({
    lines: z.number().int(),
    /** of every byte before this line, in hexadecimal */
    sha256,
  }),
});

export const lineSchema = z.union([
  z.strictObject({
    collection,
    id: idSchema,
    revision: z.number().int().min(1),
    savedAt: time,
    document: z.record(z.string(), z.unknown()),
  }),
  z.strictObject({ deleted: z.strictObject({ collection, id: idSchema, at: time }) }),
  attachment,
  z.strictObject({
    stream: z.strictObject({
      id: idSchema,
      createdAt: time,
      deletedAt: time.nullable(),
      /** SHA-256 of the token its logger sends with */
      tokenHash: sha256,
      document: z.record(z.string(), z.unknown()),
    }),
  }),
  samples,
  z.union([attachment.pick({ attachment: true }), samples.pick({ samples: true })]).and(beside),
  end,
]);

export type Head = z.output<typeof headSchema>;
export type Written = z.output<typeof lineSchema>;
/** What is read: what stands beside the file is put in its place. */
export type Line = Exclude<Written, { part: string } | { end: unknown }>;
