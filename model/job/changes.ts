import { type JobDocument, type JobPathItem, jobSchema } from "#contract/documents/job.ts";
import { changeItems } from "#core/line/path.ts";

/** A labelled change of a job, kept with it as data. */
export type Variant = NonNullable<JobDocument["variants"]>[number];
export type FieldChange = Variant["changes"][number];

export type Changed =
  | { ok: true; job: JobDocument }
  /** a field of it is not there, or the job it makes is none */
  | { ok: false; field: string };

/**
 * The job with changes made in it. A field is named as in the document, "overTime.controls.0.on"; behind "path" an item
 * by its id, "path.riser.stock", and "path.check" alone is the item itself. null takes a field, or an item, out.
 */
export function applyChanges(job: JobDocument, changes: readonly FieldChange[]): Changed {
  let document: unknown = job;
  for (const { field, value } of changes) {
    const next = changeField(document as JobDocument, field, value);
    if (next === undefined) return { ok: false, field };
    document = next;
  }
  const parsed = jobSchema.safeParse(document);
  return parsed.success
    ? { ok: true, job: parsed.data as JobDocument }
    : { ok: false, field: changes.at(-1)?.field ?? "" };
}

function changeField(job: JobDocument, field: string, value: unknown): JobDocument | undefined {
  const [head = "", id, ...keys] = field.split(".");
  if (head !== "path" || id === undefined) {
    return put(job, id === undefined ? [head] : [head, id, ...keys], value) as
      | JobDocument
      | undefined;
  }
  let found = false;
  const path = changeItems<JobPathItem>(job.path, (item) => {
    if (item.id !== id) return item;
    found = true;
    if (keys.length > 0) return (put(item, keys, value) as JobPathItem | undefined) ?? item;
    return value === null ? [] : (value as JobPathItem);
  });
  return found ? { ...job, path } : undefined;
}

/** A copy with one value put in, or taken out; nothing where the way to it is not there. */
function put(into: unknown, [key, ...rest]: readonly string[], value: unknown): unknown {
  if (key === undefined || typeof into !== "object" || into === null) return undefined;
  if (Array.isArray(into)) {
    const index = Number(key);
    if (!Number.isInteger(index) || index < 0 || index >= into.length) return undefined;
    if (rest.length === 0)
      return value === null ? into.toSpliced(index, 1) : into.with(index, value);
    const inner = put(into[index], rest, value);
    return inner === undefined ? undefined : into.with(index, inner);
  }
  const own = into as Record<string, unknown>;
  if (rest.length === 0) {
    if (value !== null) return { ...own, [key]: value };
    const { [key]: _, ...others } = own;
    return others;
  }
  const inner = put(own[key] ?? {}, rest, value);
  return inner === undefined ? undefined : { ...own, [key]: inner };
}
