import { describe, expect, it } from "vitest";
import { PIPE_STOCK } from "../catalogue/pipes.ts";
import { solveLine } from "../hydraulics/solveLine.ts";
import { fitting, levels, lineOf, open, pipe, set, tablePump } from "../test/fixtures.ts";
import { compareSizes, KNEE } from "./sizes.ts";

const pump = tablePump(
  "p",
  [0, 1, 2, 3, 4, 5, 6],
  (q) => ({ head: 30 - 0.6 * q * q, power: 500 + 120 * q }),
  { submersible: true },
);
const line = lineOf(
  [
    set("pump", "p"),
    pipe("riser", "pvc-sch40-1-1-2in", 6, 6),
    fitting("bends", "elbow-90", { count: 4 }),
    pipe("main", "pvc-sch40-1-1-2in", 80, 4),
    open("o"),
  ],
  { source: { kind: "open", level: levels(0, 0.3, 0.6), intake: -0.5 } },
);
const pvc = PIPE_STOCK.filter((stock) => stock.family === "pvc-sch40");

describe("size comparison", () => {
  const { rows, kneeId } = compareSizes(line, [pump], ["main"], pvc, "normal");
  const settled = rows.filter((row) => row.flow !== undefined);

  it("gives more flow, less head in the run and a higher price with every size", () => {
    expect(settled.length).toBeGreaterThan(5);
    for (const [i, row] of settled.entries()) {
      const next = settled[i + 1];
      if (!next) continue;
      expect(next.flow).toBeGreaterThanOrEqual(row.flow ?? 0);
      expect(next.runHead).toBeLessThan(row.runHead ?? 0);
      expect(next.price).toBeGreaterThan(row.price);
    }
  });

  it("says for the size that is laid what the job itself says", () => {
    const solved = solveLine(line, [pump]);
    const duty = solved.kind === "solved" ? solved.solution.cases.normal.running?.duty : undefined;
    const row = rows.find((r) => r.stock.id === "pvc-sch40-1-1-2in");
    expect(row?.flow).toBe(duty?.flow);
    expect(row?.head).toBe(duty?.head);
  });

  it("puts the knee where one size more brings little", () => {
    const index = settled.findIndex((row) => row.stock.id === kneeId);
    const at = (i: number) => settled[i]?.flow ?? 0;
    expect(index).toBeGreaterThan(0);
    expect(at(index + 1) / at(index) - 1).toBeLessThan(KNEE);
    expect(at(index) / at(index - 1) - 1).toBeGreaterThanOrEqual(KNEE);
  });

  it("changes several runs together, and more by it than one alone", () => {
    const both = compareSizes(line, [pump], ["main", "riser"], pvc, "normal");
    const flowOf = (list: typeof rows) =>
      list.find((r) => r.stock.id === "pvc-sch40-3in")?.flow ?? 0;
    expect(flowOf(both.rows)).toBeGreaterThan(flowOf(rows));
  });

  it("keeps a row for a size that does not settle, without inventing numbers", () => {
    const tiny = compareSizes(
      line,
      [{ ...pump, points: pump.points.slice(0, 2) }],
      ["main"],
      pvc,
      "normal",
    );
    expect(tiny.rows.find((r) => r.stock.id === "pvc-sch40-4in")).toMatchObject({
      outcome: "beyond-curve",
    });
    expect(tiny.rows.find((r) => r.stock.id === "pvc-sch40-4in")?.flow).toBeUndefined();
  });
});
