import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Need } from "#contract/documents/job.ts";
import { FOOT, GALLON, INCH } from "#core/quantity/constants.ts";
import { newJob } from "../kinds/kinds.ts";
import { inflowOf, stormPieces } from "../simulation/storm.ts";
import { flowOfDemand, runoffArea, withDemand } from "./demand.ts";

const gpm = (si = Number.NaN) => (si / GALLON) * 60;

describe("how much water", () => {
  it("an inch of rain over 1000 ft² is 623 gal; C i A / 96.25 gpm", () => {
    const area = 1000 * FOOT ** 2;
    expect((area * INCH) / GALLON).toBeCloseTo(623, 0);
    const rain: Need = {
      kind: "rain",
      catches: [{ surface: "roof", area, runoff: 1 }],
      hardestHour: 2 * INCH,
    };
    expect(gpm(flowOfDemand(rain)?.flow)).toBeCloseTo((2 * 1000) / 96.25, 1);
    // 1 to 3 in of water over 500 to 1500 ft²: 312 to 2805 gal (computed).
    expect((500 * FOOT ** 2 * INCH) / GALLON).toBeCloseTo(312, 0);
    expect((1500 * FOOT ** 2 * 3 * INCH) / GALLON).toBeCloseTo(2805, 0);
  });

  it("a surface takes its usual part until one is typed", () => {
    const catches = [{ surface: "roof" as const, area: 100 }];
    expect(runoffArea(catches)).toBeCloseTo(95, 9);
    expect(runoffArea([{ surface: "roof" as const, area: 100, runoff: 0.5 }])).toBeCloseTo(50, 9);
  });

  it("a rise test counts what filled in the pipe that leads in, and its doubt shrinks with the rise", () => {
    const test = { kind: "rise-test", area: 0.2, time: 120 } as const;
    const [short, long] = [0.03, 0.3].map((rise) => flowOfDemand({ ...test, rise }));
    expect(long?.flow).toBeCloseTo((0.2 * 0.3) / 120, 12);
    const doubt = (own = short) => ((own?.high ?? 0) - (own?.low ?? 0)) / (own?.flow ?? 1);
    expect(doubt(long)).toBeLessThan(doubt(short));
    const inflowPipe = { bore: 0.1, length: 3 };
    const piped = flowOfDemand({ ...test, rise: 0.3, inflowPipe });
    expect(((piped?.flow ?? 0) - (long?.flow ?? 0)) * 120).toBeCloseTo((Math.PI / 4) * 0.03, 9);
  });

  it("a deadline is V / t and what still comes in; a household the larger of its two", () => {
    const need: Need = { kind: "deadline", volume: 36, time: 3600, inflow: 0.002 };
    expect(flowOfDemand(need)?.flow).toBeCloseTo(0.012, 12);
    expect(gpm(flowOfDemand({ kind: "household", fixtures: 6 })?.flow)).toBeCloseTo(6, 9);
    const herd: Need = { kind: "household", fixtures: 1, heads: 100, perHead: 0.06, hours: 4 };
    expect(flowOfDemand(herd)?.flow).toBeCloseTo(6 / 14_400, 9);
    expect(flowOfDemand({ kind: "rise-test", area: 1 })).toBeUndefined();
  });

  it("the job follows: other rain, another wanted flow, and none while something is missing", () => {
    const job = newJob("Yard", "sump-riser", "metric");
    const rain = (hardestHour?: number): Need => ({
      kind: "rain",
      catches: [{ surface: "paving", area: 200 }],
      inHand: 2,
      ...(hardestHour && { hardestHour }),
    });
    const [some, more] = [0.02, 0.04].map((depth) => withDemand(job, rain(depth)));
    expect(some?.wantedFlow).toBeCloseTo((2 * 0.9 * 200 * 0.02) / 3600, 12);
    expect((more?.wantedFlow ?? 0) / (some?.wantedFlow ?? 1)).toBeCloseTo(2, 9);
    expect(withDemand(job, rain()).wantedFlow).toBeUndefined();
    // Half as much again as comes in where nobody says otherwise; of what is no inflow nothing is kept in hand.
    const { inHand: _, ...usual } = rain(0.02) as Extract<Need, { kind: "rain" }>;
    expect(withDemand(job, usual).wantedFlow).toBeCloseTo((1.5 * 0.9 * 200 * 0.02) / 3600, 12);
    const house = withDemand(job, { kind: "household", fixtures: 6 });
    expect(gpm(house.wantedFlow)).toBeCloseTo(6, 9);
    expect(withDemand(job, { kind: "typed", flow: 0.003 }).wantedFlow).toBe(0.003);
  });
});

describe("storms", () => {
  const total = (kind: "block" | "triangle" | "alternating", depth: number, hours: number) => {
    const storm = { kind, depth, duration: hours * 3600, start: 600 };
    const at = inflowOf(stormPieces(storm, 250, depth * 0.5));
    const step = 5;
    let sum = 0;
    let most = 0;
    for (let t = step / 2; t < hours * 3600 + 1200; t += step) {
      sum += at(t) * step;
      most = Math.max(most, at(t));
    }
    return { sum, most, mean: (250 * depth) / (hours * 3600) };
  };
  it("of every kind bring the rain they say, and nothing before or after", () => {
    const kind = fc.constantFrom("block" as const, "triangle" as const, "alternating" as const);
    const depth = fc.double({ min: 0.005, max: 0.2, noNaN: true });
    fc.assert(
      fc.property(kind, depth, fc.integer({ min: 1, max: 12 }), (own, rain, hours) => {
        expect(total(own, rain, hours).sum / (250 * rain)).toBeCloseTo(1, 2);
      }),
      { numRuns: 30 },
    );
  });
  it("a triangle rises to twice its mean; the hardest hour of the blocks is the one typed", () => {
    const { most, mean } = total("triangle", 0.06, 6);
    expect(most / mean).toBeCloseTo(2, 2);
    const storm = { kind: "alternating" as const, depth: 0.06, duration: 6 * 3600 };
    const pieces = stormPieces(storm, 1, 0.03).slice(0, -1);
    const step = (pieces[1]?.from ?? 0) - (pieces[0]?.from ?? 0);
    const hardest = pieces
      .map(({ inflow }) => inflow * step)
      .toSorted((a, b) => b - a)
      .slice(0, 3600 / step)
      .reduce((sum, own) => sum + own, 0);
    expect(hardest).toBeCloseTo(0.03, 9);
    // The hardest stands in the middle, and they fall away on both sides.
    const peak = pieces.findIndex(
      ({ inflow }) => inflow === Math.max(...pieces.map((own) => own.inflow)),
    );
    expect(Math.abs(peak - pieces.length / 2)).toBeLessThanOrEqual(1);
  });
});
