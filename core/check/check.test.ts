import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { FITTING_STOCK } from "../catalogue/fittings.ts";
import { PIPE_STOCK } from "../catalogue/pipes.ts";
import { resultOf } from "../formula/formula.ts";
import type { PumpState } from "../hydraulics/boundary.ts";
import { airToMove } from "../hydraulics/priming.ts";
import { solveLine, stateOf } from "../hydraulics/solveLine.ts";
import { suctionOf } from "../line/compiledLine.ts";
import { changeItems, type Line, type PathItem } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  check,
  fitting,
  hole,
  judged,
  levels,
  lineOf,
  one,
  open,
  pipe,
  pumpOf,
  running,
  set,
  solved as solvedOf,
  split,
  tablePump,
  tank,
} from "../test/fixtures.ts";
import { drawNetwork } from "../test/randomNetworks.ts";
import type { Severity } from "./check.ts";
import { heldBy } from "./discharge.ts";
import { type CheckCode, checkContext, completed, judge, judgementDerivation } from "./registry.ts";

const pump = tablePump(
  "p",
  [0, 1, 2, 3, 4, 5, 6],
  (q) => ({ head: 30 - 0.6 * q * q, power: 500 + 120 * q, npshRequired: 2 + 0.1 * q * q }),
  { maxSuctionLift: 7 },
);

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
    ["less flow than wanted", { wantedFlow: 5.5e-3 }, "wanted-flow", "watch"],
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
      "unknown",
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

/** A pit with a submersible, its water between two levels, and a riser that may hold anything. */
const pit = (riser: PathItem[], low = -1, over: Partial<Line> = {}) =>
  lineOf([set("p", "sub"), ...riser, pipe("r", "pvc-sch40-2in", 12, 6), open("o")], {
    source: { kind: "open", level: levels(low, low + 0.5, low + 1), intake: -1.2 },
    ...over,
  });
const sub = pumpOf("sub", 18, 0.006, { submersible: true });
const find = (line: Line, code: CheckCode, pumps = [one, sub]) =>
  judged(line, pumps).find((judgement) => judgement.code === code);

describe("what is said of the numbers, where it should flip", () => {
  it("names the worst water and not the mildest", () => {
    // 4.35 m short at low water, 1.2 m less at high: the low one is said.
    const line = lineOf([set("p"), pipe("d", "pvc-sch40-2in", 60, 45.35), open("o")], {
      source: { kind: "open", level: levels(0, 0.6, 1.2), intake: -1 },
    });
    const short = find(line, "cannot-lift");
    expect(short?.at).toBe("low");
    expect(short?.value).toBeCloseTo(4.35, 6);
    const uncovered = lineOf([set("p"), pipe("d", "pvc-sch40-2in", 20, 8), open("o")], {
      source: { kind: "open", level: levels(-1, 0, 1), intake: 0.5 },
    });
    expect(find(uncovered, "intake-uncovered")).toMatchObject({ at: "low", value: 1.5 });
    // Checks without a limit too: most water is lost through a hole where the head over it is most.
    const leak = pit([hole("h", "leak")], -1);
    const flows = Object.values(solvedOf(leak, [one, sub]).cases).map(
      ({ running }) => running?.state.lost[0]?.flow,
    );
    expect(find(leak, "hole-wastes")?.value).toBe(Math.max(...flows.map((flow) => flow ?? 0)));
  });

  it("says friction where the pump could lift but not push", () => {
    const droop = pumpOf("droop", 20, 0.004);
    droop.points = [
      { flow: 0, head: 14 },
      { flow: 0.002, head: 22 },
      { flow: 0.004, head: 12 },
    ];
    const line = (rise: number) =>
      lineOf([set("p", "droop"), pipe("d", "pvc-sch40-1in", 80, rise), open("o")]);
    const pushed = find(line(22.4), "cannot-lift", [droop]);
    expect(pushed?.code === "cannot-lift" && pushed.facts.short).toBe("friction");
    const high = find(line(30), "cannot-lift", [droop]);
    expect(high?.code === "cannot-lift" && high.facts.short).toBe("static-head");
  });

  it("a pipe in the well's water feels only the difference, and both pressures are said", () => {
    const well = (standing: number) =>
      lineOf(
        [
          set("p", "deep"),
          check("c"),
          pipe("drop", "pe-sidr15-1-1-4in", 60, 60),
          pipe("run", "pe-sidr15-1-1-4in", 20),
          open("o"),
        ],
        {
          source: {
            kind: "well",
            level: levels(standing),
            intake: -60,
            drawdown: { linear: 0, quadratic: 0 },
          },
        },
      );
    const deep = pumpOf("deep", 70, 0.003, { submersible: true });
    const drawn = find(well(-58), "pressure-rating", [deep]);
    const full = find(well(-10), "pressure-rating", [deep]);
    if (drawn?.code !== "pressure-rating" || full?.code !== "pressure-rating") throw new Error();
    const metres = (pascal: number) =>
      pascal / (solvedOf(well(-10), [deep]).water.density * 9.80665);
    // Dead-headed at the pump: 70 m of pump; the 50 m of water outside the pipe push back.
    expect(metres(full.value)).toBeCloseTo(70, 1);
    expect(metres(drawn.value)).toBeCloseTo(70, 1);
    expect(full.facts.inWater).toBe(true);
    expect(full.facts.running).toBeLessThan(full.value);
  });

  it("judges a vent hole by where it is: between each pump and its own check valve", () => {
    expect(find(pit([hole("h"), check("c")]), "hole-misplaced")).toBeUndefined();
    expect(find(pit([check("c"), hole("h")]), "hole-misplaced")).toMatchObject({
      severity: "watch",
      facts: { why: "above-check" },
    });
    expect(find(pit([hole("h")]), "hole-misplaced")).toMatchObject({ facts: { why: "no-check" } });
    // A second pump beside it, each with a check valve of its own, and the old hole above both.
    const own = (id: string): PathItem[] => [
      set(id, "sub"),
      check(`c-${id}`),
      pipe(`d-${id}`, "pvc-sch40-2in", 1, 1),
    ];
    const pair = lineOf([
      split("s", own("a"), own("b")),
      hole("h"),
      pipe("r", "pvc-sch40-2in", 12, 5),
      open("o"),
    ]);
    expect(find(pair, "hole-misplaced")).toMatchObject({
      itemId: "h",
      facts: { why: "above-check" },
    });
    const codes = (line: Line) =>
      judged(line, [one, sub])
        .filter(({ severity }) => severity === "good")
        .map(({ itemId }) => itemId);
    expect(codes(pit([check("c"), hole("h")]))).toContain("h");
  });

  it("warns of an air lock in a pit pumped down to its intake, and not in a well or under water", () => {
    expect(find(pit([check("c")], -1.15), "air-lock")?.severity).toBe("watch");
    expect(find(pit([hole("h"), check("c")], -1.15), "air-lock")).toBeUndefined();
    expect(find(pit([check("c"), hole("h")], -1.15), "air-lock")?.severity).toBe("watch");
    // Only water that is sure to cover any pump makes the hole needless: 0.6 m over its intake.
    expect(find(pit([check("c")], -0.61), "air-lock")?.severity).toBe("watch");
    expect(find(pit([check("c")], -0.59), "air-lock")).toBeUndefined();
    expect(find(pit([hole("h"), check("c")], -0.9), "air-lock")).toBeUndefined();
    // A float that lets it fall further counts, whatever is called low water.
    const floated = (off: number) =>
      find(
        pit([check("c")], -0.5, {
          overTime: { controls: [{ kind: "float", body: "b", off }] },
          source: { kind: "open", level: levels(-0.5), intake: -1.2, body: "b" },
        } as Partial<Line>),
        "air-lock",
      );
    expect(floated(-0.7)?.value).toBeCloseTo(0.5, 9);
    expect(floated(-0.55)).toBeUndefined();
    expect(find(pit([], -1.15), "air-lock")).toBeUndefined();
    const well = pit([check("c")], -1.15, {
      source: {
        kind: "well",
        level: levels(-1.15),
        intake: -1.2,
        drawdown: { linear: 0, quadratic: 0 },
      },
    });
    expect(find(well, "air-lock")).toBeUndefined();
  });

  it("an open drain on a pumped main floods where the head line stands over its rim, and is not delivered", () => {
    const joined = (rim: number) =>
      lineOf([
        set("p"),
        pipe("m", "pvc-sch40-1-1-2in", 12, 3),
        split(
          "s",
          [
            pipe("b", "pvc-sch40-2in", 2, rim - 2),
            { kind: "outlet", id: "gully", outlet: { type: "drain" } },
          ],
          [pipe("on", "pvc-sch40-1-1-4in", 40, 4)],
        ),
        open("o"),
      ]);
    const line = joined(2.5);
    const flood = find(line, "drain-floods");
    expect(flood?.severity).toBe("stop");
    const { state } = solvedOf(line).cases.normal.running ?? { state: undefined };
    expect(state?.delivered).toBeCloseTo(state?.byOutlet[1] ?? Number.NaN, 12);
    expect((state?.byOutlet[0] ?? 0) + (state?.delivered ?? 0)).toBeGreaterThan(
      state?.delivered ?? 0,
    );
    expect(
      judged(line, [one, sub], 1).find(({ code }) => code === "wanted-flow")?.value,
    ).toBeLessThan((state?.byPump[0] ?? 0) * 0.99);
  });

  it.each<[string, Partial<Line>, PathItem[], Partial<Pump>, string | undefined]>([
    ["a dry pump in the water", {}, [], {}, "dry-pump-under-water"],
    ["a submersible in the water", {}, [], { submersible: true }, undefined],
    ["a dry pump drawing from above", {}, [pipe("s", "suction-hose-2in", 4, 3)], {}, undefined],
    ["a dry pump beside a tank", {}, [pipe("s", "pvc-sch40-2in", 2, 0)], {}, undefined],
    [
      "the same down in the pit",
      { site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1, standsAt: "pit" } },
      [pipe("s", "pvc-sch40-2in", 2, 0)],
      {},
      "dry-pump-under-water",
    ],
    [
      "a dry pump in a well",
      {
        source: {
          kind: "well",
          level: levels(0),
          intake: -1,
          drawdown: { linear: 0, quadratic: 0 },
        },
      },
      [pipe("s", "pvc-sch40-2in", 2, 0)],
      {},
      "dry-pump-in-casing",
    ],
    ["an engine in a pit", {}, [], { drive: "engine" }, "engine-in-pit"],
    [
      "an engine indoors",
      { site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1, standsAt: "indoors" } },
      [pipe("s", "suction-hose-2in", 4, 3)],
      { drive: "engine" },
      "engine-indoors",
    ],
    [
      "an engine on the bank",
      { site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1, standsAt: "bank" } },
      [pipe("s", "suction-hose-2in", 4, 3)],
      { drive: "engine" },
      undefined,
    ],
    [
      "an engine nobody says where",
      {},
      [pipe("s", "suction-hose-2in", 4, 3)],
      { drive: "engine" },
      "engine-unplaced",
    ],
    [
      "a submersible behind a suction pipe",
      {},
      [pipe("s", "suction-hose-2in", 4, 0.5)],
      { submersible: true },
      "submersible-behind-suction",
    ],
  ])("%s", (_what, over, suction, plate, why) => {
    const line = lineOf(
      [...suction, set("p"), pipe("d", "pvc-sch40-2in", 40, 12), open("o")],
      over,
    );
    const found = find(line, "pump-placement", [{ ...one, ...plate }]);
    expect(found?.code === "pump-placement" ? found.facts.why : undefined).toBe(why);
    if (why) expect(found?.severity).toBe(why === "engine-unplaced" ? "unknown" : "stop");
  });
});

describe("a suction nobody has published a limit for", () => {
  const npsh = (plate: Partial<Pump>, suction = [pipe("s", "suction-hose-2in", 5, 3)]) =>
    find(
      lineOf([...suction, set("p"), pipe("d", "pvc-sch40-2in", 40, 12), open("o")]),
      "npsh-margin",
      [{ ...one, ...plate }],
    )?.severity;

  it("cannot be judged, which is neither good nor bad", () => {
    expect(npsh({})).toBe("unknown");
    const required = one.points.map((point) => ({ ...point, npshRequired: 2 }));
    expect(npsh({ points: required })).toBe("good");
    // Published for small flows only, which says nothing of this one.
    const short = required.map((point, i) =>
      i < 2 ? point : { ...point, npshRequired: undefined },
    );
    expect(npsh({ points: short })).toBe("unknown");
    // The maker's lift limit judges it as well, and no limit is asked for where water runs in by itself.
    expect(npsh({ maxSuctionLift: 7 })).toBeUndefined();
    expect(npsh({}, [])).toBeUndefined();
  });

  it("stands after what has to be watched, and before what is good", () => {
    const order = { stop: 3, watch: 2, unknown: 1, good: 0 };
    const all = judged(
      lineOf([
        pipe("s", "suction-hose-2in", 5, 3),
        set("p"),
        pipe("d", "pvc-sch40-2in", 40, 12),
        open("o"),
      ]),
      [one],
    ).map(({ severity }) => order[severity]);
    expect(new Set(all)).toContain(order.unknown);
    expect(all).toEqual(all.toSorted((a, b) => b - a));
  });
});

it("a pump beside the water has none round its pipe, which bears the whole pressure", () => {
  const beside = (suction: PathItem[], submersible: boolean) =>
    find(
      lineOf([...suction, set("p"), check("c"), pipe("d", "pvc-sch40-2in", 40, 12), open("o")], {
        source: { kind: "open", level: levels(0, 1, 3), intake: -1 },
      }),
      "pressure-rating",
      [{ ...one, submersible }],
    );
  const metres = (pressure = 0) => pressure / (999.1 * 9.80665);
  // 40 m of pump: in the water only that; beside it the water over the pipe as well, 4 m of it when it is high.
  expect(metres(beside([], true)?.value)).toBeCloseTo(40, 1);
  const dry = beside([pipe("s", "pvc-sch40-2in", 2)], false);
  expect(metres(dry?.value)).toBeCloseTo(44, 1);
  expect(dry?.at).toBe("high");
  expect(dry?.code === "pressure-rating" && dry.facts.inWater).toBe(false);
});

it("a pump whose check valve the others hold shut adds nothing, though its vent hole runs", () => {
  const weak = pumpOf("weak", 9, 0.004, { submersible: true });
  const beside = (rise: number) => {
    const branch = (id: string, own: string) => [
      set(id, own),
      hole(`h${id}`, "vent-hole", 0.003),
      fitting(`c${id}`, "check-swing", { stock: "pvc-sch40-2in" }),
      pipe(`r${id}`, "pvc-sch40-2in", 1, 1),
    ];
    const path = [
      split("s", branch("p", "weak"), branch("q", "one")),
      pipe("r", "pvc-sch40-2in", 30, rise),
      open("o"),
    ];
    return judged(lineOf(path), [weak, { ...one, submersible: true }]).filter(
      ({ code }) => code === "pump-held-shut",
    );
  };
  expect(beside(10).map(({ itemId }) => itemId)).toEqual(["p"]);
  expect(beside(10)[0]?.value).toBeGreaterThan(1);
  const alike = judged(
    lineOf([
      split(
        "s",
        [set("p"), check("c"), pipe("a", "pvc-sch40-2in", 1)],
        [set("q"), check("d"), pipe("b", "pvc-sch40-2in", 1)],
      ),
      pipe("r", "pvc-sch40-2in", 30, 10),
      open("o"),
    ]),
  );
  expect(alike.map(({ code }) => code)).not.toContain("pump-held-shut");
});

describe("a size said to slow the water", () => {
  it("does, laid and solved again", () => {
    let tried = 0;
    for (let seed = 0; seed < 60; seed++) {
      const { line, pumps } = drawNetwork(seed);
      const context = checkContext(solvedOf(line, pumps), line);
      for (const judgement of completed(judge(context), context)) {
        if (judgement.code !== "discharge-velocity-high") continue;
        const { itemId, at, limit = 0, facts } = judgement;
        const { larger } = facts;
        if (typeof larger !== "object") continue;
        const path = changeItems(line.path, (item) =>
          item.id === itemId && item.kind === "pipe" ? { ...item, stock: larger.id } : item,
        );
        const then = solvedOf({ ...line, path }, pumps);
        const { bySegment } = then.cases[at].running?.state ?? { bySegment: [] };
        for (const [i, segment] of then.line.segments.entries()) {
          if (segment.itemId !== itemId || segment.kind !== "pipe") continue;
          const speed = (4 * Math.abs(bySegment[i] as number)) / (Math.PI * segment.bore ** 2);
          expect(speed).toBeLessThanOrEqual(limit);
        }
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(10);
  });

  it("is not the next one where the larger lets so much more through that it runs as fast", () => {
    // A main with much behind it: twice the bore runs faster, not slower.
    const line = lineOf([pipe("h", "garden-hose-1-2in", 30), open("o")], {
      source: { kind: "mains", intake: 0, pressure: 4e5, openFlow: 0.02 },
    });
    const context = checkContext(solvedOf(line, []), line);
    const fast = completed(judge(context), context).find(
      ({ code }) => code === "discharge-velocity-high",
    );
    expect(fast?.severity).toBe("watch");
    expect(fast?.code === "discharge-velocity-high" && fast.facts.larger).toBe("none-slower");
  });
});

it("an outlet behind a shut valve is said to be shut, and one too high to be too high", () => {
  const dry = (branch: PathItem[]) => {
    const path = [set("p"), split("s", branch, [pipe("b", "pvc-sch40-2in", 10), open("o2")])];
    const found = find(lineOf(path), "outlet-dry", [one]);
    return found?.code === "outlet-dry" ? [found.itemId, found.facts.shut] : undefined;
  };
  const gate = (opening: number) => fitting("v", "gate-valve", { opening, stock: "pvc-sch40-2in" });
  expect(dry([gate(0), pipe("a", "pvc-sch40-2in", 10), open("o1")])).toEqual(["o1", true]);
  expect(dry([gate(1), pipe("a", "pvc-sch40-2in", 10), open("o1")])).toBeUndefined();
  expect(dry([pipe("a", "pvc-sch40-2in", 40, 38), open("o1")])).toEqual(["o1", false]);
});

it("water that runs back says where from: a higher outlet, or round past the pump", () => {
  const why = (path: PathItem[]) => {
    const found = find(lineOf(path), "branch-runs-back", [one]);
    return found?.code === "branch-runs-back" ? found.facts.why : undefined;
  };
  const bypass = split(
    "s",
    [set("p"), pipe("a", "pvc-sch40-2in", 2)],
    [pipe("b", "pvc-sch40-1in", 2)],
  );
  expect(why([bypass, pipe("r", "pvc-sch40-2in", 30, 10), open("o")])).toBe("round");
  const tanks = split(
    "s",
    [pipe("a", "pvc-sch40-2in", 20, 5), tank("t", 38)],
    [pipe("b", "pvc-sch40-3in", 20), open("o")],
  );
  expect(why([set("p"), tanks])).toBe("outlet");
});

it("pumps boosting a main are not judged as if they stood in water", () => {
  const line = lineOf(
    [
      split(
        "s",
        [set("p"), check("c"), pipe("a", "pvc-sch40-2in", 2)],
        [set("q"), check("d"), pipe("b", "pvc-sch40-2in", 2)],
      ),
      pipe("r", "pvc-sch40-2in", 30, 12),
      open("o"),
    ],
    { source: { kind: "mains", intake: 0, pressure: 1e5, openFlow: 0.02 } },
  );
  const { duty, state } = running(line, [one]);
  expect(duty.flow).toBeCloseTo(state.delivered, 8);
  expect(duty.flow).toBeGreaterThan(1e-3);
  const codes = judged(line, [one]).map(({ code }) => code);
  for (const code of ["pump-placement", "loses-prime", "drains-back", "pump-not-under-water"]) {
    expect(codes).not.toContain(code);
  }
});

it("comparing hoses, a main drives a line without a pump; mains and a well are sources like any other", () => {
  const mains = lineOf([pipe("h", "garden-hose-18mm", 30), open("o")], {
    source: { kind: "mains", intake: 0, pressure: 300_000, openFlow: 0.5e-3 },
  });
  const flow = solvedOf(mains).cases.normal.running?.state.delivered ?? 0;
  expect(flow).toBeGreaterThan(1e-4);
  expect(flow).toBeLessThan(0.5e-3);
  const boosted = lineOf([set("p"), pipe("h", "garden-hose-18mm", 30), open("o")], {
    source: mains.source,
  });
  expect(
    solvedOf(boosted, [pumpOf("one", 20, 0.002)]).cases.normal.running?.state.delivered,
  ).toBeGreaterThan(flow);
  // s = B Q + C Q²: the pump lifts from the level its own flow draws the well down to.
  const drawdown = { linear: 800, quadratic: 4e5 };
  const well = lineOf([set("p"), pipe("d", "pvc-sch40-2in", 60, 20), open("o")], {
    source: { kind: "well", level: levels(0), intake: -30, drawdown },
  });
  const running = solvedOf(well, [pumpOf("one", 60, 0.012, { submersible: true })]).cases.normal
    .running;
  const q = running?.duty.flow ?? 0;
  const surface = running?.state.nodeHeads[solvedOf(well).line.intakeNode] ?? 0;
  expect(-surface).toBeCloseTo(drawdown.linear * q + drawdown.quadratic * q * q, 9);
  const free = lineOf([set("p"), pipe("d", "pvc-sch40-2in", 60, 20), open("o")], {
    source: { kind: "open", level: levels(0), intake: -30 },
  });
  expect(
    solvedOf(free, [pumpOf("one", 60, 0.012)]).cases.normal.running?.duty.flow,
  ).toBeGreaterThan(q);
});

it("one pump may be off while the other runs, and passes water back unless a check valve holds it", () => {
  const beside = (held: boolean) =>
    lineOf([
      split(
        "s",
        ...["p", "q"].map((id) => [
          set(id),
          ...(held ? [check(`c-${id}`)] : []),
          pipe(`d-${id}`, "pvc-sch40-2in", 3, 2),
        ]),
      ),
      pipe("d", "pvc-sch40-3in", 60, 10),
      open("o"),
    ]);
  const alone = (held: boolean) => {
    const { model, boundaries, states } = solvedOf(beside(held));
    const result = model.solve(boundaries.normal, [states[0] as PumpState, { kind: "stopped" }]);
    if (result.kind === "not-balanced") throw new Error("not balanced");
    expect(result.outcomes[1]?.kind).toBe("stopped");
    return stateOf(result);
  };
  expect(alone(true)?.byPump[1]).toBeCloseTo(0, 8);
  expect(alone(true)?.delivered).toBeGreaterThan(1e-3);
  expect(alone(false)?.byPump[1]).toBeLessThan(-1e-3);
  expect(alone(false)?.delivered ?? 0).toBeLessThan(alone(true)?.delivered ?? 0);
});

it("every check is found somewhere, and its number derived", () => {
  const found = new Set<CheckCode>();
  const hear = (line: Line, pumps: Pump[], wanted?: number) => {
    const context = checkContext(solvedOf(line, pumps), line, wanted);
    for (const judgement of judge(context)) {
      found.add(judgement.code);
      const derivation = judgementDerivation(judgement, context);
      expect(derivation.length).toBeGreaterThan(0);
      expect([judgement.code, near(resultOf(derivation), judgement.value)]).toEqual([
        judgement.code,
        true,
      ]);
    }
  };
  for (let seed = 0; seed < 150; seed++) {
    const { line, pumps } = drawNetwork(seed);
    hear(line, pumps, 0.004);
  }
  hear(pit([check("c"), hole("h")], -1.15), [one, sub]);
  expect([...found]).toEqual(
    expect.arrayContaining([
      "branch-runs-back",
      "outlet-dry",
      "hole-wastes",
      "air-lock",
      "hole-misplaced",
    ]),
  );
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

describe("getting water to a pump", () => {
  it("clears its air in the time a vacuum pump takes: closed forms for a level and for a straight suction", () => {
    const suction = (length: number, rise: number) => {
      const { line } = solvedOf(
        lineOf(
          [
            pipe("s", "suction-hose-2in", length, rise),
            set("p"),
            pipe("d", "pvc-sch40-2in", 9, 3),
            open("o"),
          ],
          {
            source: { kind: "open", level: levels(0), intake: 0 },
          },
        ),
      );
      return airToMove(suctionOf(line), 0, 101_325, 1000);
    };
    expect(suction(6, 1e-9)?.times).toBeCloseTo(1, 6);
    for (const lift of [1, 3, 7]) {
      // k = ρgh/p: t q / V = 2 + (1 − k) ln(1 − k) / k for a line that rises evenly.
      const k = (1000 * GRAVITY * lift) / 101_325;
      expect(suction(8, lift)?.times).toBeCloseTo(2 + ((1 - k) * Math.log(1 - k)) / k, 6);
    }
    expect(suction(12, 11)).toBeUndefined();
  });

  const drawn = (over: Partial<Pump>, ...suction: PathItem[]) =>
    judged(
      lineOf([...suction, set("p"), pipe("d", "pvc-sch40-2in", 20, 8), open("o")], {
        source: { kind: "open", level: levels(0), intake: -0.5 },
      }),
      [{ ...one, ...over }],
    );
  const severity = (judgements: ReturnType<typeof judged>, code: CheckCode) =>
    judgements.find((own) => own.code === code)?.severity;

  it("is long where the line holds much, and nobody waits where a foot valve holds the water", () => {
    const short = drawn({}, pipe("s", "suction-hose-2in", 4, 2));
    expect(severity(short, "priming-time")).toBe("good");
    const long = drawn({}, pipe("s", "suction-hose-4in", 60, 2));
    expect(severity(long, "priming-time")).toBe("watch");
    const footed = drawn(
      {},
      fitting("f", "foot-valve-hinged"),
      pipe("s", "suction-hose-2in", 4, 2),
    );
    expect(severity(footed, "priming-time")).toBeUndefined();
    expect(
      severity(drawn({}, pipe("s", "suction-hose-2in", 4, -1)), "priming-time"),
    ).toBeUndefined();
  });

  it("a floating intake wants four feet of hose next to it", () => {
    const behind = (...line: PathItem[]) =>
      severity(drawn({}, fitting("f", "floating-intake"), ...line), "floating-hose");
    expect(behind(pipe("s", "suction-hose-2in", 4, 2))).toBe("good");
    expect(
      behind(pipe("s", "suction-hose-2in", 1.1, 0.5), pipe("t", "pvc-sch40-2in", 3, 1.5)),
    ).toBe("watch");
    expect(behind(pipe("t", "pvc-sch40-2in", 3, 1), pipe("s", "suction-hose-2in", 4, 1))).toBe(
      "watch",
    );
  });

  it("a submersible draws through a pipe only from a sleeve, and only where water passes its motor", () => {
    const sub = { submersible: true, suctionPort: undefined };
    const line = pipe("s", "pvc-sch40-2in", 4, -0.2);
    const sleeved = (stock: string, over: Partial<Pump>) =>
      drawn({ ...sub, ...over }, line, fitting("v", "sleeve", { stock }));
    expect(severity(drawn(sub, line), "pump-placement")).toBe("stop");
    const cooled = sleeved("pvc-sch40-6in", { diameter: 0.095 });
    expect(severity(cooled, "pump-placement")).toBeUndefined();
    expect(severity(cooled, "motor-cooling")).toBe("good");
    const found = cooled.find((own) => own.code === "motor-cooling");
    if (found?.code !== "motor-cooling") throw new Error("not judged");
    // v = 4 Q / π (D² − d²), with D = 6.065 in, and the flow that just cools it.
    const area = (Math.PI / 4) * ((6.065 * 0.0254) ** 2 - 0.095 ** 2);
    expect(found.facts.needs).toBeCloseTo(0.08 * area, 9);
    // A wide pocket may need 13 to 32 gpm.
    const gpm = ((found.facts.needs ?? 0) * 60) / 3.785411784e-3;
    expect(gpm).toBeGreaterThan(13);
    expect(gpm).toBeLessThan(32);
    expect(severity(sleeved("pvc-sch40-6in", { diameter: 0.17 }), "motor-cooling")).toBe("stop");
    expect(severity(sleeved("pvc-sch40-6in", {}), "motor-cooling")).toBe("unknown");
    const least = { points: one.points.map((p) => ({ ...p, flow: p.flow / 100 })) };
    expect(severity(sleeved("pvc-sch40-6in", { ...least, diameter: 0.095 }), "motor-cooling")).toBe(
      "stop",
    );
  });
});

it("a wall holds up to its rating, with a tenth of it kept in reserve", () => {
  expect(heldBy(0.9e6, 1e6)).toBe("good");
  expect(heldBy(0.9e6 + 1, 1e6)).toBe("watch");
  expect(heldBy(1e6, 1e6)).toBe("watch");
  expect(heldBy(1e6 + 1, 1e6)).toBe("stop");
  expect(heldBy(-1e5, 1e6)).toBe("good");
});
