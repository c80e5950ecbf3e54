import { temporal } from "zundo";
import { create } from "zustand";
import type { Stored } from "#contract/api/api.ts";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";

export type SaveState =
  | { kind: "saved"; at: string }
  | { kind: "saving" }
  | { kind: "unsaved" }
  /** the server does not answer; the change is kept on this device and tried again */
  | { kind: "offline" }
  | { kind: "refused"; message: string }
  | { kind: "conflict"; current: Stored<JobDocument> | null };

interface JobState {
  id: string;
  revision: number;
  job: JobDocument;
  saved: SaveState;
}

/** The job on the bench. The job itself is under undo; what is known of its saving is not. */
export const useJobStore = create<JobState>()(
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
  useJobStore.setState(({ job }) => ({ job: change(job) }));
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

export function editItem<K extends JobPathItem["kind"]>(
  id: string,
  patch: Partial<Extract<JobPathItem, { kind: K }>>,
): void {
  edit((job) => ({
    ...job,
    path: job.path.map((item) => (item.id === id ? ({ ...item, ...patch } as JobPathItem) : item)),
  }));
}

export function removeItem(id: string): void {
  edit((job) => ({ ...job, path: job.path.filter((item) => item.id !== id) }));
}

/** Puts an item before the one at `index` of the path. */
export function insertItem(index: number, item: JobPathItem): void {
  edit((job) => ({ ...job, path: job.path.toSpliced(index, 0, item) }));
}

/** Swaps an item with its neighbour, staying on its own side of the pump and before the outlet. */
export function moveItem(id: string, step: -1 | 1): void {
  edit((job) => {
    const from = job.path.findIndex((item) => item.id === id);
    const [item, other] = [job.path[from], job.path[from + step]];
    if (!item || !other || other.kind === "pump" || other.kind === "outlet") return job;
    return { ...job, path: job.path.with(from, other).with(from + step, item) };
  });
}

/** The path in the four parts a fitter handles, with where each begins in the list. */
export function partsOf(path: readonly JobPathItem[]) {
  const pumpIndex = path.findIndex((item) => item.kind === "pump");
  const last = path.at(-1);
  const end = last?.kind === "outlet" ? path.length - 1 : path.length;
  return {
    pumpIndex,
    outlet: last?.kind === "outlet" ? last : undefined,
    suction: { start: 0, items: pumpIndex > 0 ? path.slice(0, pumpIndex) : [] },
    discharge: { start: pumpIndex + 1, items: path.slice(pumpIndex + 1, end) },
  };
}
