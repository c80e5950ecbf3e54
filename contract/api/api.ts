import type { FieldIssue } from "../documents/issues.ts";

/** A stored document with what the server knows of it. */
export interface Stored<T> {
  id: string;
  /** counts up by one at each write; a write names the one it edited */
  revision: number;
  updatedAt: string;
  document: T;
}

/** One of the states a document was ever saved in, newest first. */
export interface Revision {
  revision: number;
  savedAt: string;
}

export type ApiError =
  | { error: "invalid"; message: string; issues: FieldIssue[] }
  | { error: "conflict"; message: string; current: Stored<unknown> | null }
  | {
      error:
        | "not-found"
        | "forbidden"
        | "sign-in"
        | "too-large"
        | "bad-request"
        | "no-room"
        | "failed";
      message: string;
    };

export interface Health {
  ok: true;
  product: "upright-gusher";
  version: string;
  demo: boolean;
}

/** Backups that were made by themselves, newest first, and the data folder they are in. */
export interface Backups {
  place: string;
  dated: { name: string; size: number; madeAt: string }[];
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
