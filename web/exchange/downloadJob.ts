import { downloadText } from "../lib/downloadText.ts";

/** Hands the job to the browser as a job file. */
export function downloadJob(job: { name: string }): void {
  const name = job.name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
  downloadText(`${name}.json`, JSON.stringify(job, null, 2), "application/json");
}
