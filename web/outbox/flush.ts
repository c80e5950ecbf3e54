import type { Stored } from "#contract/api/api.ts";
import type { FieldTestDocument } from "#contract/documents/fieldTest.ts";
import { merge } from "#contract/documents/merge.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, mayPass, Refused } from "../api/client.ts";
import { allJobs, keyOf, queries, testsOf } from "../api/queries.ts";
import { toast } from "../ui/toast.ts";
import { type Entry, type EntryOf, entries, isNewJob, keep, letGo, unattended } from "./outbox.ts";

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
let sending: Promise<unknown> = Promise.resolve();

async function oneAtATime(how: LockOptions): Promise<void> {
  const reached = new Set<string>();
  if (navigator.locks) {
    await navigator.locks.request("upright-gusher-outbox", how, (lock) => lock && sendAll(reached));
  } else {
    sending = sending.then(() => sendAll(reached));
    await sending;
  }
  // Whoever sends next does not wait for what is read again.
  await refresh(reached);
}

/** Entries under way at once: the server puts each on its disk before it answers. */
const AT_ONCE = 6;

/** @param reached is told what of the page what arrived is shown by */
async function sendAll(reached: Set<string>): Promise<void> {
  const all = await unattended();
  const waiting = all.filter((entry) => entry.state === "waiting" && !isOpen(entry));
  // What was taken on a job waits until the server has the job, whoever holds that.
  const unknown = new Set((await entries()).flatMap((own) => (isNewJob(own) ? [own.id] : [])));
  // Of each kind as many as go at once, and the next kind after the last of one: it may name what goes before.
  for (const kind of runsOf(waiting)) {
    const queue = kind.filter(({ job }) => job === undefined || !unknown.has(job));
    let silent = false;
    const sender = async () => {
      for (let entry = queue.shift(); entry && !silent; entry = queue.shift()) {
        // Where the server does not answer, what comes after would only name what is not there.
        if (!(await sendEntry(entry, reached))) silent = true;
        else if (isNewJob(entry) && !(await isHeld(entry))) unknown.delete(entry.id);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, sender));
    if (silent) return;
  }
}

/** Whether an entry is still here, because the server did not take it. */
const isHeld = async ({ key }: Entry) => (await entries()).some((own) => own.key === key);

/** Entries in the order they are sent, cut where the kind changes. */
function runsOf(waiting: readonly Entry[]): Entry[][] {
  const runs: Entry[][] = [];
  for (const entry of waiting) {
    const last = runs.at(-1);
    const same =
      last?.[0]?.collection === entry.collection && isNewJob(last[0]) === isNewJob(entry);
    if (same) last?.push(entry);
    else runs.push([entry]);
  }
  return runs;
}

/** The page of a job brings back and sends by itself what is held of it. */
const isOpen = ({ collection, id }: Entry) =>
  collection === "jobs" && location.pathname.split("/")[2] === id;

/**
 * Sends one, and lets it go or says why not; false where nothing was answered.
 * @param reached is told what of the page it is shown by
 */
async function sendEntry(entry: Entry, reached: Set<string>): Promise<boolean> {
  const { collection, id, document, key, base, content } = entry;
  try {
    if (entry.collection === "attachments" && content) {
      await api.sendContent(entry.document.hash, content);
    }
    const stored = await api.save(collection, id, base, document);
    await letGo(key);
    arrived(entry, stored, reached);
    return true;
  } catch (error) {
    if (!(error instanceof Refused) || error.status === 401 || mayPass(error)) return false;
    const current = error.body.error === "conflict" ? error.body.current : undefined;
    if (current && isOwn(current, entry)) {
      return sendEntry({ ...entry, base: current.revision, sent: undefined }, reached);
    }
    if (current && entry.collection === "tests") {
      // The test of a day is begun by whoever files the first reading of it.
      if (base === 0) {
        await letGo(key);
        return true;
      }
      const both = await withTheirs(entry, current as Stored<FieldTestDocument>);
      if (both === "silent") return false;
      if (both) return sendEntry(both, reached);
    }
    const state = error.body.error === "conflict" ? "conflict" : "refused";
    await keep({ ...entry, state, message: error.message });
    return true;
  }
}

/** What is said of a visit here and what was said of it elsewhere: both stand, and of one thing what was said here. */
async function withTheirs(
  entry: EntryOf<"tests">,
  current: Stored<FieldTestDocument>,
): Promise<EntryOf<"tests"> | "silent" | undefined> {
  try {
    const before = await api.revision("tests", entry.id, entry.base);
    const { document } = merge(before.document, entry.document, current.document);
    return { ...entry, base: current.revision, document };
  } catch (error) {
    return mayPass(error) ? "silent" : undefined;
  }
}

/** What was held is on the server. */
function arrived(entry: Entry, stored: Stored<unknown>, reached: Set<string>): void {
  const { collection, id, job } = entry;
  if (collection === "jobs") {
    queries.setQueryData(keyOf(collection, id), stored);
    toast(`“${entry.document.name}”: changes that had not reached the server are saved now.`);
  }
  if ((collection === "readings" || collection === "tests") && job !== undefined) reached.add(job);
  if (collection !== "attachments") reached.add("");
}

/** Reads again what is shown of what arrived: the tests of jobs, and the list of jobs, once for all of it. */
async function refresh(reached: ReadonlySet<string>): Promise<void> {
  for (const job of reached) {
    const { queryKey } = job === "" ? allJobs : testsOf(job);
    await queries.invalidateQueries({ queryKey });
  }
}

/** Whether what stands on the server is what this entry's own tab sent last, without hearing the answer. */
export function isOwn(current: Stored<unknown>, { base, sent }: Pick<Entry, "base" | "sent">) {
  return (
    sent !== undefined && current.revision === base + 1 && sameDocument(current.document, sent)
  );
}
