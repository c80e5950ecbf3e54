import type { JobDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";

/** What a list shows of a document, made when it is saved. */
export interface JobLine {
  name: string;
  place: string;
  /** names of the pumps on the path, those of branches too */
  pumps: string[];
}

export function summariseJob({ name, place = "", path, pumps }: JobDocument): JobLine {
  const on = new Set(everyItem(path).flatMap((item) => (item.kind === "pump" ? [item.pump] : [])));
  return {
    name,
    place,
    pumps: pumps.filter(({ id }) => on.has(id)).map(({ maker, model }) => `${maker} ${model}`),
  };
}
