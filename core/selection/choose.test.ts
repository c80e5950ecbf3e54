import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { findPipeStock, PIPE_STOCK } from "../catalogue/pipes.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { lineModel, solveLine } from "../hydraulics/solveLine.ts";
import { quickDuty, systemCurve } from "../hydraulics/systemCurve.ts";
import type { Line, PathItem } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { afterEachOther, besideEachOther, speedFor } from "../pump/arrangement.ts";
import { pumpCurve } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import {
  fitting,
  levels,
  lineOf,
  open,
  pipe,
  pumpOf,
  running,
  set,
  tablePump,
} from "../test/fixtures.ts";
import { frontOf, frontThatHolds, pumpAndPipe } from "./front.ts";
import {
  type Candidate,
  cardsOf,
  isOwned,
  pathWith,
  priceOf,
  rankPumps,
  rankPumpsInSteps,
} from "./rankPumps.ts";
import { WEIGHINGS } from "./weights.ts";

/** H = 30 − 30 (Q / 6 L/s)², finely. */
const parabola = (id = "parabola", over: Partial<Pump> = {}) =>
  tablePump(
    id,
    Array.from({ length: 61 }, (_, i) => i / 10),
    (q) => ({ head: 30 - 30 * (q / 6) ** 2, power: 500 + 150 * q }),
    { maxSuctionLift: 7, ...over },
  );
const transfer = (bore = "pvc-sch40-2in", length = 60): Line =>
  lineOf([
    pipe("s", "suction-hose-3in", 4, 1.5),
    set("p"),
    fitting("c", "check-swing"),
    pipe("d", bore, length, 8),
    open("o"),
  ]);
const place = { itemId: "p", others: [] };

/** Pumps of many strengths, some of which suit and some of which do not. */
const library = (count: number, over: (i: number) => Partial<Pump> = () => ({})): Pump[] =>
  Array.from({ length: count }, (_, i) =>
    pumpOf(`p-${i}`, 8 + ((i * 37) % 50), 0.001 + ((i * 17) % 29) * 4e-4, {
      ...{ maxSuctionLift: 7, price: 60 + ((i * 53) % 400), mass: 5 + ((i * 31) % 40) },
      ...over(i),
    }),
  );

describe("a pump laid over the line's curve", () => {
  it("runs where a full solution has it, within a thousandth, on lines of one way and of many", () => {
    const stocks = PIPE_STOCK.filter(({ bore }) => bore > 0.02 && bore < 0.11).map(({ id }) => id);
    const hole = { kind: "orifice", id: "h", purpose: "leak", bore: 0.004 } as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...stocks),
        fc.double({ min: 5, max: 300, noNaN: true }),
        fc.double({ min: -2, max: 20, noNaN: true }),
        fc.double({ min: 12, max: 70, noNaN: true }),
        fc.double({ min: 0.0005, max: 0.02, noNaN: true }),
        fc.boolean(),
        (stock, length, rise, shutoff, last, leaks) => {
          const path: PathItem[] = [
            set("p", "any"),
            ...(leaks ? [hole] : []),
            pipe("d", stock, Math.max(length, Math.abs(rise)), rise),
            open("o"),
          ];
          const line = lineOf(path);
          const pump = pumpOf("any", shutoff, last);
          const ready = lineModel(line, [pump]);
          if (ready.kind === "refused") throw new Error("refused");
          const system = systemCurve(ready, 0, 0.04);
          if (!system) throw new Error("no curve");
          const quick = quickDuty(system, pumpCurve(pump));
          const full = solveLine(line, [pump]);
          if (full.kind === "refused") return;
          const { outcome, running: at } = full.solution.cases.normal;
          const duty = settledDuty(outcome);
          // A hair from either edge the two may fall on different sides.
          if (quick.kind !== "runs" || !duty || !at) {
            if (quick.kind === "runs")
              expect(quick.flow / last).toSatisfy((x: number) => x < 0.01 || x > 0.99 || leaks);
            return;
          }
          expect(Math.abs(quick.flow / duty.flow - 1)).toBeLessThan(1e-3);
          expect(Math.abs(quick.delivered / at.state.delivered - 1)).toBeLessThan(2e-3);
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe("two pumps in one place", () => {
  const k = 4e5;
  const lift = 10;
  // On H_s + k Q²: beside each other 30 − a (Q/2)², after each other 60 − 2 a Q², with a = 30 / (6 L/s)².
  const a = 30 / 0.006 ** 2;
  const system = {
    head: {
      x: Array.from({ length: 200 }, (_, i) => i * 1e-4),
      y: Array.from({ length: 200 }, (_, i) => lift + k * (i * 1e-4) ** 2),
      slope: Array.from({ length: 200 }, (_, i) => 2 * k * i * 1e-4),
    },
    delivered: undefined,
  };
  const own = pumpCurve(parabola());
  it("meet a line where hand algebra puts them", () => {
    const beside = besideEachOther(own, own, [0, 0]);
    const after = afterEachOther(own, own);
    if (!beside || !after) throw new Error("no curve");
    const flow = (curve: typeof own) => {
      const duty = quickDuty(system, curve);
      return duty.kind === "runs" ? duty.flow : Number.NaN;
    };
    expect(flow(beside) / Math.sqrt((30 - lift) / (k + a / 4))).toBeCloseTo(1, 3);
    expect(flow(after) / Math.sqrt((60 - lift) / (k + 2 * a))).toBeCloseTo(1, 3);
    // Two on one main move far less than twice of what one does.
    const one = Math.sqrt((30 - lift) / (k + a));
    expect(flow(beside) / one).toBeLessThan(1.6);
    // With a valve of its own before the main, K/2gA² = b: (30 − (a + b) Q²/4) instead.
    const valved = besideEachOther(own, own, [2e5, 2e5]);
    if (!valved) throw new Error("no curve");
    expect(flow(valved) / Math.sqrt((30 - lift) / (k + (a + 2e5) / 4))).toBeCloseTo(1, 3);
  });

  it("the weaker passes nothing while the stronger makes more than it can", () => {
    const weak = pumpCurve(
      tablePump("weak", [0, 1, 2, 3, 4, 5, 6], (q) => ({ head: 20 - 20 * (q / 6) ** 2 })),
    );
    const both = besideEachOther(own, weak, [0, 0]);
    if (!both) throw new Error("no curve");
    // At 25 m only the stronger: Q = √(5/a).
    expect(evaluate(both.head, Math.sqrt(5 / a))).toBeCloseTo(25, 1);
    // At 15 m both: √(15/a) + √(5/(20/0.006²)).
    const sum = Math.sqrt(15 / a) + Math.sqrt(5 / (20 / 0.006 ** 2));
    expect(evaluate(both.head, sum)).toBeCloseTo(15, 1);
  });

  it("laid over the line are what the network says of them with valves and ways of their own", () => {
    const line = transfer("pvc-sch40-3in", 120);
    const pumps = [
      parabola("one", { owned: 2 }),
      pumpOf("two", 26, 0.006, { owned: 1, maxSuctionLift: 7 }),
    ];
    const wanted = 0.0055;
    const laid = rankPumps(line, pumps, wanted, { place, wider: true, closely: 0 });
    const kinds = laid.map(({ arrangement }) => arrangement.kind);
    expect(kinds).toContain("beside");
    expect(kinds).toContain("after");
    let held = 0;
    for (const { arrangement, flow, fit } of laid) {
      if (arrangement.kind === "one" || flow === undefined || fit?.kind === "too-strong") continue;
      const path = pathWith(line.path, arrangement, "p");
      if (!path) throw new Error("no path");
      const full = running({ ...line, path }, [...arrangement.pumps]);
      expect(Math.abs(flow / full.state.delivered - 1)).toBeLessThan(0.006);
      held++;
    }
    expect(held).toBeGreaterThan(2);
  });
});

describe("a speed that just does it", () => {
  it("is where affinity puts it: n² H₀ = H + a Q² for a parabola", () => {
    const a = 30 / 0.006 ** 2;
    for (const [flow, head] of [
      [0.002, 10],
      [0.003, 14],
      [0.0015, 5],
    ] as const) {
      const n = speedFor(parabola(), { flow, head }, { least: 0.3, most: 1.2 });
      expect(n).toBeCloseTo(Math.sqrt((head + a * flow * flow) / 30), 3);
    }
    expect(
      speedFor(parabola(), { flow: 0.002, head: 60 }, { least: 0.3, most: 1.2 }),
    ).toBeUndefined();
  });

  it("delivers what is wanted once it is on the line", () => {
    const drive = parabola("drive", { speeds: { least: 900, most: 2900 } });
    const found = rankPumps(transfer(), [drive], 0.0015, { place, wider: true });
    const slowed = found.find(({ speedRatio }) => speedRatio < 0.99);
    expect(slowed?.fit?.kind).toBe("ranked");
    expect((slowed?.flow ?? 0) / 0.0015).toBeCloseTo(1, 5);
    expect(slowed?.power).toBeLessThan(
      found.find(({ speedRatio }) => speedRatio === 1)?.power ?? 0,
    );
  });
});

describe("what is recommended", () => {
  const cards = (found: readonly Candidate[]) =>
    cardsOf(found.map((own) => ({ ...own, price: priceOf(own), owned: isOwned(own) })));

  it("is the same whether all are looked at closely or only the best", () => {
    const pumps = library(80);
    for (const weights of Object.values(WEIGHINGS)) {
      const all = cards(rankPumps(transfer(), pumps, 0.002, { place, weights }));
      const some = cards(rankPumps(transfer(), pumps, 0.002, { place, weights, closely: 5 }));
      expect(some.best?.pump.id).toBe(all.best?.pump.id);
      expect(some.cheapest?.pump.id).toBe(all.cheapest?.pump.id);
    }
  });

  it("is the cheapest of all that do it, and of what is owned the best, at no price", () => {
    const pumps = library(60, (i) => (i % 9 === 4 ? { owned: 1 } : {}));
    const found = rankPumps(transfer(), pumps, 0.002, { place, closely: 3 });
    const { best, cheapest, owned } = cards(found);
    const doing = rankPumps(transfer(), pumps, 0.002, { place }).filter(
      ({ fit }) => fit?.kind === "ranked",
    );
    // What moves over twice of it is no choice while anything moves less.
    const prices = doing
      .filter(({ flow = 0 }) => flow < 2 * 0.002)
      .map((own) => priceOf(own) ?? Number.POSITIVE_INFINITY);
    expect(priceOf(cheapest as never)).toBe(Math.min(...prices));
    expect(owned && isOwned(owned)).toBe(true);
    expect(owned && priceOf(owned)).toBe(0);
    expect(best?.fit?.kind).toBe("ranked");
    const twin = { kind: "beside", pumps: [pumps[4], pumps[4]] } as never;
    // Of a pair of which one is owned, the other is still to be bought.
    expect(priceOf({ arrangement: twin })).toBe(pumps[4]?.price);
    expect(isOwned({ arrangement: twin })).toBe(false);
  });

  it("is never the one that is many times too strong while another does it, nor the cheapest so", () => {
    // The small one is dear, badly off its best and heavy; the strong one moves over ten times what is wanted.
    const wanted = 2.5e-4;
    const small = pumpOf("small", 11, 0.0008, { maxSuctionLift: 7, price: 400, mass: 40 });
    const strong = pumpOf("strong", 30, 0.008, { maxSuctionLift: 7, price: 60, mass: 5 });
    for (const weights of Object.values(WEIGHINGS)) {
      const found = rankPumps(transfer(), [strong, small], wanted, { place, weights });
      const [first, second] = found;
      expect([first?.pump.id, second?.pump.id]).toEqual(["small", "strong"]);
      expect((second?.flow ?? 0) / wanted).toBeGreaterThan(10);
      expect(first?.flow).toBeLessThan(2 * wanted);
      expect(cards(found).cheapest?.pump.id).toBe("small");
    }
    // Where nothing else does it, the strong one is what there is.
    const alone = cards(rankPumps(transfer(), [strong], wanted, { place }));
    expect([alone.best, alone.cheapest].map((own) => own?.pump.id)).toEqual(["strong", "strong"]);
  });

  it("keeps a seventh in hand for nothing, and what is more counts against it", () => {
    const [open] = rankPumps(transfer(), [parabola("own")], 1e-4, { place });
    const most = open?.flow ?? Number.NaN;
    const flows = [1.0001, 1.1, 1.149, 1.3, 1.9].map((times) => {
      const [found] = rankPumps(transfer(), [parabola("own")], most / times, { place });
      return found?.fit?.kind === "ranked" ? found.fit.parts.flow : Number.NaN;
    });
    expect(flows.slice(0, 3)).toEqual([1, 1, 1]);
    expect(flows[3]).toBeCloseTo(1 - 0.15 / 0.85, 3);
    expect(flows[4]).toBeCloseTo(1 - 0.75 / 0.85, 3);
  });

  it("by weight is the lightest that does it where weight is all that counts", () => {
    const pumps = library(60);
    const weights = { flow: 0, efficiency: 0, energy: 0, weight: 1, price: 0, van: 0, spares: 0 };
    const found = rankPumps(transfer(), pumps, 0.002, { place, weights });
    const doing = found.filter(({ fit, flow = 0 }) => fit?.kind === "ranked" && flow <= 2 * 0.002);
    expect(found[0]?.pump.mass).toBe(Math.min(...doing.map(({ pump }) => pump.mass ?? 0)));
  });

  it("counts an engine's energy out of its tank, four times what its shaft takes", () => {
    const motor = pumpOf("motor", 30, 0.006, { maxSuctionLift: 7 });
    const rows = (over: Partial<Pump>) =>
      motor.points.map((point) => ({ ...point, power: 900, ...over }));
    const both = [
      { ...motor, points: rows({}) },
      { ...motor, id: "engine", drive: "engine" as const, points: rows({}) },
    ];
    const weights = { flow: 0, efficiency: 0, energy: 1, weight: 0, price: 0, van: 0, spares: 0 };
    const site = {
      altitude: 0,
      waterTemperature: 288.15,
      specificGravity: 1,
      standsAt: "open-ground" as const,
    };
    const found = rankPumps({ ...transfer(), site }, both, 0.002, { place, weights });
    expect(found.map(({ pump }) => pump.id)).toEqual(["motor", "engine"]);
    const score = ({ fit }: (typeof found)[number]) =>
      fit?.kind === "ranked" ? fit.score : Number.NaN;
    expect(score(found[1] as never) / score(found[0] as never)).toBeCloseTo(0.25, 6);
  });

  it("tells the first before all are looked at", () => {
    const steps = rankPumpsInSteps(transfer(), library(60), 0.002, { place, early: true });
    const told: number[] = [];
    for (const { soFar } of steps) {
      if (soFar) told.push(soFar.filter(({ looked }) => looked).length);
    }
    expect(told).toEqual([3]);
  });

  it("is nothing while no flow is wanted", () => {
    const found = rankPumps(transfer(), library(10), undefined, { place });
    expect(found.every(({ fit }) => fit === undefined)).toBe(true);
    expect(cards(found)).toEqual({});
  });
});

describe("pump and pipe together", () => {
  const sizes = ["1-1-4in", "1-1-2in", "2in", "2-1-2in", "3in"].flatMap(
    (size) => findPipeStock(`pvc-sch40-${size}`) ?? [],
  );
  const asked = { place, itemIds: ["d"], sizes };
  const all = pumpAndPipe(transfer(), library(40), asked);

  it("are each what a full solution says, at all three levels", () => {
    const line = {
      ...transfer(),
      source: { kind: "open", level: levels(-0.5, 0, 0.5), intake: -1 } as const,
    };
    const found = pumpAndPipe(line, library(12), asked);
    expect(found.length).toBeGreaterThan(10);
    for (const { pump, stock, flow, least } of found) {
      const path = line.path.map((item) => {
        if (item.kind === "pump") return { ...item, pump: pump.id };
        return item.id === "d" && item.kind === "pipe" ? { ...item, stock: stock.id } : item;
      });
      const full = solveLine({ ...line, path }, [pump]);
      if (full.kind === "refused") throw new Error("refused");
      const { low, normal } = full.solution.cases;
      expect(Math.abs(flow / (normal.running?.state.delivered ?? 0) - 1)).toBeLessThan(1e-3);
      expect(Math.abs(least / (low.running?.state.delivered ?? 0) - 1)).toBeLessThan(1e-3);
    }
  });

  it("leave a front on which nothing is beaten, and off which everything is", () => {
    for (const money of ["price", "yearly"] as const) {
      const year = { volume: 5000, energyPrice: 0.3 / 3.6e6, fuelPrice: 1800, lasts: 10 };
      const priced = pumpAndPipe(transfer(), library(40), { ...asked, year });
      const front = frontOf(priced, money);
      expect(front.length).toBeGreaterThan(2);
      const beats = (a: (typeof priced)[number], b: (typeof priced)[number]) =>
        a.flow >= b.flow &&
        (a[money] ?? 0) <= (b[money] ?? 0) &&
        (a.flow > b.flow || (a[money] ?? 0) < (b[money] ?? 0));
      for (const own of priced) {
        const beaten = priced.some((other) => beats(other, own));
        expect(front.includes(own)).toBe(!beaten);
      }
    }
  });

  it("keep on the front only what a full solution finds nothing to stop for", () => {
    // Of this library every third needs more of its suction than there is.
    const pumps = library(40, (i) => (i % 3 === 0 ? { maxSuctionLift: 0.4 } : {}));
    const found = pumpAndPipe(transfer(), pumps, asked);
    const front = frontThatHolds(transfer(), found, "price", asked);
    expect(front.length).toBeGreaterThan(2);
    const numbers = front.map(({ pump }) => Number(pump.id.slice(2)));
    expect(numbers.filter((i) => i % 3 === 0)).toEqual([]);
    expect(frontOf(found, "price").some(({ pump }) => Number(pump.id.slice(2)) % 3 === 0)).toBe(
      true,
    );
  });

  it("cost by the year what energy and a tenth of the price come to", () => {
    const year = { volume: 5000, energyPrice: 0.3 / 3.6e6, fuelPrice: 1800, lasts: 10 };
    const [first] = pumpAndPipe(transfer(), library(40), { ...asked, year });
    if (!first) throw new Error("none");
    const { power = 0, flow, price = 0, yearly } = first;
    // kWh a year times what one costs, the hours being volume over flow.
    const hours = 5000 / flow / 3600;
    expect(yearly).toBeCloseTo((power / 1000) * hours * 0.3 + price / 10, 6);
    // An engine burns a tenth of a gallon an hour for each hp, at 1.80 a litre.
    const driven = library(40).map((pump) => ({ ...pump, drive: "engine" as const }));
    const burns = pumpAndPipe(transfer(), driven, { ...asked, year })[0];
    const litres = (0.1 * 3.785411784 * (burns?.power ?? 0)) / 745.7;
    expect(burns?.yearly).toBeCloseTo(
      litres * (5000 / (burns?.flow ?? 1) / 3600) * 1.8 + (burns?.price ?? 0) / 10,
      6,
    );
  });

  it("every price is the pump's and the pipe's, and a larger pipe never gives less", () => {
    for (const own of all)
      expect(own.price).toBeCloseTo((own.pump.price ?? 0) + own.stock.price * 60, 9);
    for (const { pump } of all) {
      const flows = all.filter((own) => own.pump === pump).map(({ flow }) => flow);
      expect(flows).toEqual(flows.toSorted((x, y) => x - y));
    }
  });
});
