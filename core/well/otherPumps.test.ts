import { describe, expect, it } from "vitest";
import { findPipeStock, type PipeStock } from "../catalogue/pipes.ts";
import { cableRows, cheapestCable } from "../driving/cableChoice.ts";
import { type Conductor, findConductor } from "../driving/conductor.ts";
import { FOOT, GALLON, INCH, PSI } from "../quantity/constants.ts";
import { airLift, pulsePump, startPressure } from "./airLift.ts";
import { cylinderArea, handFlow, handleForce } from "./handPump.ts";
import { hanging, ROPE_FACTOR } from "./hanging.ts";

describe("a cable down a well", () => {
  const twelve = findConductor("awg-12") as Conductor;
  const asked = {
    ...{ run: 0, down: 350 * FOOT, heavier: true, current: 6.5, starting: 30 },
    ...{ volts: 240, phase: 1 as const, breaker: 15, typed: new Map() },
  };

  it("takes what NEC chapter 9 table 8 gives, from memory: 12 AWG 9.0 V, and 10 AWG over 400 ft 6.4 V", () => {
    const row = (id: string, down: number) =>
      cableRows(twelve, { ...asked, down }).find(({ conductor }) => conductor.id === id);
    expect(row("awg-12", 350 * FOOT)?.drop).toBeCloseTo(9.0, 1);
    expect(row("awg-12", 350 * FOOT)?.part).toBeCloseTo(0.038, 3);
    expect(row("awg-10", 400 * FOOT)?.drop).toBeCloseTo(6.4, 1);
    expect(row("awg-10", 400 * FOOT)?.part).toBeCloseTo(0.027, 3);
  });

  // One size heavier underground: common practice, no source.
  it("lies one size heavier where it is buried, and the cheapest that passes is the one answer", () => {
    const rows = cableRows(twelve, { ...asked, run: 100 * FOOT });
    const own = rows.find(({ conductor }) => conductor.id === "awg-12");
    expect(own?.ground.id).toBe("awg-10");
    const choice = cheapestCable(rows);
    const cheapest = choice.kind === "found" ? choice.row : undefined;
    expect(cheapest?.assumed).toEqual(["ampacity"]);
    expect(cheapest?.ampacity).toBeGreaterThanOrEqual(15);
    for (const row of rows) {
      if (row.fails.length === 0) expect(row.price).toBeGreaterThanOrEqual(cheapest?.price ?? 0);
    }
    // What carries less than its breaker lets through is no answer, however little it drops.
    const typed = new Map([[cheapest?.conductor.id ?? "", { ampacity: 10 }]]);
    const next = cheapestCable(cableRows(twelve, { ...asked, run: 100 * FOOT, typed }));
    expect(next.kind === "found" && next.row.price).toBeGreaterThan(cheapest?.price ?? 0);
    const enough = new Map([[cheapest?.conductor.id ?? "", { ampacity: 15 }]]);
    expect(
      cheapestCable(cableRows(twelve, { ...asked, run: 100 * FOOT, typed: enough })),
    ).toMatchObject({
      kind: "found",
      row: { conductor: { id: cheapest?.conductor.id }, assumed: [] },
    });
    // Without a breaker it carries a quarter over the running current: 8.125 A, and 7 A of 18 AWG are too few.
    const unsaid = cableRows(twelve, { ...asked, down: 1, starting: 7, breaker: undefined });
    expect(unsaid.map(({ fails }) => fails.includes("ampacity")).slice(0, 3)).toEqual([
      true,
      false,
      false,
    ]);
    expect(unsaid[0]?.carries).toBeCloseTo(8.125, 12);
  });

  it("is none where nothing starts the motor", () => {
    const far = cableRows(twelve, { ...asked, down: 60_000, starting: 300 });
    expect(cheapestCable(far)).toEqual({ kind: "none" });
  });
});

describe("pumps without a motor in the well", () => {
  it("by hand: what the piston sweeps, and ρgHA over the leverage", () => {
    const pump = { bore: 2.5 * INCH, stroke: 6 * INCH, strokesPerMinute: 40, leverage: 6 };
    // Swept by hand: π/4 · 2.5² · 6 in³ is 29.45 in³, 40 a minute are 5.1 gpm.
    expect((handFlow({ ...pump, volumetric: 1 }) / GALLON) * 60).toBeCloseTo(
      (29.452 * 40) / 231,
      2,
    );
    expect(handleForce(1000, 20, cylinderArea(0.0635), 6, 0)).toBeCloseTo(
      (1000 * 9.80665 * 20 * 0.003167) / 6,
      0,
    );
  });

  // By hand: π/4 · 1.38² in² · 12 in; the bore of 1-1/4 in schedule 40 from memory.
  it("is primed with 0.078 gal for each foot of 1-1/4 in pipe", () => {
    const bore = findPipeStock("steel-sch40-1-1-4in")?.bore ?? 0;
    expect((cylinderArea(bore) * FOOT) / GALLON).toBeCloseTo(0.078, 3);
  });

  // By hand: 2.31 ft to a psi; what valves and hose of such a pump take is common practice, no source.
  it("by air: 1.75 psi holds 4.04 ft, and it starts, lifts and gives out where it should", () => {
    expect(startPressure(1000, 4.04 * FOOT) / PSI).toBeCloseTo(1.75, 2);
    const air = { flow: 1e-3, pressure: 1.5e5 };
    const lifts = airLift(6, 9, 8, air, 1000);
    expect(lifts.kind).toBe("lifts");
    if (lifts.kind !== "lifts") return;
    // Never more than all the air's isothermal work.
    const work = 101_325 * air.flow * Math.log((101_325 + 9806.65 * 8) / 101_325);
    expect(lifts.flow * 9806.65 * 6).toBeLessThan(0.65 * work);
    expect(lifts.flow * 9806.65 * 6).toBeGreaterThan(0.37 * work);
    expect(airLift(6, 20, 8, air, 1000)).toMatchObject({ kind: "will-not-start" });
    // It starts on the static depth alone; what the lift takes is held against it once air runs.
    const just = (pressure: number) => airLift(6, 9, 9, { flow: 1e-3, pressure }, 1000);
    const depth = 1000 * 9.80665 * 9;
    expect(just(depth - 1)).toMatchObject({ kind: "will-not-start", needs: depth });
    expect(just(depth + 1)).toMatchObject({ kind: "will-not-run", needs: depth + 7000 });
    expect(just(depth + 7001).kind).toBe("lifts");
    expect(airLift(20, 9, 8, air, 1000)).toMatchObject({ kind: "too-little-water" });
    // Deeper lifts cost more for each litre.
    const deeper = airLift(10, 9, 8, air, 1000);
    expect(deeper.kind === "lifts" && deeper.perVolume).toBeGreaterThan(lifts.perVolume);
    const pulse = pulsePump(1e-3, 10, 4);
    expect([pulse.flow, pulse.perVolume]).toEqual([1e-4, 40_000]);
  });
});

describe("what hangs in a well", () => {
  it("is the sum of its parts, heavier full, and a rope breaks at five times that", () => {
    const pipe = findPipeStock("pe-sidr7-1in") as PipeStock;
    const {
      dry,
      full,
      pipe: own,
      water,
      cable,
      pump,
      rope,
      pull,
    } = hanging(pipe, 60, 15, 0.25, 1000);
    expect(dry).toBeCloseTo(own + cable + pump, 9);
    expect(full - dry).toBeCloseTo(water, 9);
    expect(water).toBeCloseTo((Math.PI / 4) * 0.02664 ** 2 * 60 * 1000, 0);
    expect(rope).toBe(ROPE_FACTOR * full);
    expect(pull?.stress).toBeGreaterThan(0);
  });
});
