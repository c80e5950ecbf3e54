import { type ImportOutcome, type ImportState, PIECE } from "#contract/api/imports.ts";
import type { CollectionName } from "#contract/collections.ts";
import { api } from "../api/client.ts";
import { retrying, Stopped } from "../api/retrying.ts";

/** A document to be taken in. */
export interface Incoming {
  collection: CollectionName;
  id: string;
  document: object;
}

/** How far an import is: how many documents are there, and why it is tried again, where it is. */
export interface Progress {
  sent: number;
  of: number;
  waiting?: string;
}

/** Whether all of it was taken in, or nothing, could not be found out. */
export class NotKnown extends Error {
  override name = "NotKnown";
}

/** What is said of an import that came to nothing. */
export function whyNot(nothing: string, error: unknown): string {
  if (error instanceof Stopped) return nothing;
  const { message } = error as Error;
  return error instanceof NotKnown ? message : `${nothing} ${message}`;
}

/**
 * Sends documents in pieces and has them taken in together: all of them or none. What may pass is tried again until
 * `signal` stops it; stopping takes in nothing, unless all of it was taken in already, which is told then.
 * @param id of this import: sent again under the same one, nothing comes twice
 * @throws `Stopped`, or `Refused` with what is wrong: nothing was taken in then; or `NotKnown`
 */
export async function takeIn(
  id: string,
  documents: readonly Incoming[],
  signal: AbortSignal,
  told: (progress: Progress) => void = () => undefined,
): Promise<ImportOutcome> {
  const of = documents.length;
  let sent = 0;
  const say = (waiting?: string) => told({ sent, of, ...(waiting && { waiting }) });
  let finishing = false;
  try {
    for (const piece of piecesOf(documents)) {
      say();
      await retrying(() => api.sendPiece(id, sent, piece), signal, say);
      sent += piece.length;
    }
    say();
    finishing = true;
    return outcomeOf(await retrying(() => api.finishImport(id, of), signal, say));
  } catch (error) {
    // Whatever the answer that was lost said: this says how it stands. What was not finished is forgotten by itself.
    const state = await api.cancelImport(id).catch(() => undefined);
    if (state?.state === "done") return state.outcome;
    if (!state && finishing) {
      throw new NotKnown(
        "The server does not answer: whether it was taken in is not known. Look there before you read it in again.",
      );
    }
    throw error;
  }
}

function outcomeOf(state: ImportState): ImportOutcome {
  if (state.state === "done") return state.outcome;
  throw new Stopped("It was cancelled somewhere else.");
}

/** Documents in runs that one request holds, in their order. */
export function piecesOf(documents: readonly Incoming[]): Incoming[][] {
  const pieces: Incoming[][] = [];
  let piece: Incoming[] = [];
  let bytes = 0;
  for (const document of documents) {
    // Letters beyond ASCII take up to three bytes each.
    const own = 3 * JSON.stringify(document).length;
    if (piece.length === PIECE.documents || (piece.length > 0 && bytes + own > PIECE.bytes)) {
      pieces.push(piece);
      [piece, bytes] = [[], 0];
    }
    piece.push(document);
    bytes += own;
  }
  if (piece.length > 0) pieces.push(piece);
  return pieces;
}
