import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { type AttachmentDocument, attachmentVersions } from "#contract/documents/attachment.ts";
import { api, newId } from "../api/client.ts";
import { flush } from "../outbox/flush.ts";
import { keep, TAB } from "../outbox/outbox.ts";

/** px of its longer side: a nameplate stays legible, and twenty of them fit on a phone that is nearly full */
const LONGEST = 2000;
const QUALITY = 0.85;

/**
 * Takes a picture in for a job: made smaller, held on this device and sent as soon as the server answers.
 * @returns its id
 * @throws Error with a sentence, where the file is no picture, or can be kept neither here nor on the server
 */
export async function takePicture(file: File, job: string): Promise<string> {
  return keepPicture(await smaller(file), job);
}

/**
 * Keeps a picture that was made smaller already.
 * @param owner id of the job or the pump it belongs to
 */
export async function keepPicture(content: Blob, owner: string): Promise<string> {
  const hash = bytesToHex(sha256(new Uint8Array(await content.arrayBuffer())));
  const document: AttachmentDocument = {
    format: attachmentVersions.format,
    version: attachmentVersions.version as 2,
    type: "image/jpeg",
    size: content.size,
    hash,
  };
  const id = newId();
  const at = new Date().toISOString();
  const held = await keep({
    ...{ collection: "attachments", id, tab: TAB, base: 0, document, content, job: owner, at },
    state: "waiting",
  });
  if (held) void flush();
  else {
    await api.sendContent(hash, content);
    await api.save("attachments", id, 0, document);
  }
  return id;
}

/** A picture no larger than it has to be, as a JPEG. */
export async function smaller(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`“${file.name}” is no picture that this browser can read.`);
  });
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
  if (!blob) throw new Error(`“${file.name}” could not be made smaller.`);
  return blob;
}
