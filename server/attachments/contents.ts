import { createHash } from "node:crypto";
import fs from "node:fs";
import { join } from "node:path";
import type { AttachmentDocument } from "#contract/documents/attachment.ts";
import { makeFolder, writeWhole } from "../database/syncing.ts";

/**
 * The bytes of pictures and pages, each in a file named by its SHA-256: the same picture is kept once, and a file
 * that was damaged does not fit its name any more.
 */
export interface Contents {
  /** Keeps bytes under their hash, on the disk when it returns. A reason where they are not what they should be. */
  keep(hash: string, bytes: Uint8Array): string | undefined;
  /** the bytes of a hash, if they are there */
  read(hash: string): Buffer | undefined;
  /** why a document does not fit the bytes that are kept, if it does not */
  misfit(document: AttachmentDocument): { path: string; message: string } | undefined;
  hashes(): string[];
  /** Takes bytes away where they came before a moment, in ms since 1970; whether it did. */
  forget(hash: string, before: number): boolean;
  /** the file of bytes that are there */
  path(hash: string): string;
}

export const isHash = (text: string): boolean => /^[0-9a-f]{64}$/.test(text);

export function contentsIn(folder: string): Contents {
  const place = join(folder, "attachments");
  const read = (hash: string) => {
    const path = join(place, hash);
    return isHash(hash) && fs.existsSync(path) ? fs.readFileSync(path) : undefined;
  };
  return {
    read,
    keep: (hash, bytes) => {
      if (createHash("sha256").update(bytes).digest("hex") !== hash) {
        return "The picture arrived changed. Send it again.";
      }
      if (fs.existsSync(join(place, hash))) {
        // Sent again it is wanted again, for as long as one that is new.
        const now = new Date();
        fs.utimesSync(join(place, hash), now, now);
        return undefined;
      }
      makeFolder(place);
      writeWhole(join(place, hash), bytes);
      return undefined;
    },
    misfit: ({ hash, size, type }) => {
      const bytes = read(hash);
      if (!bytes) return { path: "document.hash", message: "Send the picture itself first." };
      if (bytes.length !== size) {
        return { path: "document.size", message: `The picture has ${bytes.length} bytes.` };
      }
      return typeOf(bytes) === type
        ? undefined
        : { path: "document.type", message: "The picture is of another type than it says." };
    },
    forget: (hash, before) => {
      const file = fs.statSync(join(place, hash), { throwIfNoEntry: false });
      if (!file || file.mtimeMs >= before) return false;
      fs.rmSync(join(place, hash));
      return true;
    },
    path: (hash) => join(place, hash),
    hashes: () => (fs.existsSync(place) ? fs.readdirSync(place).filter(isHash).toSorted() : []),
  };
}

/** What bytes are, by how they begin (ISO/IEC 10918-1, 15948 and 32000-1, RFC 9649). */
function typeOf(bytes: Buffer): AttachmentDocument["type"] | undefined {
  const begins = (text: string, at = 0) => bytes.toString("latin1", at, at + text.length) === text;
  if (begins("\xff\xd8\xff")) return "image/jpeg";
  if (begins("\x89PNG\r\n\x1a\n")) return "image/png";
  if (begins("RIFF") && begins("WEBP", 8)) return "image/webp";
  return begins("%PDF-") ? "application/pdf" : undefined;
}
