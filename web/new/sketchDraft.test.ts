import { describe, expect, it } from "vitest";
import { FOOT } from "#core/quantity/constants.ts";
import { entriesOf, entryOf, isBegun, sketchOf, sketchStore } from "./sketchDraft.ts";

function memory() {
  const kept = new Map<string, string>();
  return {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, text: string) => void kept.set(name, text),
    removeItem: (name: string) => void kept.delete(name),
  };
}
const PACE = { symbol: "paces", factor: 0.75 };
const entry = (text: string, now: "us" | "metric" = "metric", under: "us" | "metric" = now) =>
  entryOf("along", { text, units: under }, now, [PACE]);

describe("what a text means", () => {
  it("is a value only where the whole of it means one", () => {
    expect(entry("25")).toEqual({ text: "25", value: 25 });
    expect(entry("25 paces")).toEqual({ text: "25 paces", value: 18.75 });
    for (const half of ["25 pa", "25 m and", "-", "1/0"]) {
      const { text, value, problem } = entry(half);
      expect([half, text, value]).toEqual([half, half, undefined]);
      expect(problem, half).toBeTruthy();
    }
    expect(entry("  ")).toEqual({ text: "  " });
  });

  it("out of range is a problem and no value", () => {
    expect(entry("1e9 m")).not.toHaveProperty("value");
    expect(entry("1e9 m").problem).toBeTruthy();
  });

  it("of a bare number keeps the units it was typed under", () => {
    expect(entry("10", "metric", "us")).toMatchObject({ text: "10 ft" });
    expect(entry("10", "metric", "us").value).toBeCloseTo(10 * FOOT, 12);
    // One that names its unit is as it was typed.
    expect(entry("10 m", "us", "metric")).toMatchObject({ text: "10 m", value: 10 });
  });
});

describe("a sketch", () => {
  it("has of the measures those its kind asks for, as far as they can be read", () => {
    const { store } = sketchStore("sump-riser", memory);
    const { type, change } = store.getState();
    type("up", "2 m", "metric");
    type("along", "30 m and", "metric");
    type("nozzle", "12 mm", "metric");
    change({ place: "Mill lane" });
    const { draft } = store.getState();
    const sketch = sketchOf("sump-riser", draft, entriesOf(draft.typed, "metric", []));
    expect(sketch).toMatchObject({ kind: "sump-riser", place: "Mill lane", typed: { up: 2 } });
    expect(sketch.typed).not.toHaveProperty("along");
    // A pit has no gun.
    expect(sketch.typed).not.toHaveProperty("nozzle");
  });

  it("is there again, as it was typed, until it is forgotten", () => {
    const storage = memory();
    const at = () => storage;
    expect(isBegun("sump-riser", at)).toBe(false);
    const first = sketchStore("sump-riser", at);
    expect(isBegun("sump-riser", at)).toBe(false);
    first.store.getState().type("along", "30 m and", "us");
    expect(isBegun("sump-riser", at)).toBe(true);
    expect(isBegun("emptying", at)).toBe(false);
    const again = sketchStore("sump-riser", at);
    expect(again.store.getState().draft.typed.along).toEqual({ text: "30 m and", units: "us" });
    again.clear();
    expect(again.store.getState().draft.typed).toEqual({});
    expect(isBegun("sump-riser", at)).toBe(false);
  });

  it("lives where a device keeps nothing", () => {
    const none = () => {
      throw new Error("denied");
    };
    const { store } = sketchStore("sump-riser", none);
    store.getState().type("up", "2 m", "metric");
    expect(store.getState().draft.typed.up?.text).toBe("2 m");
    expect(isBegun("sump-riser", none)).toBe(false);
  });
});
