import * as z from "zod";
import {
  type AttachmentDocument,
  attachmentSchema,
  attachmentShape,
  attachmentVersions,
} from "./documents/attachment.ts";
import {
  type FieldTestDocument,
  fieldTestSchema,
  fieldTestShape,
  fieldTestVersions,
  type ReadingDocument,
  readingSchema,
  readingShape,
  readingVersions,
} from "./documents/fieldTest.ts";
import { type FirmDocument, firmSchema, firmShape, firmVersions } from "./documents/firm.ts";
import { type JobDocument, jobSchema, jobShape, jobVersions } from "./documents/job.ts";
import { type PumpDocument, pumpSchema, pumpShape, pumpVersions } from "./documents/pump.ts";
import {
  type PumpAssetDocument,
  pumpAssetSchema,
  pumpAssetShape,
  pumpAssetVersions,
} from "./documents/pumpAsset.ts";
import { upgraded, type Versions } from "./documents/versioned.ts";

/**
 * Every kind of document that is kept, declared once: routes, client, storage and the published JSON Schemas
 * follow from it. One more takes an entry here and a migration that makes its table.
 */
export interface Collection<Document = unknown> {
  /** in the database */
  table: string;
  /** what a person calls one of them */
  noun: string;
  /** takes every version, gives the newest */
  schema: z.ZodType;
  /** the newest version as it is written in a file */
  shape: z.ZodType;
  versions: Versions;
  /** what it belongs to, where the document says so: the column and the field that hold its id */
  parent?: { of: string; column: string; field: string };
  /** kept under the id that stands in it */
  ownId?: boolean;
  /** all of them can be asked for at once */
  listed?: boolean;
  /** for the compiler alone */
  document?: Document;
}

const collection = <Document>(own: Collection<Document>): Collection<Document> => own;

export const COLLECTIONS = {
  jobs: collection<JobDocument>({
    table: "jobs",
    noun: "job",
    schema: jobSchema,
    shape: jobShape,
    versions: jobVersions,
  }),
  pumps: collection<PumpDocument>({
    table: "pumps",
    noun: "pump",
    schema: pumpSchema,
    shape: pumpShape,
    versions: pumpVersions,
    ownId: true,
    listed: true,
  }),
  tests: collection<FieldTestDocument>({
    table: "field_tests",
    noun: "field test",
    schema: fieldTestSchema,
    shape: fieldTestShape,
    versions: fieldTestVersions,
    parent: { of: "jobs", column: "job_id", field: "jobId" },
  }),
  readings: collection<ReadingDocument>({
    table: "readings",
    noun: "reading",
    schema: readingSchema,
    shape: readingShape,
    versions: readingVersions,
    parent: { of: "tests", column: "test_id", field: "testId" },
  }),
  units: collection<PumpAssetDocument>({
    table: "units",
    noun: "unit",
    schema: pumpAssetSchema,
    shape: pumpAssetShape,
    versions: pumpAssetVersions,
    listed: true,
  }),
  attachments: collection<AttachmentDocument>({
    table: "attachments",
    noun: "attachment",
    schema: attachmentSchema,
    shape: attachmentShape,
    versions: attachmentVersions,
  }),
  firms: collection<FirmDocument>({
    table: "firms",
    noun: "firm",
    schema: firmSchema,
    shape: firmShape,
    versions: firmVersions,
    listed: true,
  }),
} as const;

export type CollectionName = keyof typeof COLLECTIONS;
export type DocumentOf<C extends CollectionName> = NonNullable<(typeof COLLECTIONS)[C]["document"]>;

export const COLLECTION_NAMES = Object.keys(COLLECTIONS) as CollectionName[];

/** A document as it was stored, brought to the newest version. */
export function readStored<C extends CollectionName>(name: C, document: unknown): DocumentOf<C> {
  return upgraded(document, COLLECTIONS[name].versions) as DocumentOf<C>;
}

/** Body of a write. `revision` is 0 to create, otherwise the revision that was edited. */
export function saveSchema(name: CollectionName) {
  return z.object({
    revision: z.number().int().min(0).max(2_000_000_000),
    document: COLLECTIONS[name].schema,
  });
}
