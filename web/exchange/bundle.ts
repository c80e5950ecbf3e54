import { BUNDLE_FORMAT, type JobBundle } from "#contract/jobBundle.ts";
import { picturesOf, withNewIds } from "#model/job/jobBundle.ts";
import { api, newId } from "../api/client.ts";
import { retrying } from "../api/retrying.ts";
import { downloadText } from "../lib/downloadText.ts";
import { type Incoming, type Progress, takeIn } from "./takeIn.ts";

/** A job as it was last saved, with its tests, readings and pictures, as one file. */
export async function downloadBundle(id: string): Promise<void> {
  const [job, tests] = await Promise.all([api.get("jobs", id), api.tests(id)]);
  const readings = tests.flatMap((test) => test.readings.map(({ document }) => document));
  const pictures: JobBundle["pictures"] = [];
  for (const picture of picturesOf(job.document, readings)) {
    const { document } = await api.get("attachments", picture);
    pictures.push({ id: picture, document, bytes: await base64(await api.content(picture)) });
  }
  const bundle: JobBundle = {
    format: BUNDLE_FORMAT,
    version: 1,
    job: job.document,
    tests: tests.map((test) => ({
      id: test.id,
      document: test.document,
      readings: test.readings.map((own) => ({ id: own.id, document: own.document })),
    })),
    pictures,
  };
  const name = job.document.name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
  downloadText(`${name}-with-tests.json`, JSON.stringify(bundle), "application/json");
}

/**
 * Takes in a job with what belongs to it, under new ids, all of it or nothing. Pictures go first: what names one is
 * looked at by what is there.
 * @returns id of the job
 */
export async function openBundle(
  bundle: JobBundle,
  signal: AbortSignal,
  told: (progress: Progress) => void,
): Promise<string> {
  const { jobId, job, tests, pictures } = withNewIds(bundle, newId);
  for (const { document, bytes } of pictures) {
    const content = new Blob([bytesOf(bytes)], { type: document.type });
    await retrying(() => api.sendContent(document.hash, content), signal);
  }
  const documents: Incoming[] = [
    ...pictures.map(({ id, document }) => ({ collection: "attachments" as const, id, document })),
    { collection: "jobs", id: jobId, document: job },
    ...tests.flatMap(({ id, document, readings }) => [
      { collection: "tests" as const, id, document },
      ...readings.map((own) => ({
        collection: "readings" as const,
        id: own.id,
        document: own.document,
      })),
    ]),
  ];
  await takeIn(newId(), documents, signal, told);
  return jobId;
}

async function base64(content: Blob): Promise<string> {
  const bytes = new Uint8Array(await content.arrayBuffer());
  let text = "";
  // Taken in pieces: a picture has more bytes than a call takes arguments.
  for (let i = 0; i < bytes.length; i += 0x8000) {
    text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  }
  return btoa(text);
}

const bytesOf = (text: string) => Uint8Array.from(atob(text), (char) => char.charCodeAt(0));
