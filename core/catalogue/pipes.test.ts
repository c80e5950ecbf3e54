import { describe, expect, it } from "vitest";
import {
  boreChangeCoefficient,
  fullyTurbulentFactor,
  lossCoefficient,
  taperCoefficient,
} from "../fitting/resistance.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import { waterAt } from "../fluid/water.ts";
import { darcyWeisbachLoss } from "../pipe/darcyWeisbach.ts";
import { hazenWilliamsLoss } from "../pipe/hazenWilliams.ts";
import { type FittingStock, findFitting } from "./fittings.ts";
import { FAMILIES, findPipeStock, nextSizeUp, PIPE_STOCK, pressureRatingAt } from "./pipes.ts";

const INCH = 0.0254;
const PSI = 6894.757;

describe("pipe stock", () => {
  it("holds at least forty sizes, each with a bore, a source and an id of its own", () => {
    expect(PIPE_STOCK.length).toBeGreaterThanOrEqual(40);
    expect(new Set(PIPE_STOCK.map((s) => s.id)).size).toBe(PIPE_STOCK.length);
    for (const stock of PIPE_STOCK) {
      expect(stock.bore).toBeGreaterThan(0.005);
      expect(stock.bore).toBeLessThan(stock.outsideDiameter ?? 0.2);
      expect(stock.source.length).toBeGreaterThan(10);
    }
  });

  // Inside diameters as the schedule 40 tables print them (ASME B36.10M, from memory).
  it.each([
    ["pvc-sch40-1-2in", 0.622],
    ["pvc-sch40-1in", 1.049],
    ["pvc-sch40-1-1-2in", 1.61],
    ["pvc-sch40-2in", 2.067],
    ["steel-sch40-3in", 3.068],
    ["steel-sch40-4in", 4.026],
    ["pvc-sch80-2in", 1.939],
    ["steel-sch80-1in", 0.957],
    ["copper-l-3-4in", 0.785],
    ["pe-sidr15-1-1-4in", 1.38],
  ])("%s is %f in inside", (id, inches) => {
    expect((findPipeStock(id)?.bore ?? 0) / INCH).toBeCloseTo(inches, 3);
  });

  // The two schools describe one pipe: at 1.5 m/s in the bores a family is laid in, new and old alike.
  it.each(Object.entries(FAMILIES))("%s: ε and C say the same of it", (name, { surfaces }) => {
    const water = waterAt(288.15);
    const bores = PIPE_STOCK.filter(
      ({ family, bore }) => family === name && bore > 0.015 && bore < 0.12,
    );
    for (const { roughness, hazenWilliamsC } of Object.values(surfaces)) {
      const ratios = bores.map(({ bore }) => {
        const run = { length: 100, bore, roughness, hazenWilliamsC };
        const flow = 1.5 * (Math.PI / 4) * bore ** 2;
        return hazenWilliamsLoss(run, flow) / darcyWeisbachLoss(run, flow, water);
      });
      const mean = ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
      expect(Math.abs(mean - 1)).toBeLessThan(0.08);
    }
    expect(surfaces.aged.roughness).toBeGreaterThan(surfaces.new.roughness);
    expect(surfaces.aged.hazenWilliamsC).toBeLessThan(surfaces.new.hazenWilliamsC);
  });

  it("metric plastic has its mean bore, not the widest its standard lets through", () => {
    for (const [id, outside, wall] of [
      ["pe100-sdr11-63mm", 63, 5.8],
      ["pvc-u-pn16-63mm", 63, 4.7],
    ] as const) {
      const bore = (findPipeStock(id)?.bore ?? 0) * 1000;
      expect(bore).toBeLessThan(outside - 2 * wall);
      expect(bore).toBeGreaterThan(outside - 2 * (1.1 * wall + 0.2));
    }
  });

  it("knows the next size of the same family, and where the family ends", () => {
    const twoInch = findPipeStock("pvc-sch40-2in");
    expect(twoInch && nextSizeUp(twoInch)?.nominal).toBe("2-1/2 in");
    const largest = findPipeStock("lay-flat-6in");
    expect(largest && nextSizeUp(largest)).toBeUndefined();
  });

  it("takes the rating down with temperature and promises nothing beyond the table", () => {
    const pipe = findPipeStock("pvc-sch40-2in");
    if (!pipe) throw new Error("stock row missing");
    expect((pressureRatingAt(pipe, 296.15) ?? 0) / PSI).toBeCloseTo(280, 1);
    expect((pressureRatingAt(pipe, 311.15) ?? 0) / PSI).toBeCloseTo(280 * 0.62, 1);
    expect(pressureRatingAt(pipe, 340)).toBeUndefined();
    const wellPipe = findPipeStock("pe-sidr7-1in");
    expect(((wellPipe && pressureRatingAt(wellPipe, 290)) ?? 0) / PSI).toBeCloseTo(200, 4);
  });
});

describe("fittings", () => {
  it("count a barbed coupling by the real bore of its barb", () => {
    // Narrowing to β = 0.8 and Borda–Carnot after it, on the velocity in the hose: worked by hand.
    const barb = findFitting("barbed-coupling");
    const byHand = (0.5 * (1 - 0.64) + (1 - 0.64) ** 2) / 0.8 ** 4;
    expect(barb && lossCoefficient(barb, 0.04)).toBeCloseTo(byHand, 12);
  });

  // f_T by nominal size of clean steel pipe, Crane TP 410 table A-26, from memory.
  it.each([
    [0.622, 0.026],
    [1.049, 0.022],
    [2.067, 0.019],
    [4.026, 0.016],
    [6.065, 0.015],
  ])("f_T in %f in is about %f", (inches, expected) => {
    expect(Math.abs(fullyTurbulentFactor(inches * INCH) - expected)).toBeLessThan(0.0007);
  });

  // K values worked in Crane TP 410 for 2 in schedule 40 (f_T 0.019), from memory.
  it.each([
    ["elbow-90", 0.57],
    ["elbow-45", 0.3],
    ["tee-branch", 1.14],
    ["gate-valve", 0.15],
    ["check-swing", 1.9],
    ["globe-valve", 6.46],
  ])("%s in 2 in has K about %f", (id, expected) => {
    const fitting = findFitting(id);
    const k = fitting ? lossCoefficient(fitting, 2.067 * INCH) : 0;
    expect(Math.abs(k / expected - 1)).toBeLessThan(0.04);
  });

  it("takes more the further a valve is shut, and nothing over its open loss when open", () => {
    for (const id of ["gate-valve", "ball-valve", "globe-valve", "angle-valve"]) {
      const valve = findFitting(id) as FittingStock;
      const steps = [1, 0.9, 0.75, 0.6, 0.5, 0.4, 0.25, 0.1, 0.02];
      const extra = steps.map((opening) => throttleCoefficient(valve, 0.05, opening));
      expect(extra[0]).toBe(0);
      expect(extra).toEqual(extra.toSorted((a, b) => a - b));
      expect(throttleCoefficient(valve, 0.05, 0)).toBe(Number.POSITIVE_INFINITY);
    }
    // Towards shut the resistance grows like 1/opening²: a gate one per cent open passes next to nothing.
    for (const id of ["gate-valve", "ball-valve", "globe-valve"]) {
      const valve = findFitting(id) as FittingStock;
      const k = (opening: number) => throttleCoefficient(valve, 0.05, opening);
      expect(k(0.01) / k(0.02)).toBeCloseTo(4, 1);
      expect(k(0.01)).toBeGreaterThan(5000);
    }
    // Perry's handbook, from memory: a gate valve half open has K 4.5, a quarter open 24.
    const gate = findFitting("gate-valve") as FittingStock;
    const k = (opening: number) =>
      lossCoefficient(gate, 0.05) + throttleCoefficient(gate, 0.05, opening);
    expect(Math.abs(k(0.5) / 4.5 - 1)).toBeLessThan(0.05);
    expect(Math.abs(k(0.25) / 24 - 1)).toBeLessThan(0.05);
  });

  it("eases a change of bore with a tapered reducer, never beyond the sudden one", () => {
    // β² = 1/4 and sin 10°: 2.6 · 0.17365 · 0.75² widening, 0.8 · 0.17365 · 0.75 narrowing, by hand.
    expect(taperCoefficient(0.05, 0.1, 20)).toBeCloseTo(0.25396, 4);
    expect(taperCoefficient(0.1, 0.05, 20)).toBeCloseTo(0.10419, 4);
    for (const angle of [5, 20, 45, 90]) {
      expect(taperCoefficient(0.05, 0.1, angle)).toBeLessThanOrEqual(
        boreChangeCoefficient(0.05, 0.1),
      );
    }
  });

  it("loses Borda–Carnot head in a widening, and nothing without a change", () => {
    expect(boreChangeCoefficient(0.05, 0.1)).toBeCloseTo(0.5625, 10);
    expect(boreChangeCoefficient(0.1, 0.05)).toBeCloseTo(0.375, 10);
    expect(boreChangeCoefficient(0.05, 0.05)).toBe(0);
  });
});
