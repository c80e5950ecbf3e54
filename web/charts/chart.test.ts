import { describe, expect, it } from "vitest";
import { type ChartSpec, type Curve, plotOf, steps } from "./chart.ts";

const INK = {
  ...{ paper: "#ffffff", ink: "#000000", soft: "#666666", rule: "#cccccc" },
  ...{ water: "#0a64a0", pump: "#a05000", signal: "#b00020" },
};
const CURVE: Curve = {
  as: "curve",
  name: "Pump",
  ink: "pump",
  points: [
    { x: 0, y: 20, says: "none at 20 m" },
    { x: 1, y: null },
    { x: 2, y: 10, doubt: 0.5, id: "last" },
  ],
};
const plot = (by: Partial<ChartSpec> = {}) =>
  plotOf({ x: { title: "Flow" }, y: { title: "Head" }, drawn: [CURVE], ...by }, INK);
/** What the chart library takes is read loosely. */
// biome-ignore lint/suspicious/noExplicitAny: its shapes are its own
type Loose = any;
const at = (by: Partial<ChartSpec> = {}) => plot(by) as unknown as { data: Loose; layout: Loose };

describe("what is drawn", () => {
  it("is a curve with its gaps, what is said of it, its doubts, and what it is taken by", () => {
    const [curve] = at().data;
    expect(curve).toMatchObject({
      ...{ x: [0, 1, 2], y: [20, null, 10], mode: "lines", showlegend: true },
      ...{ text: ["none at 20 m", "", ""], customdata: [undefined, undefined, "last"] },
    });
    expect(curve.error_y.array).toEqual([0, 0, 0.5]);
    expect(curve.line.color).toBe(INK.pump);
    const silent = at({ drawn: [{ ...CURVE, points: [{ x: 0, y: 1 }] }] }).data[0];
    expect(silent).toMatchObject({ hoverinfo: "skip" });
    expect(silent).not.toHaveProperty("error_y");
    expect(silent).not.toHaveProperty("customdata");
  });

  it("fills down to the curve before it, and a closed one within", () => {
    const fill = (by: Partial<Curve>) => at({ drawn: [{ ...CURVE, ...by }] }).data[0];
    expect(fill({})).not.toHaveProperty("fill");
    expect(fill({ fill: 0.2 })).toMatchObject({
      ...{ fill: "tonexty", fillcolor: "rgba(160, 80, 0, 0.2)" },
    });
    expect(fill({ fill: 0.2, closed: true }).fill).toBe("toself");
    expect(fill({ stepped: true }).line.shape).toBe("hv");
  });

  it("marks each place as it is asked to", () => {
    const marks = { as: "marks", name: "Read", ink: "signal", points: CURVE.points } as const;
    const one = (by: object) => at({ drawn: [{ ...marks, ...by }] }).data[0].marker;
    expect(one({ shape: "diamond", hollow: [true, false, true] }).symbol).toEqual([
      ...["diamond-open", "diamond", "diamond-open"],
    ]);
    // A hollow round mark shows the paper and not the curve under it.
    expect(one({ hollow: true })).toMatchObject({ symbol: "circle", color: INK.paper });
    expect(one({})).toMatchObject({ symbol: "circle", color: INK.signal, size: 10 });
    expect(one({ size: [8, 13, 8] }).size).toEqual([8, 13, 8]);
    expect(one({ faint: true }).opacity).toBeLessThan(1);
  });
});

describe("around it", () => {
  it("a legend stands over what has several names, and over nothing else", () => {
    const two = [CURVE, { ...CURVE, name: "Line" }];
    expect(at().layout.showlegend).toBe(false);
    expect(at({ drawn: two }).layout.showlegend).toBe(true);
    expect(at({ drawn: [CURVE, { ...CURVE, unnamed: true }] }).layout.showlegend).toBe(false);
    expect(at({ drawn: two, legend: false }).layout.showlegend).toBe(false);
  });

  it("axes begin at nothing unless they are free, and depth goes down", () => {
    const y = (by: object) => at({ y: { title: "", ...by } }).layout.yaxis;
    expect(y({}).rangemode).toBe("tozero");
    expect(y({ free: true }).rangemode).toBeUndefined();
    expect(y({ range: [0, 5] }).range).toEqual([0, 5]);
    expect(y({ range: [0, 5], down: true }).range).toEqual([5, 0]);
    expect(y({ down: true }).autorange).toBe("reversed");
    expect(y({ bare: true }).showticklabels).toBe(false);
    expect(at({ x: { title: "", days: true } }).layout.xaxis.type).toBe("date");
    expect(at().layout).not.toHaveProperty("yaxis2");
    const right = at({ right: { title: "Flow" }, drawn: [{ ...CURVE, right: true }] });
    expect(right.layout.yaxis2).toMatchObject({ side: "right", overlaying: "y" });
    expect(right.data[0].yaxis).toBe("y2");
  });

  it("lines and areas go right across where they name one direction only", () => {
    const { shapes, annotations } = at({
      levels: [
        { y: 12, ink: "signal", name: "limit" },
        { x: 3, ink: "pump" },
      ],
      shades: [
        { x: [1, 2], ink: "soft", opacity: 0.1, name: "best" },
        { x: [1, 2], y: [3, 4], ink: "ink", opacity: 0.1, outlined: true },
      ],
    }).layout;
    expect(shapes).toMatchObject([
      { type: "rect", x0: 1, x1: 2, yref: "paper", layer: "below" },
      { type: "rect", x0: 1, x1: 2, y0: 3, y1: 4, line: { dash: "dot" } },
      { type: "line", xref: "paper", x0: 0, x1: 1, y0: 12, y1: 12 },
      { type: "line", x0: 3, x1: 3, yref: "paper" },
    ]);
    expect(annotations).toMatchObject([
      { text: "best", x: 1.5 },
      { text: "limit", y: 12 },
    ]);
  });
});

it("steps are equal and have both ends", () => {
  expect(steps(1, 2, 4)).toEqual([1, 1.25, 1.5, 1.75, 2]);
});
