import * as z from "zod";
import { text } from "./fields.ts";
import type { Known } from "./known.ts";
import { type Versions, versioned } from "./versioned.ts";

export const attachmentVersions: Versions = {
  format: "upright-gusher/attachment",
  version: 2,
  upgrades: {},
};

/** bytes: a photograph from a phone, or a scanned page, has room in it */
export const LARGEST_ATTACHMENT = 12_000_000;

/** A picture or a page that belongs to a job, a unit or a reading: what it is. Its bytes are kept beside it. */
export const attachmentShape = z.looseObject({
  format: z.literal(attachmentVersions.format, {
    error: `This is not an attachment: format must be “${attachmentVersions.format}”.`,
  }),
  version: z.literal(attachmentVersions.version, {
    error: "This version of the attachment document is not known.",
  }),
  type: z.enum(["image/jpeg", "image/png", "image/webp", "application/pdf"], {
    error: "An attachment is a JPEG, PNG or WebP picture, or a PDF page.",
  }),
  size: z
    .number({ error: "The size must be a number of bytes." })
    .int("The size must be a whole number of bytes.")
    .min(1, "The attachment is empty.")
    .max(LARGEST_ATTACHMENT, `At most ${LARGEST_ATTACHMENT / 1e6} MB.`),
  /** SHA-256 of its bytes, in hexadecimal */
  hash: z.string().regex(/^[0-9a-f]{64}$/, "The hash is a SHA-256 in hexadecimal."),
  caption: text(300).optional(),
});

export const attachmentSchema = versioned(attachmentShape, attachmentVersions);
export type AttachmentDocument = Known<z.output<typeof attachmentShape>>;
