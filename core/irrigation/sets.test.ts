import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ACRE, FOOT, GALLON, INCH } from "../quantity/constants.ts";
import { widestFree } from "./arcs.ts";
import { besideSide, type KeepOff, overlapping, surveyed } from "./ground.ts";
import { applicationRate, wettedArea } from "./gun.ts";
import { areaOf, clipped, isInside, type Point } from "./plane.ts";
import { planSets, type SetPlan, SPACING, secondsPerSet } from "./sets.ts";

const box = (length: number, width: number): Point[] => [
  [0, 0],
  [length, 0],
  [length, width],
  [0, width],
];
const gpm = GALLON / 60;

function planned(over: Partial<Parameters<typeof planSets>[0]> = {}): SetPlan {
  const result = planSets({
    ...{ outline: box(120, 80), keepOff: [], radius: 20, arc: 360 },
    ...{ spacing: SPACING.light, guns: 1, ...over },
  });
  if (result.kind !== "planned") throw new Error(result.why);
  return result;
}

// Areas and depths by hand: π r², depth × area ÷ flow. Which depths and spacings are laid is common practice, no source.
describe("what one gun wets", () => {
  it.each([
    [48, 0.166],
    [68, 0.333],
  ])("%d ft are %d acre", (feet, acres) => {
    expect(wettedArea(feet * FOOT) / ACRE).toBeCloseTo(acres, 3);
    expect(wettedArea(feet * FOOT, 90)).toBeCloseTo(wettedArea(feet * FOOT) / 4, 9);
  });

  // Computed: half an inch over the circle at 80 gpm.
  it.each([
    [75, 68.8],
    [77.5, 73.5],
    [80, 78.3],
  ])("80 gpm lay half an inch on %d ft in %d min", (feet, minutes) => {
    const area = wettedArea(feet * FOOT);
    expect(secondsPerSet(0.5 * INCH, area, 1, 80 * gpm) / 60).toBeCloseTo(minutes, 1);
  });

  it("50 ft and half an inch in 45 min are 54.4 gpm; in/h is 96.25 gpm/ft²", () => {
    const area = wettedArea(50 * FOOT);
    expect((0.5 * INCH * area) / 2700 / gpm).toBeCloseTo(54.4, 1);
    const perHour = (applicationRate(54.4 * gpm, area) * 3600) / INCH;
    expect(perHour).toBeCloseTo((96.25 * 54.4) / (area / FOOT ** 2), 3);
  });

  it("70 000 gal on 2.5 acres are 1.03 in", () => {
    expect((70_000 * GALLON) / (2.5 * ACRE) / INCH).toBeCloseTo(1.03, 2);
  });
});

describe("sets on a field", () => {
  it("lay the depth on the field, not on the circles that overlap", () => {
    const plan = planned({ spacing: 0.5 });
    const seconds = secondsPerSet(0.012, plan.area, plan.sets, 4e-3);
    expect(seconds * plan.sets * 4e-3).toBeCloseTo(0.012 * 120 * 80, 6);
    // At half the diameter apart, the depth on each whole circle would be about three times as much water.
    expect((wettedArea(20) * plan.sets) / plan.area).toBeGreaterThan(2.9);
  });

  it("stand inside, no farther apart than asked, and wet all of it", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 15, max: 300, noNaN: true }),
        fc.double({ min: 15, max: 300, noNaN: true }),
        fc.double({ min: 8, max: 40, noNaN: true }),
        fc.constantFrom(...Object.values(SPACING)),
        fc.integer({ min: 1, max: 3 }),
        (length, width, radius, spacing, guns) => {
          const outline = box(length, width);
          const plan = planned({ outline, radius, spacing, guns });
          const step = spacing * 2 * radius;
          expect(plan.spacing.along).toBeLessThanOrEqual(step * (1 + 1e-9));
          expect(plan.spacing.across).toBeLessThanOrEqual(step * (1 + 1e-9));
          for (const { at } of plan.stands) expect(isInside(outline, at)).toBe(true);
          const own = plan.stands.reduce((sum, { area }) => sum + area, 0);
          expect(own).toBeCloseTo(length * width, 3);
          expect(plan.sets).toBe(Math.ceil(plan.stands.length / guns));
          expect(plan.shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
          // A corner lies 0.71 of the spacing off, inside every circle.
          expect(plan.dry).toBeLessThan(0.12);
        },
      ),
      { numRuns: 150 },
    );
  });

  it("a stand counts by what it adds: round edges take no more of them, and all of it is wet", () => {
    const circle = surveyed({ kind: "circle", diameter: 120 });
    if (circle.kind !== "surveyed") throw new Error("no circle");
    const plan = planned({ outline: circle.outline, radius: 17, spacing: 0.5 });
    // Counted: of 8 × 8 cells of 15 m, 60 have an eighth or more of a circle of 120 m in them.
    expect(plan.stands.length).toBeLessThan(53);
    const wet = (point: Point) =>
      plan.stands.some(({ at }) => Math.hypot(at[0] - point[0], at[1] - point[1]) < 17);
    let [all, dry] = [0, 0];
    const box = { left: -61, step: 0.8 };
    const shift = circle.outline.reduce(
      (least, [x, y]) => [Math.min(least[0], x), Math.min(least[1], y)] as Point,
      [Infinity, Infinity] as Point,
    );
    for (let x = 0; x < 122; x += box.step) {
      for (let y = 0; y < 122; y += box.step) {
        const point: Point = [shift[0] + x, shift[1] + y];
        if (!isInside(circle.outline, point)) continue;
        all++;
        if (!wet(point)) dry++;
      }
    }
    expect(dry / all).toBeLessThan(1e-3);
    expect(plan.stands.reduce((sum, { area }) => sum + area, 0) / circle.area).toBeCloseTo(1, 2);
  });

  it("closer in wind: more sets. A cone at half its diameter is even away from the edges", () => {
    const [calm, strong] = [planned({ spacing: SPACING.calm }), planned({ spacing: 0.4 })];
    expect(strong.sets).toBeGreaterThan(calm.sets);
    const wide = planned({ outline: box(1200, 1200), spacing: 0.5 });
    expect(wide.evenness.christiansen).toBeGreaterThan(0.93);
    expect(wide.outside).toBeLessThan(0.03);
  });

  it("are moved to and fro: each next stand is a neighbour, and the first is near where the water comes from", () => {
    for (const from of [
      [0, 0],
      [120, 80],
      [0, 80],
    ] as const) {
      const { stands, spacing } = planned({ from });
      for (const [i, { at }] of stands.entries()) {
        const before = stands[i - 1]?.at;
        if (!before) continue;
        const step = Math.hypot(at[0] - before[0], at[1] - before[1]);
        expect(step).toBeLessThan(1.01 * Math.max(spacing.along, spacing.across));
      }
      const far = stands.map(({ at }) => Math.hypot(at[0] - from[0], at[1] - from[1]));
      expect(far[0]).toBeCloseTo(Math.min(...far), 6);
    }
  });

  it("keep off an edge: no arc reaches over it, and what is turned less stands shorter", () => {
    const outline = box(120, 80);
    const hedge: KeepOff = { points: besideSide(outline, 2, 1), closed: false };
    const plan = planned({ keepOff: [hedge] });
    const over = plan.stands.filter(({ at, arc, facing }) => {
      const reach = 20 * Math.sin((facing * Math.PI) / 180);
      return at[1] + 20 > 81 && arc < 360 && reach > 0;
    });
    expect(over).toEqual([]);
    const turned = plan.stands.findIndex(({ at, arc }) => arc < 359 && Math.abs(at[0] - 60) < 15);
    const whole = plan.stands.findIndex(({ arc }) => arc === 360);
    const part = plan.stands[turned];
    expect((plan.shares[turned] as number) / (plan.shares[whole] as number)).toBeCloseTo(
      (part?.arc ?? 0) / 360,
      9,
    );
    // Distance d to a long straight edge: what is left is 360° − 2 acos(d/R).
    const d = 81 - (part?.at[1] ?? 0);
    expect(part?.arc).toBeCloseTo(360 - (2 * Math.acos(d / 20) * 180) / Math.PI, 6);
    expect(plan.outside).toBeLessThan(planned().outside);
  });

  it("no arc left beside a point: the widest free one, or all of it far away", () => {
    const wall: [Point, Point] = [
      [-100, 5],
      [100, 5],
    ];
    expect(widestFree([0, 0], [wall], 4).arc).toBe(360);
    const free = widestFree([0, 0], [wall], 10);
    expect(free.arc).toBeCloseTo(240, 9);
    expect(free.facing).toBeCloseTo(270, 9);
  });

  it("say what is wrong: a circle larger than the field, edges that cross, a field all kept off, no throw", () => {
    const small = planned({ outline: box(20, 15) });
    expect(small.stands).toHaveLength(1);
    expect(small.notes).toContainEqual({ code: "circle-larger-than-field", width: 15 });
    expect(small.outside).toBeGreaterThan(0.4);
    const hedge = (points: Point[], closed = false): KeepOff => ({ points, closed });
    const crossed = planned({
      keepOff: [
        hedge([
          [-5, 40],
          [60, 40],
        ]),
        hedge([
          [30, 10],
          [30, 60],
        ]),
      ],
    });
    expect(crossed.notes).toContainEqual({ code: "keep-off-overlap", between: [0, 1] });
    const square = box(10, 10);
    const pair = (points: Point[]) =>
      overlapping([hedge(square, true), hedge(points, true)]).length;
    expect(pair(square)).toBe(1);
    expect(pair(square.map(([x, y]): Point => [2 + x / 2, 2 + y / 2]))).toBe(1);
    expect(pair(square.map(([x, y]): Point => [x + 11, y]))).toBe(0);
    const pond = hedge(
      box(130, 90).map(([x, y]): Point => [x - 5, y - 5]),
      true,
    );
    const asked = {
      outline: box(120, 80),
      keepOff: [pond],
      radius: 20,
      arc: 360,
      spacing: 0.5,
      guns: 1,
    };
    expect(planSets(asked)).toEqual({ kind: "refused", why: "nothing-left" });
    expect(planSets({ ...asked, keepOff: [], radius: 0 })).toMatchObject({ why: "no-throw" });
    expect(planSets({ ...asked, keepOff: [], radius: 0.2 })).toMatchObject({
      why: "too-many-sets",
    });
  });

  it("a pond in the middle is no field, and stands beside it", () => {
    const pond: KeepOff = {
      points: box(20, 20).map(([x, y]): Point => [x + 50, y + 30]),
      closed: true,
    };
    const plan = planned({ keepOff: [pond] });
    expect(plan.area).toBeCloseTo(120 * 80 - 400, -1);
    for (const { at } of plan.stands) expect(isInside(pond.points, at)).toBe(false);
  });
});

describe("ground", () => {
  it("has its true area, walked or drawn", () => {
    const circle = surveyed({ kind: "circle", diameter: 50 });
    expect(circle.kind === "surveyed" && circle.area).toBeCloseTo(Math.PI * 625, 6);
    const legs = [0, 90, 180, 270].map((bearing) => ({ length: 40, bearing }));
    const walk = surveyed({ kind: "walked", legs });
    expect(walk.kind === "surveyed" && walk.area).toBeCloseTo(1600, 6);
    // Three sides walked: the fourth is the way straight back.
    const open = surveyed({ kind: "walked", legs: legs.slice(0, 3) });
    expect(open).toMatchObject({ area: expect.closeTo(1600, 6), walk: { lastSideOpen: true } });
    // A walk two paces short is closed along all of it.
    const short = surveyed({
      kind: "walked",
      legs: legs.map((leg, i) => (i === 3 ? { ...leg, length: 38.5 } : leg)),
    });
    expect(short).toMatchObject({ walk: { gap: expect.closeTo(1.5, 9), lastSideOpen: false } });
    expect(short.kind === "surveyed" && Math.abs(short.area / 1570 - 1)).toBeLessThan(0.01);
  });

  it("that crosses itself, or has no size, is refused", () => {
    const eight = [
      ...[
        { length: 40, bearing: 45 },
        { length: 30, bearing: 180 },
      ],
      ...[
        { length: 40, bearing: 315 },
        { length: 26, bearing: 180 },
      ],
    ];
    expect(surveyed({ kind: "walked", legs: eight })).toMatchObject({ why: "crosses-itself" });
    expect(surveyed({ kind: "walked", legs: [] })).toMatchObject({ why: "too-few-sides" });
  });

  it("is cut by cells into pieces that add up to it", () => {
    const bent: Point[] = [
      [0, 0],
      [50, 0],
      [50, 20],
      [20, 20],
      [20, 60],
      [0, 60],
    ];
    let sum = 0;
    for (let x = 0; x < 50; x += 7) {
      for (let y = 0; y < 60; y += 9) {
        sum += areaOf(clipped(bent, { left: x, right: x + 7, bottom: y, top: y + 9 }));
      }
    }
    expect(sum).toBeCloseTo(areaOf(bent), 9);
  });
});
