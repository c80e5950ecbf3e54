import fc from "fast-check";
import { lusolve } from "mathjs";
import { describe, expect, it } from "vitest";
import { type Corners, type Spot, unskewed } from "./projective.ts";
import { lookOver, readSheet, type Sheet } from "./sheet.ts";
import { type Grey, snapToLine } from "./snapToLine.ts";

/** A chart drawn to be read: axes, a grid and one curve, its flow 0 to 60 and head 0 to 40 in any units. */
const WIDTH = 900;
const HEIGHT = 640;
const FLOW = 60;
const HEAD = 40;
const left = 80;
const top = 40;
const wide = 760;
const high = 540;
const xOf = (flow: number) => left + (flow / FLOW) * wide;
const yOf = (head: number) => top + high - (head / HEAD) * high;
const curve = (flow: number) => 34 - 6 * (flow / 50) - 22 * (flow / 50) ** 2.2;

/** Dark lines on a light sheet, smoothed as a pen's edge is. */
function drawn(): Grey {
  const of = new Float32Array(WIDTH * HEIGHT).fill(245);
  const ink = (x: number, y: number, off: number, dark: number) => {
    if (x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT) return;
    const cover = Math.min(Math.max(1.6 - off, 0), 1);
    const at = Math.round(y) * WIDTH + Math.round(x);
    of[at] = Math.min(of[at] as number, 245 - cover * dark);
  };
  for (let k = 0; k <= 12; k++) {
    for (let x = left; x <= left + wide; x++) {
      const y = Math.round(top + (high * k) / 12);
      ink(x, y, 0.8, 40);
    }
    for (let y = top; y <= top + high; y++) {
      const x = Math.round(left + (wide * k) / 12);
      ink(x, y, 0.8, 40);
    }
  }
  for (let x = left; x <= xOf(50); x++) {
    const flow = ((x - left) / wide) * FLOW;
    const slope =
      ((curve(flow + 0.01) - curve(flow - 0.01)) / 0.02) * (high / HEAD) * (FLOW / wide);
    const middle = yOf(curve(flow));
    for (let y = Math.floor(middle) - 6; y <= middle + 6; y++) {
      ink(x, y, Math.abs(y - middle) / Math.hypot(1, slope), 200);
    }
  }
  return { width: WIDTH, height: HEIGHT, of };
}

const straight: Sheet = {
  flow: [
    { at: [xOf(0), yOf(0)], value: 0 },
    { at: [xOf(60), yOf(0)], value: 60 },
  ],
  head: [
    { at: [xOf(0), yOf(0)], value: 0 },
    { at: [xOf(0), yOf(40)], value: 40 },
  ],
};

/** The sheet as a camera held askew sees it, out of focus: brightness fetched backwards through the projection. */
const SEEN: Corners = [
  [70, 95],
  [840, 30],
  [880, 600],
  [25, 560],
];

function photographed(sheet: Grey): { picture: Grey; seen: (spot: Spot) => Spot } {
  const toUnit = unskewed(SEEN);
  if (!toUnit) throw new Error("corners in line");
  const of = new Float32Array(WIDTH * HEIGHT).fill(120);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = toUnit([x, y]);
      const [sx, sy] = [u * (WIDTH - 1), v * (HEIGHT - 1)];
      if (sx < 0 || sy < 0 || sx > WIDTH - 2 || sy > HEIGHT - 2) continue;
      const [x0, y0, fx, fy] = [Math.floor(sx), Math.floor(sy), sx % 1, sy % 1];
      const at = (i: number, k: number) => sheet.of[(y0 + k) * WIDTH + x0 + i] as number;
      of[y * WIDTH + x] =
        (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) +
        (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
    }
  }
  return {
    picture: blurred({ width: WIDTH, height: HEIGHT, of }),
    seen: (spot) => seenAt(spot, toUnit),
  };
}

/** Where a spot of the sheet is in the picture: by search, the projection is only known the other way. */
function seenAt([x, y]: Spot, toUnit: (spot: Spot) => Spot): Spot {
  let at: [number, number] = [x, y];
  for (let i = 0; i < 40; i++) {
    const [u, v] = toUnit(at);
    const step = [u * (WIDTH - 1) - x, v * (HEIGHT - 1) - y];
    at = [at[0] - 0.8 * (step[0] as number), at[1] - 0.8 * (step[1] as number)];
  }
  return at;
}

function blurred({ width, height, of }: Grey): Grey {
  const pass = (from: ArrayLike<number>, dx: number, dy: number) => {
    const to = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let s = -2; s <= 2; s++) {
          const [cx, cy] = [
            Math.min(Math.max(x + s * dx, 0), width - 1),
            Math.min(Math.max(y + s * dy, 0), height - 1),
          ];
          sum += from[cy * width + cx] as number;
        }
        to[y * width + x] = sum / 5;
      }
    }
    return to;
  };
  return { width, height, of: pass(pass(of, 1, 0), 0, 1) };
}

/** Farthest a trace lies from the curve it was taken of, as a part of the whole of the axis it is farther along. */
function worst(picture: Grey, sheet: Sheet, clickAt: (flow: number) => Spot): number {
  const reading = readSheet(sheet);
  if (reading.kind === "fault") throw new Error(reading.fault);
  let most = 0;
  for (let flow = 1; flow <= 49; flow += 4) {
    // A hand misses by a few pixels.
    const [x, y] = clickAt(flow);
    const click: Spot = [x + 3 * Math.sin(flow * 7), y + 4 * Math.cos(flow * 5)];
    const spot = snapToLine(picture, click);
    if (!spot) throw new Error(`no line at ${flow}`);
    const read = reading.at(spot);
    most = Math.max(most, Math.abs(read.head - curve(read.flow)) / HEAD);
  }
  return most;
}

describe("a curve traced on a picture", () => {
  const sheet = drawn();
  it("is the curve within half a hundredth of the scale where the picture is straight", () => {
    expect(worst(sheet, straight, (flow) => [xOf(flow), yOf(curve(flow))])).toBeLessThan(0.005);
  });

  it("is the curve within a hundredth where it was photographed askew and out of focus", () => {
    const { picture, seen } = photographed(sheet);
    const marked = (spot: Spot, value: number) => ({ at: seen(spot), value });
    const askew: Sheet = {
      corners: SEEN,
      flow: [marked([xOf(0), yOf(0)], 0), marked([xOf(60), yOf(0)], 60)],
      head: [marked([xOf(0), yOf(0)], 0), marked([xOf(0), yOf(40)], 40)],
    };
    const at = (flow: number) => seen([xOf(flow), yOf(curve(flow))]);
    expect(worst(picture, askew, at)).toBeLessThan(0.01);
    // Without the corners the same clicks are out by more than that.
    expect(worst(picture, { ...askew, corners: undefined }, at)).toBeGreaterThan(0.01);
  });

  it("finds no line where there is none", () => {
    expect(snapToLine(sheet, [30, 20])).toBeUndefined();
  });
});

describe("a sheet", () => {
  it("is taken off its skew as a linear solver (mathjs) does it", () => {
    const spot = fc.tuple(
      fc.double({ min: 0.1, max: 0.9, noNaN: true }),
      fc.double({ min: 0.1, max: 0.9, noNaN: true }),
    );
    fc.assert(
      fc.property(spot, ([u, v]) => {
        const [a, b, c, d] = SEEN;
        const rows: number[][] = [];
        const right: number[] = [];
        for (const [[x, y], [s, t]] of [
          [a, [0, 0]],
          [b, [1, 0]],
          [c, [1, 1]],
          [d, [0, 1]],
        ] as const) {
          // The other way round: from the square to the picture.
          rows.push([s, t, 1, 0, 0, 0, -x * s, -x * t], [0, 0, 0, s, t, 1, -y * s, -y * t]);
          right.push(x, y);
        }
        const m = (lusolve(rows, right) as number[][]).map(([value]) => value as number);
        const w = (m[6] as number) * u + (m[7] as number) * v + 1;
        const seen: Spot = [
          ((m[0] as number) * u + (m[1] as number) * v + (m[2] as number)) / w,
          ((m[3] as number) * u + (m[4] as number) * v + (m[5] as number)) / w,
        ];
        const back = unskewed(SEEN)?.(seen) ?? [Number.NaN, Number.NaN];
        expect(Math.hypot(back[0] - u, back[1] - v)).toBeLessThan(1e-9);
      }),
    );
  });

  it("is read along axes that are not square to the picture, and back at their own marks", () => {
    const turned: Sheet = {
      flow: [
        { at: [100, 500], value: 10 },
        { at: [700, 440], value: 50 },
      ],
      head: [
        { at: [100, 500], value: 2 },
        { at: [60, 80], value: 30 },
      ],
    };
    const reading = readSheet(turned);
    if (reading.kind === "fault") throw new Error(reading.fault);
    expect(reading.at([700, 440])).toMatchObject({ flow: 50, head: expect.closeTo(2, 9) });
    expect(reading.at([60, 80]).head).toBeCloseTo(30, 9);
    expect(reading.at([60, 80]).flow).toBeCloseTo(10, 9);
  });

  it("says what it cannot be read by", () => {
    const fault = (over: object) => {
      const found = readSheet({ ...straight, ...over } as Sheet);
      return found.kind === "fault" ? found.fault : "read";
    };
    const [zero, sixty] = straight.flow;
    expect(fault({ flow: [zero, { ...sixty, value: 0 }] })).toBe("same-flow-twice");
    expect(fault({ flow: [zero, { ...sixty, at: zero.at }] })).toBe("flow-marks-together");
    expect(fault({ head: [zero, { at: sixty.at, value: 40 }] })).toBe("axes-in-line");
    const line: Corners = [
      [0, 0],
      [10, 0],
      [20, 0],
      [0, 10],
    ];
    expect(fault({ corners: line })).toBe("corners-in-line");
    expect(fault({})).toBe("read");
  });

  it("names the one click that went astray, a head that rises and a click made twice", () => {
    const points = [0, 8, 16, 24, 32, 40, 48].map((flow) => ({ flow, head: curve(flow) }));
    expect(lookOver(points).remarks).toEqual([]);
    for (let astray = 0; astray < points.length; astray++) {
      const wrong = points.map((point, i) =>
        i === astray ? { ...point, head: point.head + 5 } : point,
      );
      const wild = lookOver(wrong).remarks.filter(({ kind }) => kind === "wild");
      expect(wild).toEqual([{ kind: "wild", index: astray, off: expect.any(Number) }]);
    }
    const drooping = points.map(({ flow }) => ({
      flow,
      head: 20 + 0.4 * flow - 0.012 * flow * flow,
    }));
    expect(lookOver(drooping).remarks.map(({ kind }) => kind)).toContain("rises");
    const twice = lookOver([...points, { flow: 8.1, head: curve(8.1) }]).remarks;
    expect(twice).toEqual([{ kind: "doubled", index: 2 }]);
    expect(lookOver(points.slice(0, 3)).remarks).toEqual([{ kind: "too-few", count: 3 }]);
  });
});
