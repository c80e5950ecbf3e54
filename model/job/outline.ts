import type { JobDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";

/** What a list shows of a job that it says itself: nothing is worked out. */
export function outlineJob({ name, place = "", customer, kind, path, pumps }: JobDocument) {
  const on = new Set(everyItem(path).flatMap((item) => (item.kind === "pump" ? [item.pump] : [])));
  return {
    ...{ name, place, customer: customer?.name ?? "" },
    ...(kind && { kind }),
    pumps: pumps.filter(({ id }) => on.has(id)).map(({ maker, model }) => `${maker} ${model}`),
  };
}
