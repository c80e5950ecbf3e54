import * as z from "zod";
import type { AttachmentDocument } from "./documents/attachment.ts";
import { attachmentSchema } from "./documents/attachment.ts";
import { idSchema } from "./documents/fields.ts";
import {
  type FieldTestDocument,
  fieldTestSchema,
  type ReadingDocument,
  readingSchema,
} from "./documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "./documents/job.ts";

/** A job with everything that belongs to it, as one file that another installation opens. */
export const BUNDLE_FORMAT = "upright-gusher/job-with-tests";

const kept = <S extends z.ZodType>(document: S) => z.object({ id: idSchema, document });

export const bundleSchema = z.object({
  format: z.literal(BUNDLE_FORMAT),
  version: z.literal(1, { error: "This version of the file is not known." }),
  job: jobSchema,
  tests: z
    .array(kept(fieldTestSchema).extend({ readings: z.array(kept(readingSchema)).max(5000) }))
    .max(1000),
  pictures: z
    .array(
      kept(attachmentSchema).extend({
        /** base64 */
        bytes: z.string().max(17_000_000),
      }),
    )
    .max(2000),
});

export interface JobBundle {
  format: typeof BUNDLE_FORMAT;
  version: 1;
  job: JobDocument;
  tests: {
    id: string;
    document: FieldTestDocument;
    readings: { id: string; document: ReadingDocument }[];
  }[];
  pictures: { id: string; document: AttachmentDocument; bytes: string }[];
}
