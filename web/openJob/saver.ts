import type { Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { mayPass, Refused, Unreachable } from "../api/client.ts";
import { pauseAfter } from "../api/retrying.ts";
import { isOwn } from "../outbox/flush.ts";
import { keyFor, TAB, type ToHold } from "../outbox/outbox.ts";
import { useJobStore } from "./jobStore.ts";

/** What a job's saving needs from around it. */
export interface Around {
  save: (
    id: string,
    revision: number,
    job: JobDocument,
    keepalive: boolean,
  ) => Promise<Stored<JobDocument>>;
  /** holds it on this device; true once it is there for certain */
  keep: (entry: ToHold) => Promise<boolean>;
  letGo: (key: string) => Promise<void>;
  /** sends what is held */
  flush: () => Promise<void>;
  /** hears what the server has now */
  stored: (stored: Stored<JobDocument>) => void;
  page: Pick<EventTarget, "addEventListener" | "removeEventListener">;
}

/** ms from a change to its saving */
const PAUSE = 500;
/** A browser takes this many bytes of a request that outlives its page, all such requests together. */
const LARGEST_LAST = 60_000;

const bench = () => useJobStore.getState();

/**
 * Saves the job on the bench a moment after each change, one request at a time. Until the server has acknowledged a
 * change it is also held on this device, so that neither a closed tab nor a stopped server loses it.
 */
export class Saver {
  readonly #around: Around;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #sending = false;
  /** in a row that came to nothing, and may yet */
  #tries = 0;
  /** what was sent last of the job on the bench and not answered yet */
  #sent: unknown;
  /** what an earlier life of this page had sent without hearing the answer */
  #unheard: unknown;
  /** Writes are done in their order, and of many that wait only the last. */
  #writing: Promise<boolean> = Promise.resolve(true);
  #waiting: ToHold | undefined;
  /** what was held last */
  #latest: { id: string; document: JobDocument } | undefined;

  constructor(around: Around) {
    this.#around = around;
  }

  /** Begins to save what is changed. Returns a function that saves what is left, and stops. */
  start(): () => void {
    const unsubscribe = useJobStore.subscribe((state, before) => {
      if (state.job === before.job || state.id !== before.id) return;
      // Opening a job sets its saved state in the same step; an edit leaves it as it was.
      if (state.saved !== before.saved) return;
      void this.#hold(state.id, state.revision, state.job);
      if (state.saved.kind !== "conflict") useJobStore.setState({ saved: { kind: "unsaved" } });
      this.#later(PAUSE);
    });
    const leaving = () => void this.#send(true);
    // Closing a page whose changes are nowhere but in it is asked about first.
    const warn = (event: Event) => {
      const { saved } = bench();
      const open = saved.kind === "offline" || saved.kind === "refused";
      if (open && !saved.kept) event.preventDefault();
    };
    // The network is back: what waits does not wait for its turn.
    const back = () => this.#later(0);
    const heard = { online: back, pagehide: leaving, beforeunload: warn };
    const { page } = this.#around;
    for (const [name, hear] of Object.entries(heard)) page.addEventListener(name, hear);
    return () => {
      void this.#send();
      clearTimeout(this.#timer);
      unsubscribe();
      for (const [name, hear] of Object.entries(heard)) page.removeEventListener(name, hear);
    };
  }

  /** Another job is on the bench; of it an earlier life of this page may have sent something unheard. */
  begin(unheard?: unknown): void {
    this.#sent = undefined;
    this.#unheard = unheard;
  }

  /** Done once what was to be held is: whether it is on this device for certain. */
  held(): Promise<boolean> {
    return this.#writing;
  }

  #later(ms: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#send(), ms);
  }

  async #send(last = false): Promise<void> {
    const { id, revision, job, saved } = bench();
    if (this.#sending || saved.kind === "saved" || saved.kind === "conflict") return;
    const keepalive = last && JSON.stringify(job).length < LARGEST_LAST;
    // Too large to outlive the page: it stays held, and goes when the application is next opened.
    if (last && !keepalive) return;
    this.#sending = true;
    this.#sent = job;
    useJobStore.setState({ saved: { kind: "saving" } });
    const held = this.#hold(id, revision, job);
    try {
      const stored = await this.#around.save(id, revision, job, keepalive);
      this.begin();
      this.#around.stored(stored);
      await held;
      await (bench().id === id ? this.#acknowledged(stored, job) : this.#leftBehind(stored, job));
    } catch (error) {
      const kept = await held;
      if (bench().id === id) this.#failed(error, revision, kept);
    } finally {
      this.#sending = false;
      this.#goOn();
    }
  }

  async #acknowledged({ id, revision, updatedAt }: Stored<JobDocument>, job: JobDocument) {
    const unchanged = bench().job === job;
    useJobStore.setState({
      revision,
      saved: unchanged ? { kind: "saved", at: updatedAt } : { kind: "unsaved" },
    });
    if (unchanged) await this.#around.letGo(keyFor("jobs", id));
    else await this.#hold(id, revision, bench().job);
  }

  /** The bench was cleared while this was on its way. What was changed after it goes without a page. */
  async #leftBehind({ id, revision }: Stored<JobDocument>, job: JobDocument): Promise<void> {
    const latest = this.#latest;
    if (latest?.id === id && latest.document !== job) {
      await this.#hold(id, revision, latest.document);
      void this.#around.flush();
    } else await this.#around.letGo(keyFor("jobs", id));
  }

  #failed(error: unknown, base: number, kept: boolean): void {
    if (error instanceof Refused && error.body.error === "conflict") {
      this.#meet(error.body.current as Stored<JobDocument> | null, base);
    } else if (error instanceof Unreachable) {
      useJobStore.setState({ saved: { kind: "offline", kept } });
    } else {
      const signIn = error instanceof Refused && error.status === 401;
      const again = signIn || mayPass(error);
      const { message } = error as Error;
      useJobStore.setState({ saved: { kind: "refused", message, kept, signIn, again } });
    }
  }

  /** Another revision stands on the server: this page's own, whose answer was lost, or someone else's. */
  #meet(current: Stored<JobDocument> | null, base: number): void {
    if (current && isOwn(current, { base, sent: this.#unheard })) {
      this.#unheard = undefined;
      useJobStore.setState({ revision: current.revision, saved: { kind: "unsaved" } });
      return;
    }
    useJobStore.setState({ saved: { kind: "conflict", current } });
  }

  #goOn(): void {
    const { saved } = bench();
    if (saved.kind === "unsaved") this.#later(PAUSE);
    const waits = saved.kind === "offline" || (saved.kind === "refused" && saved.again);
    this.#tries = waits ? this.#tries + 1 : 0;
    if (waits) this.#later(pauseAfter(this.#tries));
  }

  /** Holds a job on this device; true once it is there. */
  #hold(id: string, base: number, document: JobDocument): Promise<boolean> {
    this.#latest = { id, document };
    const at = new Date().toISOString();
    const sent = this.#unheard ?? this.#sent;
    this.#waiting = {
      ...{ collection: "jobs", id, tab: TAB, base, document, at, state: "waiting" },
      ...(sent !== undefined && { sent }),
    };
    this.#writing = this.#writing.then((before) => {
      const next = this.#waiting;
      this.#waiting = undefined;
      return next ? this.#around.keep(next) : before;
    });
    return this.#writing;
  }
}
