import { expose } from "comlink";
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { lineModel } from "#core/hydraulics/solveLine.ts";
import type { Steps } from "#core/numeric/steps.ts";
import { newJob } from "#model/kinds/kinds.ts";
import { ResultGraph } from "#model/results/graph.ts";
import { type Inputs, keyOf, type ResultName, type Seen } from "#model/results/results.ts";
import { askedFor } from "./results.ts";
import { Desk } from "./resultsDesk.ts";

const job = jobSchema.parse({
  ...newJob("Ennet transfer", "tank-to-tank", "metric"),
  wantedFlow: 0.002,
}) as JobDocument;

/** What the desk worked at, in the order it did. */
const log: string[] = [];
/** ms each step takes: a turn is longer than one and shorter than two */
const STEP = 8;
function* counting(name: string, to: number): Steps<string> {
  for (let i = 1; i <= to; i++) {
    const until = performance.now() + STEP;
    while (performance.now() < until);
    log.push(`${name} ${i}`);
    yield { done: i / to };
  }
  return `${name} counted`;
}

/** A run that comes to no end by itself. */
let endless = false;
function* waiting(): Steps<string> {
  for (let i = 1; endless; i++) {
    log.push(`endless ${i}`);
    yield { done: 0 };
  }
  return "ended";
}

const graph = () =>
  new ResultGraph({
    line: (seen: Seen<"line">) => {
      log.push("line");
      return lineModel(seen, seen.pumps, seen.wantedFlow);
    },
    band: () => counting("band", 8) as never,
    run: () => (endless ? waiting() : counting("run", 8)) as never,
    remedies: () => counting("remedies", 8) as never,
    columns: () => {
      throw new Error("It cannot be done");
    },
    irrigation: ({ field }: Seen<"irrigation">) => ({ field }) as never,
  } as never);

/** A worker in this thread. */
class WorkerHere {
  static opened = 0;
  static breaks = false;
  constructor() {
    WorkerHere.opened++;
    const { port1, port2 } = new MessageChannel();
    const desk = new Desk(graph());
    expose(
      {
        ask: (...args: Parameters<Desk["ask"]>) => desk.ask(...args),
        drop: (id: number) => desk.drop(id),
      },
      port1 as never,
    );
    ports.push(port1, port2);
    if (WorkerHere.breaks) setTimeout(() => port2.dispatchEvent(new Event("error")));
    // biome-ignore lint/correctness/noConstructorReturn: stands for the worker itself
    return Object.assign(port2, { terminate: () => port2.close() });
  }
}
const ports: MessagePort[] = [];

beforeAll(() => vi.stubGlobal("Worker", WorkerHere));
afterAll(() => {
  vi.unstubAllGlobals();
  for (const port of ports) port.close();
});
beforeEach(() => {
  log.length = 0;
});

const ask = <N extends ResultName>(name: N, inputs: Inputs) =>
  askedFor(name, inputs, keyOf(name, inputs));
const changed = (over: Partial<JobDocument> = {}): Inputs => ({ job: { ...job, ...over } });
const settled = (asked: ReturnType<typeof ask>) =>
  vi.waitFor(() => expect(asked.standing.kind).not.toBe("working"), { timeout: 60_000 });

describe("a result worked out beside the page", () => {
  it("waits until nobody types any more, tells how far it is, and is there for whoever looks again", async () => {
    const inputs = changed();
    const asked = ask("band", inputs);
    const heard: number[] = [];
    const leave = asked.subscribe(() => heard.push(asked.standing.progress));
    expect(log).toEqual([]);
    await settled(asked);
    expect(asked.standing).toMatchObject({ kind: "done", value: "band counted", progress: 1 });
    expect(heard.at(-1)).toBe(1);
    expect(heard).toEqual(heard.toSorted((a, b) => a - b));
    leave();
    expect(ask("band", inputs)).toBe(asked);
  });

  it("is given up with the last who looked, and is begun anew for the next", async () => {
    endless = true;
    const asked = ask("run", changed({ wantedFlow: 0.003 }));
    const [one, two] = [asked.subscribe(() => undefined), asked.subscribe(() => undefined)];
    const goesOn = async () => {
      const before = log.length;
      await new Promise((done) => setTimeout(done, 50));
      return log.length > before;
    };
    await expect.poll(goesOn, { timeout: 60_000 }).toBe(true);
    one();
    await expect.poll(goesOn, { timeout: 60_000 }).toBe(true);
    two();
    await expect.poll(goesOn, { timeout: 60_000 }).toBe(false);
    endless = false;
    const leave = asked.subscribe(() => undefined);
    await settled(asked);
    expect(asked.standing.kind).toBe("done");
    leave();
  });

  it("shares one worker with others, turn by turn", async () => {
    const opened = WorkerHere.opened;
    const inputs = changed({ wantedFlow: 0.004 });
    const all = [ask("band", inputs), ask("run", inputs)];
    const leave = all.map((asked) => asked.subscribe(() => undefined));
    await Promise.all(all.map(settled));
    expect(WorkerHere.opened).toBe(opened);
    // The one that began later is not kept waiting for the end of the other.
    expect(log.indexOf("run 1")).toBeLessThan(log.indexOf("band 8"));
    expect(log.indexOf("band 8")).toBeLessThan(log.indexOf("run 8") + 8);
    for (const own of leave) own();
  });

  it("that nobody waits for comes after all others, whoever asked first", async () => {
    const inputs = changed({ wantedFlow: 0.0045 });
    const all = [ask("remedies", inputs), ask("run", inputs)];
    const leave = all.map((asked) => asked.subscribe(() => undefined));
    await Promise.all(all.map(settled));
    // What was begun before the other was asked for may stand before it.
    expect(log.indexOf("run 8")).toBeLessThan(log.indexOf("remedies 5"));
    for (const own of leave) own();
  });

  it("is cancelled and asked again by hand", async () => {
    const asked = ask("run", changed({ wantedFlow: 0.005 }));
    const leave = asked.subscribe(() => undefined);
    await vi.waitFor(() => expect(log).toContain("run 1"), { timeout: 60_000 });
    asked.cancel();
    expect(asked.standing.kind).toBe("cancelled");
    asked.again();
    await settled(asked);
    expect(asked.standing.kind).toBe("done");
    leave();
  });

  it("brings an error home, and a field that is gone is gone", async () => {
    const failing = ask("columns", changed());
    const leave = failing.subscribe(() => undefined);
    await settled(failing);
    expect(failing.standing).toMatchObject({ kind: "failed", error: "It cannot be done" });
    leave();
    for (const field of [{ area: 4 }, undefined, { area: 5 }]) {
      const { field: _, ...rest } = job;
      const asked = ask("irrigation", {
        job: { ...rest, ...(field && { field }) } as unknown as JobDocument,
      });
      const end = asked.subscribe(() => undefined);
      await settled(asked);
      expect(asked.standing.value).toEqual({ field });
      end();
    }
  });

  it("says so where the worker breaks, and tries another when asked again", async () => {
    const asked = ask("band", changed({ wantedFlow: 0.006 }));
    // The one at work breaks.
    ports.at(-1)?.dispatchEvent(new Event("error"));
    WorkerHere.breaks = true;
    const leave = asked.subscribe(() => undefined);
    await settled(asked);
    expect(asked.standing).toMatchObject({
      kind: "failed",
      error: "The computation could not be loaded.",
    });
    WorkerHere.breaks = false;
    asked.again();
    await settled(asked);
    expect(asked.standing.kind).toBe("done");
    leave();
  });
});
