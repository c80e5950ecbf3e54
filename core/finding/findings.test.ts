import { describe, expect, it } from "vitest";
import type { Conductor } from "../driving/conductor.ts";
import type { MotorAtWork } from "../driving/motor.ts";
import type { Answers } from "../simulation/answers.ts";
import { countOf } from "./count.ts";
import {
  type Context,
  FINDINGS,
  type Finding,
  type FindingCode,
  findingsIn,
  type GivenIn,
} from "./registry.ts";
import type { RunFacts } from "./run.ts";

const found = <X extends Context>(of: X, given: GivenIn<X>) =>
  findingsIn(of, given) as unknown as Finding[];
const severities = <X extends Context>(of: X, given: GivenIn<X>) =>
  found(of, given).map(({ code, severity }) => `${code} ${severity}`);

describe("a motor and what feeds it", () => {
  const motor: MotorAtWork = {
    ...{ power: 1000, current: 5, currentFrom: "plate", powerFactor: 0.85 },
    starting: { current: 30, assumed: true },
  };
  const cable = { drop: 5, atMotor: 225, startDrop: 40, startPart: 0.83 };

  it("says nothing of what is not there", () => {
    expect(severities("motor", motor)).toEqual([]);
  });

  it("draws more than its plate from two parts in a hundred on", () => {
    expect(severities("motor", { ...motor, ofPlate: 1.02 })).toEqual([]);
    expect(severities("motor", { ...motor, ofPlate: 1.021 })).toEqual(["motor-overloaded watch"]);
  });

  it("a cord is good to 3 %, watched to 5 %, then stops; a start needs three quarters", () => {
    const at = (part: number, startPart = 0.83) =>
      severities("motor", { ...motor, cable: { ...cable, part, startPart } });
    expect(at(0.03)).toEqual(["cord-drop good", "start-voltage good"]);
    expect(at(0.031)).toEqual(["cord-drop watch", "start-voltage good"]);
    expect(at(0.05)).toEqual(["cord-drop watch", "start-voltage good"]);
    expect(at(0.051)).toEqual(["cord-drop stop", "start-voltage good"]);
    expect(at(0.02, 0.75)).toEqual(["cord-drop good", "start-voltage good"]);
    expect(at(0.02, 0.749)).toEqual(["cord-drop good", "start-voltage stop"]);
  });

  it("names the cord that would do, where one would", () => {
    const enough = { label: "4 mm²" } as Conductor;
    const [drop] = found("motor", { ...motor, cable: { ...cable, part: 0.06, enough } });
    expect(drop).toMatchObject({ value: 0.06, limit: 0.05, enough });
    const [none] = found("motor", { ...motor, cable: { ...cable, part: 0.06 } });
    expect(none).not.toHaveProperty("enough");
  });

  it("a breaker and a generator bear it or stop it", () => {
    const breaker = { rating: 16, part: 0.8, fits: true };
    expect(severities("motor", { ...motor, breaker })).toEqual(["breaker-carries good"]);
    expect(severities("motor", { ...motor, breaker: { ...breaker, fits: false } })).toEqual([
      "breaker-carries stop",
    ]);
    const generator = { power: 3000, asked: 4400, bears: true };
    const [own] = found("motor", { ...motor, generator });
    expect(own).toMatchObject({ severity: "good", value: 4400, limit: 4500 });
    expect(severities("motor", { ...motor, generator: { ...generator, bears: false } })).toEqual([
      "generator-starts stop",
    ]);
  });

  it("an engine holds its speed, or sags", () => {
    expect(severities("engine", { sag: 0.995 })).toEqual(["engine-sags good"]);
    expect(severities("engine", { sag: 0.994 })).toEqual(["engine-sags watch"]);
  });
});

describe("the drains of a yard", () => {
  const run = { flow: 4e-3, capacity: 5e-3, surcharge: 0, storage: 0.2 };

  it("a pipe is good to four fifths, watched until it is full, then backs up", () => {
    const at = (flow: number) => severities("yard-run", { ...run, flow });
    expect([at(4e-3), at(4.01e-3), at(5e-3), at(5.01e-3)].flat()).toEqual([
      ...["yard-pipe good", "yard-pipe watch", "yard-pipe watch", "yard-pipe stop"],
    ]);
  });

  it("a grate takes what comes to it, or the rest runs past", () => {
    const grate = { capacity: 2e-3, comes: 2e-3, ponded: 0.01, blocked: 0.5 };
    expect(severities("yard-run", { ...run, grate })[1]).toBe("yard-grate good");
    expect(severities("yard-run", { ...run, grate: { ...grate, comes: 2.01e-3 } })[1]).toBe(
      "yard-grate stop",
    );
  });
});

describe("a run over time", () => {
  const answers: Answers = {
    ...{ greatestInflow: 1e-3, moved: 1, cameIn: 1, ranBack: 0, runTime: 60, starts: 3 },
    balance: { of: "source", start: 1, came: 1, over: 0, others: 0, left: 1 },
    uplift: [],
  };
  const run = (over: Partial<RunFacts> = {}, of: Partial<Answers> = {}): string[] =>
    severities("run", {
      ...{ answers: { ...answers, ...of }, byHand: false, hasAlarm: true },
      ...{ overflows: false, pumps: 2, drained: 0, ...over },
    });

  it("that nothing is wrong with says nothing", () => {
    expect(run()).toEqual([]);
  });

  it("is broken off, gets wet, draws the source low, runs over", () => {
    expect(run({ brokenOffAt: 60 })).toEqual(["too-many-events stop"]);
    expect(run({}, { wet: { at: 60, lasts: 30, spilled: 0.1 } })).toEqual(["floor-wet stop"]);
    expect(run({}, { sourceLow: 60 })).toEqual(["source-low watch"]);
    const full = { at: 60, room: 1 };
    expect(run({}, { full: { ...full, spilled: 0 } })).toEqual([]);
    expect(run({}, { full: { ...full, spilled: 0.01 } })).toEqual(["receiver-full watch"]);
  });

  it("pumped by hand is dry, still falling, or never dry", () => {
    const notDry = { level: 0.4, after: 3600, inflow: 1e-3, drawn: 1.002e-3 };
    expect(run({ notDry })).toEqual(["not-dry-yet watch"]);
    expect(run({ notDry: { ...notDry, drawn: 1.0009e-3 } })).toEqual(["never-dry stop"]);
  });

  it("runs back by more than a bucket beyond what only drains, and only by hand", () => {
    const back = { ranBack: 0.52 };
    expect(run({ byHand: true, drained: 0.5 }, back)).toEqual(["runs-back watch"]);
    expect(run({ byHand: true, drained: 0.51 }, back)).toEqual([]);
    expect(run({ byHand: false, drained: 0.5 }, back)).toEqual([]);
  });

  it("of a pit with one pump, no alarm or a flat battery says so", () => {
    const pit = { lead: -0.5 };
    expect(run(pit)).toEqual([]);
    expect(run({ ...pit, hasAlarm: false })).toEqual(["no-alarm watch"]);
    expect(run({ hasAlarm: false })).toEqual([]);
    expect(run({ ...pit, pumps: 1 })).toEqual(["one-pump watch"]);
    expect(run({ ...pit, pumps: 1, overflows: true })).toEqual([]);
    const battery = { used: 10, ran: 60 };
    expect(run({}, { battery })).toEqual([]);
    expect(run({}, { battery: { ...battery, flatAt: 600 } })).toEqual(["battery-flat watch"]);
  });

  it("starts too often past what the motor bears, and says by how much a float would be raised", () => {
    const switching = (startsPerHour: number) => ({
      ...{ pump: "pump", worst: { startsPerHour } as never, most: 9, volume: 0.05 },
      ...{ fallsBack: 0, turns: 1, limit: 20, assumed: true, floatAt: -0.2 },
    });
    expect(run({ lead: -0.5 }, { switching: switching(20) })).toEqual([]);
    expect(run({ lead: -0.5 }, { switching: switching(20.1) })).toEqual(["starts-too-often watch"]);
    const [own] = found("run", {
      ...{ answers: { ...answers, switching: switching(25) }, byHand: false, hasAlarm: true },
      ...{ overflows: false, pumps: 2, drained: 0, lead: -0.5 },
    });
    expect(own).toMatchObject({ starts: 25, limit: 20 });
    expect((own as { raiseBy?: number }).raiseBy).toBeCloseTo(0.3, 12);
  });

  it("keeps up or falls behind by what comes in at its end", () => {
    const atEnd = { under: 0.3, inflow: 2e-3, room: 0.6 };
    expect(run({ atEnd }, { survives: 2e-3 })).toEqual(["keeps-up good"]);
    expect(run({ atEnd: { ...atEnd, inflow: 2.1e-3 } }, { survives: 2e-3 })).toEqual([
      "falls-behind stop",
    ]);
    const [own] = found("run", {
      ...{ answers: { ...answers, survives: 1e-3 }, byHand: false, hasAlarm: true },
      ...{ overflows: false, pumps: 2, drained: 0, atEnd },
    });
    expect((own as { wetIn?: number }).wetIn).toBeCloseTo(600, 9);
  });

  it("a shell floats up, holds, or nobody can say", () => {
    const uplift = { force: 1001, holding: 1000 };
    expect(severities("uplift", { body: 1, kind: "known", uplift })).toEqual(["floats-up stop"]);
    expect(
      severities("uplift", { body: 1, kind: "known", uplift: { ...uplift, force: 1000 } }),
    ).toEqual([]);
    expect(severities("uplift", { body: 1, kind: "cannot" })).toEqual([]);
    const [own] = found("uplift", { body: 2, kind: "not-known", lacks: ["mass"] });
    expect(own).toMatchObject({ severity: "unknown", body: 2, lacks: ["mass"] });
  });

  it("trouble stops, or is only worth a word", () => {
    const trouble = { at: "bodies.0.shape", code: "no-area" } as const;
    expect(severities("run-trouble", { ...trouble, stops: true })).toEqual(["run-trouble stop"]);
    expect(severities("run-trouble", { ...trouble, stops: false })).toEqual(["run-trouble watch"]);
  });
});

describe("the registry", () => {
  it("names a source for every check, and tells them in its own order", () => {
    for (const [code, { source, context }] of Object.entries(FINDINGS)) {
      expect([code, source.length > 10, context.length > 0]).toEqual([code, true, true]);
    }
    const order = Object.keys(FINDINGS) as FindingCode[];
    const tank = found("tank", {
      ...{ tank: { volume: 0.1, preCharge: 3e5, cutIn: 2e5 }, overCharged: true },
      ...{ upsideDown: false, startsLimit: 20 },
      switched: { runsOn: false, shortest: 30, worst: { startsPerHour: 30, use: 1e-4 } },
    }).map(({ code }) => code);
    expect(tank).toEqual(["tank-over-charged", "tank-run", "tank-starts"]);
    expect(tank).toEqual(tank.toSorted((a, b) => order.indexOf(a) - order.indexOf(b)));
  });

  it("counts what is of one severity, of the line and beside it", () => {
    const beside = found("tap", { least: 0 });
    const line = [{ severity: "stop" }, { severity: "watch" }] as never[];
    expect(countOf({ line, beside }, "stop")).toBe(2);
    expect(countOf({ line, beside }, "watch")).toBe(1);
    expect(countOf({ line: [], beside: [] }, "stop")).toBe(0);
  });
});

describe("what cannot be told yet", () => {
  it("names the first thing that is missing, and nothing where nothing is", () => {
    expect(findingsIn("cable-motor", { lacks: [] })).toEqual([]);
    expect(findingsIn("cable-motor", { lacks: ["volts", "current"] })).toMatchObject([
      { severity: "unknown", lack: "volts" },
    ]);
  });

  it("of a well's day stops where no water reaches the pump, and is not known where none runs", () => {
    const day = { noWater: false, runs: false, draws: 40, volume: 0.6 };
    const found = (by: Partial<typeof day>) => findingsIn("well-day", { ...day, ...by });
    expect(found({})).toMatchObject([{ severity: "unknown", why: "no-pump", draws: 40 }]);
    expect(found({ noWater: true })).toMatchObject([{ severity: "stop", why: "no-water" }]);
    expect(found({ runs: true })).toEqual([]);
  });

  it("power that is less than the water's own is watched", () => {
    expect(findingsIn("speeds", { tooLittle: true })).toMatchObject([{ severity: "watch" }]);
    expect(findingsIn("speeds", { tooLittle: false })).toEqual([]);
  });
});
