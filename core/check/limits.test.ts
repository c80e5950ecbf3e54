import { describe, expect, it } from "vitest";
import type { Line, PathItem } from "../line/path.ts";
import {
  check,
  gun,
  hole,
  judged,
  levels,
  lineOf,
  open,
  pipe,
  pumpOf,
  set,
  split,
} from "../test/fixtures.ts";
import { isSlotted } from "../well/setting.ts";
import type { CheckCode } from "./registry.ts";

/** Where each limit bites, as the trade has it and not as the code does: found by moving a line past it little by little. */

const sub = pumpOf("sub", 30, 0.02, { submersible: true });
const dry = pumpOf("dry", 30, 0.02, { maxSuctionLift: 5 });
/** A line into something held at a pressure: that alone decides how much runs. */
const against = (pressure: number, path: PathItem[], over: Partial<Line> = {}): Line =>
  lineOf([...path, { kind: "outlet", id: "o", outlet: { type: "pressure", pressure } }], over);
const pressures = Array.from({ length: 500 }, (_, i) => (i / 500) * 2.9e5);

/** The greatest value told good and the least told otherwise, or the other way about, over lines of a kind. */
function edge(code: CheckCode, lines: readonly Line[], bad: string, side: "over" | "under") {
  const found = lines
    .flatMap((line) => judged(line, [sub, dry]).filter((own) => own.code === code))
    .map(({ value, severity }) => ({ value, bad: severity === bad || severity === "stop" }));
  const good = found.filter((own) => !own.bad).map(({ value }) => value);
  const worse = found.filter((own) => own.bad).map(({ value }) => value);
  return side === "over"
    ? [Math.max(...good), Math.min(...worse)]
    : [Math.max(...worse), Math.min(...good)];
}
/** The limit lies between two values, and both come within one per cent of it. */
function expectBetween([low = Number.NaN, high = Number.NaN]: number[], limit: number) {
  expect(low).toBeLessThanOrEqual(limit);
  expect(high).toBeGreaterThanOrEqual(limit);
  expect(high - low).toBeLessThan(0.01 * limit);
}

describe("a limit bites where it is said to", () => {
  const discharge = pressures.map((p) =>
    against(p, [set("p", "sub"), pipe("d", "pvc-sch40-3in", 3)]),
  );
  it("70 and 120 % of best efficiency", () => {
    const inside = discharge.flatMap((line) =>
      judged(line, [sub]).filter(({ code }) => code === "operating-region"),
    );
    const good = inside.filter(({ severity }) => severity === "good").map(({ value }) => value);
    const out = inside.filter(({ severity }) => severity === "watch").map(({ value }) => value);
    expectBetween([Math.max(...out.filter((own) => own < 1)), Math.min(...good)], 0.7);
    expectBetween([Math.max(...good), Math.min(...out.filter((own) => own > 1))], 1.2);
  });
  it("2.4 m/s in a discharge", () => {
    const fast = discharge.map((line) => judged(line, [sub]));
    const of = (told: boolean) =>
      fast
        .filter((own) => own.some(({ code }) => code === "discharge-velocity-high") === told)
        .map((own) => own.find(({ code }) => code.startsWith("discharge-velocity"))?.value ?? 0);
    expectBetween([Math.max(...of(false)), Math.min(...of(true))], 2.4);
  });
  it("1.5 m/s in a suction, and 3 m/s at all", () => {
    const suction = pressures.map((p) =>
      against(p, [
        pipe("s", "suction-hose-3in", 3, 1),
        set("p", "dry"),
        pipe("d", "pvc-sch40-6in", 3),
      ]),
    );
    expectBetween(edge("suction-velocity", suction, "watch", "over"), 1.5);
    expectBetween(edge("suction-velocity", suction, "stop", "over"), 3);
  });
  it("nine tenths of the lift its maker allows, and all of it", () => {
    const lifts = Array.from({ length: 400 }, (_, i) =>
      against(2e5, [
        pipe("s", "pvc-sch40-6in", 9, 3 + i / 100),
        set("p", "dry"),
        pipe("d", "pvc-sch40-3in", 3),
      ]),
    );
    expectBetween(edge("suction-lift-pump", lifts, "watch", "over"), 4.5);
    expectBetween(edge("suction-lift-pump", lifts, "stop", "over"), 5);
  });
  it("a twentieth of the flow out of a vent hole", () => {
    const told = Array.from({ length: 300 }, (_, i) => {
      const vent = hole("h", "vent-hole", 0.002 + i * 2e-5);
      const path = [set("p", "sub"), vent, check("c"), pipe("d", "pvc-sch40-1-1-4in", 30, 6)];
      return judged(lineOf([...path, open("o")]), [sub]).find((own) => own.code === "hole-wastes");
    });
    const shares = (severity: string) =>
      told.flatMap((own) =>
        own?.code === "hole-wastes" && own.severity === severity ? [own.facts.share] : [],
      );
    expectBetween([Math.max(...shares("good")), Math.min(...shares("watch"))], 0.05);
  });
  it("four fifths as much from the weakest gun as from the strongest", () => {
    const uneven = Array.from({ length: 300 }, (_, i) =>
      lineOf([
        set("p", "sub"),
        pipe("m", "pvc-sch40-3in", 5),
        split(
          "s",
          [pipe("a", "pvc-sch40-1-1-2in", 2), gun("a1")],
          [pipe("b", "pvc-sch40-1-1-2in", 2 + i / 2), gun("b1")],
        ),
      ]),
    );
    expectBetween(edge("outlets-uneven", uneven, "watch", "under"), 0.8);
  });
});

it("of states of the water that are all alike the hardest is named", () => {
  const line = against(1e5, [set("p", "sub"), check("c"), pipe("d", "pvc-sch40-2in", 20, 3)], {
    source: { kind: "open", level: levels(0), intake: -1 },
  });
  const told = judged(line, [sub]);
  expect(told.length).toBeGreaterThan(3);
  expect(new Set(told.map(({ at }) => at))).toEqual(new Set(["low"]));
});

it("a screen that reaches exactly to the pumping level lets water in above the motor", () => {
  expect(isSlotted(10, 10)).toBe(true);
  expect(isSlotted(10.001, 10)).toBe(false);
  expect(isSlotted(undefined, 10)).toBe(false);
});
