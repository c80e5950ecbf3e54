import type { Stored } from "#contract/api/api.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { api, Refused, Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { useJobStore } from "./jobStore.ts";

const PAUSE = 500;
const RETRY = 3000;
const draftKey = (id: string) => `upright-gusher-draft-${id}`;

/**
 * Saves the job on the bench a moment after each change, one request at a time. Until the server has
 * acknowledged a change it is also kept on this device, so that neither a closed tab nor a stopped
 * server loses it. Returns a function that stops.
 */
export function startAutosave(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), ms);
  };

  async function send(keepalive = false): Promise<void> {
    const { id, revision, job, saved } = useJobStore.getState();
    if (sending || saved.kind === "saved" || saved.kind === "conflict") return;
    sending = true;
    useJobStore.setState({ saved: { kind: "saving" } });
    try {
      const stored = await api.save("jobs", id, revision, job, keepalive);
      queries.setQueryData(keyOf("jobs", id), stored);
      if (useJobStore.getState().id !== id) {
        // The bench was cleared while the last change was on its way; what was sent is all there is.
        dropDraft(id);
        return;
      }
      const unchanged = useJobStore.getState().job === job;
      useJobStore.setState({
        revision: stored.revision,
        saved: unchanged ? { kind: "saved", at: stored.updatedAt } : { kind: "unsaved" },
      });
      if (unchanged) dropDraft(id);
      else keepDraft(id, stored.revision);
    } catch (error) {
      if (useJobStore.getState().id !== id) return;
      if (error instanceof Refused && error.body.error === "conflict") {
        const current = error.body.current as Stored<JobDocument> | null;
        useJobStore.setState({ saved: { kind: "conflict", current } });
      } else if (error instanceof Unreachable) {
        useJobStore.setState({ saved: { kind: "offline" } });
      } else {
        useJobStore.setState({ saved: { kind: "refused", message: (error as Error).message } });
      }
    } finally {
      sending = false;
      const { kind } = useJobStore.getState().saved;
      if (kind === "unsaved") later(PAUSE);
      if (kind === "offline") later(RETRY);
    }
  }

  const unsubscribe = useJobStore.subscribe((state, before) => {
    if (state.job === before.job || state.id !== before.id) return;
    // Opening a job sets its saved state in the same step; an edit leaves it as it was.
    if (state.saved !== before.saved) return;
    keepDraft(state.id, state.revision);
    if (state.saved.kind !== "conflict") useJobStore.setState({ saved: { kind: "unsaved" } });
    later(PAUSE);
  });
  const leaving = () => void send(true);
  addEventListener("pagehide", leaving);
  return () => {
    leaving();
    clearTimeout(timer);
    unsubscribe();
    removeEventListener("pagehide", leaving);
  };
}

function keepDraft(id: string, revision: number): void {
  try {
    localStorage.setItem(
      draftKey(id),
      JSON.stringify({ revision, job: useJobStore.getState().job }),
    );
  } catch {
    // A full or forbidden store only costs the safety net; the server still gets the change.
  }
}

/** A change to this job that the server never acknowledged, if this device holds one. */
export function unsavedDraft(id: string): { revision: number; job: JobDocument } | undefined {
  try {
    const draft = JSON.parse(localStorage.getItem(draftKey(id)) ?? "null");
    const job = jobSchema.safeParse(draft?.job);
    return job.success && Number.isInteger(draft.revision)
      ? { revision: draft.revision, job: job.data }
      : undefined;
  } catch {
    return undefined;
  }
}

/** After a conflict: writes the job on the bench over what stands on the server. */
export function keepMine(current: Stored<JobDocument> | null): void {
  const { job } = useJobStore.getState();
  useJobStore.setState({ revision: current?.revision ?? 0 });
  useJobStore.setState({ saved: { kind: "unsaved" } });
  // A fresh object counts as a change, which sends it.
  useJobStore.setState({ job: { ...job } });
}

/** Forgets what this device kept of a job. */
export function dropDraft(id: string): void {
  localStorage.removeItem(draftKey(id));
}
