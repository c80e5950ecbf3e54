import type { Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, Refused, Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { flush, isOwn } from "../outbox/flush.ts";
import { entries, isOfJobs, keep, keyFor, letGo, unattended } from "../outbox/outbox.ts";
import { toast } from "../ui/toast.ts";
import { edit, openJob, useJobStore } from "./jobStore.ts";
import { Saver } from "./saver.ts";

const SAVER = new Saver({
  save: (id, revision, job, keepalive) => api.save("jobs", id, revision, job, keepalive),
  ...{ keep, letGo, flush, page: globalThis as unknown as EventTarget },
  stored: (stored) => queries.setQueryData(keyOf("jobs", stored.id), stored),
});

/** Saves the job on the bench from now on. Returns a function that stops. */
export const startAutosave = (): (() => void) => SAVER.start();

/** A job to put on the bench; `unsent` where this device alone answered for it. */
export type Opened = Stored<JobDocument> & { unsent?: true };

/**
 * A job from the server, or, where that does not answer or never had it, what this device holds of it.
 * @throws the server's refusal, or that it does not answer, where nothing is held
 */
export async function jobToOpen(id: string): Promise<Opened> {
  try {
    return await api.get("jobs", id);
  } catch (error) {
    const gone = error instanceof Refused && error.status === 404;
    if (!gone && !(error instanceof Unreachable)) throw error;
    const held = (await entries()).filter(isOfJobs).findLast((entry) => entry.id === id);
    // A job that was deleted on the server is not begun anew here.
    if (!held || (gone && held.base > 0)) throw error;
    const { base: revision, document, at: updatedAt } = held;
    return { id, revision, document, updatedAt, unsent: true };
  }
}

/**
 * Puts a stored job on the bench, and what this device holds of it on top: as an edit, so that saving and the check
 * for a conflict run as for any other. Of several that are held the newest comes back; the others stay held.
 */
export async function putOnBench(stored: Opened, stillWanted: () => boolean): Promise<void> {
  const held = (await unattended()).filter(isOfJobs).filter(({ id }) => id === stored.id);
  if (!stillWanted()) return;
  openJob(stored);
  SAVER.begin();
  const newest = held.at(-1);
  if (!newest) {
    // Another tab is at work on what this device alone has.
    if (stored.unsent) useJobStore.setState({ saved: { kind: "offline", kept: true } });
    return;
  }
  // The last save of a page that was being closed is often kept without its answer being heard.
  if (!stored.unsent && sameDocument(newest.document, stored.document)) {
    await letGo(newest.key);
    return;
  }
  SAVER.begin(isOwn(stored, newest) ? undefined : newest.sent);
  useJobStore.setState({ revision: isOwn(stored, newest) ? stored.revision : newest.base });
  edit(() => ({ ...newest.document }));
  if (stored.unsent) toast("This is on this device only until the server answers.");
  else toast("Changes that had not reached the server were brought back.");
  if (held.length > 1) {
    toast("Another unsaved version of this job is on this device: it is listed under Jobs.");
  }
  // From here on this tab holds it.
  if ((await SAVER.held()) && newest.key !== keyFor("jobs", stored.id)) await letGo(newest.key);
}

/** Puts a stored job on the bench where this device holds nothing of it. */
export async function putOnBenchAsStored(stored: Opened): Promise<boolean> {
  const held = (await unattended()).some((entry) => isOfJobs(entry) && entry.id === stored.id);
  if (held || stored.unsent) return false;
  openJob(stored);
  return true;
}

/** After a conflict: writes the job on the bench, or what was put together of both, over what stands on the server. */
export function keepMine(
  current: Stored<JobDocument> | null,
  job: JobDocument = useJobStore.getState().job,
): void {
  useJobStore.setState({ revision: current?.revision ?? 0 });
  useJobStore.setState({ saved: { kind: "unsaved" } });
  // A fresh object counts as a change, which sends it.
  useJobStore.setState({ job: { ...job } });
}

/** Lets go what this tab holds of a job: a person chose the other version. */
export const dropHeld = (id: string): Promise<void> => letGo(keyFor("jobs", id));
