import { describe, expect, it } from "vitest";
import { findPipeStock } from "../catalogue/pipes.ts";
import { waterAt } from "../fluid/water.ts";
import { submergence } from "../hydraulics/submergence.ts";
import { joukowskySurge, waveSpeed } from "../hydraulics/surge.ts";
import { lineOf, open, pipe, set } from "../test/fixtures.ts";
import { type CompiledLine, suctionOf } from "./compiledLine.ts";
import { compileLine } from "./compileLine.ts";
import type { PathItem } from "./path.ts";
import { drainingPipes, highPoints, pipesOf, pipeVolume } from "./profile.ts";

function compiled(path: PathItem[]) {
  const result = compileLine(lineOf(path));
  if (result.kind !== "compiled") throw new Error(JSON.stringify(result.diagnostics));
  return result.line;
}

const pump = set("p");
const outlet = open("o");

const drainsBack = (line: CompiledLine) => {
  const [placed] = line.pumps;
  return placed && pipeVolume(drainingPipes(line, placed, 0));
};

describe("surge", () => {
  // Worked example of the textbooks: 1 m/s stopped at 1 000 m/s in water is 1 MPa, ten bar.
  it("is ρ a Δv", () => expect(joukowskySurge(1000, 1000, 1)).toBe(1e6));

  // Wave speeds as handbooks list them: steel 1 100–1 300 m/s, PVC 380–520, PE 180–380 (from memory).
  it.each([
    ["steel-sch40-2in", 1250, 1450],
    ["pvc-sch40-2in", 380, 520],
    ["pe100-sdr11-63mm", 250, 380],
    ["pe100-sdr17-63mm", 180, 300],
  ])("runs through %s at %i to %i m/s", (id, least, most) => {
    const stock = findPipeStock(id);
    const speed = stock && waveSpeed(stock, waterAt(288.15));
    expect(speed).toBeGreaterThan(least);
    expect(speed).toBeLessThan(most);
  });

  it("is not claimed for hose", () => {
    const hose = findPipeStock("lay-flat-2in");
    expect(hose && waveSpeed(hose, waterAt(288.15))).toBeUndefined();
  });
});

describe("submergence", () => {
  // S = D + 0.574 Q / D^1.5 in inches and gpm is the same rule in its US form (ANSI/HI 9.8, from memory).
  it.each([
    [8, 600],
    [4, 150],
    [2, 40],
  ])("of a %i in intake at %i gpm is what the US form gives", (inches, gpm) => {
    const diameter = inches * 0.0254;
    const velocity = (gpm * 6.30902e-5) / ((Math.PI / 4) * diameter ** 2);
    const us = inches + (0.574 * gpm) / inches ** 1.5;
    expect(submergence(diameter, velocity) / 0.0254 / us).toBeCloseTo(1, 2);
  });
});

describe("what the line holds", () => {
  it("primes the suction and drains the discharge above the water, up to the check valve", () => {
    const area = (Math.PI / 4) * 0.0508 ** 2;
    const open = compiled([
      pipe("s", "suction-hose-2in", 5, 3),
      pump,
      pipe("d", "lay-flat-2in", 20, 4),
      outlet,
    ]);
    expect(pipeVolume(pipesOf(suctionOf(open)))).toBeCloseTo(5 * area, 9);
    expect(drainsBack(open)).toBeCloseTo(20 * area, 9);
    // Half of a riser that starts as far below the water as it ends above it.
    const half = compiled([pump, pipe("d", "lay-flat-2in", 2, 2), outlet]);
    expect(drainsBack(half)).toBeCloseTo(area, 9);
    const held = compiled([
      pump,
      { kind: "fitting", id: "c", fitting: "check-swing", count: 1 },
      pipe("d", "lay-flat-2in", 20, 4),
      outlet,
    ]);
    expect(drainsBack(held)).toBe(0);
  });

  it("finds the humps where air gathers, and not the outlet", () => {
    const humps = compiled([
      pump,
      pipe("a", "lay-flat-2in", 20, 4),
      pipe("b", "lay-flat-2in", 20, -3),
      pipe("c", "lay-flat-2in", 20, 5),
      outlet,
    ]);
    expect(highPoints(humps).map((point) => point.itemId)).toEqual(["a"]);
    const steady = compiled([
      pump,
      pipe("a", "lay-flat-2in", 20, 4),
      pipe("b", "lay-flat-2in", 20, 0),
      outlet,
    ]);
    expect(highPoints(steady)).toEqual([]);
  });
});
