/** What becomes of documents that are taken in together, all of them or none. */
export interface ImportOutcome {
  added: number;
  /** were there and differed */
  changed: number;
  /** were there and said the same */
  same: number;
}

/** An import as the server knows it: while it is open, how many documents have come. */
export type ImportState =
  | { state: "open"; come: number }
  | { state: "cancelled" }
  | { state: "done"; outcome: ImportOutcome };

/** Documents sent at once, and bytes of them. */
export const PIECE = { documents: 200, bytes: 1_000_000 };
/** Documents of one import. */
export const LARGEST_IMPORT = 100_000;
