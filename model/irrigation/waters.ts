import type { JobDocument } from "#contract/documents/job.ts";
import { gunsOf } from "#core/irrigation/gunsOnLine.ts";
import type { PathItem } from "#core/line/path.ts";

/** Whether a job waters ground: it has a gun, or a field. */
export function waters({ path, field }: Pick<JobDocument, "path" | "field">): boolean {
  return field !== undefined || gunsOf(path as PathItem[]).length > 0;
}
