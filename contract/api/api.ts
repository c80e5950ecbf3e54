import type { FieldIssue } from "../documents/issues.ts";
import type { JobKindId } from "../documents/jobKinds.ts";

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

/** Something that was deleted not long ago, newest first, and can be brought back. */
export interface Deleted {
  collection: "jobs" | "pumps" | "tests" | "readings" | "units";
  id: string;
  name: string;
  deletedAt: string;
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
  /** others than this machine's users can reach it, and devices sign in */
  open: boolean;
}

/** A device that is signed in. Times in ms since 1970. */
export interface SignedIn {
  id: string;
  /** what its browser says it is */
  agent: string;
  address: string;
  since: number;
  seen: number;
  until: number;
  /** the one that asks */
  own?: true;
}

/** Backups that were made by themselves, newest first, and the data folder they are in. */
export interface Backups {
  place: string;
  dated: { name: string; size: number; madeAt: string }[];
}

/** What takes how much of the disk, in bytes, and how many of it there are. */
export interface Room {
  /** bytes that are free */
  free: number;
  parts: Record<
    "documents" | "revisions" | "samples" | "engine" | "pictures" | "backups",
    { bytes: number; count?: number }
  >;
}

/** What a list shows of a job. */
export interface JobLine {
  name: string;
  place: string;
  customer: string;
  kind?: JobKindId;
  /** names of the pumps on the path, those of branches too */
  pumps: string[];
  /** m³/s at the outlets and m of total head at normal water: of the pump, or asked of one */
  duty?: { flow: number; head: number };
  /** what keeps it from one; `too-much`: it could not be worked out in the time a list has for it */
  missing?: "flow" | "line" | "duty" | "too-much";
  /** checks that say stop */
  stops: number;
  section?: SmallSection;
}

/** The elevation of a line, in hundredths of the width of a small picture. */
export interface SmallSection {
  /** x and y in turn, from the intake to the outlet */
  line: number[];
  /** y of the water it comes from */
  water: number;
  pump?: [x: number, y: number];
}

export interface JobSummary extends JobLine {
  id: string;
  revision: number;
  updatedAt: string;
  /** it was saved a moment ago: what follows from it is that of before, or not there yet */
  pending?: true;
  readings: number;
  /** what was said of the newest reading that was judged, and m³/s then */
  measured: { acceptance: string; flow: number } | null;
}
