import type {
  ApiError,
  Backups,
  Deleted,
  Health,
  JobSummary,
  Room,
  SignedIn,
  Stored,
} from "#contract/api/api.ts";
import type { ImportState } from "#contract/api/imports.ts";
import type { CollectionName, DocumentOf } from "#contract/collections.ts";
import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import type {
  BoxChange,
  BoxInput,
  BoxState,
  BoxTruth,
  Sample,
  StreamInput,
  StreamLine,
} from "#contract/streams/stream.ts";

export type TestWithReadings = Stored<FieldTestDocument> & { readings: Stored<ReadingDocument>[] };

/** The server answered, and refused. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly body: ApiError,
  ) {
    super(body.message);
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super("The server does not answer. Is it still running?");
  }
}

/** Whether a failure may be over when it is tried again: the server did not answer, is at its limits, or has no room. */
export function mayPass(error: unknown): boolean {
  if (error instanceof Unreachable) return true;
  return (
    error instanceof Refused && (error.status >= 500 || [408, 425, 429].includes(error.status))
  );
}

async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  keepalive = false,
  headers: Record<string, string> = {},
): Promise<T> {
  // Bytes go as they are, anything else as JSON.
  const sent =
    body instanceof Blob
      ? { body }
      : body !== undefined && {
          body: JSON.stringify(body),
          headers: { "content-type": "application/json", ...headers },
        };
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive,
      ...sent,
    });
  } catch {
    throw new Unreachable();
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    const message = `The server answered ${response.status}.`;
    throw new Refused(response.status, (answer as ApiError) ?? { error: "failed", message });
  }
  return answer as T;
}

export const api = {
  health: () => call<Health>("GET", "/health"),
  jobs: () => call<JobSummary[]>("GET", "/jobs"),
  all: <C extends CollectionName>(collection: C) =>
    call<Stored<DocumentOf<C>>[]>("GET", `/${collection}`),
  tests: (id: string, of: "jobs" | "units" = "jobs") =>
    call<TestWithReadings[]>("GET", `/${of}/${id}/tests`),
  get: <C extends CollectionName>(collection: C, id: string) =>
    call<Stored<DocumentOf<C>>>("GET", `/${collection}/${encodeURIComponent(id)}`),
  revision: <C extends CollectionName>(collection: C, id: string, revision: number) =>
    call<Stored<DocumentOf<C>>>(
      "GET",
      `/${collection}/${encodeURIComponent(id)}/revisions/${revision}`,
    ),
  save: <C extends CollectionName>(
    collection: C,
    id: string,
    revision: number,
    document: DocumentOf<C>,
    keepalive = false,
  ) =>
    call<Stored<DocumentOf<C>>>(
      "PUT",
      `/${collection}/${encodeURIComponent(id)}`,
      { revision, document },
      keepalive,
    ),
  remove: (collection: CollectionName, id: string) =>
    call<void>("DELETE", `/${collection}/${encodeURIComponent(id)}`),
  restore: (collection: CollectionName, id: string) =>
    call<void>("POST", `/${collection}/${encodeURIComponent(id)}/restore`),
  /** what was deleted in the last thirty days */
  bin: () => call<Deleted[]>("GET", "/bin"),
  /** the bytes of an attachment, under their hash: before the document that names them */
  sendContent: (hash: string, bytes: Blob) => call<void>("PUT", `/contents/${hash}`, bytes),
  content: async (id: string): Promise<Blob> => {
    const response = await fetch(`/api/attachments/${encodeURIComponent(id)}/content`);
    if (!response.ok) throw new Error(`The server answered ${response.status}.`);
    return response.blob();
  },
  /** where others can reach the server: who is let in */
  devices: () => call<SignedIn[]>("GET", "/devices"),
  endDevice: (id: string) => call<void>("DELETE", `/devices/${encodeURIComponent(id)}`),
  backups: () => call<Backups>("GET", "/backups"),
  room: () => call<Room>("GET", "/room"),
  sendPiece: (id: string, from: number, documents: readonly object[]) =>
    call<ImportState>("PATCH", `/imports/${id}`, { from, documents }),
  /** takes in what was sent, all of it or nothing; asked again it answers as it did */
  finishImport: (id: string, count: number) =>
    call<ImportState>("POST", `/imports/${id}/finish`, { count }),
  cancelImport: (id: string) => call<ImportState>("DELETE", `/imports/${id}`),
  loadLibrary: () => call<{ added: number }>("POST", "/library"),
  streams: (jobId: string) => call<StreamLine[]>("GET", `/jobs/${jobId}/streams`),
  stream: (id: string) => call<StreamLine>("GET", `/streams/${id}`),
  /** begins a stream; its token is told this once */
  makeStream: (id: string, stream: StreamInput) =>
    call<{ id: string; token: string }>("PUT", `/streams/${id}`, stream),
  removeStream: (id: string) => call<void>("DELETE", `/streams/${id}`),
  restoreStream: (id: string) => call<void>("POST", `/streams/${id}/restore`),
  sendSamples: (id: string, token: string, samples: readonly Sample[]) =>
    call<{ added: number; known: number }>("POST", `/streams/${id}/samples`, { samples }, false, {
      authorization: `Bearer ${token}`,
    }),
  startBox: (id: string, box: BoxInput) => call<{ id: string }>("PUT", `/boxes/${id}`, box),
  turnBox: (id: string, change: BoxChange) => call<BoxState>("PATCH", `/boxes/${id}`, change),
  /** tells what was hidden in it */
  stopBox: (id: string) => call<BoxTruth>("DELETE", `/boxes/${id}`),
  resetDemo: () => call<void>("POST", "/demo/reset"),
};

/** An id nobody else makes (UUID version 4, RFC 9562). Browsers keep `randomUUID` from pages on plain HTTP. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] as number) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] as number) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}
