import type { JobDocument } from "#contract/documents/job.ts";
import { api, newId, Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { keep, keyFor, letGo, TAB } from "../outbox/outbox.ts";

/**
 * Makes a job of the sketch and gives its id. It is on this device before it is sent, so that it can be begun where
 * there is no network.
 * @throws Error with a sentence, where it can be kept neither here nor on the server, or the server refuses it
 */
export async function startJob(document: JobDocument): Promise<string> {
  const id = newId();
  const at = new Date().toISOString();
  const kept = await keep({
    ...{ collection: "jobs", id, tab: TAB, base: 0, document, at, state: "waiting" },
    sent: document,
  });
  try {
    const stored = await api.save("jobs", id, 0, document);
    queries.setQueryData(keyOf("jobs", id), stored);
    if (kept) await letGo(keyFor("jobs", id));
  } catch (error) {
    if (error instanceof Unreachable && kept) return id;
    // Started again it would be there twice.
    if (kept) await letGo(keyFor("jobs", id));
    throw error;
  }
  return id;
}
