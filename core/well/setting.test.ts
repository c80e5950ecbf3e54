import { describe, expect, it } from "vitest";
import { findPipeStock } from "../catalogue/pipes.ts";
import { boreAt, meanArea, narrowestTo, recoveringDrawdown, recoveryTime } from "../line/casing.ts";
import { FOOT, INCH, PSI } from "../quantity/constants.ts";
import { annulusVelocity, coolingVelocity, sleeveFor } from "./cooling.ts";
import { dropPipePressures } from "./dropPipe.ts";
import { settingWindow } from "./setting.ts";

const well = {
  lowestPumping: 30,
  bottom: 60,
  highestStanding: 18,
  casings: [{ bore: 0.15, from: 0, to: 60 }],
  motor: 0.6,
};

describe("the depth a pump may hang at", () => {
  // 3 ft of water over the intake and 5 ft under it: common practice, no source.
  it("lies 3 ft under the lowest pumping level and 5 ft off the bottom, its motor counted", () => {
    const { from, to, top, foot, missing } = settingWindow(well);
    expect(from).toBeCloseTo(30 + 3 * FOOT, 9);
    expect(to).toBeCloseTo(60 - 5 * FOOT - 0.6, 9);
    expect([top, foot, missing]).toEqual(["under-water", "off-bottom", []]);
  });

  it("keeps the motor over the screen, unless a sleeve stands in or slots go all the way up", () => {
    const screened = settingWindow({ ...well, screenTop: 50 });
    expect([screened.to, screened.foot]).toEqual([49.4, "above-screen"]);
    expect(settingWindow({ ...well, screenTop: 50, sleeve: 0.11 }).foot).toBe("off-bottom");
    expect(settingWindow({ ...well, screenTop: 3 }).foot).toBe("off-bottom");
    // A screen just below the pumping level leaves nothing, and says so.
    const none = settingWindow({ ...well, screenTop: 31 });
    expect(none.to).toBeLessThan(none.from);
    expect([none.top, none.foot]).toEqual(["under-water", "above-screen"]);
  });

  it("counts immersion from the highest standing water, the cord from the top, and a liner by its width", () => {
    const pump = { diameter: 0.098, greatestImmersion: 20, greatestDepth: 45 };
    expect(settingWindow({ ...well, pump }).bounds.map(({ rule }) => rule)).toEqual([
      ...["under-water", "off-bottom", "immersion", "cord"],
    ]);
    expect(settingWindow({ ...well, pump }).to).toBe(38);
    const lined = [...well.casings, { bore: 0.095, from: 24, to: 60 }];
    const tight = settingWindow({ ...well, casings: lined, pump: { diameter: 0.098 } });
    expect(tight.foot).toBe("casing");
    expect(tight.to).toBeLessThan(tight.from);
    expect(settingWindow({ ...well, casings: lined, pump: { diameter: 0.076 } }).foot).toBe(
      "off-bottom",
    );
  });

  it("says what has to be measured before a rule can be judged", () => {
    const bare = settingWindow({ highestStanding: 18, casings: [], pump: {} });
    expect(bare.missing).toEqual(["pumping-level", "bottom", "casing", "width", "immersion"]);
    expect(bare.to).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("a casing", () => {
  const six = { bore: 6 * INCH, from: 0, to: 200 * FOOT };
  const four = { bore: 4 * INCH, from: 60 * FOOT, to: 200 * FOOT };

  it("of six inches with a four-inch liner is as wide as the liner where that is", () => {
    expect(boreAt([six, four], 50 * FOOT)).toBe(six.bore);
    expect(boreAt([six, four], 70 * FOOT)).toBe(four.bore);
    expect(narrowestTo([six, four], 50 * FOOT)).toBe(six);
    expect(narrowestTo([six, four], 70 * FOOT)).toBe(four);
    expect(boreAt([six], 300 * FOOT)).toBeUndefined();
  });

  it("holds 1.47 gal for each foot of six inches, and on average what its stretches do", () => {
    const area = meanArea([six], 0, 10 * FOOT) ?? 0;
    expect((area * FOOT) / 231 / INCH ** 3).toBeCloseTo(1.469, 3);
    const half = meanArea([six, four], 50 * FOOT, 70 * FOOT) ?? 0;
    expect(half).toBeCloseTo((Math.PI / 8) * (six.bore ** 2 + four.bore ** 2), 9);
  });

  it("recovers by the closed form", () => {
    expect(recoveringDrawdown(8, 100, recoveryTime(100, 0.1))).toBeCloseTo(0.8, 9);
  });
});

describe("a motor in its well", () => {
  // 0.08 and 0.15 m/s past the motor: common practice, no source.
  it("four inches wide is cooled from 0.08 m/s, a six-inch one from 0.15", () => {
    expect([coolingVelocity(0.098), coolingVelocity(0.143)]).toEqual([0.08, 0.15]);
    // 3.86 in in 6 in at 10 gpm: too slow, and a sleeve of 4.5 in mends it.
    const flow = 10 * 6.309e-5;
    expect(annulusVelocity(flow, 6 * INCH, 0.098)).toBeLessThan(0.08);
    const sleeve = sleeveFor(flow, 0.098, 6 * INCH) ?? 0;
    expect(annulusVelocity(flow, sleeve, 0.098)).toBeGreaterThan(0.08);
    expect(sleeve).toBeLessThan(6 * INCH);
    expect(sleeveFor(1e-5, 0.098, 6 * INCH)).toBeUndefined();
  });
});

describe("a drop pipe", () => {
  const psi = (pa: number | undefined) => (pa ?? Number.NaN) / PSI;

  // By hand: 2.31 ft of water to a psi.
  it("400 ft from the lowest pumping level and 60 psi is 233 psi; 300 ft is 190", () => {
    const at = (lift: number) =>
      dropPipePressures(
        {
          lowest: -500 * FOOT,
          lowestWater: -lift * FOOT,
          cutOut: { tank: 0, pressure: 60 * PSI },
          shutoff: 200,
        },
        // 1 psi is 2.31 ft
        PSI / (9.80665 * 2.31 * FOOT),
      );
    expect(psi(at(400)["cut-out"])).toBeCloseTo(233, 0);
    expect(psi(at(300)["cut-out"])).toBeCloseTo(190, 0);
    // The pump adds its shut-off head to whatever water it stands in.
    expect(at(400)["dead-headed"]).toBeCloseTo(at(300)["dead-headed"] as number, 6);
  });

  it("of 200 psi holds 300 ft and 60 psi running and at cut-out, and all of it only where the pump is no stronger", () => {
    const rated = (id: string) => findPipeStock(id)?.pressureRating ?? 0;
    const [two, more] = [rated("pe-sidr7-1in"), rated("pe4710-sidr7-1in")];
    expect([psi(two), psi(more)].map(Math.round)).toEqual([200, 250]);
    const at = (lift: number, shutoff: number) =>
      dropPipePressures(
        {
          ...{ lowest: -500 * FOOT, lowestWater: -lift * FOOT, running: 20 * FOOT },
          ...{ cutOut: { tank: 0, pressure: 60 * PSI }, shutoff: shutoff * FOOT },
        },
        PSI / (9.80665 * 2.31 * FOOT),
      );
    const weak = Object.values(at(300, 460));
    expect(weak).toHaveLength(3);
    expect(weak.every((own) => own <= two)).toBe(true);
    const strong = at(300, 500);
    expect(strong.running).toBeLessThan(two);
    expect(strong["cut-out"]).toBeLessThan(two);
    expect(strong["dead-headed"]).toBeGreaterThan(two);
    expect(at(400, 500)["cut-out"]).toBeGreaterThan(two);
    expect(at(400, 500)["cut-out"]).toBeLessThan(more);
  });

  it("above the water has only air outside", () => {
    const low = dropPipePressures({ lowest: -20, lowestWater: -30, running: 10 }, 1000);
    const wet = dropPipePressures({ lowest: -40, lowestWater: -30, running: 10 }, 1000);
    expect((wet.running ?? 0) - (low.running ?? 0)).toBeCloseTo(10 * 9806.65, 6);
  });
});
