import { describe, expect, it } from "vitest";
import { findPipeStock } from "../catalogue/pipes.ts";
import { taperCoefficient } from "../fitting/resistance.ts";
import { fitting, lineOf, open, pipe, running, set, split } from "../test/fixtures.ts";
import { compileLine } from "./compileLine.ts";
import type { PathItem } from "./path.ts";

function compiled(path: PathItem[]) {
  const result = compileLine(lineOf(path));
  if (result.kind !== "compiled") throw new Error(JSON.stringify(result.diagnostics));
  return result.line;
}
const bore = (id: string) => findPipeStock(id)?.bore ?? Number.NaN;

describe("a reducer", () => {
  const through = (...between: PathItem[]) =>
    compiled([
      set("p"),
      pipe("wide", "pvc-sch40-2in", 10, 1),
      ...between,
      pipe("narrow", "pvc-sch40-1in", 5, 1),
      open("o"),
    ]);

  it("eases the change of bore though fittings follow it, which take the size beyond it", () => {
    const { segments } = through(
      fitting("r", "reducer-tapered"),
      fitting("bends", "elbow-90", { count: 4 }),
    );
    const change = segments.find(({ kind }) => kind === "bore-change");
    expect(change?.itemId).toBe("r");
    expect(change?.k).toBeCloseTo(
      taperCoefficient(bore("pvc-sch40-2in"), bore("pvc-sch40-1in"), 20),
      12,
    );
    expect(segments.find(({ itemId }) => itemId === "bends")?.bore).toBe(bore("pvc-sch40-1in"));
    expect(segments.filter(({ kind }) => kind === "bore-change")).toHaveLength(1);
  });

  it("with four elbows after it delivers less than with them before it", () => {
    const flow = (...between: PathItem[]) =>
      running(
        lineOf([
          set("p"),
          pipe("wide", "pvc-sch40-2in", 10, 1),
          ...between,
          pipe("narrow", "pvc-sch40-1in", 2, 1),
          open("o"),
        ]),
      ).duty.flow;
    const reducer = fitting("r", "reducer-tapered");
    const bends = fitting("bends", "elbow-90", { count: 4 });
    expect(flow(reducer, bends) / flow(bends, reducer)).toBeLessThan(0.95);
  });
});

it("a fitting takes the size of the pipe beside it, not of a fitting with a size of its own", () => {
  const { segments } = compiled([
    set("p"),
    pipe("a", "pvc-sch40-2in", 10, 1),
    fitting("valve", "gate-valve", { stock: "pvc-sch40-1in" }),
    fitting("elbow", "elbow-90"),
    open("o"),
  ]);
  const of = (id: string) =>
    segments.find(({ itemId, kind }) => itemId === id && kind === "fitting")?.bore;
  expect(of("valve")).toBe(bore("pvc-sch40-1in"));
  expect(of("elbow")).toBe(bore("pvc-sch40-2in"));
});

it("no change of bore is put between bores that differ by a rounding", () => {
  // 2 in of two families whose tables give the same bore by different sums.
  const { segments } = compiled([
    set("p"),
    pipe("a", "pvc-sch40-2in", 10, 1),
    pipe("b", "pe-sidr15-2in", 10, 1),
    open("o"),
  ]);
  expect(Math.abs(bore("pvc-sch40-2in") - bore("pe-sidr15-2in"))).toBeLessThan(1e-12);
  expect(segments.filter(({ kind }) => kind === "bore-change")).toEqual([]);
});

it("a split may stand in a branch, as deep as it likes", () => {
  const deep = lineOf([
    set("p"),
    pipe("m", "pvc-sch40-3in", 10, 2),
    split(
      "outer",
      [
        pipe("a", "pvc-sch40-2in", 5, 1),
        split("inner", [pipe("b", "pvc-sch40-1in", 5), open("x")], [pipe("c", "pvc-sch40-1in", 5)]),
        open("y"),
      ],
      [pipe("d", "pvc-sch40-2in", 8, 1)],
    ),
    open("z"),
  ]);
  const { state, duty } = running(deep);
  expect(state.byOutlet).toHaveLength(3);
  expect(state.delivered).toBeCloseTo(duty.flow, 8);
  // Branches side by side are drawn apart, those of the inner split too.
  const result = compileLine(deep);
  const lanes = result.kind === "compiled" ? result.line.stretches.map(({ lane }) => lane) : [];
  expect(new Set(lanes).size).toBe(3);
});
