import { describe, expect, it } from "vitest";
import { GALLON, PSI } from "../quantity/constants.ts";
import {
  mostStarts,
  preChargeBy,
  startsOverUse,
  tankCycle,
  tankFor,
  tankGives,
  throughValve,
  VALVE_BAND,
} from "./pressureTank.ts";

const gallons = (...[volume, preCharge, on, off]: [number, number, number, number]) =>
  tankGives(volume * GALLON, preCharge * PSI, on * PSI, off * PSI) / GALLON;

describe("a pressure tank", () => {
  // 2 or 5 psi under the cut-in: common practice, no source.
  it("gives what Boyle's law says, by either school of pre-charge", () => {
    expect(preChargeBy("2-psi-under", 30 * PSI) / PSI).toBeCloseTo(28, 9);
    expect(preChargeBy("5-psi-under", 30 * PSI) / PSI).toBeCloseTo(25, 9);
    expect(gallons(20, 28, 30, 50)).toBeCloseTo(5.9, 1);
    expect(gallons(20, 25, 30, 50)).toBeCloseTo(5.5, 1);
    expect(gallons(20, 38, 40, 60)).toBeCloseTo(5.2, 1);
    // By hand: 20 × 42.7 (1/44.7 − 1/64.7), psi absolute.
    expect(gallons(20, 28, 30, 50)).toBeCloseTo(20 * 42.696 * (1 / 44.696 - 1 / 64.696), 4);
    expect(tankFor(5.9 * GALLON, 28 * PSI, 30 * PSI, 50 * PSI) / GALLON).toBeCloseTo(20, 0);
    // With more air than its cut-in it is empty before the pump starts.
    expect(gallons(20, 40, 30, 50)).toBeCloseTo(gallons(20, 40, 40, 50), 9);
  });

  const tank = { volume: 0.1, preCharge: 28 * PSI, cutIn: 30 * PSI, cutOut: 50 * PSI };

  // By hand: filling V/(Q − q) and drawing V/q are shortest together at q = Q/2.
  it("starts most often at half of a flow that does not change: 4V/Q", () => {
    const over = startsOverUse(tank, () => 1e-3);
    const gives = tankGives(tank.volume, tank.preCharge, tank.cutIn, tank.cutOut);
    const worst = mostStarts(over);
    expect(worst?.use).toBeCloseTo(0.5e-3, 9);
    expect(worst?.startsPerHour).toBeCloseTo(3600 / ((4 * gives) / 1e-3), 6);
    expect(over[0]?.startsPerHour).toBe(0);
    expect(over.at(-1)?.run).toBe(Number.POSITIVE_INFINITY);
  });

  it("runs on where the use takes all there is at some pressure below its cut-out", () => {
    const falling = (p: number) => 1e-3 * (1 - p / (60 * PSI));
    expect(tankCycle(tank, falling, 0.1e-3).kind).toBe("cycles");
    const on = tankCycle(tank, falling, 0.3e-3);
    expect(on).toMatchObject({ kind: "runs-on" });
    // Straight down to nothing at 60 psi: 0.3 is left at 42.
    expect(on.kind === "runs-on" && on.pressure / PSI).toBeCloseTo(42, 0);
  });

  it("behind a valve sees its least flow at the pressure that is held, and all of it below", () => {
    const valve = { pressure: 45 * PSI, leastFlow: 6e-5 };
    expect(throughValve(valve, 1e-3, 45 * PSI)).toBe(6e-5);
    expect(throughValve(valve, 1e-3, 44 * PSI - VALVE_BAND)).toBe(1e-3);
    expect(throughValve(valve, 1e-3, 45 * PSI - VALVE_BAND / 2)).toBeCloseTo(5.3e-4, 9);
    expect(throughValve(valve, 3e-5, 45 * PSI)).toBe(3e-5);
    const flowAt = (p: number) => throughValve(valve, 1e-3, p);
    // More than the least flow: it runs for as long as the water does.
    expect(tankCycle(tank, flowAt, 2e-4).kind).toBe("runs-on");
    expect(tankCycle(tank, flowAt, 3e-5).kind).toBe("cycles");
  });
});
