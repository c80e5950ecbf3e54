import { describe, expect, it } from "vitest";
import { type Solution, solveLine } from "../hydraulics/solveLine.ts";
import type { PathItem } from "../line/path.ts";
import { BAR, GRAVITY, PSI } from "../quantity/constants.ts";
import { levels, lineOf, open, pipe, set } from "../test/fixtures.ts";
import {
  mostHead,
  reachOf,
  reachOfPump,
  scaleFor,
  takesPressure,
  unfitOf,
  usualScale,
} from "./reach.ts";

/** A pump that makes 155 m shut off (220 psi) and about 70 m where this line runs. */
const STRONG = {
  id: "one",
  points: [0, 0.5, 1, 1.5, 2].map((q) => ({ flow: q * 1e-3, head: 155 - 42 * q * q * 0.5 * 2 })),
  ratedSpeedRpm: 2900,
  drive: "electric" as const,
  submersible: true,
  tolerance: "2B" as const,
};
const solved = (path: PathItem[], pumps = [STRONG], over = {}): Solution => {
  const result = solveLine(lineOf(path, over), pumps);
  if (result.kind !== "solved") throw new Error(JSON.stringify(result.diagnostics));
  return result.solution;
};
const PATH = [set("p"), pipe("up", "pvc-sch40-1in", 60, 50), open("o")];

describe("what a gauge has to take", () => {
  const solution = solved(PATH);
  const { density } = solution.water;
  it("is the shut-off head over the highest water, whatever the line runs at", () => {
    expect(mostHead(solution, 0)?.head).toBeCloseTo(155, 9);
    const reach = reachOf(solution, 0, 2);
    expect(reach.gauge?.most).toBeCloseTo(153 * density * GRAVITY, 3);
    // A sound pump of grade 2B may make 5 % more.
    expect(reach.gauge?.strongest).toBeCloseTo((1.05 * 155 - 2) * density * GRAVITY, 3);
  });
  it("counts high water, and the pumps of a series together", () => {
    const high = solved(PATH, [STRONG], {
      source: { kind: "open", level: levels(-3, 0, 4), intake: -4 },
    });
    expect(mostHead(high, 0)?.head).toBeCloseTo(159, 9);
    const two = [set("p"), pipe("a", "pvc-sch40-1in", 3), set("q", "two"), ...PATH.slice(1)];
    const series = solved(two, [STRONG, { ...STRONG, id: "two" }]);
    // The gauge stands between them: the line beyond it shuts, and it feels both.
    expect(mostHead(series, 0)?.head).toBeCloseTo(310, 9);
  });
  it("refuses the dial that ends at 36 psi where the line runs at 100 and shuts at 220", () => {
    const reach = reachOf(solution, 0, 0);
    const read = (fullScale: number, pressure = 0.9 * fullScale) =>
      unfitOf({ flow: { method: "shut" }, discharge: { fullScale, pressure } }, reach)?.of;
    expect(read(36 * PSI)).toBe("gauge");
    expect(read(200 * PSI)).toBe("gauge");
    const most = reach.gauge?.most ?? 0;
    expect(read(most * 0.999)).toBe("gauge");
    expect(read(most * 1.001)).toBeUndefined();
    expect(read(300 * PSI, 301 * PSI)).toBe("off-the-dial");
    expect(takesPressure(36 * PSI, {})).toBe(true);
  });
  it("is what the pump makes alone, at least, where nobody knows the line", () => {
    const alone = reachOfPump(STRONG, 1, 1000);
    expect(alone.gauge?.most).toBeCloseTo(155 * 1000 * GRAVITY, 6);
    expect(alone.gauge?.strongest).toBeCloseTo(1.05 * 155 * 1000 * GRAVITY, 6);
    expect(alone.gauge?.published).toBe(false);
    // Head goes with the square of the speed.
    expect(reachOfPump(STRONG, 0.8, 1000).gauge?.most).toBeCloseTo(0.64 * 155000 * GRAVITY, 6);
    const read = (fullScale: number) =>
      unfitOf({ flow: { method: "shut" }, discharge: { fullScale, pressure: 0 } }, alone)?.of;
    expect(read(1.5e6)).toBe("gauge");
    expect(read(1.6e6)).toBeUndefined();
  });
  it("takes the smallest dial over the strongest pump until one is picked", () => {
    const reach = reachOf(solution, 0, 0);
    expect(scaleFor(reach, "psi", 100 * PSI) / PSI).toBeCloseTo(300, 6);
    expect(scaleFor(reach, "bar", 6 * BAR)).toBe(16 * BAR);
    expect(scaleFor({}, "bar", 6 * BAR)).toBe(6 * BAR);
    expect(usualScale(1e9, "bar")).toBe(100 * BAR);
  });
});

describe("what a bucket and a meter have to take", () => {
  const bucket = (times: number[]) => ({
    flow: {
      method: "bucket",
      volume: 0.02,
      volumeTolerance: 0.02,
      times,
      timingTolerance: 0.3,
    } as const,
  });
  it("refuses a bucket that 200 gpm fills in a second and a half", () => {
    expect(unfitOf(bucket([1.5, 1.6]), {})?.of).toBe("bucket");
    expect(unfitOf(bucket([1.9, 2.2]), {})).toBeUndefined();
  });
  it("refuses a meter past what it is made for", () => {
    const meter = { flow: { method: "meter", flow: 0.004, tolerance: 0.02 } as const };
    expect(unfitOf(meter, {}, 0.003)?.of).toBe("meter");
    expect(unfitOf(meter, {}, 0.004)).toBeUndefined();
    expect(unfitOf(meter, {})).toBeUndefined();
  });
});
