import type { Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, mayPass, Refused, Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { pauseAfter } from "../api/retrying.ts";
import { flush, isOwn } from "../outbox/flush.ts";
import {
  entries,
  isOfJobs,
  keep,
  keyFor,
  letGo,
  TAB,
  type ToHold,
  unattended,
} from "../outbox/outbox.ts";
import { toast } from "../ui/toast.ts";
import { edit, openJob, useJobStore } from "./jobStore.ts";

const PAUSE = 500;
/** A browser takes this many bytes of a request that outlives its page, all such requests together. */
const LARGEST_LAST = 60_000;

/** What was sent last of the job on the bench and not answered yet. */
let sent: unknown;

/**
 * Saves the job on the bench a moment after each change, one request at a time. Until the server has
 * acknowledged a change it is also held on this device, so that neither a closed tab nor a stopped
 * server loses it. Returns a function that stops.
 */
export function startAutosave(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  /** in a row that came to nothing, and may yet */
  let tries = 0;
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), ms);
  };

  async function send(last = false): Promise<void> {
    const { id, revision, job, saved } = useJobStore.getState();
    if (sending || saved.kind === "saved" || saved.kind === "conflict") return;
    const keepalive = last && JSON.stringify(job).length < LARGEST_LAST;
    // Too large to outlive the page: it stays held, and goes when the application is next opened.
    if (last && !keepalive) return;
    sending = true;
    sent = job;
    useJobStore.setState({ saved: { kind: "saving" } });
    const held = hold(id, revision, job);
    try {
      const stored = await api.save("jobs", id, revision, job, keepalive);
      sent = undefined;
      unheard = undefined;
      queries.setQueryData(keyOf("jobs", id), stored);
      await held;
      if (useJobStore.getState().id !== id) {
        // The bench was cleared while this was on its way. What was changed after it goes without a page.
        if (latest?.id === id && latest.document !== job) {
          await hold(id, stored.revision, latest.document);
          void flush();
        } else await letGo(keyFor("jobs", id));
        return;
      }
      const unchanged = useJobStore.getState().job === job;
      useJobStore.setState({
        revision: stored.revision,
        saved: unchanged ? { kind: "saved", at: stored.updatedAt } : { kind: "unsaved" },
      });
      if (unchanged) await letGo(keyFor("jobs", id));
      else await hold(id, stored.revision, useJobStore.getState().job);
    } catch (error) {
      const kept = await held;
      if (useJobStore.getState().id !== id) return;
      if (error instanceof Refused && error.body.error === "conflict") {
        meet(error.body.current as Stored<JobDocument> | null, revision);
      } else if (error instanceof Unreachable) {
        useJobStore.setState({ saved: { kind: "offline", kept } });
      } else {
        const signIn = error instanceof Refused && error.status === 401;
        const again = signIn || mayPass(error);
        const { message } = error as Error;
        useJobStore.setState({ saved: { kind: "refused", message, kept, signIn, again } });
      }
    } finally {
      sending = false;
      const { saved: now } = useJobStore.getState();
      if (now.kind === "unsaved") later(PAUSE);
      const waits = now.kind === "offline" || (now.kind === "refused" && now.again);
      tries = waits ? tries + 1 : 0;
      if (waits) later(pauseAfter(tries));
    }
  }

  const unsubscribe = useJobStore.subscribe((state, before) => {
    if (state.job === before.job || state.id !== before.id) return;
    // Opening a job sets its saved state in the same step; an edit leaves it as it was.
    if (state.saved !== before.saved) return;
    void hold(state.id, state.revision, state.job);
    if (state.saved.kind !== "conflict") useJobStore.setState({ saved: { kind: "unsaved" } });
    later(PAUSE);
  });
  const leaving = () => void send(true);
  // Closing a page whose changes are nowhere but in it is asked about first.
  const warn = (event: BeforeUnloadEvent) => {
    const { saved } = useJobStore.getState();
    if ((saved.kind === "offline" || saved.kind === "refused") && !saved.kept) {
      event.preventDefault();
    }
  };
  // The network is back: what waits does not wait for its turn.
  const back = () => later(0);
  addEventListener("online", back);
  addEventListener("pagehide", leaving);
  addEventListener("beforeunload", warn);
  return () => {
    void send();
    clearTimeout(timer);
    unsubscribe();
    removeEventListener("online", back);
    removeEventListener("pagehide", leaving);
    removeEventListener("beforeunload", warn);
  };
}

/** Another revision stands on the server: this page's own, whose answer was lost, or someone else's. */
function meet(current: Stored<JobDocument> | null, base: number): void {
  if (current && isOwn(current, { base, sent: unheard })) {
    unheard = undefined;
    useJobStore.setState({ revision: current.revision, saved: { kind: "unsaved" } });
    return;
  }
  useJobStore.setState({ saved: { kind: "conflict", current } });
}

/** What an earlier life of this page had sent without hearing the answer. */
let unheard: unknown;

/** Writes are done in their order, and of many that wait only the last. */
let writing: Promise<boolean> = Promise.resolve(true);
let waiting: ToHold | undefined;
/** what was held last */
let latest: { id: string; document: JobDocument } | undefined;

/** Holds a job on this device; true once it is there. */
function hold(id: string, base: number, document: JobDocument): Promise<boolean> {
  latest = { id, document };
  const at = new Date().toISOString();
  const asked = unheard ?? sent;
  waiting = {
    ...{ collection: "jobs", id, tab: TAB, base, document, at, state: "waiting" },
    ...(asked !== undefined && { sent: asked }),
  };
  writing = writing.then((before) => {
    const next = waiting;
    waiting = undefined;
    return next ? keep(next) : before;
  });
  return writing;
}

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
  sent = undefined;
  unheard = undefined;
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
  unheard = isOwn(stored, newest) ? undefined : newest.sent;
  useJobStore.setState({ revision: isOwn(stored, newest) ? stored.revision : newest.base });
  edit(() => ({ ...newest.document }));
  if (stored.unsent) toast("This is on this device only until the server answers.");
  else toast("Changes that had not reached the server were brought back.");
  if (held.length > 1) {
    toast("Another unsaved version of this job is on this device: it is listed under Jobs.");
  }
  // From here on this tab holds it.
  if ((await writing) && newest.key !== keyFor("jobs", stored.id)) await letGo(newest.key);
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
