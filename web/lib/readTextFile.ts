import { decodeText } from "#model/import/decodeText.ts";

/** The text of a file, whatever wrote it. */
export const readTextFile = async (file: File): Promise<string> =>
  decodeText(new Uint8Array(await file.arrayBuffer()));
