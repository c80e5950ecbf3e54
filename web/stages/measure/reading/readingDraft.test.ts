import { describe, expect, it } from "vitest";
import { readStored } from "#contract/collections.ts";
import type { Channel } from "#contract/streams/stream.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import type { ChannelNow } from "../../../streams/LivePanel.tsx";
import {
  emptyDraft,
  type KnownHeights,
  nextDraft,
  type ReadingDraft,
  readingOf,
  takenLive,
} from "./readingDraft.ts";

const job = readStored("jobs", DEMO_JOBS[0]?.job);
const HEIGHTS: KnownHeights = { tap: 1.2, pump: 0.3, water: -0.9 };
const NONE: KnownHeights = { tap: undefined, pump: undefined, water: undefined };

/** A draft with only what is typed into it. */
const typed = (by: Partial<ReadingDraft>): ReadingDraft => ({
  ...emptyDraft(job, "metric"),
  ...by,
});
const read = (
  draft: ReadingDraft,
  {
    heights = HEIGHTS,
    ...around
  }: Partial<Parameters<typeof readingOf>[1]> & { heights?: KnownHeights } = {},
) =>
  readingOf(
    draft,
    {
      ...{ testId: "today", pumpId: "pump", jobRevision: 3, severalOutlets: false },
      ...{ setups: [], scale: 6e5, reach: {}, units: "metric" as const },
      pit: {} as Parameters<typeof readingOf>[1]["pit"],
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
const WAYS: { way: ReadingDraft["method"]; by: Partial<ReadingDraft>; lacks: RegExp }[] = [
  { way: "bucket", by: { times: [6.2] }, lacks: /Time at least one fill/ },
  { way: "timed", by: { collected: 0.03 }, lacks: /Measure what ran in that time/ },
  { way: "meter", by: { meterFlow: 0.003 }, lacks: /Type the flow off the meter/ },
  {
    way: "counter",
    by: { counterStart: 10, counterEnd: 10.2, watchedFor: 60 },
    lacks: /what the meter showed|Time it between the two/,
  },
  {
    way: "draw-down",
    by: { area: 2, fall: 0.1, watchedFor: 60, inflow: 0 },
    lacks: /area of the water|Time it between|what comes in/,
  },
];

describe.each(WAYS)("a flow by $way", ({ way, by, lacks }) => {
  it("is a reading with what was typed, and with nothing that was not", () => {
    const reading = ready(typed({ method: way, ...by }));
    expect(reading.flow.method).toBe(way);
    expect(reading.discharge).toBeUndefined();
    expect(reading.suction).toBeUndefined();
    expect(reading.electric).toBeUndefined();
    expect(reading.jobRevision).toBe(3);
  });

  it.each(Object.keys(by) as (keyof ReadingDraft)[])(
    "lacks its %s where nobody typed it",
    (name) => {
      const without = typed({ method: way, ...by, [name]: name === "times" ? [] : undefined });
      const result = read(without);
      expect(result).toEqual({ kind: "lacks", what: expect.stringMatching(lacks) });
    },
  );
});

describe("a gauge", () => {
  const gauged = (by: Partial<ReadingDraft> = {}) =>
    typed({ method: "meter", meterFlow: 0.003, pressure: 1.4e5, ...by });

  it("stands where the pipe is, and on the dial its place asks for, until somebody says otherwise", () => {
    expect(ready(gauged()).discharge).toMatchObject({
      ...{ pressure: 1.4e5, elevation: 1.2, fullScale: 6e5 },
    });
    expect(ready(gauged({ elevation: 0.5, fullScale: 4e5 })).discharge).toMatchObject({
      ...{ elevation: 0.5, fullScale: 4e5 },
    });
  });

  it("on a line nobody has drawn lacks its height, and then that of the water", () => {
    expect(read(gauged(), { heights: NONE })).toMatchObject({ what: /how high the gauge’s dial/ });
    const stands = gauged({ elevation: 0.5, suctionKind: "water-level" });
    expect(read(stands, { heights: NONE })).toMatchObject({ what: /Type the water level/ });
    expect(ready({ ...stands, suctionKind: "unknown" }, { heights: NONE }).suction).toBeUndefined();
    expect(ready({ ...stands, level: -1 }, { heights: NONE }).suction).toMatchObject({ level: -1 });
  });

  it("at the suction lacks what it shows, and where it stands", () => {
    const own = gauged({ suctionKind: "gauge" });
    expect(read(own)).toMatchObject({ what: /pressure off the suction gauge/ });
    const shows = { ...own, suctionPressure: -2e4 };
    expect(ready(shows).suction).toMatchObject({ kind: "gauge", pressure: -2e4, elevation: 0.3 });
    expect(read({ ...shows, elevation: 1 }, { heights: NONE })).toMatchObject({
      what: /how high the suction gauge’s dial/,
    });
  });

  it("alone is a reading with the valve shut, and none without it", () => {
    const shut = typed({ valve: "shut" });
    expect(read(shut)).toMatchObject({ what: /with the valve shut/ });
    expect(ready({ ...shut, pressure: 2e5 }).flow).toEqual({ method: "shut" });
    expect(read(typed({ pressure: 2e5 }))).toMatchObject({ what: /Time at least one fill/ });
  });

  it("that would burst, or is off its dial, is refused with the words for it", () => {
    const reach = { gauge: { most: 5e5, strongest: 5.5e5, published: true } };
    expect(read(gauged({ fullScale: 4e5 }), { reach }).kind).toBe("lacks");
    expect(read(gauged({ fullScale: 5e5 }), { reach }).kind).toBe("ready");
    expect(read(gauged({ fullScale: 1e5 })).kind).toBe("lacks");
  });
});

it("says with the reading only what there is to say", () => {
  const plain = typed({ method: "meter", meterFlow: 0.003 });
  expect(ready(plain)).not.toHaveProperty("throttled");
  expect(ready({ ...plain, valve: "throttled" }).throttled).toBe(true);
  expect(ready({ ...plain, note: "  " })).not.toHaveProperty("note");
  expect(ready({ ...plain, note: " low sun " }).note).toBe("low sun");
  expect(ready(plain, { jobRevision: 0 })).not.toHaveProperty("jobRevision");
  expect(ready({ ...plain, setup: "a" })).not.toHaveProperty("setup");
  expect(ready({ ...plain, setup: "a" }, { setups: [{ id: "a" }] }).setup).toBe("a");
  expect(ready({ ...plain, outletId: "out" })).not.toHaveProperty("outletId");
  expect(ready({ ...plain, outletId: "out" }, { severalOutlets: true }).outletId).toBe("out");
  expect(ready({ ...plain, currents: [undefined, 4.1] }).electric).toEqual({ currents: [4.1] });
});

it("begins the next one with the same instruments and none of the numbers", () => {
  const filed = typed({
    ...{ method: "counter", counterStart: 10, counterEnd: 10.2, watchedFor: 60, pressure: 1e5 },
    ...{ meterTolerance: 0.03, accuracyClass: 0.01, times: [4], note: "x", pictures: ["p"] },
    ...{ currents: [4], power: 900, throwDistance: 12, fall: 0.1, collected: 0.02 },
  });
  const next = nextDraft(filed);
  expect(next.id).not.toBe(filed.id);
  expect(next).toMatchObject({ method: "counter", meterTolerance: 0.03, accuracyClass: 0.01 });
  // Where the last count ended the next begins.
  expect(next.counterStart).toBe(10.2);
  expect(read(next)).toMatchObject({ what: /what the meter showed/ });
  const { times, note, pictures, currents } = next;
  expect({ times, note, pictures, currents }).toEqual({
    ...{ times: [], note: "", pictures: [], currents: [] },
  });
  for (const name of ["pressure", "power", "throwDistance", "fall", "collected"] as const) {
    expect(next[name], name).toBeUndefined();
  }
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
  const open = { valve: "open" as const };

  it("goes into the draft with the half-width of its instrument", () => {
    const by = takenLive([shows({ reads: "flow", tolerance: 0.01 }, 0.004)], open, 2900, 6e5);
    expect(by).toMatchObject({ method: "meter", meterFlow: 0.004 });
    expect(by.meterTolerance).toBeCloseTo(0.01, 12);
    // Of full scale where the instrument says one.
    const gauge = takenLive(
      [shows({ reads: "discharge", tolerance: 0.01, fullScale: 4e5 }, 1e5)],
      ...([open, 2900, 6e5] as const),
    );
    expect(gauge).toMatchObject({ pressure: 1e5, fullScale: 4e5 });
    expect(gauge.accuracyClass).toBeCloseTo(0.01, 12);
  });

  it("is the wider the more it trembles, and never wider than half", () => {
    const width = (tremble: number) =>
      takenLive([shows({ reads: "power", tolerance: 0.01 }, 1000, tremble)], open, 2900, 6e5)
        .powerTolerance ?? 0;
    expect(width(10)).toBeCloseTo(Math.hypot(0.01, Math.sqrt(3) * 0.01), 12);
    expect(width(1e4)).toBe(0.5);
  });

  it("is left out where it can mean nothing", () => {
    const taken = (...asked: Parameters<typeof shows>) =>
      takenLive([shows(...asked)], open, 2900, 6e5);
    expect(taken({ reads: "flow" }, 0)).toEqual({});
    expect(takenLive([shows({ reads: "flow" }, 0.004)], { valve: "shut" }, 2900, 6e5)).toEqual({});
    expect(taken({ reads: "power" }, 0)).toEqual({});
    // A tachometer that hardly turns is not on its shaft.
    expect(taken({ reads: "speed" }, 290)).toEqual({});
    expect(taken({ reads: "speed" }, 2842).speedRatio).toBeCloseTo(0.98, 12);
    expect(takenLive([shows({ reads: "speed" }, 2842)], open, undefined, 6e5)).toEqual({});
    expect(taken({ reads: "current" }, 0)).toEqual({ currents: [0] });
  });
});
