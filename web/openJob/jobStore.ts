import { temporal } from "zundo";
import { create } from "zustand";
import type { Stored } from "#contract/api/api.ts";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { endAt, startElevations } from "#core/line/elevations.ts";
import { changeItems, everyItem, locate } from "#core/line/path.ts";
import { keepAssumed } from "#model/job/assumed.ts";
import { asItIs } from "../lib/asItIs.ts";
import type { Part } from "./part.ts";

export type SaveState =
  | { kind: "saved"; at: string }
  | { kind: "saving" }
  | { kind: "unsaved" }
  /** the server does not answer, and is tried again; `kept` says whether this device holds the change */
  | { kind: "offline"; kept: boolean }
  /** the server refused it; `again` where that may pass, and it is tried again */
  | { kind: "refused"; message: string; kept: boolean; signIn: boolean; again: boolean }
  | { kind: "conflict"; current: Stored<JobDocument> | null };

interface JobState {
  id: string;
  revision: number;
  job: JobDocument;
  saved: SaveState;
}

/** The job on the bench. The job itself is under undo; what is known of its saving is not. */
export const useJobStore = create<JobState>()(
  asItIs(
    temporal(
      (): JobState => ({
        id: "",
        revision: 0,
        job: undefined as unknown as JobDocument,
        saved: { kind: "saved", at: "" },
      }),
      {
        partialize: ({ job }) => ({ job }),
        equality: (a, b) => a.job === b.job,
        limit: 200,
      },
    ),
  ),
);

const history = () => useJobStore.temporal.getState();
let visiting = false;

/** Puts a stored job on the bench and forgets the history of the one before. */
export function openJob({ id, revision, document, updatedAt }: Stored<JobDocument>): void {
  useJobStore.setState({ id, revision, job: document, saved: { kind: "saved", at: updatedAt } });
  history().resume();
  history().clear();
}

/** Changes the job. During a visit to an entry field all keys together are one step of undo. */
export function edit(change: (job: JobDocument) => JobDocument): void {
  useJobStore.setState(({ job }) => ({ job: keepAssumed(job, change(job)) }));
  if (visiting) history().pause();
}

export function visit(inside: boolean): void {
  visiting = inside;
  if (!inside) history().resume();
}

export function undo(): void {
  leaveField();
  history().undo();
}

export function redo(): void {
  leaveField();
  history().redo();
}

function leaveField(): void {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  visit(false);
}

/** Puts in an item's place what `make` gives for it: another, several, or nothing. */
export function replaceItem(id: string, make: (item: JobPathItem) => JobPathItem[]): void {
  edit((job) => ({
    ...job,
    path: changeItems<JobPathItem>(job.path, (item) => (item.id === id ? make(item) : item)),
  }));
}

export function editItem<K extends JobPathItem["kind"]>(
  id: string,
  patch: Partial<Extract<JobPathItem, { kind: K }>>,
): void {
  replaceItem(id, (item) => [{ ...item, ...patch } as JobPathItem]);
}

export function removeItem(id: string): void {
  replaceItem(id, () => []);
}

/** A list of rows: the path itself, or a branch of a split. */
export type Place = { split: string; branch: number } | undefined;

/** Puts an item before the one at `index` of a list. */
export function insertItem(index: number, item: JobPathItem, place?: Place): void {
  edit((job) => ({
    ...job,
    path: changeList(job.path, place, (list) => list.toSpliced(index, 0, item)),
  }));
}

/** Puts the item dragged where the other stands, in the same list. */
export function dropItem(id: string, over: string): void {
  edit((job) => {
    const from = locate<JobPathItem>(job.path, id);
    const to = locate<JobPathItem>(job.path, over);
    if (!from || !to || from.list !== to.list) return job;
    const item = from.list[from.index] as JobPathItem;
    const order = from.list.toSpliced(from.index, 1).toSpliced(to.index, 0, item);
    return { ...job, path: withList(job.path, from.list, order) };
  });
}

/** Swaps an item with its neighbour, staying on its own side of the pump and before an outlet. */
export function moveItem(id: string, step: -1 | 1): void {
  edit((job) => {
    const found = locate<JobPathItem>(job.path, id);
    const item = found?.list[found.index];
    const other = found?.list[found.index + step];
    if (!found || !item || !other || other.kind === "outlet" || item.kind === "outlet") return job;
    // On the path itself the first pump parts suction from discharge; further pumps are rows.
    const divide = found.list === job.path ? partsOf(job.path).pumpIndex : -1;
    if (found.index + step === divide) return job;
    const order = found.list.with(found.index, other).with(found.index + step, item);
    return { ...job, path: withList(job.path, found.list, order) };
  });
}

/** Makes a run end at an elevation in m, and the next one still end where it did. */
export function endItemAt(id: string, end: number): void {
  edit((job) => {
    const found = locate<JobPathItem>(job.path, id);
    const start = startElevations(job.path, job.source.intake).get(id);
    if (!found || start === undefined) return job;
    return { ...job, path: withList(job.path, found.list, endAt(found.list, id, start, end)) };
  });
}

export function setBranches(split: string, branches: JobPathItem[][]): void {
  editItem<"split">(split, { branches });
}

/** The path with one of its lists changed, however deep the split it belongs to lies. */
function changeList(
  path: JobPathItem[],
  place: Place,
  change: (list: JobPathItem[]) => JobPathItem[],
): JobPathItem[] {
  if (!place) return change(path);
  return changeItems<JobPathItem>(path, (item) =>
    item.kind === "split" && item.id === place.split
      ? {
          ...item,
          branches: item.branches.map((branch, i) =>
            i === place.branch ? change(branch) : branch,
          ),
        }
      : item,
  );
}

function withList(
  path: JobPathItem[],
  list: readonly JobPathItem[],
  order: JobPathItem[],
): JobPathItem[] {
  if (list === path) return order;
  return path.map((item) =>
    item.kind === "split"
      ? { ...item, branches: item.branches.map((branch) => withList(branch, list, order)) }
      : item,
  );
}

/** Every place on the path where a pump stands. */
export function pumpItems(path: readonly JobPathItem[]) {
  return everyItem<JobPathItem>(path).filter((item) => item.kind === "pump");
}

/** Every outlet of the path. */
export function outletItems(path: readonly JobPathItem[]) {
  return everyItem<JobPathItem>(path).filter((item) => item.kind === "outlet");
}

/**
 * The path in the parts a fitter handles, with where each begins in the list. The first pump, or the
 * split with the first pumps in it, parts suction from discharge.
 */
export function partsOf(path: readonly JobPathItem[]) {
  const pumpIndex = path.findIndex(
    (item) =>
      item.kind === "pump" ||
      (item.kind === "split" &&
        everyItem<JobPathItem>(item.branches.flat()).some(({ kind }) => kind === "pump")),
  );
  const at = path[pumpIndex];
  const last = path.at(-1);
  const end = last?.kind === "outlet" ? path.length - 1 : path.length;
  return {
    pumpIndex,
    /** pumps side by side, with what stands beside each */
    pumpSplit: at?.kind === "split" ? at : undefined,
    outlet: last?.kind === "outlet" ? last : undefined,
    suction: { start: 0, items: pumpIndex > 0 ? path.slice(0, pumpIndex) : [] },
    discharge: { start: pumpIndex + 1, items: path.slice(pumpIndex + 1, end) },
  };
}

/** Which part of the job an item belongs to. */
export function partOf(path: readonly JobPathItem[], id: string): Part {
  const { pumpIndex } = partsOf(path);
  const found = everyItem<JobPathItem>(path).find((item) => item.id === id);
  if (found?.kind === "outlet" && path.at(-1)?.id === id) return "outlet";
  const index = path.findIndex((item) =>
    everyItem<JobPathItem>([item]).some((inner) => inner.id === id),
  );
  if (index === pumpIndex) return "pump";
  return index < pumpIndex ? "suction" : "discharge";
}
