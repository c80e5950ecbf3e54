import { describe, expect, it } from "vitest";
import { checkContext, judge, judgementDerivation } from "../check/registry.ts";
import { WATER_LEVELS } from "../fluid/levels.ts";
import { changeItems, type Line, type PathItem } from "../line/path.ts";
import { hole, lineOf, one, open, pipe, set, solved, split, strong } from "../test/fixtures.ts";
import { drawNetwork } from "../test/randomNetworks.ts";
import { dutyDerivation, type Subject } from "./duty.ts";
import { resultOf } from "./formula.ts";

/** The same line with another source, another kind of outlet or the other schools. */
const CHANGES: Record<string, (line: Line) => Line> = {
  "as drawn": (line) => line,
  "behind a main, without pumps": (line) => ({ ...line, source: MAIN, path: pumpless(line.path) }),
  "behind a main, boosted": (line) => ({ ...line, source: MAIN }),
  "from a well": (line) => ({
    ...line,
    source: {
      kind: "well",
      level: { low: -6, normal: -5, high: -4 },
      intake: -20,
      drawdown: { linear: 400, quadratic: 2e4 },
    },
  }),
  "from a closed tank": (line) => ({
    ...line,
    source: {
      kind: "tank",
      level: { low: -1, normal: 0, high: 0.5 },
      intake: -1,
      gasPressure: 5e4,
    },
  }),
  "with drains on it": (line) => ({ ...line, path: drained(line.path) }),
  "by the other schools": (line) => ({
    ...line,
    method: { friction: "hazen-williams", fittings: "equivalent-length" },
  }),
};

const MAIN: Line["source"] = { kind: "mains", intake: 0, pressure: 4e5, openFlow: 0.01 };
const pumpless = (path: PathItem[]) =>
  changeItems(path, (item) => (item.kind === "pump" ? [] : item));
const drained = (path: PathItem[]) =>
  changeItems<PathItem>(path, (item) =>
    item.kind === "outlet" && item.outlet.type === "free"
      ? { ...item, outlet: { type: "drain" } }
      : item,
  );

describe.each(Object.entries(CHANGES))("the working of any network %s", (_, change) => {
  it("ends with the number it is of", () => {
    for (let seed = 0; seed < 40; seed++) {
      const { line: drawn, pumps } = drawNetwork(seed);
      everyWorking(change(drawn), pumps, `seed ${seed}`);
    }
  });
});

it("of pumps side by side, one past its curve, shows what each is shown to pass", () => {
  const weak = { ...one, id: "weak", points: one.points.slice(0, 6) };
  const line = lineOf([
    split(
      "s",
      [set("a", "weak"), pipe("da", "pvc-sch40-3in", 2)],
      [set("b", "strong"), hole("h"), pipe("db", "pvc-sch40-2in", 30)],
    ),
    pipe("d", "pvc-sch40-3in", 20, 2),
    open("o"),
  ]);
  const { cases } = solved(line, [weak, strong]);
  const { running, outcomes } = cases.normal;
  expect(outcomes[0]?.kind).toBe("beyond-curve");
  // What is not published is not claimed: the weak one passes at least its last published flow.
  expect(running?.pumps[0]?.duty.flow).toBe(weak.points.at(-1)?.flow);
  everyWorking(line, [weak, strong], "past its curve");
});

function everyWorking(line: Line, pumps: Parameters<typeof solved>[1], which: string): void {
  const solution = solved(line, pumps);
  const holds = (subject: Subject, shown: number | undefined) => {
    if (shown === undefined) return;
    const found = resultOf(dutyDerivation(subject, solution, line));
    const near = Math.abs(found - shown) <= 1e-8 + 1e-5 * Math.abs(shown);
    expect([which, subject, found, near]).toEqual([which, subject, found, true]);
  };
  for (const at of WATER_LEVELS) {
    const { running, staticHead } = solution.cases[at];
    holds({ kind: "static", at }, staticHead);
    if (!running) continue;
    const { duty, state, power, efficiency } = running;
    holds({ kind: "flow", at }, duty.flow);
    holds({ kind: "head", at }, duty.head);
    holds({ kind: "delivered", at }, state.delivered);
    holds({ kind: "power", at }, power);
    holds({ kind: "efficiency", at }, efficiency);
    if (state.lost.length > 0) {
      const all = state.lost.reduce((sum, { flow }) => sum + flow, 0);
      holds({ kind: "lost", at }, all);
    }
    for (const [i, { item }] of solution.line.outlets.entries()) {
      holds({ kind: "outlet", at, itemId: item.id }, state.byOutlet[i]);
    }
    for (const pump of running.pumps) {
      holds({ kind: "flow", at, itemId: pump.itemId }, pump.duty.flow);
    }
  }
  const ledger = solution.cases.normal.running?.ledger ?? [];
  for (const [index, entry] of ledger.entries()) {
    holds({ kind: "ledger", index }, entry.lost ?? entry.head);
  }
  const context = checkContext(solution, line, 0.004);
  for (const judgement of judge(context)) {
    const found = resultOf(judgementDerivation(judgement, context));
    const near = Math.abs(found - judgement.value) <= 1e-8 + 1e-5 * Math.abs(judgement.value);
    expect([which, judgement.code, found, near]).toEqual([which, judgement.code, found, true]);
  }
}
