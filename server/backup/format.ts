import * as z from "zod";
import { COLLECTION_NAMES } from "#contract/collections.ts";
import { idSchema } from "#contract/documents/fields.ts";

/**
 * A backup is a gzip file of lines, each of them JSON: a head, every revision of every document in the order they
 * were saved, what is deleted, the bytes of attachments, and an end with what all before it add up to.
 */
export const FORMAT = "upright-gusher/backup";
export const VERSION = 1;

const collection = z.enum(COLLECTION_NAMES);
const time = z.iso.datetime();

export const headSchema = z.object({
  format: z.literal(FORMAT),
  version: z.number().int(),
  madeAt: time,
  /** the version of the application */
  application: z.string(),
  /** the same for two backups of the same data */
  state: z.string(),
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
  z.strictObject({ attachment: z.string().regex(/^[0-9a-f]{64}$/), bytes: z.base64() }),
  z.strictObject({
    end: z.strictObject({
      lines: z.number().int(),
      /** of every byte before this line, in hexadecimal */
      sha256: z.string(),
    }),
  }),
]);

export type Head = z.output<typeof headSchema>;
export type Line = z.output<typeof lineSchema>;
