import { z } from "zod";
import { fieldTestSchema, readingSchema } from "../documents/fieldTest.ts";
import type { FieldIssue } from "../documents/issues.ts";
import { jobSchema } from "../documents/job.ts";
import { pumpSchema } from "../documents/pump.ts";

/** A stored document with what the server knows of it. */
export interface Stored<T> {
  id: string;
  /** counts up by one at each write; a write names the one it edited */
  revision: number;
  updatedAt: string;
  document: T;
}

/** Body of a write. `revision` is 0 to create, otherwise the revision that was edited. */
export const saveSchemas = {
  jobs: saveOf(jobSchema),
  pumps: saveOf(pumpSchema),
  tests: saveOf(fieldTestSchema),
  readings: saveOf(readingSchema),
};

function saveOf<T extends z.ZodType>(document: T) {
  return z.object({
    revision: z.number().int().min(0).max(2_000_000_000),
    document,
  });
}

export type ApiError =
  | { error: "invalid"; message: string; issues: FieldIssue[] }
  | { error: "conflict"; message: string; current: Stored<unknown> | null }
  | { error: "not-found" | "forbidden" | "too-large" | "bad-request" | "failed"; message: string };

export interface Health {
  ok: true;
  product: "upright-gusher";
  version: string;
  demo: boolean;
}

export interface JobSummary {
  id: string;
  revision: number;
  updatedAt: string;
  name: string;
  place: string;
  /** names of the pumps on the path */
  pumps: string[];
  readings: number;
}
