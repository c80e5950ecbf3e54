import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { DocumentOf } from "#contract/collections.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { newId } from "../api/client.ts";

/** What may be held, in the order in which it is sent: what others name goes before them. */
const HELD = ["attachments", "tests", "readings", "jobs"] as const;
export type Held = (typeof HELD)[number];

/**
 * What this device holds that the server never acknowledged: an entry for each document and each tab that changed it,
 * so that no tab stands in another's way. An entry goes when the server has it, or when a person lets it go.
 */
export type Entry = { [C in Held]: EntryOf<C> }[Held];

export interface EntryOf<C extends Held> {
  /** collection, document and tab */
  key: string;
  collection: C;
  id: string;
  tab: string;
  /** the revision that was edited */
  base: number;
  document: DocumentOf<C>;
  /** the bytes of an attachment, which go before it */
  content?: Blob;
  /** the job it was taken on, where it is none itself */
  job?: string;
  /** what was sent last and not answered: found on the server, it is this device's own */
  sent?: unknown;
  /** when it was last changed */
  at: string;
  state: "waiting" | "conflict" | "refused";
  message?: string;
}

export const isOfJobs = (entry: Entry): entry is EntryOf<"jobs"> => entry.collection === "jobs";

/** A job that was begun on this device and is nowhere else yet. */
export const isNewJob = (entry: Entry): entry is EntryOf<"jobs"> =>
  isOfJobs(entry) && entry.base === 0;

/** An entry before it has its key. */
export type ToHold = { [C in Held]: Omit<EntryOf<C>, "key"> }[Held];

interface Schema extends DBSchema {
  outbox: { key: string; value: Entry };
}

/** This page, for as long as it is open. */
export const TAB = newId();
const lockOf = (tab: string) => `upright-gusher-tab-${tab}`;
// Held until the page goes, however it goes; others see by it whether this tab still lives.
void navigator.locks?.request(lockOf(TAB), () => new Promise(() => undefined));

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function outbox(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>("upright-gusher", 1, {
    upgrade: (db) => {
      db.createObjectStore("outbox", { keyPath: "key" });
    },
  }).then(async (db) => {
    await takeOver(db);
    return db;
  });
  opened.catch(() => {
    opened = undefined;
  });
  return opened;
}

export const keyFor = (collection: Held, id: string, tab = TAB) => `${collection}/${id}/${tab}`;

/**
 * Keeps entries, all or none; true once they are on this device for certain, false where the device has no room or
 * keeps nothing.
 */
export async function keep(...entries: ToHold[]): Promise<boolean> {
  try {
    const tx = (await outbox()).transaction("outbox", "readwrite", { durability: "strict" });
    for (const entry of entries) {
      await tx.store.put({ ...entry, key: keyFor(entry.collection, entry.id, entry.tab) } as Entry);
    }
    await tx.done;
    changed();
    return true;
  } catch {
    return false;
  }
}

/** Lets an entry go: the server has it, or a person said so. */
export async function letGo(key: string): Promise<void> {
  await (await outbox()).delete("outbox", key).catch(() => undefined);
  changed();
}

/** Everything held in the order it is sent, then oldest first; nothing where this device keeps nothing. */
export async function entries(): Promise<Entry[]> {
  // A job the server never saw goes before what was taken on it.
  const rank = (entry: Entry) => (isNewJob(entry) ? 0.5 : HELD.indexOf(entry.collection));
  try {
    const all = await (await outbox()).getAll("outbox");
    return all.toSorted((a, b) => rank(a) - rank(b) || a.at.localeCompare(b.at));
  } catch {
    return [];
  }
}

/** ms after which a tab that cannot be seen is taken for closed */
const LONG_QUIET = 60_000;

/**
 * What is held and no other open tab is at work on, in the order it is sent. Where a browser does not show which tabs
 * are open (a page on plain HTTP off this machine) it is what no other tab touched for a minute.
 */
export async function unattended(): Promise<Entry[]> {
  const locks = await navigator.locks?.query();
  const alive = new Set(locks?.held?.map(({ name }) => name));
  const isAttended = ({ tab, at }: Entry) =>
    locks ? alive.has(lockOf(tab)) : Date.now() - Date.parse(at) < LONG_QUIET;
  return (await entries()).filter((entry) => entry.tab === TAB || !isAttended(entry));
}

/** What earlier versions kept, one of a job. */
async function takeOver(db: IDBPDatabase<Schema>): Promise<void> {
  const prefix = "upright-gusher-draft-";
  const drafts = Object.keys(localStorage).filter((each) => each.startsWith(prefix));
  if (drafts.length === 0) return;
  const { jobSchema } = await import("#contract/documents/job.ts");
  for (const key of drafts) {
    const id = key.slice(prefix.length);
    try {
      const { revision, job } = JSON.parse(localStorage.getItem(key) ?? "null");
      const document = jobSchema.safeParse(job);
      if (document.success && Number.isInteger(revision)) {
        const at = new Date(0).toISOString();
        const entry = { collection: "jobs", id, tab: "earlier", base: revision, at } as const;
        const whole: Entry = {
          ...{ ...entry, key: keyFor("jobs", id, "earlier"), state: "waiting" },
          document: document.data as JobDocument,
        };
        await db.put("outbox", whole);
      }
    } catch {
      // What cannot be read cannot be kept on.
    }
    localStorage.removeItem(key);
  }
}

const CHANGED = "upright-gusher-outbox";
const listeners = new Set<() => void>();
const channel = new BroadcastChannel(CHANGED);
/** ms from a change to the news of the next: whoever listens reads all that is held */
const NEWS = 400;
let news: ReturnType<typeof setTimeout> | undefined;
let more = false;

/** Tells whoever listens here, at once, and what comes soon after it together. */
function tell(): void {
  if (news !== undefined) {
    more = true;
    return;
  }
  for (const listener of listeners) listener();
  news = setTimeout(() => {
    news = undefined;
    if (!more) return;
    more = false;
    tell();
  }, NEWS);
}
channel.onmessage = tell;

function changed(): void {
  tell();
  channel.postMessage(CHANGED);
}

/** Calls back whenever what is held changes, in any tab. Returns a function that stops. */
export function onChange(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
