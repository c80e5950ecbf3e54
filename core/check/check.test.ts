import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { FITTING_STOCK } from "../catalogue/fittings.ts";
import { PIPE_STOCK } from "../catalogue/pipes.ts";
import { resultOf } from "../formula/formula.ts";
import { solveLine } from "../hydraulics/solveLine.ts";
import type { Line, PathItem } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";
import { pipe } from "../test/fixtures.ts";
import type { Severity } from "./check.ts";
import { type CheckCode, checkContext, judge, judgementDerivation } from "./registry.ts";

const pump: Pump = {
  id: "p",
  points: [0, 1, 2, 3, 4, 5, 6].map((q) => ({
    flow: q * 1e-3,
    head: 30 - 0.6 * q * q,
    power: 500 + 120 * q,
    npshRequired: 2 + 0.1 * q * q,
  })),
  ratedSpeedRpm: 2900,
  drive: "electric",
  submersible: false,
  maxSuctionLift: 7,
  tolerance: "2B",
};

interface Setting {
  suction?: PathItem[];
  discharge?: PathItem[];
  outlet?: PathItem;
  line?: Partial<Line>;
  pump?: Partial<Pump>;
  wantedFlow?: number;
}

function verdicts({ suction, discharge, outlet, line, pump: plate, wantedFlow }: Setting) {
  const whole: Line = {
    source: { kind: "open", level: { low: 0, normal: 0.3, high: 0.6 }, intake: -0.5 },
    path: [
      ...(suction ?? [pipe("s", "suction-hose-3in", 4, 2)]),
      { kind: "pump", id: "pump", pump: "p" },
      ...(discharge ?? [pipe("d", "pvc-sch40-2in", 40, 12)]),
      outlet ?? { kind: "outlet", id: "o", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    ...line,
  };
  const result = solveLine(whole, [{ ...pump, ...plate }]);
  if (result.kind !== "solved") throw new Error(JSON.stringify(result.diagnostics));
  return judge(checkContext(result.solution, whole, wantedFlow));
}

describe("every verdict, where it bites", () => {
  // Limits: common practice, no source, unless the verdict itself names one.
  it.each<[string, Setting, CheckCode, Severity, string?]>([
    [
      "a lift beyond the pump",
      { discharge: [pipe("d", "pvc-sch40-2in", 60, 40)] },
      "cannot-lift",
      "stop",
    ],
    [
      "a line too easy for the curve",
      { discharge: [pipe("d", "pvc-sch40-4in", 3, 0)], pump: { points: pump.points.slice(0, 4) } },
      "beyond-curve",
      "stop",
    ],
    [
      "a curve that starts too late",
      { discharge: [pipe("d", "pvc-sch40-2in", 60, 27)], pump: { points: pump.points.slice(3) } },
      "below-curve",
      "stop",
    ],
    [
      "a drooping curve",
      {
        discharge: [pipe("d", "pvc-sch40-3in", 40, 27)],
        pump: {
          points: pump.points.map((p, i) => ({
            ...p,
            head: [26, 28, 29.5, 30, 29.5, 28, 24][i] ?? 0,
          })),
        },
      },
      "two-crossings",
      "stop",
    ],
    [
      "an outlet below the water",
      {
        suction: [pipe("s", "suction-hose-3in", 4, 0.2)],
        discharge: [pipe("d", "pvc-sch40-2in", 90, -4)],
      },
      "siphons",
      "watch",
    ],
    ["less flow than wanted", { wantedFlow: 5.5e-3 }, "wanted-flow", "stop"],
    ["flow enough", { wantedFlow: 1e-3 }, "wanted-flow", "good"],
    [
      "an intake that hangs dry",
      { line: { source: { kind: "open", level: { low: 0, normal: 1, high: 2 }, intake: 0.5 } } },
      "intake-uncovered",
      "stop",
    ],
    [
      "a submersible out of the water",
      { pump: { submersible: true } },
      "pump-not-under-water",
      "stop",
    ],
    [
      "a lift air cannot hold",
      { suction: [pipe("s", "suction-hose-3in", 12, 10.9)] },
      "suction-lift-barometric",
      "stop",
      "pump",
    ],
    [
      "a lift near what air holds",
      { suction: [pipe("s", "suction-hose-4in", 10, 9.9)] },
      "suction-lift-barometric",
      "watch",
      "pump",
    ],
    [
      "a lift the maker does not allow",
      { suction: [pipe("s", "suction-hose-3in", 9, 8)] },
      "suction-lift-pump",
      "stop",
      "pump",
    ],
    [
      "the same lift on a mountain",
      {
        suction: [pipe("s", "suction-hose-3in", 7, 5.6)],
        line: { site: { altitude: 3000, waterTemperature: 288.15, specificGravity: 1 } },
      },
      "suction-lift-pump",
      "stop",
    ],
    [
      "water that boils in the suction",
      { suction: [pipe("s", "suction-hose-1in", 30, 6)] },
      "suction-boils",
      "stop",
    ],
    ["too little NPSH", { suction: [pipe("s", "suction-hose-3in", 9, 8)] }, "npsh-margin", "stop"],
    ["thin NPSH", { suction: [pipe("s", "suction-hose-3in", 7, 6.5)] }, "npsh-margin", "watch"],
    [
      "a suction too small",
      { suction: [pipe("s", "suction-hose-1-1-2in", 3, 2)] },
      "suction-velocity",
      "stop",
      "s",
    ],
    [
      "a discharge too small",
      { discharge: [pipe("d", "pvc-sch40-1in", 20, 6)] },
      "discharge-velocity-high",
      "watch",
      "d",
    ],
    [
      "a discharge too large",
      { discharge: [pipe("d", "pvc-sch40-6in", 20, 12)] },
      "discharge-velocity-low",
      "watch",
      "d",
    ],
    [
      "a check valve too large to stay open",
      {
        discharge: [
          pipe("d", "pvc-sch40-3in", 40, 12),
          { kind: "fitting", id: "c", fitting: "check-swing", count: 1, stock: "pvc-sch40-4in" },
        ],
      },
      "check-valve-flutters",
      "watch",
      "c",
    ],
    [
      "hose that bursts when shut",
      { discharge: [pipe("d", "sump-hose-2in", 20, 4)] },
      "pressure-rating",
      "stop",
      "d",
    ],
    [
      "pipe without a rating",
      { discharge: [pipe("d", "steel-sch40-2in", 20, 4)] },
      "pressure-rating-unknown",
      "watch",
      "d",
    ],
    [
      "far left of best efficiency",
      { discharge: [pipe("d", "pvc-sch40-2in", 60, 28)] },
      "operating-region",
      "watch",
    ],
    [
      "Hazen–Williams in a small bore",
      {
        line: { method: { friction: "hazen-williams", fittings: "coefficient" } },
        discharge: [pipe("d", "pvc-sch40-1in", 40, 12)],
      },
      "hazen-williams-range",
      "watch",
      "d",
    ],
    [
      "gravity pipe under pressure",
      { discharge: [pipe("d", "thin-drain-3in", 20, 4)] },
      "pressure-rating-unknown",
      "stop",
      "d",
    ],
    [
      "fast water stopped in weak pipe",
      {
        discharge: [pipe("d", "pvc-sch40-1in", 20, 4), pipe("e", "pvc-sch40-6in", 4, 0)],
        pump: { points: pump.points.map((p) => ({ ...p, head: p.head * 4 })) },
      },
      "surge",
      "watch",
      "d",
    ],
    ["slow water stopped", {}, "surge", "good", "d"],
    [
      "an intake close under the surface",
      {
        line: { source: { kind: "open", level: { low: 0, normal: 0.3, high: 0.6 }, intake: -0.1 } },
      },
      "submergence",
      "watch",
      "s",
    ],
    ["a suction without foot valve", {}, "loses-prime", "watch"],
    [
      "a foot valve",
      {
        suction: [
          { kind: "fitting", id: "f", fitting: "foot-valve-hinged", count: 1 },
          pipe("s", "suction-hose-3in", 4, 2),
        ],
      },
      "loses-prime",
      "good",
    ],
    ["a riser without check valve", {}, "drains-back", "watch"],
    [
      "a hump in the discharge",
      { discharge: [pipe("up", "pvc-sch40-2in", 20, 8), pipe("down", "pvc-sch40-2in", 20, -5)] },
      "traps-air",
      "watch",
      "up",
    ],
    [
      "a hump over a hill, water running down under suction",
      { discharge: [pipe("up", "pvc-sch40-3in", 20, 8), pipe("down", "pvc-sch40-3in", 20, -8)] },
      "discharge-under-suction",
      "watch",
    ],
  ])("%s", (_what, setting, code, level, itemId) => {
    const found = verdicts(setting).find((verdict) => verdict.code === code);
    expect(found?.severity).toBe(level);
    if (itemId) expect(found?.itemId).toBe(itemId);
  });

  it("keeps the worst level where several earn one verdict", () => {
    const lift = verdicts({}).find((verdict) => verdict.code === "suction-lift-pump");
    expect(lift?.at).toBe("low");
    const speed = verdicts({}).find((verdict) => verdict.code === "suction-velocity");
    expect(speed?.at).toBe("high");
  });

  it("does not call the velocity good at one level and bad at another", () => {
    const codes = verdicts({ discharge: [pipe("d", "pvc-sch40-1in", 20, 6)] }).map((v) => v.code);
    expect(codes).not.toContain("discharge-velocity");
  });
});

/** Whether a derivation ends with the number it is of. */
function near(a: number, b: number): boolean {
  return Math.abs(a - b) <= 1e-9 + 1e-6 * Math.abs(b);
}

describe("any line at all", () => {
  const item: fc.Arbitrary<PathItem> = fc.oneof(
    fc.record({
      kind: fc.constant("pipe" as const),
      id: fc.uuid(),
      stock: fc.constantFrom(...PIPE_STOCK.map((s) => s.id)),
      length: fc.double({ min: 1, max: 300, noNaN: true }),
      rise: fc.double({ min: -1, max: 1, noNaN: true }),
    }),
    fc.record({
      kind: fc.constant("fitting" as const),
      id: fc.uuid(),
      fitting: fc.constantFrom(...FITTING_STOCK.map((f) => f.id)),
      count: fc.integer({ min: 1, max: 9 }),
    }),
    fc.record({
      kind: fc.constant("rise" as const),
      id: fc.uuid(),
      rise: fc.double({ min: -2, max: 2, noNaN: true }),
    }),
  );

  it("is solved with its energy closed and finite verdicts, or refused with reasons", () => {
    fc.assert(
      fc.property(
        fc.array(item, { maxLength: 4 }),
        fc.array(item, { minLength: 1, maxLength: 8 }),
        fc.constantFrom<Line["method"]["friction"]>("darcy-weisbach", "hazen-williams"),
        fc.constantFrom<Line["method"]["fittings"]>("coefficient", "equivalent-length"),
        (suction, discharge, friction, fittings) => {
          const line: Line = {
            source: { kind: "open", level: { low: 0, normal: 1, high: 2 }, intake: -1 },
            path: [
              ...suction,
              { kind: "pump", id: "pump", pump: "p" },
              ...discharge,
              { kind: "outlet", id: "o", outlet: { type: "free" } },
            ],
            site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
            method: { friction, fittings },
          };
          const result = solveLine(line, [pump]);
          if (result.kind === "refused") {
            expect(result.diagnostics.length).toBeGreaterThan(0);
            return;
          }
          for (const { outcome, running } of Object.values(result.solution.cases)) {
            if (outcome.kind === "runs" && running) {
              const total = running.ledger.reduce((sum, entry) => sum + entry.head, 0);
              expect(total).toBeCloseTo(running.duty.head, 6);
              for (const entry of running.ledger) {
                if (entry.kind !== "lift") expect(entry.head).toBeGreaterThanOrEqual(0);
              }
            }
          }
          for (const verdict of judge(checkContext(result.solution, line))) {
            expect(Number.isFinite(verdict.value)).toBe(true);
            expect(verdict.source).not.toBe("");
            const derivation = judgementDerivation(verdict, checkContext(result.solution, line));
            expect(
              near(resultOf(derivation), verdict.value),
              `${verdict.code} ${resultOf(derivation)} ${verdict.value}`,
            ).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
