import { describe, expect, it } from "vitest";
import { readStored } from "#contract/collections.ts";
import type { Channel } from "#contract/streams/stream.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import type { ChannelNow } from "../../../streams/LivePanel.tsx";
import {
  dischargeBy,
  electricBy,
  emptyDraft,
  type Flows,
  flowBy,
  isUntouched,
  type Method,
  nextDraft,
  type ReadingDraft,
  suctionBy,
} from "./readingDraft.ts";
import { type KnownHeights, type ReadingOf, readingOf } from "./readingOf.ts";
import { readingStore } from "./readingStore.ts";
import { takenLive } from "./takenLive.ts";

const job = readStored("jobs", DEMO_JOBS[0]?.job);
const HEIGHTS: KnownHeights = { tap: 1.2, pump: 0.3, water: -0.9 };
const NONE: KnownHeights = { tap: undefined, pump: undefined, water: undefined };

const EMPTY = emptyDraft(job, "metric");
type Step = Partial<ReadingDraft> | ((before: ReadingDraft) => Partial<ReadingDraft>);
/** A draft with one thing after the other typed into it. */
function and(draft: ReadingDraft, ...steps: Step[]): ReadingDraft {
  let after = draft;
  for (const step of steps) {
    after = { ...after, ...(typeof step === "function" ? step(after) : step) };
  }
  return after;
}
const typed = (...steps: Step[]) => and(EMPTY, ...steps);
const flow = <M extends Method>(method: M, by: Partial<Flows[M]>) => [
  { method },
  flowBy(method, by),
];
const read = (
  draft: ReadingDraft,
  { heights = HEIGHTS, ...around }: Partial<ReadingOf> & { heights?: KnownHeights } = {},
) =>
  readingOf(
    draft,
    {
      ...{ testId: "today", pumpId: "pump", jobRevision: 3, severalOutlets: false },
      ...{ setups: [], scale: 6e5, reach: {}, units: "metric" as const },
      pit: {} as ReadingOf["pit"],
      ...around,
    },
    heights,
  );
const ready = (...asked: Parameters<typeof read>) => {
  const result = read(...asked);
  if (result.kind !== "ready") throw new Error(result.what);
  return result.reading;
};

/** Each way of measuring a flow, with all it takes. */
const WAYS: { way: Method; by: object; lacks: RegExp }[] = [
  { way: "bucket", by: { times: [6.2] }, lacks: /Time at least one fill/ },
  { way: "timed", by: { volume: 0.03 }, lacks: /Measure what ran in that time/ },
  { way: "meter", by: { flow: 0.003 }, lacks: /Type the flow off the meter/ },
  {
    way: "counter",
    by: { start: 10, end: 10.2, time: 60 },
    lacks: /what the meter showed|Time it between the two/,
  },
  {
    way: "draw-down",
    by: { area: 2, fall: 0.1, time: 60, inflow: 0 },
    lacks: /area of the water|Time it between|what comes in/,
  },
];

describe.each(WAYS)("a flow by $way", ({ way, by, lacks }) => {
  it("is a reading with what was typed, and with nothing that was not", () => {
    const reading = ready(typed(...flow(way, by)));
    expect(reading.flow).toMatchObject({ method: way, ...by });
    expect(reading.discharge).toBeUndefined();
    expect(reading.suction).toBeUndefined();
    expect(reading.electric).toBeUndefined();
    expect(reading.jobRevision).toBe(3);
  });

  it.each(Object.keys(by))("lacks its %s where nobody typed it", (name) => {
    const without = typed(...flow(way, { ...by, [name]: name === "times" ? [] : undefined }));
    expect(read(without)).toEqual({ kind: "lacks", what: expect.stringMatching(lacks) });
  });

  it("is as it was after another way was in hand", () => {
    for (const other of WAYS) {
      const back = typed(...flow(way, by), ...flow(other.way, other.by), { method: way });
      expect(ready(back).flow).toMatchObject({ method: way, ...by });
    }
  });
});

it("takes what the job knows of the water that falls until it is typed", () => {
  const fell = typed(...flow("draw-down", { fall: 0.1, time: 60 }));
  const pit = { area: 3, inflow: 0.001 } as ReadingOf["pit"];
  expect(ready(fell, { pit }).flow).toMatchObject({ area: 3, inflow: 0.001 });
  const own = and(fell, flowBy("draw-down", { area: 2, inflow: 0 }));
  expect(ready(own, { pit }).flow).toMatchObject({ area: 2, inflow: 0 });
});

describe("a gauge", () => {
  const gauged = (...steps: Step[]) =>
    typed(...flow("meter", { flow: 0.003 }), dischargeBy({ pressure: 1.4e5 }), ...steps);

  it("stands where the pipe is, and on the dial its place asks for, until somebody says otherwise", () => {
    expect(ready(gauged()).discharge).toMatchObject({
      ...{ pressure: 1.4e5, elevation: 1.2, fullScale: 6e5 },
    });
    expect(ready(gauged(dischargeBy({ elevation: 0.5, fullScale: 4e5 }))).discharge).toMatchObject({
      ...{ elevation: 0.5, fullScale: 4e5 },
    });
  });

  it("on a line nobody has drawn lacks its height, and then that of the water", () => {
    expect(read(gauged(), { heights: NONE })).toMatchObject({ what: /how high the gauge’s dial/ });
    const stands = gauged(dischargeBy({ elevation: 0.5 }), { suctionKind: "water-level" });
    expect(read(stands, { heights: NONE })).toMatchObject({ what: /Type the water level/ });
    expect(ready({ ...stands, suctionKind: "unknown" }, { heights: NONE }).suction).toBeUndefined();
    const known = and(stands, suctionBy("water-level", { level: -1 }));
    expect(ready(known, { heights: NONE }).suction).toMatchObject({ level: -1 });
  });

  it("at the suction lacks what it shows, and where it stands", () => {
    const own = gauged({ suctionKind: "gauge" });
    expect(read(own)).toMatchObject({ what: /pressure off the suction gauge/ });
    const shows = and(own, suctionBy("gauge", { pressure: -2e4 }));
    expect(ready(shows).suction).toMatchObject({ kind: "gauge", pressure: -2e4, elevation: 0.3 });
    const high = and(shows, dischargeBy({ elevation: 1 }));
    expect(read(high, { heights: NONE })).toMatchObject({
      what: /how high the suction gauge’s dial/,
    });
  });

  it("alone is a reading with the valve shut, and none without it", () => {
    const shut = typed({ valve: "shut" });
    expect(read(shut)).toMatchObject({ what: /with the valve shut/ });
    expect(ready(and(shut, dischargeBy({ pressure: 2e5 }))).flow).toEqual({ method: "shut" });
    expect(read(typed(dischargeBy({ pressure: 2e5 })))).toMatchObject({
      what: /Time at least one fill/,
    });
  });

  it("that would burst, or is off its dial, is refused with the words for it", () => {
    const reach = { gauge: { most: 5e5, strongest: 5.5e5, published: true } };
    const dial = (fullScale: number) => gauged(dischargeBy({ fullScale }));
    expect(read(dial(4e5), { reach }).kind).toBe("lacks");
    expect(read(dial(5e5), { reach }).kind).toBe("ready");
    expect(read(dial(1e5)).kind).toBe("lacks");
  });
});

it("says with the reading only what there is to say", () => {
  const plain = typed(...flow("meter", { flow: 0.003 }));
  expect(ready(plain)).not.toHaveProperty("throttled");
  expect(ready({ ...plain, valve: "throttled" }).throttled).toBe(true);
  expect(ready({ ...plain, note: "  " })).not.toHaveProperty("note");
  expect(ready({ ...plain, note: " low sun " }).note).toBe("low sun");
  expect(ready(plain, { jobRevision: 0 })).not.toHaveProperty("jobRevision");
  expect(ready({ ...plain, setup: "a" })).not.toHaveProperty("setup");
  expect(ready({ ...plain, setup: "a" }, { setups: [{ id: "a" }] }).setup).toBe("a");
  expect(ready({ ...plain, outletId: "out" })).not.toHaveProperty("outletId");
  expect(ready({ ...plain, outletId: "out" }, { severalOutlets: true }).outletId).toBe("out");
  const clamped = and(plain, electricBy({ currents: [undefined, 4.1], volts: 230 }));
  expect(ready(clamped).electric).toEqual({ currents: [4.1], volts: 230 });
  expect(ready(and(plain, electricBy({ volts: 230 })))).not.toHaveProperty("electric");
  expect(ready({ ...plain, speedRatio: 0.9 })).toMatchObject({
    ...{ speedRatio: 0.9, speedTolerance: 0.01 },
  });
  expect(ready(plain)).not.toHaveProperty("speedTolerance");
});

it("begins the next one with the same instruments and none of the numbers", () => {
  const filed = typed(
    ...flow("counter", { start: 10, end: 10.2, time: 60, tolerance: 0.03 }),
    ...[flowBy("bucket", { times: [4] }), flowBy("draw-down", { area: 2, fall: 0.1 })],
    ...[flowBy("timed", { volume: 0.02 }), flowBy("meter", { flow: 0.003 })],
    dischargeBy({ pressure: 1e5, accuracyClass: 0.01 }),
    suctionBy("gauge", { pressure: -1e4, elevation: 0.4 }),
    electricBy({ currents: [4], power: 900 }),
    { note: "x", attachments: ["p"], throwDistance: 12 },
  );
  expect(isUntouched(filed)).toBe(false);
  const next = nextDraft(filed);
  expect(next.id).not.toBe(filed.id);
  expect(isUntouched(next)).toBe(true);
  expect(next).toMatchObject({
    method: "counter",
    // Where the last count ended the next begins.
    flows: { counter: { start: 10.2, end: undefined, tolerance: 0.03 }, "draw-down": { area: 2 } },
    discharge: { accuracyClass: 0.01 },
    suctions: { gauge: { elevation: 0.4 } },
    electric: { currents: [] },
    ...{ note: "", attachments: [], throwDistance: undefined },
  });
  expect(read(next)).toMatchObject({ what: /what the meter showed/ });
});

describe("kept on this device", () => {
  const memory = () => {
    const kept = new Map<string, string>();
    return {
      kept,
      getItem: (name: string) => kept.get(name) ?? null,
      setItem: (name: string, text: string) => void kept.set(name, text),
      removeItem: (name: string) => void kept.delete(name),
    };
  };
  const open = (storage: ReturnType<typeof memory>, of = "job", own = job) =>
    readingStore(of, own, emptyDraft(own, "metric"), () => storage);

  it("is there again as it was, what was cleared too", () => {
    const storage = memory();
    const { change } = open(storage).getState();
    change(flowBy("counter", { start: 10 }));
    change({ method: "counter", note: "low sun" });
    change(electricBy({ currents: [undefined, 4.1] }));
    change(dischargeBy({ pressure: 1e5 }));
    change(dischargeBy({ pressure: undefined }));
    const { draft } = open(storage).getState();
    expect(draft).toMatchObject({ method: "counter", note: "low sun" });
    expect(draft.flows.counter).toEqual({ ...EMPTY.flows.counter, start: 10 });
    expect(draft.electric.currents).toEqual([undefined, 4.1]);
    expect(draft.discharge.pressure).toBeUndefined();
    expect(open(storage, "another").getState().draft.note).toBe("");
  });

  it("two fills in one breath are two", () => {
    const store = open(memory());
    const fill = (seconds: number) =>
      store
        .getState()
        .change((before) =>
          flowBy("bucket", { times: [...before.flows.bucket.times, seconds] })(before),
        );
    fill(6.1);
    fill(6.3);
    expect(store.getState().draft.flows.bucket.times).toEqual([6.1, 6.3]);
  });

  it("is of the time its first number was taken", () => {
    const store = open(memory());
    const { change, replace } = store.getState();
    const old = "2020-01-01T08:00:00.000Z";
    replace({ ...store.getState().draft, takenAt: old });
    change(flowBy("meter", { flow: 0.003 }));
    const begun = store.getState().draft.takenAt;
    expect(begun).not.toBe(old);
    replace({ ...store.getState().draft, takenAt: old });
    change({ note: "more of it" });
    expect(store.getState().draft.takenAt).toBe(old);
  });

  it("names no place that the line has no more", () => {
    const storage = memory();
    open(storage)
      .getState()
      .change((before) => ({
        ...{ running: ["gone"], outletId: "gone" },
        ...dischargeBy({ afterItemId: "gone", pressure: 1e5 })(before),
      }));
    const { draft } = open(storage).getState();
    expect(draft.discharge).toMatchObject({
      ...{ afterItemId: EMPTY.discharge.afterItemId, pressure: 1e5 },
    });
    expect(draft).toMatchObject({ running: [], outletId: EMPTY.outletId });
  });

  it("lives as long as the page where the device keeps nothing, or has no room", () => {
    const full = {
      ...memory(),
      setItem: () => {
        throw new Error("full");
      },
    };
    const denied = () => {
      throw new Error("denied");
    };
    for (const storage of [() => full, denied]) {
      const store = readingStore("job", job, emptyDraft(job, "metric"), storage);
      store.getState().change({ note: "low sun" });
      expect(store.getState().draft.note).toBe("low sun");
    }
  });

  it("begins anew where what was kept is none", () => {
    for (const text of ["", "{", "null", "[]", '{"state":{"draft":{"id":7}},"version":2}']) {
      const storage = memory();
      storage.kept.set("upright-gusher-reading-job", text);
      expect(open(storage).getState().draft, text).toMatchObject({ method: "bucket", note: "" });
    }
  });

  it("is read as an earlier version wrote it", () => {
    const storage = memory();
    const { afterItemId } = EMPTY.discharge;
    storage.kept.set(
      "upright-gusher-reading-job",
      JSON.stringify({
        ...{ id: "r1", takenAt: "2026-05-02T09:00:00.000Z", valve: "throttled", method: "counter" },
        ...{ counterStart: 10, counterEnd: 10.2, watchedFor: 60, meterTolerance: 0.03 },
        ...{ timingTolerance: 0.3, times: [5], volume: 0.012, pressure: 1.4e5, afterItemId },
        ...{ suctionKind: "gauge", suctionPressure: -2e4, currents: [4], pictures: ["p"] },
      }),
    );
    const { draft } = open(storage).getState();
    expect(ready(draft)).toMatchObject({
      ...{ throttled: true, takenAt: "2026-05-02T09:00:00.000Z", attachments: ["p"] },
      flow: { method: "counter", start: 10, end: 10.2, time: 60, tolerance: 0.03 },
      discharge: { pressure: 1.4e5, accuracyClass: 0.016 },
      suction: { kind: "gauge", pressure: -2e4 },
      electric: { currents: [4] },
    });
    expect(draft.id).toBe("r1");
    expect(draft.flows.bucket).toMatchObject({ times: [5], volume: 0.012 });
  });
});

describe("what instruments stream", () => {
  const shows = (
    channel: Partial<Channel> & Pick<Channel, "reads">,
    value: number,
    tremble = 0,
  ): ChannelNow => ({
    ...{ channel: channel as Channel, value },
    steady: { kind: "steady", mean: { value, standardUncertainty: tremble }, window: 10 },
  });
  const taken = (now: ChannelNow[], before: ReadingDraft = EMPTY, rated?: number) =>
    takenLive(now, before, rated, 6e5);

  it("goes into the draft with the half-width of its instrument", () => {
    const by = taken([shows({ reads: "flow", tolerance: 0.01 }, 0.004)]);
    expect(by).toMatchObject({ method: "meter", flows: { meter: { flow: 0.004 } } });
    expect(by.flows?.meter.tolerance).toBeCloseTo(0.01, 12);
    // Of full scale where the instrument says one.
    const gauge = taken([shows({ reads: "discharge", tolerance: 0.01, fullScale: 4e5 }, 1e5)]);
    expect(gauge.discharge).toMatchObject({ pressure: 1e5, fullScale: 4e5 });
    expect(gauge.discharge?.accuracyClass).toBeCloseTo(0.01, 12);
  });

  it("of several at once all go into it, beside what was typed", () => {
    const by = taken(
      [
        shows({ reads: "discharge", elevation: 0.7 }, 1e5),
        ...[shows({ reads: "suction" }, -2e4), shows({ reads: "power" }, 900)],
        ...[shows({ reads: "current" }, 4.1), shows({ reads: "speed" }, 2842)],
      ],
      typed(electricBy({ volts: 230 }), dischargeBy({ accuracyClass: 0.3 })),
      2900,
    );
    expect(by).toMatchObject({
      discharge: { pressure: 1e5, elevation: 0.7, fullScale: 6e5 },
      suctionKind: "gauge",
      suctions: { gauge: { pressure: -2e4 }, "water-level": EMPTY.suctions["water-level"] },
      electric: { volts: 230, currents: [4.1], power: 900 },
    });
    expect(by.speedRatio).toBeCloseTo(0.98, 12);
    expect(taken([shows({ reads: "level" }, -0.9)])).toMatchObject({
      ...{ suctionKind: "water-level", suctions: { "water-level": { level: -0.9 } } },
    });
  });

  it("is the wider the more it trembles, and never wider than half", () => {
    const width = (tremble: number) =>
      taken([shows({ reads: "power", tolerance: 0.01 }, 1000, tremble)]).electric?.powerTolerance;
    expect(width(10)).toBeCloseTo(Math.hypot(0.01, Math.sqrt(3) * 0.01), 12);
    expect(width(1e4)).toBe(0.5);
  });

  it("is left out where it can mean nothing", () => {
    expect(taken([shows({ reads: "flow" }, 0)])).toEqual({});
    expect(taken([shows({ reads: "flow" }, 0.004)], typed({ valve: "shut" }))).toEqual({});
    expect(taken([shows({ reads: "power" }, 0)])).toEqual({});
    // A tachometer that hardly turns is not on its shaft.
    expect(taken([shows({ reads: "speed" }, 290)], EMPTY, 2900)).toEqual({});
    expect(taken([shows({ reads: "speed" }, 2842)])).toEqual({});
    const still = taken([shows({ reads: "current" }, 0)]);
    expect(still.electric).toEqual({ ...EMPTY.electric, currents: [0] });
  });
});
