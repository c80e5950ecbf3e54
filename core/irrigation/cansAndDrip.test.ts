import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { waterAt } from "../fluid/water.ts";
import { darcyWeisbachLoss, meanVelocity } from "../pipe/darcyWeisbach.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { agreement, type CanTest, canTest, depthInCan, profileBy } from "./catchCans.ts";
import { type DripZone, solveDrip } from "./drip.ts";
import { evennessOf } from "./evenness.ts";

const water = waterAt(288.15);

describe("evenness", () => {
  const of = (depths: number[], weights: number[] = depths.map(() => 1)) =>
    evennessOf(depths.map((depth, i) => ({ depth, weight: weights[i] as number })));

  // By hand: mean 17, deviations 7 5 3 1 1 3 5 7 sum to 32 of 136; the lowest two of eight have mean 11.
  it("is Christiansen's coefficient and the low quarter, on a set worked by hand", () => {
    const found = of([10, 12, 14, 16, 18, 20, 22, 24]);
    expect(found.mean).toBe(17);
    expect(found.christiansen).toBeCloseTo(1 - 32 / 136, 12);
    expect(found.lowQuarter).toBeCloseTo(11 / 17, 12);
  });

  it("weighs each can by its ground: two cans alike are one of twice the ground", () => {
    const cans = fc.array(
      fc.tuple(fc.double({ min: 0, max: 50, noNaN: true }), fc.integer({ min: 1, max: 5 })),
      { minLength: 2, maxLength: 30 },
    );
    fc.assert(
      fc.property(cans, (list) => {
        fc.pre(list.some(([depth]) => depth > 0.01));
        const weighted = of(
          list.map(([d]) => d),
          list.map(([, w]) => w),
        );
        const plain = of(list.flatMap(([d, w]) => new Array<number>(w).fill(d)));
        expect(weighted.mean).toBeCloseTo(plain.mean, 9);
        expect(weighted.christiansen).toBeCloseTo(plain.christiansen, 9);
        expect(weighted.lowQuarter).toBeCloseTo(plain.lowQuarter, 9);
      }),
    );
  });
});

describe("catch cans", () => {
  /** One gun of a known flow whose water falls off as a cone, cans every so often along straight legs. */
  const legsOf = (flow: number, radius: number, seconds: number, legs = 2, apart = 0.5) => {
    const rate = (3 * flow) / (Math.PI * radius ** 2);
    const distances = Array.from(
      { length: Math.floor(radius / apart) },
      (_, i) => (i + 0.5) * apart,
    );
    return Array.from({ length: legs }, (_, leg) =>
      distances.map((distance) => ({
        ...{ leg, distance },
        depth: rate * seconds * (1 - distance / radius),
      })),
    ).flat();
  };
  const tested = (...args: Parameters<typeof canTest>) => {
    const result = canTest(...args);
    if (result.kind !== "tested") throw new Error(result.why);
    return result;
  };

  it("add up to the flow that fell, by distance", () => {
    const test = tested({ layout: "legs", cans: legsOf(4e-3, 20, 1800), arc: 360 }, 1800);
    expect(test.flow / 4e-3).toBeCloseTo(1, 2);
    expect(test.reach).toBeCloseTo(19.75, 6);
    expect(test.dryFrom).toBeUndefined();
    const cans = [...legsOf(4e-3, 20, 1800, 1), { leg: 0, distance: 21, depth: 0 }];
    expect(tested({ layout: "legs", cans, arc: 360 }, 1800).dryFrom).toBe(21);
    expect(test.edgeMissed).toBe(false);
    // A cone: a third of the middle's rate is its mean over the disc.
    expect(profileBy(test.profile ?? [])(0.5)).toBeCloseTo(1.5, 1);
    const half = tested({ layout: "legs", cans: legsOf(4e-3, 20, 1800), arc: 180 }, 1800);
    expect(half.flow).toBeCloseTo(test.flow / 2, 9);
  });

  it("add up to the flow that fell, in a grid", () => {
    const cans = Array.from({ length: 41 * 41 }, (_, i) => {
      const [x, y] = [(i % 41) - 20, Math.floor(i / 41) - 20];
      const rate = ((3 * 4e-3) / (Math.PI * 400)) * Math.max(1 - Math.hypot(x, y) / 20, 0);
      return { x, y, depth: rate * 1800 };
    });
    const test = tested({ layout: "grid", cans, along: 1, across: 1 }, 1800);
    expect(test.flow / 4e-3).toBeCloseTo(1, 2);
  });

  it("that end in water say at least, those too few or dry nothing", () => {
    const cut = legsOf(4e-3, 20, 1800).filter(({ distance }) => distance < 10);
    expect(tested({ layout: "legs", cans: cut, arc: 360 }, 1800).edgeMissed).toBe(true);
    const legs = (cans: { leg: number; distance: number; depth: number }[]) =>
      canTest({ layout: "legs", cans, arc: 360 }, 60);
    expect(legs(cut.slice(0, 2))).toMatchObject({ why: "too-few" });
    expect(legs(cut.map((own) => ({ ...own, depth: 0 })))).toMatchObject({ why: "all-dry" });
    expect(canTest({ layout: "legs", cans: cut, arc: 360 }, 0)).toMatchObject({ why: "no-time" });
  });

  it("a volume is a depth over the can's mouth", () => {
    expect(depthInCan(1e-4, 0.1)).toBeCloseTo(0.012732, 6);
  });

  describe("held against the line", () => {
    const thrown = { radius: 20, low: 18, high: 22 };
    const base = tested({ layout: "legs", cans: legsOf(4e-3, 20, 1800), arc: 360 }, 1800);
    const held = (over: Partial<CanTest>, wind: "calm" | "strong" = "calm") =>
      agreement({ test: { ...base, ...over }, flow: 4e-3, flowUncertainty: 1e-4, thrown, wind });
    const reasonsOf = (...args: Parameters<typeof held>) => {
      const found = held(...args);
      return found.kind === "disagree" ? found.reasons : [];
    };

    it("agree within the doubt of both, and not beyond it", () => {
      const found = held({});
      expect(found.kind).toBe("agree");
      expect(held({ flow: 4e-3 * (1 + found.doubt * 0.9) }).kind).toBe("agree");
      expect(held({ flow: 4e-3 * 1.3 }).kind).toBe("disagree");
    });

    it("more water: the nozzle, unless it reaches farther too", () => {
      expect(reasonsOf({ flow: 6e-3, reach: 20 })[0]).toBe("nozzle-worn");
      expect(reasonsOf({ flow: 6e-3, reach: 22.1 })[0]).toBe("pressure-higher");
    });

    it("less water: wind where it fell lopsided, pressure where it fell short, else the air or the nozzle", () => {
      expect(reasonsOf({ flow: 2.4e-3, lopsided: 0.5 })[0]).toBe("wind");
      expect(reasonsOf({ flow: 2.4e-3 }, "strong")[0]).toBe("wind");
      expect(reasonsOf({ flow: 2.4e-3, dryFrom: 17.9 })[0]).toBe("pressure-lower");
      expect(reasonsOf({ flow: 2.4e-3, dryFrom: 18.1 })[0]).toBe("nozzle-smaller");
      // A farthest wet can that was also the last says nothing of where it ended.
      expect(reasonsOf({ flow: 2.4e-3, reach: 10 })[0]).toBe("nozzle-smaller");
      expect(reasonsOf({ flow: 3.5e-3, flowUncertainty: 1e-5 })[0]).toBe("evaporation");
      expect(reasonsOf({ flow: 2.4e-3, edgeMissed: true })[0]).toBe("edge-missed");
    });
  });
});

describe("drip", () => {
  const zone = (over: Partial<DripZone> = {}): DripZone => ({
    ...{ laterals: 1, apart: 1, spacing: 0.3, emitters: 100, slope: 0, submainSlope: 0 },
    emitter: { flow: 2 / 3.6e6, pressure: 100_000, exponent: 0.5 },
    lateral: { bore: 0.0138, roughness: 1.5e-6, hazenWilliamsC: 150 },
    submain: { bore: 0.028, roughness: 1.5e-6, hazenWilliamsC: 150 },
    ...over,
  });

  /** The same lateral summed from its far end: from a pressure there, what the inlet must have. */
  function summed(own: DripZone, atEnd: number) {
    const weight = water.density * GRAVITY;
    let [head, flow] = [atEnd / weight, 0];
    const flows: number[] = [];
    for (let k = own.emitters; k >= 1; k--) {
      const drip =
        own.emitter.flow * ((head * weight) / own.emitter.pressure) ** own.emitter.exponent;
      flows.unshift(drip);
      flow += drip;
      const run = { ...own.lateral, length: own.spacing };
      head += darcyWeisbachLoss(run, flow, water) + own.slope * own.spacing;
    }
    // The submain's own length, to the lateral.
    head +=
      darcyWeisbachLoss({ ...own.submain, length: own.apart }, flow, water) +
      own.submainSlope * own.apart;
    return { flows, flow, inlet: head * weight };
  }

  it.each([
    ["level", zone()],
    ["uphill", zone({ slope: 0.03 })],
    [
      "downhill, holding its flow",
      zone({ slope: -0.05, emitter: { flow: 1e-6, pressure: 1e5, exponent: 0.1 } }),
    ],
    [
      "five hundred emitters",
      zone({
        emitters: 500,
        spacing: 0.2,
        emitter: { flow: 1 / 3.6e6, pressure: 1e5, exponent: 0.55 },
      }),
    ],
  ])("a lateral %s is the direct sum from its far end", (_, own) => {
    const { flows, flow, inlet } = summed(own, 80_000);
    const found = solveDrip(own, inlet, water);
    if (found.kind !== "solved") throw new Error(found.why);
    expect(found.flow / flow).toBeCloseTo(1, 7);
    for (const [i, drip] of flows.entries()) {
      expect((found.flows[i] as number) / drip).toBeCloseTo(1, 6);
    }
    expect(found.pressures.at(-1)).toBeCloseTo(80_000, -1);
    const worst = Math.min(...flows) / Math.max(...flows);
    expect(found.variation).toBeCloseTo(1 - worst, 6);
  });

  it("laterals share what the submain leaves them, the far one least", () => {
    const found = solveDrip(zone({ laterals: 12, apart: 1.5 }), 120_000, water);
    if (found.kind !== "solved") throw new Error(found.why);
    const each = Array.from({ length: 12 }, (_, i) =>
      found.flows.slice(i * 100, i * 100 + 100).reduce((sum, own) => sum + own, 0),
    );
    for (const [i, own] of each.entries())
      if (i > 0) expect(own).toBeLessThan(each[i - 1] as number);
    expect(meanVelocity(found.flow, 0.028)).toBeGreaterThan(0.5);
    expect(found.uniformity).toBeLessThan(1);
    // Emitters that hold their flow make it even.
    const holding = solveDrip(
      zone({
        laterals: 12,
        apart: 1.5,
        emitter: { flow: 2 / 3.6e6, pressure: 1e5, exponent: 0.05 },
      }),
      120_000,
      water,
    );
    expect(holding.kind === "solved" && holding.uniformity).toBeGreaterThan(found.uniformity);
  });

  it("refuses what cannot drip", () => {
    expect(solveDrip(zone(), 0, water)).toMatchObject({ why: "no-pressure" });
    expect(solveDrip(zone({ slope: 0.5 }), 50_000, water)).toMatchObject({ why: "no-pressure" });
    expect(solveDrip(zone({ emitters: 30_000 }), 1e5, water)).toMatchObject({
      why: "too-many-emitters",
    });
  });
});
