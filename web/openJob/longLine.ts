import type { JobDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";

/** Parts of a line up to which all that is said of it is worked out with the key that changed it. */
const SHORT = 150;

/** Whether a line is so long that what follows from a key comes a moment after it. */
export function isLongLine({ path }: Pick<JobDocument, "path">): boolean {
  return path.length > SHORT || everyItem(path).length > SHORT;
}
