import { afterAll, describe, expect, it, vi } from "vitest";
import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { TestWithReadings } from "../../api/client.ts";
import { localDay } from "../../lib/clock.ts";
import type { Owner } from "../../openJob/owner.ts";
import type { Entry } from "../../outbox/outbox.ts";
import { withHeld } from "./fileReading.ts";
import { testOfToday } from "./todaysTest.ts";

// The outbox asks its browser for a lock as it is loaded.
vi.hoisted(() => vi.stubGlobal("navigator", {}));
afterAll(() => vi.unstubAllGlobals());

const AT = "2026-11-20T08:00:00.000Z";
const TODAY = localDay(new Date());
const OWNER: Owner = { of: "jobs", id: "pit", test: { jobId: "pit" } };
const STAND: Owner = { of: "units", id: "a7", test: { unitId: "a7", configuration: "shop-stand" } };

const test = (id: string, document: Partial<FieldTestDocument>, readings: string[] = []) =>
  ({
    ...{ id, revision: 2, updatedAt: AT },
    document: { format: "upright-gusher/field-test", title: "Readings", ...document },
    readings: readings.map((own) => ({ id: own, revision: 1, updatedAt: AT, document: {} })),
  }) as unknown as TestWithReadings;
const held = (collection: Entry["collection"], id: string, document: object) =>
  ({ ...{ collection, id, document, at: AT, base: 0, tab: "t", state: "waiting" } }) as Entry;
const reading = (testId: string) => ({ testId }) as ReadingDocument;
const idsOf = (tests: readonly TestWithReadings[]) =>
  tests.map(({ id, readings }) => [id, readings.map((each) => each.id)]);

describe("what this device holds", () => {
  it("stands with what the server has, once each", () => {
    const stored = [test("a", {}, ["r1"])];
    const all = withHeld(stored, [
      held("readings", "r1", reading("a")),
      held("readings", "r2", reading("a")),
      held("tests", "a", {}),
      held("tests", "b", { title: "As left" }),
      held("readings", "r3", reading("b")),
      held("jobs", "pit", {}),
    ]);
    expect(idsOf(all)).toEqual([
      ["a", ["r1", "r2"]],
      ["b", ["r3"]],
    ]);
    expect(all[1]).toMatchObject({ revision: 0, updatedAt: AT });
    // What the server has stays as it came.
    expect(idsOf(stored)).toEqual([["a", ["r1"]]]);
  });

  it("of a test nobody knows is shown nowhere", () => {
    expect(withHeld([], [held("readings", "r", reading("gone"))])).toEqual([]);
  });
});

describe("the test of today", () => {
  const earlier = test("old", { takenOn: "2026-01-02" });
  const found = test("found", { takenOn: TODAY, configuration: "as-found" });
  const plain = test("plain", { takenOn: TODAY });
  const all = [earlier, found, plain];

  it("is the one of this day and this configuration", () => {
    expect(testOfToday(OWNER, all, "as-found", {})).toMatchObject({ id: "found", stored: true });
    expect(testOfToday(OWNER, all, "", {})).toMatchObject({ id: "plain", stored: true });
  });

  it("is none of another day's, nor of another configuration's", () => {
    const left = testOfToday(OWNER, all, "as-left", { by: "B. Harker" });
    expect(left.stored).toBe(false);
    expect(left.document).toMatchObject({
      ...{ jobId: "pit", takenOn: TODAY, configuration: "as-left", title: "As left" },
      by: "B. Harker",
    });
    expect(testOfToday(OWNER, [earlier], "", {}).document).not.toHaveProperty("configuration");
  });

  it("has an id that two tries share, and no two owners", () => {
    const id = (owner: Owner) => testOfToday(owner, [], "", {}).id;
    expect(id(OWNER)).toBe(id({ ...OWNER }));
    expect(id(OWNER)).not.toBe(id({ ...OWNER, id: "yard" }));
    expect(id({ ...OWNER, id: "x".repeat(100) }).length).toBeLessThanOrEqual(64);
  });

  it("of a pump on the stand is the stand's, whatever is asked", () => {
    expect(testOfToday(STAND, all, "as-left", {}).document).toMatchObject({
      ...{ unitId: "a7", configuration: "shop-stand", title: "On the shop’s stand" },
    });
  });

  it("that this device alone holds is not stored yet", () => {
    const own = { ...plain, revision: 0 };
    expect(testOfToday(OWNER, [own], "", {})).toMatchObject({ id: "plain", stored: false });
  });
});
