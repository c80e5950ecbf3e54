import { toast } from "sonner";
import type { Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { api, Refused } from "../api/client.ts";
import { allJobs, keyOf, queries } from "../api/queries.ts";
import { type Entry, keep, letGo, unattended } from "./outbox.ts";

/** ms between two tries while something waits */
const AGAIN = 15_000;

/**
 * Sends what no open page is at work on, now, when the network comes back, and every while. One tab at a time does.
 * What cannot be sent stays, and says why. Returns a function that stops.
 */
export function startFlushing(): () => void {
  flush();
  const timer = setInterval(flush, AGAIN);
  addEventListener("online", flush);
  return () => {
    clearInterval(timer);
    removeEventListener("online", flush);
  };
}

export function flush(): void {
  void navigator.locks?.request("upright-gusher-outbox", { ifAvailable: true }, async (lock) => {
    if (!lock) return;
    for (const entry of await unattended()) {
      if (entry.state === "waiting" && !isOpen(entry.id)) await sendEntry(entry);
    }
  });
}

/** The page of a job brings back and sends by itself what is held of it. */
const isOpen = (id: string) => location.pathname.split("/")[2] === id;

async function sendEntry(entry: Entry): Promise<void> {
  const { id, document, key } = entry;
  try {
    const stored = await api.save("jobs", id, entry.base, document as JobDocument);
    await letGo(key);
    queries.setQueryData(keyOf("jobs", id), stored);
    await queries.invalidateQueries({ queryKey: allJobs.queryKey });
    toast(`“${document.name}”: changes that had not reached the server are saved now.`);
  } catch (error) {
    if (!(error instanceof Refused) || error.status === 401 || error.status >= 500) return;
    const current = error.body.error === "conflict" ? error.body.current : undefined;
    if (current && isOwn(current, entry)) {
      await sendEntry({ ...entry, base: current.revision, sent: undefined });
      return;
    }
    const state = error.body.error === "conflict" ? "conflict" : "refused";
    await keep({ ...entry, state, message: error.message });
  }
}

/** Whether what stands on the server is what this entry's own tab sent last, without hearing the answer. */
export function isOwn(current: Stored<unknown>, { base, sent }: Pick<Entry, "base" | "sent">) {
  return (
    sent !== undefined && current.revision === base + 1 && sameDocument(current.document, sent)
  );
}
