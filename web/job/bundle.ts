import { BUNDLE_FORMAT, type JobBundle } from "#contract/jobBundle.ts";
import { picturesOf, withNewIds } from "#model/jobBundle.ts";
import { api, newId } from "../api/client.ts";
import { downloadText } from "../ui/downloadText.ts";

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
 * Takes in a job with what belongs to it, under new ids, pictures first: what names another is saved after it.
 * @returns id of the job
 */
export async function openBundle(bundle: JobBundle): Promise<string> {
  const { jobId, job, tests, pictures } = withNewIds(bundle, newId);
  for (const { id, document, bytes } of pictures) {
    await api.sendContent(document.hash, new Blob([bytesOf(bytes)], { type: document.type }));
    await api.save("attachments", id, 0, document);
  }
  await api.save("jobs", jobId, 0, job);
  for (const test of tests) {
    await api.save("tests", test.id, 0, test.document);
    for (const { id, document } of test.readings) await api.save("readings", id, 0, document);
  }
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
