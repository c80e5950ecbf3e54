import { describe, expect, it } from "vitest";
import { type CheckCode, checkContext, completed, judge } from "#core/check/registry.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import type { Line, PathItem } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import {
  check,
  fitting,
  gun,
  hole,
  levels,
  lineOf,
  open,
  pipe,
  set,
  split,
  tablePump,
  tank,
} from "#core/test/fixtures.ts";
import { checkWords } from "./checks.ts";

/** Falls all the way; rises to its peak first; a small one. L/s and m. */
const falls = tablePump("one", [0, 1, 2, 3, 4], (q) => ({
  head: [30, 28, 24, 18, 10][q] as number,
}));
const rises = tablePump("one", [0, 1, 2, 3, 4], (q) => ({
  head: [20, 22, 21, 17, 10][q] as number,
}));
const weak = { ...tablePump("weak", [0, 1, 2], (q) => ({ head: [12, 9, 4][q] as number })) };
const sub = (pump: Pump): Pump => ({ ...pump, submersible: true });

/** What is solved and said of a line, each judgement with its words. */
function told(line: Line, pumps: readonly Pump[], wanted?: number) {
  const result = solveLine(line, pumps);
  if (result.kind !== "solved") throw new Error(JSON.stringify(result.diagnostics));
  const context = checkContext(result.solution, line, wanted);
  const all = completed(judge(context), context).map((judgement) => ({
    ...judgement,
    ...checkWords(judgement, line, "metric"),
  }));
  const of = (code: CheckCode) => all.filter((own) => own.code === code);
  return { solution: result.solution, of, one: (code: CheckCode) => of(code)[0] };
}
const flowAt = ({ solution }: ReturnType<typeof told>, at: "low" | "normal" | "high" = "normal") =>
  solution.cases[at].running?.state.delivered ?? 0;

describe("pumps that others hold, droop or run out", () => {
  const way = (id: string, pump: string, valve = true): PathItem[] => [
    pipe(`x${id}`, "pvc-sch40-2in", 2, 1),
    set(id, pump),
    ...(valve ? [check(`c${id}`)] : []),
    pipe(`d${id}`, "pvc-sch40-2in", 2, 0),
  ];

  it("in series, one past its last row at high water alone: a duty below that, and the run-out said of that one", () => {
    const s = tablePump("s", [0, 1, 2], (q) => ({ head: [20, 17, 8][q] as number }));
    const own = told(
      lineOf(
        [
          ...[pipe("x", "pvc-sch40-2in", 2, 1), set("p1", "s"), pipe("a", "pvc-sch40-2in", 10)],
          ...[set("p2"), pipe("b", "pvc-sch40-1-1-2in", 60, 30), open("o")],
        ],
        { source: { kind: "open", level: levels(0, 0, 4), intake: -1 } },
      ),
      [falls, s],
    );
    expect(flowAt(own, "low") * 1e3).toBeCloseTo(1.905, 3);
    expect(flowAt(own) * 1e3).toBeCloseTo(1.905, 3);
    expect(own.of("beyond-curve")).toHaveLength(1);
    expect(own.one("beyond-curve")).toMatchObject({ at: "high", itemId: "p1", value: 0.002 });
  });

  it("two that droop, side by side: the first runs, and holds the other shut at its own shut-off head", () => {
    const path = [
      split("s", way("p1", "one"), way("p2", "one")),
      pipe("m", "pvc-sch40-1-1-4in", 120, 18.5),
      open("o"),
    ];
    const own = told(lineOf(path), [rises]);
    expect(own.solution.cases.normal.staticHead).toBeCloseTo(18.5, 9);
    expect(flowAt(own) * 1e3).toBeCloseTo(0.866, 3);
    expect(own.one("pump-held-shut")).toMatchObject({ itemId: "p2", facts: { bestHead: 20 } });
    // Lower, both get on to the falling part and share.
    const lower = told(
      lineOf([...path.slice(0, 1), pipe("m", "pvc-sch40-2in", 30, 14), open("o")]),
      [rises],
    );
    const each = lower.solution.cases.normal.running?.pumps.map(({ duty }) => duty.flow) ?? [];
    expect(each[0]).toBeGreaterThan(1e-3);
    expect((each[1] ?? 0) / (each[0] ?? 1)).toBeCloseTo(1, 6);
  });

  it("one that droops beside a hole sticks from rest where the hole takes all of it", () => {
    const path = (bore: number) => [
      set("p"),
      pipe("a", "pvc-sch40-1-1-2in", 1, 1),
      hole("h", "vent-hole", bore),
      pipe("b", "pvc-sch40-1-1-2in", 30, 20.8),
      open("o"),
    ];
    const own = told(lineOf(path(0.004)), [sub(rises)]).one("two-crossings");
    expect(own).toMatchObject({ severity: "stop", facts: { startsFromRest: false } });
    // Surplus +0.98 m at 0.15 L/s and −0.27 at 0.16.
    const sticks = own?.code === "two-crossings" ? (own.facts.sticksAt ?? 0) : 0;
    expect(sticks).toBeGreaterThan(0.15e-3);
    expect(sticks).toBeLessThan(0.16e-3);
    expect(own?.sentence).toMatch(/from rest it sticks at 0\.15 L\/s/);
  });

  it("held shut without a check valve says that it has none, and what that means for the flow", () => {
    const of = (valve: boolean) =>
      told(
        lineOf([
          split("s", way("p1", "one"), way("p2", "weak", valve)),
          pipe("m", "pvc-sch40-2in", 60, 14),
          open("o"),
        ]),
        [falls, weak],
      ).one("pump-held-shut");
    expect(of(true)?.sentence).toContain("its check valve stays shut");
    expect(of(false)?.sentence).toMatch(
      /no check valve holds .* still counted in the flow delivered/,
    );
  });

  it("a leak that takes it all is told as that, and a line without a pump names none", () => {
    const path = (bore: number) => [
      ...[set("p"), pipe("a", "pvc-sch40-1in", 30), hole("h", "leak", bore)],
      ...[pipe("b", "pvc-sch40-1in", 12, 10), open("o")],
    ];
    const lost = told(lineOf(path(0.02)), [sub(falls)]).one("cannot-lift");
    expect(lost).toMatchObject({
      title: "All of it is lost on the way",
      facts: { short: "holes" },
    });
    expect(lost?.value).toBeGreaterThan(0);
    expect(told(lineOf(path(0.004)), [sub(falls)]).one("cannot-lift")).toBeUndefined();
    const mains = lineOf([pipe("a", "pvc-sch40-1in", 30, 14), open("o")], {
      source: { kind: "mains", intake: 0, pressure: 6e4, openFlow: 0.002 },
    });
    const short = told(mains, []).one("cannot-lift");
    expect(short?.sentence).toMatch(/would have to push 7\.8\d m more/);
    expect(short?.sentence).not.toContain("pump");
  });
});

describe("falls, hills and tanks", () => {
  const over = (fall: number, top = 14) => [
    fitting("in", "entrance-sharp"),
    pipe("s", "suction-hose-2in", 3, 1),
    set("p"),
    pipe("a", "pvc-sch40-2in", 20, top),
    pipe("b", "pvc-sch40-2in", 40, fall),
    open("o"),
  ];

  it("over a hill higher than air pressure holds the column breaks: the flow is that up to it, and nothing siphons", () => {
    const own = told(lineOf(over(-19)), [falls]);
    expect(flowAt(own) * 1e3).toBeCloseTo(3.36, 2);
    expect(own.one("discharge-under-suction")).toMatchObject({ severity: "stop", itemId: "a" });
    expect(own.one("siphons")).toBeUndefined();
    // The same to the hill alone, into the open there.
    const [lift, ...rest] = [over(0).slice(0, 4), open("o")] as const;
    expect(flowAt(told(lineOf([...lift, ...rest]), [falls])) / flowAt(own)).toBeCloseTo(1, 2);
    // Its working ends with the pressure that would stand there, and the ledger still adds up.
    const { running, staticHead } = own.solution.cases.normal;
    const sum = running?.ledger.reduce((all, { head }) => all + head, 0) ?? 0;
    expect(sum).toBeCloseTo(running?.duty.head ?? 0, 6);
    expect(staticHead).toBeCloseTo(-5, 9);
    // Low enough it holds: only a watch.
    const held = told(lineOf(over(-12, 6)), [falls]);
    expect(held.one("discharge-under-suction")?.severity).toBe("watch");
    expect(held.one("siphons")?.sentence).toContain("lies 6.00 m below");
  });

  it("head is told as head, and height as height", () => {
    const gas = lineOf(over(-8, 10), {
      source: { kind: "tank", level: levels(0), intake: -1, gasPressure: 1e5 },
    });
    const own = told(gas, [falls]).one("siphons");
    expect(own?.title).toBe("Runs with the pump off");
    expect(own?.sentence).toMatch(
      /8\.2\d m of head, though the outlet lies 2\.00 m above the water/,
    );
  });

  it("an outlet under the water it empties into lets that follow; one over it only what is in the pipe", () => {
    const of = (level: number) =>
      told(lineOf([set("p"), pipe("a", "pvc-sch40-1-1-2in", 20, 6), tank("t", level)]), [
        sub(falls),
      ]).one("drains-back");
    expect(of(8)?.sentence).toContain("after that all the water over the outlet");
    expect(of(4)?.sentence).not.toContain("all the water");
    // Steadily it is lifted to the mouth where the water lies lower.
    const line = (level: number) =>
      lineOf([set("p"), pipe("a", "pvc-sch40-1-1-2in", 20, 6), tank("t", level)]);
    expect(told(line(4), [sub(falls)]).solution.cases.normal.staticHead).toBeCloseTo(5, 9);
    expect(told(line(6), [sub(falls)]).solution.cases.normal.staticHead).toBeCloseTo(6, 9);
  });

  it("a submersible is under water or not by the water's level, whatever presses on it", () => {
    const in_ = (gasPressure: number, elevation: number) =>
      told(
        lineOf([set("p"), pipe("a", "pvc-sch40-2in", 20, 6), open("o")], {
          source: { kind: "tank", level: levels(0), intake: elevation, gasPressure },
        }),
        [sub(falls)],
      ).one("pump-not-under-water");
    expect(in_(-3e4, -1)).toBeUndefined();
    expect(in_(5e4, 1)).toMatchObject({ severity: "stop" });
    expect(in_(5e4, 1)?.value).toBeCloseTo(1, 9);
  });

  it("a hump made by a rise traps air as one of pipe does", () => {
    const humps = (path: PathItem[]) => told(lineOf(path), [falls]).of("traps-air");
    const rise = (m: number): PathItem => ({ kind: "rise", id: "r", rise: m });
    const down = pipe("a", "pvc-sch40-2in", 20, -2);
    expect(humps([set("p"), rise(4), down, open("o")])[0]?.value).toBeCloseTo(3, 9);
    expect(humps([set("p"), down, rise(4), open("o")])).toEqual([]);
    expect(
      humps([
        set("p"),
        pipe("u", "pvc-sch40-2in", 5, 4),
        rise(-2),
        pipe("l", "pvc-sch40-2in", 20),
        open("o"),
      ]),
    ).toHaveLength(1);
  });

  it("a gun's pressure is that at its base, past a rise without pipe", () => {
    const at = (path: PathItem[]) => {
      const { line } = {
        line: lineOf([
          set("p"),
          ...path,
          {
            ...gun("g", 0.01),
            outlet: {
              type: "nozzle",
              bore: 0.01,
              dischargeCoefficient: 0.95,
              leastPressure: 2.5e5,
            },
          } as PathItem,
        ]),
      };
      return told(line, [falls]).one("gun-pressure")?.value ?? 0;
    };
    const stand = at([pipe("a", "pvc-sch40-2in", 30, 2), { kind: "rise", id: "r", rise: 3 }]);
    const piped = at([pipe("a", "pvc-sch40-2in", 30, 2), pipe("b", "pvc-sch40-2in", 3, 3)]);
    expect(stand / piped).toBeCloseTo(1, 2);
  });
});

describe("numbers are the ones their words name, and remedies were solved", () => {
  it("running, a pipe feels the highest pressure along itself", () => {
    // Down a slope into the open: at its low end it runs out, at its high end the pump pushes.
    const down = told(
      lineOf([set("p"), pipe("b", "pvc-sch40-1-1-4in", 60, -12), open("o")], {
        source: { kind: "open", level: levels(-1), intake: -1 },
      }),
      [falls],
    );
    const own = down.one("pressure-rating");
    if (own?.code !== "pressure-rating") throw new Error("not judged");
    const { line, cases, water } = down.solution;
    const said = (own.facts.running ?? 0) / (water.density * 9.80665);
    const points = cases[own.at].running?.headLine ?? [];
    const at = points.findIndex(({ itemId }) => itemId === own.itemId);
    const [start, end] = [points[at - 1], points[at]].map((point) => point?.pressureHead ?? 0);
    expect(said).toBeCloseTo(Math.max(start ?? 0, end ?? 0), 0);
    // Head where the stretch begins over the lowest point of the run would be far more than stands anywhere in it.
    const lowest = Math.min(
      ...line.segments
        .filter(({ itemId }) => itemId === own.itemId)
        .map(({ endElevation }) => endElevation),
    );
    const head = cases[own.at].running?.state.nodeHeads[line.pumps[0]?.outlet ?? 0] ?? 0;
    expect(head - lowest).toBeGreaterThan(said + 3);
  });

  it("a larger size is proposed only where one is stocked, slower and known", () => {
    const mend = (path: PathItem[], pump: Pump) =>
      told(lineOf(path), [pump]).one("discharge-velocity-high");
    const far = tablePump("one", [0, 4, 8, 16], (q) => ({ head: 30 - q * q * 0.1 }));
    expect(mend([set("p"), pipe("a", "copper-l-2in", 2, 1), open("o")], far)?.advice).toContain(
      "No larger size of it is stocked",
    );
    const end = mend([set("p"), pipe("a", "pvc-sch40-1-1-4in", 3, 1), open("o")], falls);
    expect(end?.advice).toContain("not known");
    expect(
      mend([set("p"), pipe("a", "pvc-sch40-1-1-4in", 40, 16), open("o")], falls)?.advice,
    ).toMatch(/^Lay it in/);
  });

  it("a smaller vent hole only where it wastes less", () => {
    const of = (bore: number) =>
      told(
        lineOf([
          set("p"),
          hole("h", "vent-hole", bore),
          check("c"),
          pipe("a", "pvc-sch40-1in", 20, 5),
          open("o"),
        ]),
        [sub(tablePump("one", [0, 0.1, 0.2, 0.3], (q) => ({ head: 8 - 30 * q * q })))],
      ).one("hole-wastes");
    expect(of(0.005)?.advice).toMatch(/A vent hole of 3 mm .* wastes \d/);
    expect(of(0.002)?.advice).not.toContain("3 mm");
  });

  it("water too little to see is told of by nobody", () => {
    // A branch whose outlet hangs a hair over what the head reaches.
    const low = split(
      "s",
      [check("c"), pipe("b", "pvc-sch40-2in", 20, 4), open("high")],
      [pipe("d", "pvc-sch40-1in", 40, 1), open("low")],
    );
    const own = told(lineOf([set("p"), low]), [falls]);
    for (const code of ["check-valve-flutters", "branch-runs-back"] as const) {
      for (const { value } of own.of(code)) expect(value).toBeGreaterThan(1e-3);
    }
  });

  it("where water boils in the suction it is said once, by what the flow would take", () => {
    const own = told(
      lineOf([
        fitting("in", "entrance-sharp"),
        pipe("s", "garden-hose-3-4in", 12, 7),
        set("p"),
        pipe("d", "pvc-sch40-2in", 3, 1),
        open("o"),
      ]),
      [tablePump("one", [0, 1, 2, 3, 4], (q) => ({ head: 60 - 2 * q * q }))],
    );
    expect(own.of("suction-boils")).toHaveLength(1);
    expect(own.one("suction-boils")?.sentence).toMatch(/would take .* the pump never gets it/);
  });

  it("an aim within a hundredth is met, and one that is missed is watched, not stopped", () => {
    const line = lineOf([set("p"), pipe("a", "pvc-sch40-1-1-2in", 40, 6), open("o")]);
    const flow = flowAt(told(line, [falls]));
    const said = (part: number) => told(line, [falls], flow * part).one("wanted-flow")?.severity;
    expect([said(1.009), said(1.011), said(2)]).toEqual(["good", "watch", "watch"]);
  });
});

it("a pipe a pump draws the mains dry through is its suction, and no hill behind it", () => {
  const path = [
    ...[pipe("s", "pvc-sch40-2in", 3, 1), set("p", "one"), pipe("a", "pvc-sch40-2in", 20, 3)],
    open("o"),
  ];
  const mains = lineOf(path, {
    source: { kind: "mains", intake: 0, pressure: 3e5, openFlow: 0.003 },
  });
  const own = told(mains, [falls]);
  expect(own.one("suction-lift-barometric")?.itemId).toBe("p");
  expect(own.of("discharge-under-suction")).toEqual([]);
});
