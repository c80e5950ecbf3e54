import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { staticHead } from "../hydraulics/boundary.ts";
import { lineModel } from "../hydraulics/solveLine.ts";
import { systemCurve } from "../hydraulics/systemCurve.ts";
import { affinityMiss, pumpCurve } from "../pump/curve.ts";
import { fromChartRows, fromSticker, fromThreePoints } from "../pump/curveFrom.ts";
import type { Pump } from "../pump/pump.ts";
import { FOOT, GALLON, GRAVITY, ZERO_CELSIUS } from "../quantity/constants.ts";
import { levels, lineOf, open, pipe, set, tablePump } from "../test/fixtures.ts";
import { atTemperature, CONDUCTORS, findConductor, thinnestFor, voltageDrop } from "./conductor.ts";
import { derating, engineAtWork, FUEL_PER_JOULE } from "./engine.ts";
import { costOfVolume, currentOf, inputPower, motorAtWork, sweptPower } from "./motor.ts";
import { fitSweep } from "./sweepFit.ts";
import { speedSheet } from "./variableSpeed.ts";

const conductor = (id: string) => {
  const found = findConductor(id);
  if (!found) throw new Error(id);
  return found;
};

describe("a cable", () => {
  it("loses what NEC chapter 9 table 8 gives, from memory: 10 AWG 400 ft and 12 AWG 350 ft at 6.5 A and 240 V", () => {
    const drop = (id: string, feet: number) =>
      voltageDrop(feet * FOOT, 6.5, conductor(id).resistance);
    expect(drop("awg-10", 400)).toBeCloseTo(6.4, 1);
    expect(drop("awg-10", 400) / 240).toBeCloseTo(0.027, 3);
    expect(drop("awg-12", 350)).toBeCloseTo(9, 1);
    expect(drop("awg-12", 350) / 240).toBeCloseTo(0.038, 3);
    // Three phases lose √3/2 of it.
    const r = conductor("awg-12").resistance;
    expect(voltageDrop(100, 6, r, 3) / voltageDrop(100, 6, r)).toBeCloseTo(Math.sqrt(3) / 2, 12);
  });

  it("of a square millimetre is told at 20 °C and reckoned warm: +0.393 % a degree", () => {
    expect(atTemperature(7.98, 20, 70)).toBeCloseTo(7.98 * 1.1965, 9);
    expect(atTemperature(atTemperature(3, 20, 75), 75, 20)).toBeCloseTo(3, 12);
    expect(conductor("mm2-2-5").resistance).toBeCloseTo((7.98 * 1.1965) / 1000, 9);
    // ρ L / A of copper: 0.0172 Ω mm²/m at 20 °C, within the strands and tin of a flexible one.
    for (const { id, resistance, strands } of CONDUCTORS) {
      if (!id.startsWith("mm2")) continue;
      const area = Number(id.slice(id.indexOf("-") + 1).replace("-", "."));
      const plain = (0.017241 * 1.1965) / area;
      expect(resistance / plain).toBeGreaterThan(1);
      expect(resistance / plain).toBeLessThan(1.2);
      // A flexible one has the thinner strands and loses no less, but for a size where both are held to one.
      if (strands === 5) {
        expect(resistance / conductor(id.replace("mm2", "mm2stranded")).resistance).toBeGreaterThan(
          0.995,
        );
      }
    }
    // Three gauges down halve the area.
    expect(conductor("awg-14").resistance / conductor("awg-8").resistance).toBeCloseTo(4, 0);
  });

  it("that is enough is the thinnest that is, and none thinner", () => {
    const own = conductor("awg-12");
    const enough = thinnestFor(own, 120, 8, 7.2);
    if (!enough) throw new Error("none");
    expect(voltageDrop(120, 8, enough.resistance)).toBeLessThanOrEqual(7.2);
    const thinner = CONDUCTORS[CONDUCTORS.findIndex(({ id }) => id === enough.id) - 1];
    expect(voltageDrop(120, 8, thinner?.resistance ?? 0)).toBeGreaterThan(7.2);
    expect(thinnestFor(own, 1e5, 100, 1)).toBeUndefined();
  });
});

describe("a motor", () => {
  it("takes V I pf, and √3 times that on three phases; horsepower is gpm·ft/3960", () => {
    expect(inputPower(230, 5, 0.8)).toBeCloseTo(920, 9);
    expect(inputPower(400, 5, 0.8, 3)).toBeCloseTo(2771.3, 1);
    expect(currentOf(2771.3, 400, 0.8, 3)).toBeCloseTo(5, 4);
    // 60 gpm by 66 ft is 1 hp, in fresh water at 62.4 lb/ft³ to the digits of the rule.
    const watts = 999 * GRAVITY * ((60 * GALLON) / 60) * 66 * FOOT;
    expect(watts / 745.7).toBeCloseTo((60 * 66) / 3960, 2);
    expect(costOfVolume(1000, 0.001, 0.3 / 3.6e6)).toBeCloseTo(0.0833, 4);
  });

  const pump = tablePump(
    "m",
    [0, 2, 4],
    (q) => ({ head: 20 - q * q, power: 500 + 100 * q, current: 3 + 0.5 * q }),
    { electric: { volts: 230, phase: 1, runningCurrent: 5, startingCurrent: 28 } },
  );
  it("draws what was published at its flow, and that says its power factor", () => {
    const at = motorAtWork(pump, { flow: 0.002, power: 700 });
    expect(at?.current).toBeCloseTo(4, 9);
    expect(at?.currentFrom).toBe("points");
    expect(at?.powerFactor).toBeCloseTo(700 / (230 * 4), 9);
    expect(at?.ofPlate).toBeCloseTo(0.8, 9);
    // Slowed down, the published current is not its own any more.
    expect(motorAtWork(pump, { flow: 0.002, power: 300, speedRatio: 0.7 })?.currentFrom).toBe(
      "usual",
    );
    expect(motorAtWork({ points: pump.points }, { flow: 0.002, power: 700 })).toBeUndefined();
  });

  it("starts only where its cable leaves it three quarters of its voltage, whatever it loses running", () => {
    const fed = (id: string, length: number) =>
      motorAtWork(
        pump,
        { flow: 0.002, power: 700 },
        { volts: 230, cable: { length, conductor: conductor(id) } },
      )?.cable;
    const thin = fed("mm2-1-5", 100);
    const r = conductor("mm2-1-5").resistance;
    expect(thin?.drop).toBeCloseTo(2 * 100 * 4 * r, 9);
    expect(thin?.startPart).toBeCloseTo(1 - (2 * 100 * 28 * r) / 230, 9);
    const enough = thin?.enough;
    if (!enough) throw new Error("none");
    const better = fed(enough.id, 100);
    expect(better?.part).toBeLessThanOrEqual(0.03);
    expect(better?.startPart).toBeGreaterThanOrEqual(0.75);
  });

  it("is more than a breaker bears past four fifths of it, and than a generator past its surge", () => {
    const fed = (breaker: number, generator: number) =>
      motorAtWork(pump, { flow: 0.002, power: 700 }, { breaker, generator });
    expect(fed(5.01, 1e4)?.breaker?.fits).toBe(true);
    expect(fed(4.99, 1e4)?.breaker?.fits).toBe(false);
    const asked = 230 * 28;
    expect(fed(16, asked / 1.5 + 1)?.generator?.bears).toBe(true);
    expect(fed(16, asked / 1.5 - 1)?.generator?.bears).toBe(false);
  });
});

describe("an engine", () => {
  it("loses 3.5 % of its power for 300 m and 1 % for 5.5 °C over 25", () => {
    expect(derating(0, ZERO_CELSIUS + 20)).toBe(1);
    expect(derating(600, ZERO_CELSIUS + 25)).toBeCloseTo(0.93, 12);
    expect(derating(300, ZERO_CELSIUS + 36)).toBeCloseTo(0.945, 12);
    expect(derating(20_000, ZERO_CELSIUS + 40)).toBe(0);
  });

  it("holds its speed until the shaft asks for more, and then sags to where the two agree", () => {
    // Shaft power by n³: available P n = S n³ at n = √(P/S).
    expect(engineAtWork(3000, 1, (n) => 2500 * n ** 3).sag).toBe(1);
    expect(engineAtWork(2000, 1, (n) => 2500 * n ** 3).sag).toBeCloseTo(Math.sqrt(0.8), 4);
    expect(engineAtWork(3000, 0.5, (n) => 2500 * n ** 3).sag).toBeCloseTo(Math.sqrt(0.6), 4);
  });

  it("burns a tenth of a gallon an hour for each hp, and its tank lasts by that", () => {
    const { fuel, tankLasts } = engineAtWork(5000, 1, () => 5 * 745.7, GALLON);
    expect((fuel * 3600) / GALLON).toBeCloseTo(0.5, 9);
    expect((tankLasts ?? 0) / 3600).toBeCloseTo(2, 9);
    expect(FUEL_PER_JOULE).toBeGreaterThan(0);
  });
});

describe("a sweep of a drive", () => {
  const sweep = (
    idle: number,
    scale: number,
    exponent: number,
    speeds = [0.3, 0.4, 0.55, 0.7, 0.85, 1],
  ) => speeds.map((speed) => ({ speed, power: idle + scale * speed ** exponent }));

  it("gives back the idle part, the scale and the exponent it was made with", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 50, max: 800, noNaN: true }),
        fc.double({ min: 1.4, max: 3.6, noNaN: true }),
        (idle, scale, exponent) => {
          const found = fitSweep(sweep(idle, scale, exponent));
          if (found.kind !== "fitted") throw new Error(found.kind);
          expect(found.fit.idle).toBeCloseTo(idle, 1);
          expect(found.fit.exponent).toBeCloseTo(exponent, 2);
          expect(found.fit.scale).toBeCloseTo(scale, 1);
        },
      ),
    );
  });

  it("without its idle part would pass for 2.2 to 2.6 where it is 3", () => {
    const found = fitSweep(sweep(7, 193, 3));
    if (found.kind !== "fitted") throw new Error(found.kind);
    expect(found.fit.exponent).toBeCloseTo(3, 3);
    expect(found.fit.plainSlope).toBeGreaterThan(2.2);
    expect(found.fit.plainSlope).toBeLessThan(2.6);
  });

  it("in amps is the power the plate makes of them", () => {
    const plate = { volts: 230, phase: 1 as const, powerFactor: 0.8 };
    expect(sweptPower({ speed: 1000, current: 2 }, plate)).toBeCloseTo(368, 9);
    expect(sweptPower({ speed: 1000, current: 2, power: 300 }, plate)).toBe(300);
    expect(sweptPower({ speed: 1000, current: 2 })).toBeUndefined();
  });

  it("of too few rows, or of speeds too much alike, tells nothing and says why", () => {
    expect(fitSweep(sweep(10, 100, 3, [0.5, 0.7, 1]))).toEqual({ kind: "too-few", rows: 3 });
    expect(fitSweep(sweep(10, 100, 3, [0.8, 0.9, 0.95, 1])).kind).toBe("too-alike");
  });
});

describe("a pump over its speeds", () => {
  const water = { density: 999, specificGravity: 1 };
  const drive = (over: Partial<Pump> = {}) =>
    tablePump(
      "v",
      Array.from({ length: 31 }, (_, i) => i / 5),
      (q) => ({ head: 30 - 30 * (q / 6) ** 2, power: 300 + 150 * q }),
      { speeds: { least: 870, most: 2900 }, ...over },
    );
  const sheet = (lift: number, wanted?: number, pump = drive(), sg = water) => {
    const line = lineOf([set("p", "v"), pipe("d", "pvc-sch40-2in", 30 + lift, lift), open("o")], {
      source: { kind: "open", level: levels(0), intake: -0.5 },
    });
    // A source level with the pump's own height: the lift is the outlet's.
    const ready = lineModel(line, [pump]);
    if (ready.kind === "refused") throw new Error("refused");
    const system = systemCurve(ready, 0, 0.008);
    if (!system) throw new Error("no curve");
    return speedSheet(pump, system, wanted, staticHead(ready.boundaries.normal), sg);
  };

  it("with no lift flow goes with speed and energy for a volume with its square; with a lift it does not", () => {
    const flat = sheet(0.5);
    // From a source at the outlet's height nearly all is friction.
    const rows = flat.rows.filter(({ perVolume }) => perVolume !== undefined);
    const [slow, fast] = [rows[8], rows.at(-1)];
    if (!slow?.flow || !fast?.flow || !slow.perVolume || !fast.perVolume) throw new Error("none");
    expect(slow.flow / fast.flow / (slow.ratio / fast.ratio)).toBeGreaterThan(0.9);
    expect(slow.perVolume / fast.perVolume).toBeLessThan(0.6);
    const steep = sheet(18);
    const perVolume = steep.rows.flatMap((row) => row.perVolume ?? []);
    // Near its shut-off at that lift it pumps hardly anything for its power: slowing down stops paying.
    expect(perVolume[0]).toBeGreaterThan(Math.min(...perVolume) * 1.3);
  });

  it("never takes less for a volume than the lift asks", () => {
    for (const lift of [2, 8, 15, 20]) {
      const { rows, floor } = sheet(lift);
      for (const { perVolume } of rows)
        if (perVolume !== undefined) expect(perVolume).toBeGreaterThan(floor);
    }
    // The lift is the levels' alone: 9 m from a water at 0 to an outlet at 9, a half metre of it under water.
    expect(sheet(9.5).lift).toBeCloseTo(9, 9);
    expect(sheet(9.5).floor).toBeCloseTo(9 * 999 * 9.80665, 3);
  });

  it("leaves a power out that is less than the water alone takes, and says so", () => {
    // 150 W over everything lifts 2 L/s no more than 7.6 m.
    const impossible = tablePump(
      "v",
      Array.from({ length: 31 }, (_, i) => i / 5),
      (q) => ({ head: 30 - 30 * (q / 6) ** 2, power: 150 }),
      { speeds: { least: 870, most: 2900 } },
    );
    const { rows, floor, cheapest, tooLittle } = sheet(8, undefined, impossible);
    expect(tooLittle).toBe(true);
    for (const { perVolume, head = 0 } of rows) {
      if (perVolume === undefined) continue;
      expect(perVolume).toBeGreaterThanOrEqual(999 * 9.80665 * head);
      expect(head).toBeGreaterThan(7.5);
    }
    if (cheapest?.perVolume) expect(cheapest.perVolume).toBeGreaterThanOrEqual(floor);
    expect(sheet(8).tooLittle).toBe(false);
  });

  it("tells the cheapest speed without a flow that is wanted, and power by a sweep where none is published", () => {
    const free = sheet(8);
    const least = Math.min(...free.rows.flatMap(({ perVolume }) => perVolume ?? []));
    expect(free.cheapest?.perVolume).toBe(least);
    const bare = drive();
    const swept: Pump = {
      ...bare,
      points: bare.points.map(({ power: _, ...row }) => row),
      speeds: {
        ...{ least: 870, most: 2900 },
        sweep: [0.3, 0.4, 0.5, 0.65, 0.8, 1].map((n) => ({
          speed: 2900 * n,
          power: 70 + 830 * n ** 2.8,
        })),
      },
    };
    const { rows } = sheet(8, undefined, swept);
    const told = rows.filter(({ power }) => power !== undefined);
    expect(told.length).toBeGreaterThan(3);
    for (const { ratio, power } of told) expect(power).toBeCloseTo(70 + 830 * ratio ** 2.8, 0);
  });

  it("the slowest that does it delivers just that; the cheapest is no slower and takes no more", () => {
    for (const lift of [1, 8, 18]) {
      const { slowest, cheapest, rows } = sheet(lift, 0.002);
      expect(slowest?.flow).toBeCloseTo(0.002, 6);
      expect(cheapest?.ratio).toBeGreaterThanOrEqual(slowest?.ratio ?? 9);
      for (const row of rows) {
        if (row.ratio < (slowest?.ratio ?? 0) || row.perVolume === undefined) continue;
        expect(cheapest?.perVolume).toBeLessThanOrEqual(row.perVolume + 1e-9);
      }
    }
    expect(sheet(18, 0.5).slowest).toBeUndefined();
  });

  it("with a sweep keeps the idle part at every speed", () => {
    const swept = drive({
      speeds: {
        ...{ least: 870, most: 2900 },
        sweep: [0.3, 0.45, 0.6, 0.8, 1].map((n) => ({ speed: 2900 * n, power: 60 + 540 * n ** 3 })),
      },
    });
    const { rows, fit } = sheet(2, undefined, swept);
    expect(fit?.idle).toBeCloseTo(60, 1);
    const plain = sheet(2).rows;
    for (const [i, { power, ratio }] of rows.entries()) {
      const own = plain[i]?.power;
      if (power === undefined || own === undefined) continue;
      // P₀ + (P/n³ − P₀) n³ against P: more by P₀ (1 − n³).
      expect(power - own).toBeCloseTo(60 * (1 - ratio ** 3), 0);
    }
  });
});

describe("a line of the sheet at another speed", () => {
  const pump = tablePump("p", [0, 1, 2, 3, 4, 5, 6], (q) => ({ head: 30 - 30 * (q / 6) ** 2 }));
  const at = (flows: number[], head: (q: number) => number) =>
    affinityMiss(
      pump,
      0.6,
      flows.map((q) => ({ flow: q * 1e-3, head: head(q) })),
    );

  it("lies where Q ∝ n and H ∝ n² put it, or off it by what is said", () => {
    // n² (30 − 30 (Q/n/6)²) at n = 0.6, by hand.
    const right = (q: number) => 0.36 * 30 - 30 * (q / 6) ** 2;
    const flows = [0, 0.6, 1.2, 1.8, 2.4, 3, 3.6];
    expect(at(flows, right)).toBeCloseTo(0, 9);
    expect(at(flows, (q) => right(q) - (q === 1.8 ? 0.54 : 0))).toBeCloseTo(0.05, 9);
    // Past the last flow at that speed nothing is told to hold it against.
    expect(at([3.7, 5], right)).toBeUndefined();
  });
});

describe("a curve of few numbers", () => {
  it("of a sticker is a parabola from its most head to its most flow", () => {
    const points = fromSticker(0.01, 28);
    expect(points[0]).toEqual({ flow: 0, head: 28 });
    expect(points.at(-1)).toEqual({ flow: 0.01, head: 0 });
    for (const { flow, head } of points) expect(head).toBeCloseTo(28 * (1 - (flow / 0.01) ** 2), 9);
  });

  it("of three points passes all three and falls everywhere", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 0.8, noNaN: true }),
        fc.double({ min: 0.15, max: 0.9, noNaN: true }),
        (part, share) => {
          const best = { flow: part * 0.006, head: 30 - share * 20 };
          const found = fromThreePoints(30, best, { flow: 0.006, head: 10 });
          if (found.kind !== "drawn") {
            expect(found.kind).toBe("too-sharp");
            return;
          }
          const { points } = found;
          expect(points[0]).toMatchObject({ flow: 0, head: 30 });
          expect(
            points.some(
              ({ flow, head }) => flow === best.flow && Math.abs(head - best.head) < 1e-9,
            ),
          ).toBe(true);
          expect(points.at(-1)).toEqual({ flow: 0.006, head: 10 });
          const heads = points.map(({ head }) => head);
          expect(heads).toEqual(heads.toSorted((a, b) => b - a));
          const flows = points.map(({ flow }) => flow);
          expect(new Set(flows).size).toBe(flows.length);
          pumpCurve({ points } as Pump);
        },
      ),
    );
    expect(fromThreePoints(30, { flow: 0.002, head: 31 }, { flow: 0.006, head: 10 }).kind).toBe(
      "not-falling",
    );
  });

  it("of a chart's rows goes through their middles, as doubtful as the widest", () => {
    const { points, doubt } = fromChartRows([
      { flow: [40, 50], head: [15, 15] },
      { flow: [20, 22], head: [19, 21] },
      { flow: [0, 0], head: [23, 23] },
    ]);
    expect(points).toEqual([
      { flow: 0, head: 23 },
      { flow: 21, head: 20 },
      { flow: 45, head: 15 },
    ]);
    expect(doubt).toBeCloseTo(5 / 45, 12);
  });
});
