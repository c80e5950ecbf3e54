import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { merge } from "./merge.ts";
import { sameDocument } from "./same.ts";

describe("two changes of one document", () => {
  const base = { name: "Gauge", place: { at: "van", shelf: 1 }, tags: ["a", "b"] };
  it("keep what either changed, and tell of what both did", () => {
    const mine = { ...base, place: { at: "van", shelf: 2 }, tags: ["a"] };
    const theirs = { ...base, name: "Old gauge", place: { at: "shop", shelf: 1 }, tags: ["b"] };
    const { document, both } = merge(base, mine, theirs);
    expect(document).toEqual({ name: "Old gauge", place: { at: "shop", shelf: 2 }, tags: ["a"] });
    expect(both).toEqual([{ path: ["tags"], mine: ["a"], theirs: ["b"] }]);
    expect(merge(base, mine, theirs, () => "theirs").document.tags).toEqual(["b"]);
  });
  it("go through lists by the ids of their entries", () => {
    const list = (...entries: [string, number][]) => entries.map(([id, x]) => ({ id, x }));
    const was = { own: list(["a", 1], ["b", 1], ["c", 1]) };
    const mine = { own: list(["a", 2], ["c", 1], ["mine", 9]) };
    const theirs = { own: list(["a", 1], ["b", 1], ["c", 3], ["theirs", 8]) };
    const { document, both } = merge(was, mine, theirs);
    expect(document.own).toEqual(list(["a", 2], ["c", 3], ["theirs", 8], ["mine", 9]));
    expect(both).toEqual([]);
    // One took it away while the other changed it: that is for a person.
    const gone = merge(
      was,
      { own: list(["b", 1], ["c", 1]) },
      { own: list(["a", 5], ["b", 1], ["c", 1]) },
    );
    expect(gone.both).toEqual([{ path: ["own", "a"], mine: undefined, theirs: { id: "a", x: 5 } }]);
    expect(gone.document.own).toEqual(list(["b", 1], ["c", 1]));
  });
  it("a field taken away stays away, and one that came anew stays", () => {
    expect(merge({ a: 1, b: 1 }, { b: 1 }, { a: 1, b: 2, c: 3 } as object).document).toEqual({
      b: 2,
      c: 3,
    });
  });

  const value = fc.jsonValue({ maxDepth: 3 });
  it("nothing is lost of one that alone changed it; equal changes are no quarrel", () => {
    fc.assert(
      fc.property(value, value, (was, own) => {
        for (const { document, both } of [
          merge(was, own, was),
          merge(was, was, own),
          merge(was, own, own),
        ]) {
          if (!sameDocument(document, own) || both.length > 0) return false;
        }
        return true;
      }),
    );
  });
  it("whoever is kept, what is not quarrelled about comes out the same", () => {
    const fields = fc.dictionary(
      fc.constantFrom("a", "b", "c", "d"),
      fc.integer({ min: 0, max: 2 }),
    );
    fc.assert(
      fc.property(fields, fields, fields, (was, own, other) => {
        const kept = merge(was, own, other, () => "mine");
        const taken = merge(was, own, other, () => "theirs");
        const quarrelled = new Set(kept.both.map(({ path }) => path[0]));
        for (const key of ["a", "b", "c", "d"]) {
          const [x, y] = [kept.document[key], taken.document[key]];
          if (quarrelled.has(key) ? x !== own[key] || y !== other[key] : x !== y) return false;
        }
        return true;
      }),
    );
  });
});
