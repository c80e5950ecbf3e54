import fc from "fast-check";
import { bisect } from "fmin/src/bisect.js";
import { describe, expect, it } from "vitest";
import { PIPE_STOCK } from "../catalogue/pipes.ts";
import { checkContext, judge } from "../check/registry.ts";
import { waterAt } from "../fluid/water.ts";
import type { Line, PathItem } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { rankPumps } from "../selection/rankPumps.ts";
import * as fixtures from "../test/fixtures.ts";
import {
  check,
  fitting,
  hole,
  levels,
  open,
  pipe,
  pumpOf,
  running,
  set,
  tablePump,
} from "../test/fixtures.ts";
import { sizeUps } from "../whatif/sizeUp.ts";
import { type Solution, solveLine } from "./solveLine.ts";
import { barometricLimit, correctedLiftLimit } from "./suctionLimits.ts";

const L_S = 1e-3;

/** H = 30 − 30 (Q/6 L/s)², thirty-one points, so that the duty can be worked out by hand. */
const parabola = tablePump(
  "parabola",
  Array.from({ length: 31 }, (_, i) => i / 5),
  (q) => ({ head: 30 - 30 * (q / 6) ** 2, power: 600 + 200 * q, npshRequired: 1 + q / 2 }),
  { maxSuctionLift: 7 },
);

const WATER: Line["source"] = { kind: "open", level: levels(0, 0.5, 1), intake: -0.5 };
const lineOf = (path: PathItem[], over: Partial<Line> = {}) =>
  fixtures.lineOf(path, { source: WATER, ...over });
const pump = set("p", "parabola");
const freeOutlet = open("o");
const transfer = lineOf([
  pipe("s", "suction-hose-2in", 4, 2.5),
  pump,
  { kind: "fitting", id: "c", fitting: "check-swing", count: 1 },
  pipe("d1", "pvc-sch40-1-1-2in", 30, 4),
  { kind: "fitting", id: "e", fitting: "elbow-90", count: 3 },
  pipe("d2", "pvc-sch40-2in", 20, 6),
  freeOutlet,
]);

const solved = (line: Line, pumps = [parabola]) => fixtures.solved(line, pumps);

const judged = (line: Line, wantedFlow?: number) =>
  judge(checkContext(solved(line), line, wantedFlow));

describe("operating point", () => {
  it("is where hand algebra puts it on a line whose loss is K v²/2g alone", () => {
    const line = lineOf([
      pump,
      { kind: "rise", id: "r", rise: 11 },
      {
        kind: "fitting",
        id: "k",
        fitting: "strainer-half-blind",
        count: 9,
        stock: "pvc-sch40-2in",
      },
      freeOutlet,
    ]);
    const area = (Math.PI * 0.0525018 ** 2) / 4;
    const k = (9 * 6 + 1) / (2 * GRAVITY * area ** 2);
    // From the water at 0.5 m to the outlet at −0.5 + 11 m: 30 − 30 (Q/Q₀)² = 10 + k Q².
    const expected = Math.sqrt(20 / (k + 30 / (6 * L_S) ** 2));
    const { outcome } = solved(line).cases.normal;
    expect(outcome.kind).toBe("runs");
    if (outcome.kind === "runs") expect(outcome.duty.flow / expected).toBeCloseTo(1, 5);
  });

  it("is the root a general-purpose bisection finds", () => {
    const { model, boundaries, cases, ...on } = solved(transfer);
    const { curve } = on.pumps[0] as Solution["pumps"][number];
    const systemHead = (flow: number) => {
      const imposed = model.imposed(boundaries.normal, flow);
      return imposed.kind === "steady" ? imposed.head : Number.NaN;
    };
    const root = bisect(
      (q: number) => evaluate(curve.head, q) - systemHead(q),
      1e-6,
      curve.lastFlow,
      { tolerance: 1e-14, maxIterations: 300 },
    );
    const { outcome } = cases.normal;
    if (outcome.kind !== "runs") throw new Error(outcome.kind);
    expect(outcome.duty.flow / root).toBeCloseTo(1, 8);
  });

  it("closes the energy balance: ledger, head line and duty agree", () => {
    for (const friction of ["darcy-weisbach", "hazen-williams"] as const) {
      for (const fittings of ["coefficient", "equivalent-length"] as const) {
        const { cases } = solved({ ...transfer, method: { friction, fittings } });
        for (const { running } of Object.values(cases)) {
          if (!running) throw new Error("should run");
          const total = running.ledger.reduce((sum, entry) => sum + entry.head, 0);
          expect(total).toBeCloseTo(running.duty.head, 7);
          // A free jet leaves at air pressure, all its head spent.
          const end = running.headLine.at(-1);
          expect(end?.totalHead).toBeCloseTo(end?.elevation ?? Number.NaN, 7);
        }
      }
    }
  });

  it("gives more flow at high water than at low, and a fatter pipe never gives less", () => {
    const { low, normal, high } = solved(transfer).cases;
    const flow = (c: typeof low) => c.running?.duty.flow ?? 0;
    expect(flow(low)).toBeLessThan(flow(normal));
    expect(flow(normal)).toBeLessThan(flow(high));
    for (const gain of sizeUps(solved(transfer), transfer, [parabola], "normal")) {
      expect(gain.flowGain).toBeGreaterThan(0);
    }
    fc.assert(
      fc.property(
        fc.constantFrom(...PIPE_STOCK),
        fc.constantFrom(...PIPE_STOCK),
        fc.double({ min: 1, max: 200, noNaN: true }),
        (a, b, length) => {
          const at = (stock: typeof a) => {
            const line = lineOf([pump, pipe("d", stock.id, length, 0), freeOutlet]);
            const { outcome } = solved(line).cases.normal;
            return outcome.kind === "runs" ? outcome.duty.flow : Number.POSITIVE_INFINITY;
          };
          fc.pre(a.family === b.family && a.bore < b.bore);
          expect(at(b)).toBeGreaterThanOrEqual(at(a));
        },
      ),
    );
  });

  it("says cannot lift, and by how much", () => {
    const line = lineOf([pump, pipe("d", "pvc-sch40-2in", 40, 35), freeOutlet]);
    const { outcome } = solved(line).cases.normal;
    expect(outcome).toMatchObject({ kind: "cannot-lift", staticHead: 34, bestHead: 30 });
    if (outcome.kind === "cannot-lift") expect(outcome.shortfall).toBeCloseTo(4, 9);
  });

  it("says beyond the curve instead of inventing what the pump does there", () => {
    const short = { ...parabola, points: parabola.points.slice(0, 12) };
    const line = lineOf([pump, pipe("d", "pvc-sch40-3in", 5, 1), freeOutlet]);
    const { outcome, running } = solved(line, [short]).cases.normal;
    expect(outcome.kind).toBe("beyond-curve");
    expect(running?.basis).toBe("end-of-curve");
  });

  it("says below the curve when its first published point is already too much", () => {
    const late = { ...parabola, points: parabola.points.slice(20) };
    const line = lineOf([pump, pipe("d", "pvc-sch40-2in", 40, 29), freeOutlet]);
    expect(solved(line, [late]).cases.normal.outcome.kind).toBe("below-curve");
  });

  it("reports both crossings of a drooping curve, and which is stable", () => {
    const drooping: Pump = {
      ...parabola,
      points: [0, 1, 2, 3, 4, 5].map((q) => ({ flow: q * L_S, head: 20 + 4 * q - q * q })),
    };
    const line = lineOf([pump, pipe("d", "pvc-sch40-3in", 30, 23), freeOutlet]);
    const { outcome } = solved(line, [drooping]).cases.normal;
    expect(outcome.kind).toBe("two-crossings");
    if (outcome.kind !== "two-crossings") return;
    expect(outcome.startsFromRest).toBe(false);
    expect(outcome.unstable.flow).toBeLessThan(2 * L_S);
    expect(outcome.stable.flow).toBeGreaterThan(2 * L_S);
  });

  it("says what would siphon through with the pump off when the outlet lies below the water", () => {
    const line = lineOf([pump, pipe("d", "pvc-sch40-2in", 60, -3), freeOutlet]);
    const { staticHead, siphonFlow } = solved(line).cases.normal;
    expect(staticHead).toBeCloseTo(-4, 9);
    expect(siphonFlow).toBeGreaterThan(0);
  });

  it("drives a nozzle by q = Cd A √(2p/ρ)", () => {
    const gun: PathItem = {
      kind: "outlet",
      id: "o",
      outlet: { type: "nozzle", bore: 0.012, dischargeCoefficient: 0.95 },
    };
    const { cases, water } = solved(lineOf([pump, pipe("d", "lay-flat-2in", 30, 0), gun]));
    const running = cases.normal.running;
    const before = running?.headLine.at(-2);
    if (!running || !before) throw new Error("should run");
    const atNozzle = before.totalHead - before.elevation;
    const area = (Math.PI * 0.012 ** 2) / 4;
    const expected =
      0.95 * area * Math.sqrt((2 * atNozzle * water.density * GRAVITY) / water.density);
    expect(running.duty.flow / expected).toBeCloseTo(1, 6);
  });

  it("follows the affinity laws with speed", () => {
    const slow = transfer.path.map((i) => (i.kind === "pump" ? { ...i, speedRatio: 0.8 } : i));
    const [{ curve } = { curve: undefined }] = solved({ ...transfer, path: slow }).pumps;
    expect(curve?.lastFlow).toBeCloseTo(4.8 * L_S, 12);
    expect(curve?.head.y[0]).toBeCloseTo(30 * 0.64, 12);
    expect(curve?.power?.y[0]).toBeCloseTo(600 * 0.512, 9);
  });
});

describe("what is refused, with its place", () => {
  it.each<[string, PathItem[], string, string | undefined]>([
    [
      "a check valve against the water",
      [{ kind: "fitting", id: "x", fitting: "check-swing", count: 1, reversed: true }],
      "check-valve-reversed",
      "x",
    ],
    [
      "a pump facing a shut valve",
      [{ kind: "fitting", id: "x", fitting: "gate-valve", count: 1, opening: 0 }],
      "pump-faces-shut-valve",
      "x",
    ],
    [
      "branches that meet at different heights",
      [
        {
          kind: "split",
          id: "x",
          branches: [[pipe("y", "pvc-sch40-2in", 3, 1)], [pipe("z", "pvc-sch40-2in", 3, 0)]],
        },
      ],
      "branches-meet-apart",
      "x",
    ],
    [
      "a second outlet",
      [{ kind: "outlet", id: "x", outlet: { type: "free" } }],
      "outlet-not-last",
      "x",
    ],
    ["zero length", [pipe("x", "pvc-sch40-2in", 0, 0)], "pipe-without-length", "x"],
    ["a rise longer than its pipe", [pipe("x", "pvc-sch40-2in", 2, 3)], "rise-exceeds-length", "x"],
    ["a pipe nobody stocks", [pipe("x", "bamboo", 2, 0)], "pipe-unknown", "x"],
    [
      "a fitting nobody stocks",
      [{ kind: "fitting", id: "x", fitting: "knot", count: 1 }],
      "fitting-unknown",
      "x",
    ],
  ])("%s", (_name, extra, code, itemId) => {
    const path = transfer.path.toSpliced(3, 0, ...extra);
    const result = solveLine({ ...transfer, path }, [parabola]);
    expect(result).toMatchObject({ kind: "refused" });
    if (result.kind === "refused") expect(result.diagnostics).toContainEqual({ code, itemId });
  });

  it("a hole before the pump", () => {
    const hole: PathItem = { kind: "orifice", id: "x", purpose: "leak", bore: 0.004 };
    const result = solveLine({ ...transfer, path: [hole, ...transfer.path] }, [parabola]);
    const findings = result.kind === "refused" ? result.diagnostics : [];
    expect(findings).toContainEqual({ code: "hole-in-suction", itemId: "x" });
  });

  it("a loop with no outlet, a branch with none, a shut suction, and a pump straight into its outlet", () => {
    const body = transfer.path.slice(0, -1);
    const loop = (...branches: PathItem[][]): PathItem => ({ kind: "split", id: "x", branches });
    const ends = (path: PathItem[]) => {
      const result = solveLine(lineOf(path), [parabola]);
      return result.kind === "refused" ? result.diagnostics : [];
    };
    const way = (id: string) => pipe(id, "pvc-sch40-2in", 3, 0);
    expect(ends([...body, loop([way("a")], [way("b")])])).toEqual([
      { code: "loop-without-outlet", itemId: "x" },
    ]);
    expect(ends([...body, loop([way("a"), freeOutlet], [way("b")])])).toEqual([
      { code: "branch-without-outlet", itemId: "x" },
    ]);
    const valve: PathItem = {
      kind: "fitting",
      id: "v",
      fitting: "ball-valve",
      count: 1,
      opening: 0,
    };
    expect(ends([transfer.path[0] as PathItem, valve, ...transfer.path.slice(1)])).toEqual([
      { code: "suction-shut", itemId: "v" },
    ]);
    expect(ends([pipe("s", "suction-hose-2in", 4, 2.5), pump, freeOutlet])).toEqual([
      { code: "no-pipe", itemId: "p" },
    ]);
  });

  it("a line without pump, outlet or pipe, and levels upside down", () => {
    const result = solveLine(
      lineOf([], { source: { kind: "open", level: { low: 2, normal: 1, high: 0 }, intake: 0 } }),
      [],
    );
    const codes = result.kind === "refused" ? result.diagnostics.map((f) => f.code) : [];
    expect(codes).toEqual(["levels-out-of-order", "no-outlet", "no-pump"]);
  });
});

describe("holes in the discharge", () => {
  const hole = (
    id: string,
    bore: number,
    purpose: "vent-hole" | "leak" = "vent-hole",
  ): PathItem => ({
    kind: "orifice",
    id,
    purpose,
    bore,
  });
  const withHoles = (...extra: PathItem[]) => ({
    ...transfer,
    path: transfer.path.toSpliced(2, 0, ...extra),
  });

  it("let go Cd A √(2gh), and what is left reaches the outlet", () => {
    const { cases, line } = solved(withHoles(hole("v", 0.004)));
    const running = cases.normal.running;
    if (!running) throw new Error("should run");
    const after = running.headLine.find((point) => point.side === "discharge");
    const head = (after?.totalHead ?? 0) - (line.pumps[0]?.elevation ?? 0);
    const expected = 0.61 * ((Math.PI * 0.004 ** 2) / 4) * Math.sqrt(2 * GRAVITY * head);
    const { lost, delivered } = running.state;
    expect((lost[0]?.flow ?? 0) / expected).toBeCloseTo(1, 6);
    expect(delivered + (lost[0]?.flow ?? 0)).toBeCloseTo(running.duty.flow, 9);
    const total = running.ledger.reduce((sum, entry) => sum + entry.head, 0);
    expect(total).toBeCloseTo(running.duty.head, 5);
    const end = running.headLine.at(-1);
    expect(end?.totalHead).toBeCloseTo(end?.elevation ?? Number.NaN, 5);
  });

  it("waste what a worked example says: 4 mm under 10 m lets go 0.107 L/s", () => {
    // 0.61 × 12.566 mm² × √(2 × 9.80665 × 10) m/s, by hand.
    const { cases, line } = solved(withHoles(hole("v", 0.004)));
    const { nodeHeads, lost } = cases.normal.running?.state ?? { nodeHeads: [], lost: [] };
    const over = (nodeHeads[line.holes[0]?.node ?? -1] ?? 0) - (line.holes[0]?.elevation ?? 0);
    expect((lost[0]?.flow ?? 0) * Math.sqrt(10 / over) * 1e3).toBeCloseTo(0.1073, 3);
  });

  it("under the pit's water waste by the head over that water, and above it by the head over themselves", () => {
    // A pump hung in the water, the hole 0.3 m above it; the surface at normal water is the test's.
    const at = (surface: number) => {
      const { cases, line } = solved({
        ...lineOf([
          pump,
          pipe("up", "pvc-sch40-1-1-2in", 0.3, 0.3),
          hole("v", 0.004),
          check("c"),
          pipe("riser", "pvc-sch40-1-1-2in", 5, 5),
          freeOutlet,
        ]),
        source: { kind: "open", level: levels(surface), intake: 0 },
      });
      const { nodeHeads, lost } = cases.normal.running?.state ?? { nodeHeads: [], lost: [] };
      const head = nodeHeads[line.holes[0]?.node ?? -1] ?? Number.NaN;
      const area = (0.61 * Math.PI * 0.004 ** 2) / 4;
      const driven = ((lost[0]?.flow ?? Number.NaN) / area) ** 2 / (2 * GRAVITY);
      return head - driven;
    };
    expect(at(0.1)).toBeCloseTo(0.3, 5);
    expect(at(0.29)).toBeCloseTo(0.3, 5);
    expect(at(0.31)).toBeCloseTo(0.31, 5);
    expect(at(1)).toBeCloseTo(1, 5);
    // A pump beside the water draws through a pipe: its holes are in the air however high the water stands.
    const beside = solved(withHoles(hole("v", 0.004)));
    expect(beside.line.holes[0]).not.toHaveProperty("wetFrom");
  });

  it("waste more the wider they are, and nothing when they are pinholes", () => {
    const none = solved(transfer).cases.normal.running;
    const deliveries = [0.0001, 0.003, 0.005, 0.012].map(
      (bore) => solved(withHoles(hole("v", bore))).cases.normal.running?.state.delivered ?? 0,
    );
    expect(deliveries).toEqual(deliveries.toSorted((a, b) => b - a));
    expect((deliveries[0] ?? 0) / (none?.state.delivered ?? 1)).toBeCloseTo(1, 4);
    const verdicts = judged(withHoles(hole("v", 0.012)));
    expect(verdicts.find((v) => v.code === "hole-wastes")?.severity).toBe("watch");
  });

  it("close their energy wherever they are and however many", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 2, max: 6 }),
            fc.double({ min: 0.001, max: 0.02, noNaN: true }),
          ),
          { minLength: 1, maxLength: 4 },
        ),
        (holes) => {
          let path = transfer.path;
          for (const [i, [index, bore]] of holes.entries())
            path = path.toSpliced(index, 0, hole(`h${i}`, bore, "leak"));
          for (const { outcome, running } of Object.values(solved({ ...transfer, path }).cases)) {
            if (outcome.kind !== "runs" || !running) continue;
            const { delivered, lost } = running.state;
            const gone = lost.reduce((sum, { flow }) => sum + flow, 0);
            expect(Math.abs(delivered + gone - running.duty.flow)).toBeLessThan(1e-8);
            const total = running.ledger.reduce((sum, entry) => sum + entry.head, 0);
            expect(total).toBeCloseTo(running.duty.head, 4);
          }
        },
      ),
    );
  });

  it("are no outlet: a pump that only feeds them lifts nothing", () => {
    const line = lineOf([pump, hole("v", 0.02), pipe("d", "pvc-sch40-2in", 60, 34), freeOutlet]);
    expect(solved(line).cases.normal.outcome.kind).toBe("cannot-lift");
  });
});

describe("suction", () => {
  // Barometric limit at 15 °C; 10.17 m (33.4 ft) at sea level is the figure of the trade, the others
  // are ISO 2533 pressures divided by ρg with IAPWS water (ρ 999.10, p_v 1705.7 Pa).
  it.each([
    [0, 10.167],
    [500, (95461 - 1705.7) / (999.1 * GRAVITY)],
    [1000, (89874.6 - 1705.7) / (999.1 * GRAVITY)],
    [2000, (79495.2 - 1705.7) / (999.1 * GRAVITY)],
  ])("the barometric limit at %i m is %f m", (altitude, expected) => {
    expect(barometricLimit(altitude, waterAt(288.15))).toBeCloseTo(expected, 2);
  });

  it("takes a pump's own limit down with altitude and warmth", () => {
    expect(correctedLiftLimit(7.6, 0, waterAt(288.15))).toBeCloseTo(7.6, 12);
    expect(correctedLiftLimit(7.6, 1200, waterAt(288.15))).toBeLessThan(6.4);
    expect(correctedLiftLimit(7.6, 0, waterAt(323.15))).toBeLessThan(6.7);
  });

  it("stops a pump that has to draw too high, and warns of fast suction", () => {
    const high = { ...transfer, path: transfer.path.with(0, pipe("s", "suction-hose-1in", 12, 9)) };
    const verdicts = judged(high);
    const level = (code: string) => verdicts.find((v) => v.code === code)?.severity;
    expect(level("suction-lift-pump")).toBe("stop");
    expect(level("suction-lift-barometric")).toBe("stop");
    expect(level("suction-velocity")).not.toBe("good");
    expect(level("npsh-margin")).toBe("stop");
    expect(verdicts[0]?.severity).toBe("stop");
  });

  it("finds nothing to stop on a sound line, and judges the flow wanted", () => {
    const line = { ...transfer, path: transfer.path.with(3, pipe("d1", "pvc-sch40-2in", 30, 4)) };
    const duty = solved(line).cases.low.running?.duty.flow ?? 0;
    const met = judged(line, duty * 0.9);
    expect(met.filter((v) => v.severity === "stop")).toEqual([]);
    expect(met.find((v) => v.code === "wanted-flow")?.severity).toBe("good");
    const short = judged(line, duty * 2);
    expect(short.find((v) => v.code === "wanted-flow")?.severity).toBe("watch");
  });
});

it("puts a pump that suits before one that cannot lift", () => {
  const weak: Pump = {
    ...parabola,
    id: "weak",
    points: parabola.points.map((p) => ({ ...p, head: p.head / 4 })),
  };
  const ranked = rankPumps(transfer, [weak, parabola], 1e-3);
  expect(ranked.map((c) => c.pump.id)).toEqual(["parabola", "weak"]);
  expect(ranked.map((c) => c.fit?.kind)).toEqual(["ranked", "apart"]);
  // Without a wanted flow there is nothing to rank them by.
  const unranked = rankPumps(transfer, [weak, parabola], undefined);
  expect(unranked.map((c) => [c.pump.id, c.fit])).toEqual([
    ["weak", undefined],
    ["parabola", undefined],
  ]);
});

describe("a half-horse sump pump, however its sticker reads", () => {
  const [gpm, foot, inch] = [3.785411784e-3 / 60, 0.3048, 0.0254];
  // Common practice, no source: 1-1/2 in schedule 40, 5 ft up, a 3/16 in vent hole, into the open.
  const half = {
    ...pumpOf("half", 1, 1, { submersible: true }),
    points: fixtures.HALF_HORSE.map(([flow, head]) => ({ flow: flow * gpm, head: head * foot })),
  };
  it.each([
    [10, 56.5, 63],
    [60, 45.0, 48],
    [100, 39.6, 42],
    [150, 34.9, 36],
  ])("%d ft of pipe: %d gpm, and %d without check valve and elbow", (length, fitted, bare) => {
    const delivered = (fittings: boolean) =>
      running(
        fixtures.lineOf(
          [
            set("p", "half"),
            hole("v", "vent-hole", (3 / 16) * inch),
            ...(fittings ? [check("c")] : []),
            pipe("r", "pvc-sch40-1-1-2in", 5 * foot, 5 * foot),
            ...(fittings ? [fitting("e", "elbow-90")] : []),
            pipe("d", "pvc-sch40-1-1-2in", (length - 5) * foot),
            open("o"),
          ],
          { source: { kind: "open", level: levels(0), intake: 0 } },
        ),
        [half],
      ).state.delivered / gpm;
    expect(delivered(true)).toBeCloseTo(fitted, 1);
    expect(Math.abs(delivered(false) - bare)).toBeLessThan(0.6);
  });
});
