import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { changeItems, everyItem, type PathItem } from "#core/line/path.ts";
import type { Arrangement } from "#core/pump/arrangement.ts";
import { pathWith } from "#core/selection/rankPumps.ts";

/** A place of a job's line, with the pumps that stand in the others. */
export function placeOf({ path, pumps }: Pick<JobDocument, "path" | "pumps">, itemId: string) {
  const elsewhere = new Set(
    everyItem(path as PathItem[]).flatMap((item) =>
      item.kind === "pump" && item.id !== itemId ? [item.pump] : [],
    ),
  );
  return { itemId, others: pumps.filter(({ id }) => elsewhere.has(id)) };
}

/** What was chosen, by the ids of its pumps. */
interface ChosenById {
  kind: Arrangement["kind"];
  ids: readonly string[];
  speedRatio?: number;
}

/** An arrangement of whole documents, as a job takes it. */
export type ArrangementOfDocuments =
  | { kind: "one"; pump: PumpDocument; speedRatio?: number }
  | { kind: "beside" | "after"; pumps: readonly [PumpDocument, PumpDocument] };

/** What was chosen with the documents of its pumps; nothing where one of them is not there any more. */
export function arrangementOf(
  { kind, ids, speedRatio }: ChosenById,
  documents: ReadonlyMap<string, PumpDocument>,
): ArrangementOfDocuments | undefined {
  const [first, second] = ids.map((id) => documents.get(id));
  if (!first) return undefined;
  if (kind === "one") return { kind, pump: first, ...(speedRatio !== undefined && { speedRatio }) };
  return second && { kind, pumps: [first, second] };
}

/**
 * The job with an arrangement in a place, copies of its pumps kept with it; nothing where two do not go there. A speed
 * that was chosen for what stood there before is not kept.
 */
export function withArrangement(
  job: JobDocument,
  itemId: string,
  arrangement: ArrangementOfDocuments,
): JobDocument | undefined {
  const taken = new Set(everyItem<JobPathItem>(job.path).map(({ id }) => id));
  const fresh = new Map<string, string>();
  const name = (of: string) => {
    let id = fresh.get(of);
    for (let n = 2; id === undefined; n++) if (!taken.has(`${of}-${n}`)) id = `${of}-${n}`;
    taken.add(id);
    fresh.set(of, id);
    return id;
  };
  const bare = atRatedSpeed(job.path as PathItem[], itemId);
  const path = pathWith(bare, arrangement as Arrangement, itemId, name);
  if (!path) return undefined;
  const pumps = arrangement.kind === "one" ? [arrangement.pump] : [...arrangement.pumps];
  const named = new Set(
    everyItem(path).flatMap((item) => (item.kind === "pump" ? [item.pump] : [])),
  );
  const own = new Map([...job.pumps, ...pumps].map((pump) => [pump.id, pump]));
  return {
    ...job,
    path: path as JobPathItem[],
    pumps: [...own.values()].filter(({ id }) => named.has(id)),
  };
}

/** The path with a place run at the rated speed of whatever stands there. */
export const atRatedSpeed = (path: PathItem[], itemId: string): PathItem[] =>
  changeItems(path, (item) => {
    if (item.kind !== "pump" || item.id !== itemId) return item;
    const { speedRatio: _, ...rest } = item;
    return rest;
  });
