import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from "vitest";

// The outbox asks its browser for a lock as it is loaded.
vi.hoisted(() => vi.stubGlobal("navigator", {}));
afterAll(() => vi.unstubAllGlobals());

import type { Stored } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { Refused, Unreachable } from "../api/client.ts";
import type { ToHold } from "../outbox/outbox.ts";
import { openJob, useJobStore } from "./jobStore.ts";
import { type Around, Saver } from "./saver.ts";

const AT = "2026-11-20T08:00:00.000Z";
const JOB = { name: "Pit" } as JobDocument;
const stored = (revision: number, document = JOB, id = "pit"): Stored<JobDocument> => ({
  ...{ id, revision, document, updatedAt: AT },
});
const change = (name: string) =>
  useJobStore.setState(({ job }) => ({ job: { ...job, name } as JobDocument }));
const { getState: bench } = useJobStore;

/** What the saver finds around it: a server that answers as it is told, and a device that keeps what it is given. */
function surroundings() {
  const answers: ((sent: JobDocument, revision: number) => Promise<Stored<JobDocument>>)[] = [];
  const sent: { revision: number; name: string; keepalive: boolean }[] = [];
  const held = new Map<string, ToHold>();
  const said: string[] = [];
  const page = new EventTarget();
  const around: Around & { hasRoom: boolean } = {
    page,
    save: (id, revision, job, keepalive) => {
      sent.push({ revision, name: job.name, keepalive });
      const answer = answers.shift();
      return answer ? answer(job, revision) : Promise.resolve(stored(revision + 1, job, id));
    },
    keep: async (entry) => {
      held.set(entry.id, entry);
      return around.hasRoom;
    },
    letGo: async () => held.clear(),
    flush: async () => void said.push("flush"),
    stored: ({ revision }) => void said.push(`stored ${revision}`),
    hasRoom: true,
  };
  return { around, answers, sent, held, said, page };
}

let all: ReturnType<typeof surroundings>;
let saver: Saver;
let stop: () => void;
beforeEach(() => {
  vi.useFakeTimers();
  all = surroundings();
  saver = new Saver(all.around);
  openJob(stored(3));
  saver.begin();
  stop = saver.start();
});
afterEach(() => {
  stop();
  useJobStore.setState({ id: "" });
  vi.useRealTimers();
});
const rest = () => vi.advanceTimersByTimeAsync(500);
const refuse = (status: number, body: object) => async () => {
  throw new Refused(status, { error: "invalid", message: "No.", ...body } as never);
};
const silent = async () => {
  throw new Unreachable();
};

describe("a change", () => {
  it("is held at once, sent a moment after the last key, and let go once it is acknowledged", async () => {
    change("Pit a");
    change("Pit ab");
    await vi.advanceTimersByTimeAsync(499);
    expect(all.sent).toEqual([]);
    expect(all.held.get("pit")).toMatchObject({ base: 3, document: { name: "Pit ab" } });
    await vi.advanceTimersByTimeAsync(1);
    expect(all.sent).toEqual([{ revision: 3, name: "Pit ab", keepalive: false }]);
    expect(bench()).toMatchObject({ revision: 4, saved: { kind: "saved", at: AT } });
    expect(all.held.size).toBe(0);
    expect(all.said).toEqual(["stored 4"]);
  });

  it("made while another is on its way follows it, on what that became", async () => {
    let answer: (stored: Stored<JobDocument>) => void = () => undefined;
    all.answers.push((job) => new Promise((done) => (answer = () => done(stored(4, job)))));
    change("first");
    await rest();
    change("second");
    await rest();
    // One at a time.
    expect(all.sent).toHaveLength(1);
    answer(stored(4));
    await vi.advanceTimersByTimeAsync(0);
    expect(bench().saved.kind).toBe("unsaved");
    expect(all.held.get("pit")).toMatchObject({ base: 4, document: { name: "second" } });
    await rest();
    expect(all.sent[1]).toMatchObject({ revision: 4, name: "second" });
    expect(bench()).toMatchObject({ revision: 5, saved: { kind: "saved" } });
  });

  it("of a bench that was cleared meanwhile goes without the page", async () => {
    let answer: () => void = () => undefined;
    all.answers.push((job) => new Promise((done) => (answer = () => done(stored(4, job)))));
    change("first");
    await rest();
    change("second");
    useJobStore.setState({ id: "" });
    answer();
    await vi.advanceTimersByTimeAsync(0);
    expect(all.held.get("pit")).toMatchObject({ base: 4, document: { name: "second" } });
    expect(all.said).toContain("flush");
  });

  it("is sent with the page as it goes, where it is small enough to outlive it", async () => {
    change("last words");
    all.page.dispatchEvent(new Event("pagehide"));
    expect(all.sent).toEqual([{ revision: 3, name: "last words", keepalive: true }]);
    await vi.advanceTimersByTimeAsync(0);
    change("x".repeat(60_000));
    all.page.dispatchEvent(new Event("pagehide"));
    await vi.advanceTimersByTimeAsync(0);
    expect(all.sent).toHaveLength(1);
    expect(all.held.has("pit")).toBe(true);
  });
});

it("a newer revision that is opened is no change of this page's", async () => {
  openJob(stored(7, { name: "theirs" } as JobDocument));
  await vi.advanceTimersByTimeAsync(60_000);
  expect(all.sent).toEqual([]);
  expect(all.held.size).toBe(0);
  expect(bench()).toMatchObject({ revision: 7, saved: { kind: "saved" } });
});

describe("what does not come through", () => {
  it("is tried again after growing pauses, and at once when the network is back", async () => {
    all.answers.push(silent, silent, silent);
    change("unheard");
    await rest();
    expect(bench().saved).toEqual({ kind: "offline", kept: true });
    // Three seconds, give or take a quarter; then twice that.
    await vi.advanceTimersByTimeAsync(2200);
    expect(all.sent).toHaveLength(1);
    await vi.advanceTimersByTimeAsync(1600);
    expect(all.sent).toHaveLength(2);
    await vi.advanceTimersByTimeAsync(2900);
    expect(all.sent).toHaveLength(2);
    await vi.advanceTimersByTimeAsync(4600);
    expect(all.sent).toHaveLength(3);
    all.page.dispatchEvent(new Event("online"));
    await vi.advanceTimersByTimeAsync(0);
    expect(all.sent).toHaveLength(4);
    expect(bench().saved.kind).toBe("saved");
  });

  it("is asked about before the page closes only where it is nowhere else", async () => {
    const close = () => {
      const event = new Event("beforeunload", { cancelable: true });
      all.page.dispatchEvent(event);
      return event.defaultPrevented;
    };
    all.answers.push(silent, silent);
    change("kept");
    await rest();
    expect(close()).toBe(false);
    all.around.hasRoom = false;
    change("nowhere else");
    await rest();
    expect(bench().saved).toMatchObject({ kind: "offline", kept: false });
    expect(close()).toBe(true);
  });

  it.each([
    [400, {}, { again: false, signIn: false }],
    [401, {}, { again: true, signIn: true }],
    [503, {}, { again: true, signIn: false }],
    [507, {}, { again: true, signIn: false }],
  ])("refused with %i is said, and tried again where that may pass", async (status, body, says) => {
    all.answers.push(refuse(status, body));
    change("refused");
    await rest();
    expect(bench().saved).toMatchObject({ kind: "refused", message: "No.", kept: true, ...says });
    await vi.advanceTimersByTimeAsync(4000);
    expect(all.sent).toHaveLength(says.again ? 2 : 1);
  });
});

describe("another revision on the server", () => {
  it("is somebody else's: nothing more is sent until a person says which", async () => {
    const theirs = stored(4, { name: "theirs" } as JobDocument);
    all.answers.push(refuse(409, { error: "conflict", current: theirs }));
    change("mine");
    await rest();
    expect(bench().saved).toEqual({ kind: "conflict", current: theirs });
    change("mine, and more");
    await vi.advanceTimersByTimeAsync(60_000);
    expect(all.sent).toHaveLength(1);
    expect(all.held.get("pit")).toMatchObject({ document: { name: "mine, and more" } });
  });

  it("is this page's own where its answer was never heard: it goes on from there", async () => {
    const own = { name: "mine" } as JobDocument;
    saver.begin(own);
    all.answers.push(refuse(409, { error: "conflict", current: stored(4, own) }));
    change("mine, and more");
    await rest();
    expect(bench()).toMatchObject({ revision: 4, saved: { kind: "unsaved" } });
    await rest();
    expect(all.sent[1]).toMatchObject({ revision: 4, name: "mine, and more" });
    expect(bench().saved.kind).toBe("saved");
  });

  it("what was sent and not answered is held with what came after it", async () => {
    all.answers.push(() => new Promise(() => undefined));
    change("on its way");
    await rest();
    change("after it");
    await vi.advanceTimersByTimeAsync(0);
    expect(all.held.get("pit")).toMatchObject({
      ...{ document: { name: "after it" }, sent: { name: "on its way" } },
    });
  });
});

it("sends nothing once it is stopped, but what is left", async () => {
  change("left");
  stop();
  await vi.advanceTimersByTimeAsync(0);
  expect(all.sent.map(({ name }) => name)).toEqual(["left"]);
  change("unseen");
  await vi.advanceTimersByTimeAsync(60_000);
  expect(all.sent).toHaveLength(1);
});
