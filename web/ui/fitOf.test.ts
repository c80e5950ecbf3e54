import { expect, it } from "vitest";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { stockName } from "#words/items.ts";
import { fitOf } from "./fitOf.ts";

const names = PIPE_STOCK.map(({ id }) => stockName(id));
const found = (typed: string) =>
  names
    .filter((name) => fitOf(name, typed) > 0)
    .toSorted((a, b) => fitOf(b, typed) - fitOf(a, typed));

it("a size is found by what a fitter types of it, the whole word first", () => {
  expect(found("2 pvc")[0]).toBe("2 in PVC sch 40");
  expect(found("2 pvc")).toContain("2-1/2 in PVC sch 40");
  expect(found("2 pvc").join()).not.toMatch(/PE|hose|copper/);
  expect(found("63 pe")[0]).toMatch(/^63 mm PE100/);
  expect(found("lay 3")[0]).toBe("3 in lay-flat hose");
  expect(found("9 gold")).toEqual([]);
  expect(found("")).toHaveLength(names.length);
});
