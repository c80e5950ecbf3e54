import type { JobDocument } from "#contract/documents/job.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { type Uncertainty, USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { everyItem } from "#core/line/path.ts";

/**
 * What stands in a job without having been measured: `assumed` names parts of the document, such as "source.level" or
 * "path.riser.stock", where what follows `path` is the id of an item. A part counts as assumed until it is changed.
 */
export function keepAssumed(before: JobDocument, after: JobDocument): JobDocument {
  const { assumed } = after;
  if (!assumed || assumed.length === 0 || assumed !== before.assumed) return after;
  // Each line is gone through once, not once a field, and not at all while it is the same.
  const [was, is] = [itemsOf(before), before.path === after.path ? undefined : itemsOf(after)];
  const kept = assumed.filter((field) => {
    const value = partOf(after, is ?? was, field);
    return value !== undefined && sameDocument(partOf(before, was, field), value);
  });
  return kept.length === assumed.length ? after : { ...after, assumed: kept };
}

/** A job in which these parts were looked at and found right. */
export function confirmed(job: JobDocument, fields: readonly string[]): JobDocument {
  const kept = job.assumed?.filter((field) => !fields.includes(field));
  return { ...job, assumed: kept ?? [] };
}

/** Whether an item of the path, or a part of it, is assumed. */
export const isAssumed = ({ assumed }: Pick<JobDocument, "assumed">, itemId: string): boolean =>
  assumed?.some((field) => {
    const [head, id = itemId] = field.split(".");
    return head === "path" && id === itemId;
  }) ?? false;

/**
 * Whether somebody has drawn the line. A job begun to measure only holds a line so that there is something to draw on;
 * until its run has been typed, nothing is worked out or judged by it.
 */
export const lineKnown = ({ kind, assumed }: Pick<JobDocument, "kind" | "assumed">): boolean =>
  !(kind === "measuring" && assumed?.includes("path.line.length"));

/** Times the usual doubt where what it is in was never measured. Common practice, no source. */
const UNMEASURED = { level: 4, fittings: 2 };

/** How far the inputs of a job are in doubt: as typed, or usual and wider where they are assumed. */
export function uncertaintyOf(job: Pick<JobDocument, "doubt" | "assumed" | "path">): Uncertainty {
  const { assumed = [], doubt } = job;
  if (doubt) return doubt;
  if (assumed.length === 0) return USUAL_UNCERTAINTY;
  const levels = assumed.some((field) => field === "source" || field.startsWith("source.level"));
  const fittings = everyItem(job.path).some(
    ({ id, kind }) => kind === "fitting" && isAssumed(job, id),
  );
  return {
    ...USUAL_UNCERTAINTY,
    level: USUAL_UNCERTAINTY.level * (levels ? UNMEASURED.level : 1),
    fittings: USUAL_UNCERTAINTY.fittings * (fittings ? UNMEASURED.fittings : 1),
  };
}

const itemsOf = ({ path }: JobDocument) => new Map(everyItem(path).map((item) => [item.id, item]));

function partOf(job: JobDocument, items: ReturnType<typeof itemsOf>, field: string): unknown {
  const [head, ...keys] = field.split(".");
  if (head !== "path" || keys[0] === undefined) return dig(job, [head as string, ...keys]);
  return dig(items.get(keys[0]), keys.slice(1));
}

function dig(value: unknown, keys: readonly string[]): unknown {
  let found = value;
  for (const key of keys) {
    if (typeof found !== "object" || found === null) return undefined;
    found = (found as Record<string, unknown>)[key];
  }
  return found;
}
