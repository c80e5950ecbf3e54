import fc from "fast-check";
import { expect, it } from "vitest";
import { endAt, startElevations } from "./elevations.ts";
import type { PathItem } from "./path.ts";

const pipe = (id: string, rise: number): PathItem => ({
  kind: "pipe",
  id,
  stock: "pvc-sch40-2in",
  length: 50,
  rise,
});

it("starts each item where the one before ends, branches where the line parts", () => {
  const path: PathItem[] = [
    pipe("a", 2),
    {
      kind: "split",
      id: "s",
      branches: [
        [pipe("b", 1), { kind: "outlet", id: "o", outlet: { type: "free" } }],
        [{ kind: "rise", id: "c", rise: 0.5 }, pipe("d", 1)],
      ],
    },
    pipe("e", -1),
  ];
  expect(Object.fromEntries(startElevations(path, 10))).toEqual({
    a: 10,
    s: 12,
    b: 12,
    o: 13,
    c: 12,
    d: 12.5,
    e: 13.5,
  });
});

it("makes a run end where it is told, and leaves every later level where it was", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 2, maxLength: 8 }),
      fc.nat(),
      fc.double({ min: -20, max: 20, noNaN: true }),
      (rises, which, end) => {
        const path = rises.map((rise, i) => pipe(`r${i}`, rise));
        const at = which % (rises.length - 1);
        const start = startElevations(path, 3).get(`r${at}`) ?? Number.NaN;
        const changed = endAt(path, `r${at}`, start, end);
        const starts = [...startElevations(changed, 3).values()];
        const before = [...startElevations(path, 3).values()];
        expect(starts[at + 1]).toBeCloseTo(end, 9);
        for (const [i, level] of before.entries()) {
          if (i !== at + 1) expect(starts[i]).toBeCloseTo(level, 9);
        }
      },
    ),
  );
});
