import { toast } from "sonner";
import type { Stored } from "#contract/api/api.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, mayPass, Refused } from "../api/client.ts";
import { allJobs, keyOf, queries, testsOf } from "../api/queries.ts";
import { type Entry, entries, isNewJob, keep, letGo, unattended } from "./outbox.ts";

/** ms between two tries while something waits */
const AGAIN = 15_000;

/**
 * Sends what no open page is at work on, now, when the network comes back, and every while. One tab at a time does.
 * What cannot be sent stays, and says why. Returns a function that stops.
 */
export function startFlushing(): () => void {
  const now = () => void flush();
  now();
  const timer = setInterval(now, AGAIN);
  addEventListener("online", now);
  return () => {
    clearInterval(timer);
    removeEventListener("online", now);
  };
}

/** Sends what waits, unless another tab is at it. Resolves when that is done. */
export function flush(): Promise<void> {
  return oneAtATime({ ifAvailable: true });
}

/** Sends what waits once no other tab is at it; resolves when that is done. */
export function flushInTurn(): Promise<void> {
  return oneAtATime({});
}

/** without locks (a page on plain HTTP off this machine): what this page is sending */
let sending: Promise<void> = Promise.resolve();

async function oneAtATime(how: LockOptions): Promise<void> {
  if (navigator.locks) {
    await navigator.locks.request("upright-gusher-outbox", how, (lock) => lock && sendAll());
  } else {
    sending = sending.then(sendAll);
    await sending;
  }
}

async function sendAll(): Promise<void> {
  for (const entry of await unattended()) {
    // What was taken on a job waits until the server has the job.
    if (entry.job !== undefined && (await isUnknown(entry.job))) continue;
    // Where the server does not answer, what comes after would only name what is not there.
    if (entry.state === "waiting" && !isOpen(entry) && !(await sendEntry(entry))) return;
  }
}

const isUnknown = async (job: string) =>
  (await entries()).some((entry) => isNewJob(entry) && entry.id === job);

/** The page of a job brings back and sends by itself what is held of it. */
const isOpen = ({ collection, id }: Entry) =>
  collection === "jobs" && location.pathname.split("/")[2] === id;

/** Sends one, and lets it go or says why not; false where nothing was answered. */
async function sendEntry(entry: Entry): Promise<boolean> {
  const { collection, id, document, key, base, content } = entry;
  try {
    if (entry.collection === "attachments" && content) {
      await api.sendContent(entry.document.hash, content);
    }
    const stored = await api.save(collection, id, base, document);
    await letGo(key);
    await arrived(entry, stored);
    return true;
  } catch (error) {
    if (!(error instanceof Refused) || error.status === 401 || mayPass(error)) return false;
    const current = error.body.error === "conflict" ? error.body.current : undefined;
    if (current && isOwn(current, entry)) {
      return sendEntry({ ...entry, base: current.revision, sent: undefined });
    }
    // The test of a day is begun by whoever files the first reading of it.
    if (current && collection === "tests" && base === 0) {
      await letGo(key);
      return true;
    }
    const state = error.body.error === "conflict" ? "conflict" : "refused";
    await keep({ ...entry, state, message: error.message });
    return true;
  }
}

/** What was held is on the server: what is shown is read again. */
async function arrived(entry: Entry, stored: Stored<unknown>): Promise<void> {
  const { collection, id, job } = entry;
  if (collection === "jobs") {
    queries.setQueryData(keyOf(collection, id), stored);
    toast(`“${entry.document.name}”: changes that had not reached the server are saved now.`);
  }
  if (collection === "readings" && job !== undefined) {
    await queries.invalidateQueries({ queryKey: testsOf(job).queryKey });
  }
  if (collection !== "attachments") await queries.invalidateQueries({ queryKey: allJobs.queryKey });
}

/** Whether what stands on the server is what this entry's own tab sent last, without hearing the answer. */
export function isOwn(current: Stored<unknown>, { base, sent }: Pick<Entry, "base" | "sent">) {
  return (
    sent !== undefined && current.revision === base + 1 && sameDocument(current.document, sent)
  );
}
