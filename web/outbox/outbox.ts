import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { jobSchema } from "#contract/documents/job.ts";
import { newId } from "../api/client.ts";

/**
 * What this device holds that the server never acknowledged: an entry for each document and each tab that changed it,
 * so that no tab stands in another's way. An entry goes when the server has it, or when a person lets it go.
 */
export interface Entry {
  /** document and tab */
  key: string;
  collection: "jobs";
  id: string;
  tab: string;
  /** the revision that was edited */
  base: number;
  document: { name: string };
  /** what was sent last and not answered: found on the server, it is this device's own */
  sent?: unknown;
  /** when it was last changed */
  at: string;
  state: "waiting" | "conflict" | "refused";
  message?: string;
}

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

export const keyFor = (id: string, tab = TAB) => `jobs/${id}/${tab}`;

/** Keeps an entry; true once it is on this device for certain, false where the device has no room or keeps nothing. */
export async function keep(entry: Omit<Entry, "key">): Promise<boolean> {
  try {
    const tx = (await outbox()).transaction("outbox", "readwrite", { durability: "strict" });
    await tx.store.put({ ...entry, key: keyFor(entry.id, entry.tab) });
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

/** Everything held, oldest first; nothing where this device keeps nothing. */
export async function entries(): Promise<Entry[]> {
  try {
    const all = await (await outbox()).getAll("outbox");
    return all.toSorted((a, b) => a.at.localeCompare(b.at));
  } catch {
    return [];
  }
}

/** What is held and no other open tab is at work on, oldest first. */
export async function unattended(): Promise<Entry[]> {
  const held = await navigator.locks?.query();
  const alive = new Set(held?.held?.map(({ name }) => name));
  return (await entries()).filter(({ tab }) => tab === TAB || !alive.has(lockOf(tab)));
}

/** What earlier versions kept, one of a job. */
async function takeOver(db: IDBPDatabase<Schema>): Promise<void> {
  const prefix = "upright-gusher-draft-";
  for (const key of Object.keys(localStorage).filter((each) => each.startsWith(prefix))) {
    const id = key.slice(prefix.length);
    try {
      const { revision, job } = JSON.parse(localStorage.getItem(key) ?? "null");
      const document = jobSchema.safeParse(job);
      if (document.success && Number.isInteger(revision)) {
        const at = new Date(0).toISOString();
        const entry = { collection: "jobs", id, tab: "earlier", base: revision, at } as const;
        const whole: Entry = {
          ...{ ...entry, key: keyFor(id, "earlier"), state: "waiting" },
          document: document.data,
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
channel.onmessage = () => {
  for (const listener of listeners) listener();
};

function changed(): void {
  for (const listener of listeners) listener();
  channel.postMessage(CHANGED);
}

/** Calls back whenever what is held changes, in any tab. Returns a function that stops. */
export function onChange(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
