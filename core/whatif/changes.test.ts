import { describe, expect, it } from "vitest";
import { findPipeStock } from "../catalogue/pipes.ts";
import { check, fitting, hole, lineOf, open, pipe, pumpOf, set } from "../test/fixtures.ts";
import { besideItself, type Change, deliveredBy, singleChanges } from "./changes.ts";

const own = pumpOf("one", 12, 0.006, { price: 300 });
const strong = pumpOf("strong", 24, 0.01, { price: 900 });
const cheap = pumpOf("cheap", 24, 0.01);
const line = lineOf([
  set("p"),
  hole("vent"),
  check("c"),
  pipe("riser", "pvc-sch40-1-1-2in", 3, 3),
  fitting("bends", "elbow-90", { count: 3 }),
  pipe("run", "pvc-sch40-1-1-2in", 30),
  open("o"),
]);
const now = deliveredBy(line, [own]) as number;
const found = singleChanges(line, [own], [own, strong, cheap]);
const named = ({ kind, ...rest }: Change) =>
  kind === "size" ? `${kind} ${(rest as { to: { nominal: string } }).to.nominal}` : kind;

describe("the cheapest next change", () => {
  it("is each a change that was made and solved, with nothing else in it", () => {
    expect(found.length).toBeGreaterThan(6);
    for (const { path, flow, gain, change } of found) {
      const pumps = change.kind === "pump" ? [own, change.pump] : [own];
      expect(deliveredBy({ ...line, path }, pumps)).toBeCloseTo(flow, 12);
      expect(flow - now).toBeCloseTo(gain, 12);
      expect(gain).toBeGreaterThan(0);
    }
    const kinds = new Set(found.map(({ change }) => change.kind));
    expect([...kinds].toSorted()).toEqual(["bend", "pump", "second-pump", "size"]);
  });

  it("comes first by flow for its price, what costs nothing before all, what nobody prices last", () => {
    const worth = found.flatMap(({ gain, price }) => (price ? [gain / price] : []));
    expect(worth).toEqual(worth.toSorted((a, b) => b - a));
    expect(named(found[0]?.change as Change)).toBe("bend");
    expect(found[0]?.price).toBe(0);
    expect(found.at(-1)?.change).toMatchObject({ kind: "pump", pump: { id: "cheap" } });
    // Reversed in price, reversed in order: the order follows from it.
    const sizes = found.filter(({ change }) => change.kind === "size");
    for (const { change, price } of sizes) {
      if (change.kind !== "size") continue;
      const length = change.itemIds.reduce((sum, id) => sum + (id === "riser" ? 3 : 30), 0);
      expect(price).toBeCloseTo(length * (findPipeStock(change.to.id)?.price ?? 0), 9);
    }
  });

  it("two like pumps side by side move more on one main, and far less than twice", () => {
    const path = besideItself(line.path, set("p") as never);
    const two = deliveredBy({ ...line, path: path ?? [] }, [own]) as number;
    expect(two).toBeGreaterThan(now * 1.01);
    expect(two).toBeLessThan(now * 1.6);
    // Each took its own vent hole and check valve along.
    const split = path?.[0];
    if (split?.kind !== "split") throw new Error("no split");
    expect(split.branches.map((branch) => branch.map(({ kind }) => kind))).toEqual([
      ["pump", "orifice", "fitting"],
      ["pump", "orifice", "fitting"],
    ]);
    expect(new Set(split.branches.flat().map(({ id }) => id)).size).toBe(6);
  });
});

it("proposes nothing that brings something to stop for", () => {
  const engine = pumpOf("engine", 24, 0.01, { price: 1, drive: "engine" });
  const dry = pumpOf("dry", 24, 0.01, { price: 1 });
  const wet = pumpOf("wet", 24, 0.01, { price: 1, submersible: true });
  const submerged = { ...own, submersible: true };
  const proposed = singleChanges(line, [submerged], [engine, dry, wet]).flatMap(({ change }) =>
    change.kind === "pump" ? [change.pump.id] : [],
  );
  expect(proposed).toEqual(["wet"]);
});
