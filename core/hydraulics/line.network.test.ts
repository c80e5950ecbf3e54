import fc from "fast-check";
import { bisect } from "fmin/src/bisect.js";
import { describe, expect, it } from "vitest";
import { PIPE_STOCK } from "../catalogue/pipes.ts";
import { waterAt } from "../fluid/water.ts";
import { type Segment, suctionOf } from "../line/compiledLine.ts";
import { compileLine } from "../line/compileLine.ts";
import { changeItems, type Line, type PathItem } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { pumpCurve } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  check,
  gun,
  judged,
  lineOf,
  one,
  open,
  pipe,
  pumpOf,
  running,
  set,
  solved,
  split,
  strong,
} from "../test/fixtures.ts";
import { drawNetwork, unbalanced } from "../test/randomNetworks.ts";
import type { PumpState } from "./boundary.ts";
import { boundaryAt } from "./boundary.ts";
import { hydraulicModel } from "./hydraulicModel.ts";
import { headLoss, resistanceOf } from "./resistance.ts";
import { lineModel, type Running, type Solution, solveLine, stateOf } from "./solveLine.ts";

const context = { water: waterAt(288.15), friction: "darcy-weisbach" } as const;
const lossOf = (segments: readonly Segment[], ids: string[], flow: number) =>
  lossThrough(
    segments.filter(({ itemId }) => ids.includes(itemId)),
    flow,
  );
const lossThrough = (segments: readonly Segment[], flow: number) =>
  headLoss(resistanceOf(segments, context), flow, context.friction);

describe("a line that parts", () => {
  it("draws through two unequal suctions as a general bisection shares them", () => {
    const line = lineOf([
      split("m", [pipe("a", "suction-hose-2in", 6, 3)], [pipe("b", "suction-hose-3in", 9, 3)]),
      set("p"),
      check("c"),
      pipe("d", "pvc-sch40-3in", 60, 12),
      open("o"),
    ]);
    const { duty, state: flows } = running(line);
    const { segments } = solved(line).line;
    const share = bisect(
      (q: number) => lossOf(segments, ["a"], q) - lossOf(segments, ["b"], duty.flow - q),
      0,
      duty.flow,
      { tolerance: 1e-14, maxIterations: 300 },
    );
    const at = (id: string) => flows.bySegment[segments.findIndex((s) => s.itemId === id)] ?? 0;
    expect(at("a")).toBeCloseTo(share, 9);
    expect(at("a") + at("b")).toBeCloseTo(duty.flow, 9);
    expect(suctionOf(solved(line).line).map((s) => s.itemId)).toEqual(["a", "b"]);
  });

  it("is one pipe when both branches are one pipe with half the water each", () => {
    const twin = running(
      lineOf([
        set("p"),
        split("s", [pipe("a", "pvc-sch40-2in", 50, 8)], [pipe("b", "pvc-sch40-2in", 50, 8)]),
        pipe("d", "pvc-sch40-3in", 20, 2),
        open("o"),
      ]),
    );
    expect(twin.state.bySegment[0]).toBeCloseTo(twin.duty.flow / 2, 9);
  });

  it("gives the same answer as the single path when the other branch is shut", () => {
    const straight = [pipe("d", "pvc-sch40-2in", 40, 6), open("o")];
    const shut: PathItem = {
      kind: "fitting",
      id: "v",
      fitting: "gate-valve",
      count: 1,
      opening: 0,
    };
    const single = running(lineOf([set("p"), ...straight]));
    const forked = running(
      lineOf([
        set("p"),
        split("s", [shut, pipe("e", "pvc-sch40-2in", 5), open("x")], []),
        ...straight,
      ]),
    );
    expect(forked.duty.flow / single.duty.flow).toBeCloseTo(1, 7);
    expect(forked.state.byOutlet[0]).toBe(0);
    const heads = (r: Running) =>
      r.headLine.filter((p) => p.itemId === "d").map((p) => p.totalHead);
    expect(heads(forked).at(-1)).toBeCloseTo(heads(single).at(-1) ?? Number.NaN, 4);
  });

  it("sends each outlet what its own height and line let through", () => {
    const line = lineOf([
      set("p"),
      pipe("m", "pvc-sch40-3in", 30, 4),
      split(
        "s",
        [pipe("a", "pvc-sch40-2in", 20, 2), gun("ga")],
        [pipe("b", "pvc-sch40-2in", 80, 19), gun("gb")],
      ),
    ]);
    const { state: flows, ledger, duty } = running(line);
    const [near, far] = flows.byOutlet as [number, number];
    expect(near).toBeGreaterThan(far);
    expect(near + far).toBeCloseTo(duty.flow, 9);
    // Along either way the bill closes to the pump's head.
    const bill = (ids: string[]) =>
      ledger.filter((e) => ids.includes(e.itemId ?? "")).reduce((sum, e) => sum + e.head, 0);
    expect(bill(["m", "a", "ga"])).toBeCloseTo(duty.head, 5);
    expect(bill(["m", "b", "gb"])).toBeCloseTo(duty.head, 5);
    const spent = ledger.reduce((sum, e) => sum + e.head * e.flow, 0);
    expect(spent / (duty.head * duty.flow)).toBeCloseTo(1, 6);
    const uneven = judged(line).find((v) => v.code === "outlets-uneven");
    expect(uneven).toMatchObject({ itemId: "gb", severity: "watch" });
  });

  // Two guns on a pump that was right for one fall back to the short throw of the weak pump: common
  // practice, no source. A jet's reach follows its pressure, and the pressure falls by more than half.
  it("a second gun drops the pressure at the first sharply", () => {
    const pressure = (r: Running) => {
      const at = r.headLine.findIndex((p) => p.itemId === "g1");
      return r.headLine[at - 1]?.pressureHead ?? Number.NaN;
    };
    const main = [set("p"), pipe("m", "lay-flat-2in", 60, 2)];
    const hose = (id: string) => pipe(id, "lay-flat-2in", 10);
    const alone = running(lineOf([...main, hose("h1"), gun("g1", 0.02)]));
    const pair = running(
      lineOf([...main, split("s", [hose("h1"), gun("g1", 0.02)], [hose("h2"), gun("g2", 0.02)])]),
    );
    expect(pressure(pair) / pressure(alone)).toBeLessThan(0.5);
  });

  it("passes an emitter q ∝ √p, and a tank under gas what its pressure leaves", () => {
    const flow = 0.5e-3;
    const emitter: PathItem = {
      kind: "outlet",
      id: "e",
      outlet: { type: "emitter", flow, pressure: 2e5 },
    };
    const r = running(lineOf([set("p"), pipe("d", "pvc-sch40-1in", 30, 5), emitter]));
    const before = r.headLine.at(-2);
    const { bore } = PIPE_STOCK.find((s) => s.id === "pvc-sch40-1in") as { bore: number };
    const velocityHead = (r.duty.flow / ((Math.PI / 4) * bore ** 2)) ** 2 / (2 * GRAVITY);
    const p = ((before?.pressureHead ?? 0) + velocityHead) * context.water.density * GRAVITY;
    expect(r.duty.flow / (flow * Math.sqrt(p / 2e5))).toBeCloseTo(1, 6);

    const level = { low: 5, normal: 5, high: 5 };
    const into = (gasPressure?: number) =>
      running(
        lineOf([
          set("p"),
          pipe("d", "pvc-sch40-2in", 30, 5),
          { kind: "outlet", id: "t", outlet: { type: "submerged", level, gasPressure } },
        ]),
      );
    const raised = running(
      lineOf([
        set("p"),
        pipe("d", "pvc-sch40-2in", 30, 5),
        {
          kind: "outlet",
          id: "t",
          outlet: { type: "submerged", level: { low: 15, normal: 15, high: 15 } },
        },
      ]),
    );
    const tenMetres = 10 * context.water.density * GRAVITY;
    expect(into(tenMetres).duty.flow / raised.duty.flow).toBeCloseTo(1, 9);
    const pushed = lineOf([set("p"), pipe("d", "pvc-sch40-2in", 30, 5), open("o")]);
    const pushedRunning = running({
      ...pushed,
      source: {
        kind: "tank",
        level: { low: 0, normal: 0, high: 0 },
        intake: -1,
        gasPressure: tenMetres,
      },
    });
    const lowered = running({
      ...pushed,
      source: { kind: "open", level: { low: 10, normal: 10, high: 10 }, intake: -1 },
    });
    expect(pushedRunning.duty.flow / lowered.duty.flow).toBeCloseTo(1, 9);
    const total = pushedRunning.ledger.reduce((sum, e) => sum + e.head, 0);
    expect(total).toBeCloseTo(pushedRunning.duty.head, 6);
  });

  it("lets a high tank run back through a branch, and says so", () => {
    const tank = (id: string, normal: number): PathItem => ({
      kind: "outlet",
      id,
      outlet: { type: "submerged", level: { low: normal, normal, high: normal } },
    });
    const line = lineOf([
      set("p"),
      pipe("m", "pvc-sch40-1in", 60, 4),
      split(
        "s",
        [pipe("a", "pvc-sch40-2in", 25, 20), tank("high", 25)],
        [pipe("b", "pvc-sch40-2in", 10), tank("low", 6)],
      ),
    ]);
    const { state: flows } = running(line);
    expect(flows.byOutlet[0]).toBeLessThan(0);
    expect(judged(line).map((v) => v.code)).toContain("branch-runs-back");
  });
});

type Way = {
  result: ReturnType<ReturnType<typeof hydraulicModel>["solve"]>;
  siphon: number | undefined;
};

it("a single path gives the same answer in its fast lane and as a network", () => {
  const run = fc.record({
    stock: fc.constantFrom("pvc-sch40-1-1-4in", "pvc-sch40-2in", "lay-flat-3in"),
    length: fc.double({ min: 1, max: 150, noNaN: true }),
    rise: fc.double({ min: -0.9, max: 0.9, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(run, { minLength: 1, maxLength: 6 }), run, (runs, suction) => {
      const line = lineOf([
        pipe("s", "suction-hose-3in", suction.length, suction.rise),
        set("p"),
        ...runs.map((r, i) => pipe(`r${i}`, r.stock, r.length, r.rise)),
        open("o"),
      ]);
      const compilation = compileLine(line);
      if (compilation.kind === "refused") throw new Error(JSON.stringify(compilation.diagnostics));
      const states: PumpState[] = [{ kind: "running", curve: pumpCurve(one) }];
      const boundary = boundaryAt(compilation.line, "normal", context.water);
      const [lane, network] = [false, true].map((general) => {
        const model = hydraulicModel(compilation.line, context, general);
        const standing = model.solve(boundary, [{ kind: "stopped" }]);
        return { result: model.solve(boundary, states), siphon: stateOf(standing)?.delivered };
      }) as [Way, Way];
      if (lane.result.kind === "not-balanced" || network.result.kind === "not-balanced") {
        throw new Error("not balanced");
      }
      expect(network.result.outcome.kind).toBe(lane.result.outcome.kind);
      const [a, b] = [stateOf(lane.result), stateOf(network.result)];
      expect((a?.delivered ?? 1) / (b?.delivered ?? 1)).toBeCloseTo(1, 6);
      for (const [node, head] of (a?.nodeHeads ?? []).entries()) {
        expect(Math.abs(head - (b?.nodeHeads[node] ?? 0))).toBeLessThan(1e-4);
      }
      expect(network.siphon).toBeCloseTo(lane.siphon ?? Number.NaN, 6);
    }),
    { numRuns: 150 },
  );
});

it("a check valve in one branch does not hold the water of the other", () => {
  const tank = (id: string): PathItem => ({
    kind: "outlet",
    id,
    outlet: { type: "submerged", level: { low: 9, normal: 9, high: 9 } },
  });
  const line = (...first: PathItem[]) =>
    lineOf([
      set("p"),
      pipe("m", "pvc-sch40-2in", 10, 5),
      split(
        "s",
        [...first, pipe("a", "pvc-sch40-2in", 10, 3), tank("t1")],
        [check("c2"), pipe("b", "pvc-sch40-2in", 10, 3), tank("t2")],
      ),
    ]);
  const said = (given: Line) => judged(given);
  const codes = said(line()).map((v) => v.code);
  expect(codes).toContain("drains-back");
  expect(
    said(line())
      .filter((v) => v.code === "outlet-floods")
      .map((v) => v.itemId),
  ).toEqual(["t1"]);
  const held = said(line(check("c1"))).map((v) => v.code);
  expect(held).not.toContain("drains-back");
  expect(held).not.toContain("outlet-floods");
});

describe("several pumps", () => {
  it("in series add their heads at one flow", () => {
    const rest = [pipe("d", "pvc-sch40-2in", 80, 30), open("o")];
    const pair = running(lineOf([set("p"), set("q"), ...rest]));
    const doubled: Pump = { ...one, points: one.points.map((p) => ({ ...p, head: 2 * p.head })) };
    const single = solveLine(lineOf([set("p"), ...rest]), [doubled]);
    if (single.kind !== "solved") throw new Error("refused");
    const duty = single.solution.cases.normal.running?.duty;
    expect(pair.duty.flow / (duty?.flow ?? 0)).toBeCloseTo(1, 6);
    expect(pair.duty.head / (duty?.head ?? 0)).toBeCloseTo(1, 6);
    expect(pair.pumps.map((p) => p.duty.head * 2)).toEqual([
      expect.closeTo(pair.duty.head, 5),
      expect.closeTo(pair.duty.head, 5),
    ]);
    expect(pair.power).toBeCloseTo(2 * (pair.pumps[0]?.power ?? 0), 6);
  });

  const beside = (a: string, b: string, rise = 10) =>
    lineOf([
      split(
        "s",
        [
          pipe("sa", "suction-hose-3in", 4, 2),
          set("p", a),
          check("ca"),
          pipe("da", "pvc-sch40-2in", 2),
        ],
        [
          pipe("sb", "suction-hose-3in", 4, 2),
          set("q", b),
          check("cb"),
          pipe("db", "pvc-sch40-2in", 2),
        ],
      ),
      pipe("d", "pvc-sch40-3in", 90, rise),
      open("o"),
    ]);

  it("side by side add their flows at one head, as a general bisection finds", () => {
    const line = beside("one", "one");
    const { duty, pumps, state: flows } = running(line);
    const { segments, pumps: on } = solved(line).line;
    expect(on).toHaveLength(2);
    const { curve } = solved(line).pumps[0] as Solution["pumps"][number];
    const half = bisect(
      (q: number) =>
        evaluate(curve.head, q) -
        11 -
        lossOf(segments, ["sa", "ca", "da"], q) -
        lossOf(segments, ["d", "o"], 2 * q),
      1e-5,
      0.0199,
      { tolerance: 1e-14, maxIterations: 300 },
    );
    expect(pumps[0]?.duty.flow).toBeCloseTo(half, 8);
    expect(duty.flow).toBeCloseTo(2 * half, 8);
    expect(flows.delivered).toBeCloseTo(duty.flow, 9);
  });

  it("a strong one holds a weak one's check valve shut, which is said of the weak one", () => {
    const line = beside("one", "strong", 38);
    const { pumps } = running(line);
    expect(pumps[0]?.duty.flow).toBe(0);
    expect(pumps[1]?.duty.flow).toBeGreaterThan(1e-3);
    const held = judged(line).filter((v) => v.code === "pump-held-shut");
    expect(held.map((v) => v.itemId)).toEqual(["p"]);
    expect(held[0]?.severity).toBe("stop");
  });

  it("want a check valve each", () => {
    const codes = (line: Line) => judged(line).map((v) => v.code);
    const line = beside("one", "one");
    expect(codes(line)).not.toContain("backflow-unguarded");
    const [fork, ...rest] = line.path;
    if (fork?.kind !== "split") throw new Error("no split");
    const bare = {
      ...fork,
      branches: fork.branches.map((b) => b.filter((i) => i.kind !== "fitting")),
    };
    expect(codes({ ...line, path: [bare, ...rest] })).toContain("backflow-unguarded");
  });

  it("on the rising part of a curve are refused, with the pump that droops", () => {
    const droop: Pump = {
      ...one,
      id: "droop",
      points: [
        { flow: 0, head: 20 },
        { flow: 0.008, head: 30 },
        { flow: 0.02, head: 5 },
      ],
    };
    const line = beside("droop", "strong", 27.5);
    const result = solveLine(line, [droop, strong]);
    if (result.kind === "solved") {
      // Held shut or past its peak is an answer; in between is none.
      const flow = result.solution.cases.normal.running?.pumps[0]?.duty.flow ?? 0;
      expect(flow === 0 || flow >= 0.008).toBe(true);
    } else expect(result.diagnostics[0]?.code).toBe("pump-droops");
  });
});

it("pumps of any strength side by side come to a balance, each on its own curve or held shut", () => {
  const strength = fc.tuple(
    fc.double({ min: 15, max: 90, noNaN: true }),
    fc.double({ min: 0.003, max: 0.03, noNaN: true }),
    fc.constantFrom("pvc-sch40-1-1-2in", "pvc-sch40-2in", "pvc-sch40-3in"),
  );
  fc.assert(
    fc.property(
      fc.array(strength, { minLength: 2, maxLength: 4 }),
      fc.double({ min: 0, max: 70, noNaN: true }),
      (strengths, rise) => {
        const pumps = strengths.map(([shutoff, last], i) => pumpOf(`m${i}`, shutoff, last));
        const line = lineOf([
          split(
            "s",
            ...strengths.map(([, , stock], i) => [
              pipe(`s${i}`, "suction-hose-3in", 4, 2),
              set(`p${i}`, `m${i}`),
              check(`c${i}`),
              pipe(`d${i}`, stock, 3),
            ]),
          ),
          pipe("d", "pvc-sch40-3in", 90, rise),
          open("o"),
        ]);
        const { cases, pumps: on } = solved(line, pumps);
        for (const { running: found, outcomes } of Object.values(cases)) {
          if (!found) continue;
          const { byPump, delivered } = found.state;
          const sum = byPump.reduce((total, flow) => total + flow, 0);
          expect(Math.abs(sum - delivered)).toBeLessThan(4e-9);
          for (const [i, outcome] of outcomes.entries()) {
            const at = found.pumps[i]?.duty;
            if (outcome.kind === "cannot-lift") expect(byPump[i]).toBeLessThan(1e-6);
            if (outcome.kind !== "runs") continue;
            expect(Math.abs((at?.flow ?? 0) - outcome.duty.flow)).toBeLessThan(1e-6);
            const { curve } = on[i] as Solution["pumps"][number];
            expect(evaluate(curve.head, outcome.duty.flow)).toBeCloseTo(outcome.duty.head, 4);
          }
        }
      },
    ),
    { numRuns: 60 },
  );
});

describe("any line that parts", () => {
  const size = fc.constantFrom(
    "pvc-sch40-1-1-4in",
    "pvc-sch40-1-1-2in",
    "pvc-sch40-2in",
    "pvc-sch40-3in",
  );
  const run = fc.record({
    stock: size,
    length: fc.double({ min: 1, max: 120, noNaN: true }),
    rise: fc.double({ min: -0.5, max: 0.9, noNaN: true }),
  });
  const fatter: Record<string, string> = {
    "pvc-sch40-1-1-4in": "pvc-sch40-1-1-2in",
    "pvc-sch40-1-1-2in": "pvc-sch40-2in",
    "pvc-sch40-2in": "pvc-sch40-3in",
    "pvc-sch40-3in": "pvc-sch40-4in",
  };
  const shape = fc.record({
    main: run,
    rejoining: fc.array(run, { minLength: 2, maxLength: 3 }),
    ending: fc.array(fc.tuple(run, fc.double({ min: 0.006, max: 0.014, noNaN: true })), {
      minLength: 1,
      maxLength: 3,
    }),
    hole: fc.option(fc.double({ min: 0.002, max: 0.008, noNaN: true }), { nil: undefined }),
  });
  type Shape = typeof shape extends fc.Arbitrary<infer T> ? T : never;

  const lineOfShape = ({ main, rejoining, ending, hole }: Shape): Line =>
    lineOf([
      set("p"),
      pipe("m", main.stock, main.length, main.rise),
      // Branches that meet again rise alike.
      split("loop", ...rejoining.map((r, i) => [pipe(`l${i}`, r.stock, r.length, main.rise)])),
      ...(hole ? [{ kind: "orifice", id: "h", purpose: "leak", bore: hole } as const] : []),
      split(
        "fan",
        ...ending.map(([r, bore], i) => [
          pipe(`e${i}`, r.stock, r.length, r.rise),
          gun(`g${i}`, bore),
        ]),
        [pipe("last", "pvc-sch40-2in", 10), gun("end", 0.01)],
      ),
    ]);

  it("keeps mass to a few 1e-9 m³/s at every node and energy along every stretch", () => {
    fc.assert(
      fc.property(shape, (given) => {
        const { line, cases } = solved(lineOfShape(given), [one]);
        const found = cases.normal.running;
        if (!found) return;
        const { bySegment, byPump, nodeHeads, lost } = found.state;
        const net = line.nodes.map(() => 0);
        const add = (node: number, flow: number) => {
          net[node] = (net[node] as number) + flow;
        };
        for (const { from, to, start, end } of line.stretches) {
          const flow = bySegment[start] as number;
          add(from, -flow);
          add(to, flow);
          const own = line.segments.slice(start, end);
          const taken = Math.sign(flow) * lossThrough(own, Math.abs(flow));
          expect(
            Math.abs((nodeHeads[from] as number) - (nodeHeads[to] as number) - taken),
          ).toBeLessThan(1e-4);
        }
        for (const [i, { inlet, outlet }] of line.pumps.entries()) {
          add(inlet, -(byPump[i] as number));
          add(outlet, byPump[i] as number);
        }
        for (const [i, { node }] of line.holes.entries()) add(node, -(lost[i]?.flow ?? 0));
        const ends = new Set([0, ...line.outlets.map(({ node }) => node)]);
        for (const [node, flow] of net.entries())
          if (!ends.has(node)) expect(Math.abs(flow)).toBeLessThan(4e-9);
      }),
      { numRuns: 120 },
    );
  });

  it("never passes less in all when one pipe is laid fatter", () => {
    fc.assert(
      fc.property(shape, fc.nat(), (given, which) => {
        // Holes leave the rule: what is given to a fatter branch may leak instead.
        const base = lineOfShape({ ...given, hole: undefined });
        const ids = [
          "m",
          ...given.rejoining.map((_, i) => `l${i}`),
          ...given.ending.map((_, i) => `e${i}`),
        ];
        const id = ids[which % ids.length] as string;
        const wide = (path: PathItem[]): PathItem[] =>
          path.map((item) => {
            if (item.kind === "split") return { ...item, branches: item.branches.map(wide) };
            if (item.kind !== "pipe" || item.id !== id) return item;
            return { ...item, stock: fatter[item.stock] as string };
          });
        // Fittings-free, so that only friction counts and not a sudden change of bore beside it.
        const flowOf = (line: Line) => solved(line, [one]).cases.normal.running?.duty.flow ?? 0;
        expect(flowOf({ ...base, path: wide(base.path) })).toBeGreaterThanOrEqual(
          flowOf(base) * (1 - 1e-6),
        );
      }),
      { numRuns: 80 },
    );
  });
});

const without = (line: Line, kind: PathItem["kind"]): Line => ({
  ...line,
  path: changeItems(line.path, (item) => (item.kind === kind ? [] : item)),
});

it("beside a pump whose flow is imposed the other finds its own place", () => {
  const branch = (id: string, own: string) => [
    set(id, own),
    check(`c${id}`),
    pipe(`r${id}`, "pvc-sch40-2in", 2),
  ];
  const line = lineOf([
    split("s", branch("p", "one"), branch("q", "strong")),
    pipe("r", "pvc-sch40-2in", 40, 12),
    open("o"),
  ]);
  const ready = lineModel(line, [one, strong]);
  if (ready.kind !== "ready") throw new Error("refused");
  const { model, boundaries, states } = ready;
  const free = model.solve(boundaries.normal, states);
  const own = stateOf(free)?.byPump[0] ?? Number.NaN;
  // Held at the flow it finds by itself, nothing changes; at less, the other gives more.
  const held = (flow: number) => {
    const result = model.solve(boundaries.normal, [{ kind: "held", flow }, states[1] as PumpState]);
    if (result.kind !== "steady") throw new Error(result.kind);
    return result;
  };
  expect(held(own).state.byPump[1]).toBeCloseTo(stateOf(free)?.byPump[1] ?? 0, 7);
  expect(held(own).outcomes.map(({ kind }) => kind)).toEqual(["runs", "runs"]);
  expect(held(own / 2).state.byPump[1]).toBeGreaterThan((held(own).state.byPump[1] ?? 0) + 1e-4);
  expect(held(own / 2).state.byPump[0]).toBe(own / 2);
});

it("a line without a pump says what it takes at a flow: what a pump there would have to make", () => {
  let compared = 0;
  for (let seed = 0; compared < 40; seed++) {
    const { line: drawn, pumps } = drawNetwork(seed);
    if (pumps.length !== 1) continue;
    compared++;
    // A hole lets air in where no pump pushes: those lines have none.
    const line = without(drawn, "orifice");
    const bare = compileLine(without(line, "pump"));
    const ready = lineModel(line, pumps);
    if (bare.kind !== "compiled" || ready.kind !== "ready") throw new Error("refused");
    const alone = hydraulicModel(bare.line, ready.model.context);
    for (const flow of [0.5e-3, 2e-3, 6e-3]) {
      const asked = alone.imposed(boundaryAt(bare.line, "normal", ready.water), flow);
      const made = ready.model.imposed(ready.boundaries.normal, flow, ready.states);
      if (asked.kind !== "steady" || made.kind !== "steady") throw new Error("not balanced");
      expect(Math.abs(asked.head - made.head)).toBeLessThan(1e-5);
      expect(asked.state.delivered).toBeCloseTo(made.state.delivered, 8);
    }
  }
});

// The same ten thousand each time; fresh and more of them by `npm run endure`.
const { SEED = "0", NETWORKS = "2000" } = process.env;
it(`${NETWORKS} random networks all come to a balance`, { timeout: 600_000 }, () => {
  expect(unbalanced(Number(SEED) * 1000, Number(NETWORKS))).toEqual([]);
});

it("a branch that nothing runs in carries nothing, to the last digit", () => {
  let dry = 0;
  for (let seed = 0; seed < 300; seed++) {
    const { line, pumps } = drawNetwork(seed);
    const ready = lineModel(line, pumps);
    if (ready.kind === "refused") throw new Error(JSON.stringify(ready.diagnostics));
    const result = ready.model.solve(ready.boundaries.normal, ready.states);
    if (result.kind !== "steady") continue;
    const { nodeHeads, byStretch } = result.state;
    const { stretches, outlets } = ready.model.line;
    for (const [i, { from, to, oneWay }] of stretches.entries()) {
      const open = outlets.some(
        ({ node, item }) => node === to && item.outlet.type !== "submerged",
      );
      if (!(oneWay || open) || (nodeHeads[from] as number) >= (nodeHeads[to] as number)) continue;
      dry++;
      expect(byStretch[i], `seed ${seed}, stretch ${i}`).toBe(0);
    }
  }
  expect(dry).toBeGreaterThan(100);
});
