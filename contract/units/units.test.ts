import fc from "fast-check";
import { unit } from "mathjs";
import { describe, expect, it } from "vitest";
import { format, formatForEntry } from "./format.ts";
import { parseQuantity } from "./parse.ts";
import {
  type Quantity,
  SHOWN,
  stepUnits,
  toUnit,
  UNITS,
  type UnitSystem,
  USUAL_STEPS,
  unitOf,
} from "./units.ts";

const si = (text: string, quantity: Quantity, system: UnitSystem = "metric") => {
  const parsed = parseQuantity(text, quantity, system);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe("conversion", () => {
  // mathjs, a general-purpose package of the registry, holds its own table of unit definitions.
  it.each<[Quantity, string, string, string]>([
    ["flow", "gpm", "gallon/minute", "m^3/s"],
    ["flow", "L/min", "L/minute", "m^3/s"],
    ["flow", "m³/h", "m^3/hour", "m^3/s"],
    ["length", "ft", "ft", "m"],
    ["diameter", "in", "inch", "m"],
    ["pressure", "psi", "psi", "Pa"],
    ["pressure", "bar", "bar", "Pa"],
    ["volume", "gal", "gallon", "m^3"],
    ["volume", "ft³", "ft^3", "m^3"],
    ["power", "hp", "hp", "W"],
    ["temperature", "°F", "degF", "K"],
    ["mass", "lb", "lbm", "kg"],
  ])("%s in %s agrees with mathjs", (quantity, symbol, other, base) => {
    const expected = unit(7.5, other).toNumber(base);
    expect(si(`7.5 ${symbol}`, quantity) / expected).toBeCloseTo(1, 5);
  });

  it("turns one psi into 2.31 ft of water", () => {
    // The figure of the trade; common practice, no source.
    expect(toUnit(si("1 psi", "head"), unitOf("head", "ft"))).toBeCloseTo(2.31, 2);
    expect(toUnit(si("10 m", "pressure"), unitOf("pressure", "bar"))).toBeCloseTo(0.98, 2);
  });
});

describe("what people type", () => {
  it.each<[string, Quantity, UnitSystem, number]>([
    ["120 gpm", "flow", "metric", 120 * 6.30902e-5],
    ["120", "flow", "us", 120 * 6.30902e-5],
    ["2.5", "flow", "metric", 0.0025],
    ["3 1/2 in", "diameter", "metric", 0.0889],
    ["3-1/2 in", "diameter", "metric", 0.0889],
    ['1-1/4"', "diameter", "metric", 0.03175],
    ["5/8 in", "diameter", "metric", 0.015875],
    ["3' 6\"", "length", "metric", 1.0668],
    ["3 ft 6 in", "length", "metric", 1.0668],
    ["-3 ft 6 in", "length", "metric", -1.0668],
    ["2.4 bar", "pressure", "us", 240000],
    ["2,4 bar", "pressure", "us", 240000],
    ["12,345.6 mm", "length", "metric", 12.3456],
    ["-0.5 m", "length", "us", -0.5],
    ["−0.5 m", "length", "us", -0.5],
    ["6 m3/h", "flow", "metric", 6 / 3600],
    ["6m³/h", "flow", "metric", 6 / 3600],
    ["60 °F", "temperature", "metric", 288.7056],
    ["15", "temperature", "metric", 288.15],
    ["1e3 mm", "length", "metric", 1],
    [".5 m", "length", "metric", 0.5],
    ["3 gal 2 qt 1 cup", "volume", "us", 0.01348553],
    ["5 us gal", "volume", "metric", 0.0189271],
    ["25KPA", "pressure", "metric", 25000],
  ])("%s as %s (%s)", (text, quantity, system, expected) => {
    expect(si(text, quantity, system) / expected).toBeCloseTo(1, 5);
  });

  it.each<[string, Quantity, RegExp]>([
    ["", "flow", /Type a number/],
    ["abc", "flow", /not a number/],
    ["12 parsec", "length", /not a unit of length/],
    ["12 gpm", "length", /not a unit of length: use m, ft/],
    ["1,200", "length", /Write 1200 or 1.200/],
    ["3/0 in", "diameter", /0 below the line/],
    ["1.2.3", "flow", /not a number/],
    ["3 ft 6", "length", /unit for each part/],
    ["9e999", "flow", /too large/],
  ])("refuses %j with a sentence", (text, quantity, message) => {
    expect(parseQuantity(text, quantity, "metric")).toMatchObject({
      ok: false,
      message: expect.stringMatching(message),
    });
  });

  it("never throws, and reads back what it wrote", () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.constantFrom(...(Object.keys(UNITS) as Quantity[])),
        (text, q) => {
          expect(typeof parseQuantity(text, q, "us").ok).toBe("boolean");
        },
      ),
    );
    fc.assert(
      fc.property(
        fc.double({ min: -1e5, max: 1e5, noNaN: true }),
        fc.constantFrom(...(Object.keys(UNITS) as Quantity[])),
        fc.constantFrom<UnitSystem>("us", "metric"),
        (value, quantity, system) => {
          const shown = formatForEntry(value, quantity, system);
          const back = si(shown, quantity, system);
          // Reading back and showing again settles: what is shown is what was read.
          expect(formatForEntry(back, quantity, system)).toBe(shown);
          const step = Math.abs(
            si(`1 ${SHOWN[system][quantity]}`, quantity) -
              si(`0 ${SHOWN[system][quantity]}`, quantity),
          );
          expect(Math.abs(back - value)).toBeLessThanOrEqual(step / 2 + 1e-9 * Math.abs(value));
        },
      ),
    );
  });

  it("shows every quantity with its unit in both systems", () => {
    expect(format(0.00243, "flow", "metric")).toBe("2.43 L/s");
    expect(format(0.00243, "flow", "us")).toBe("38.5 gpm");
    expect(format(-2.5, "head", "metric")).toBe("−2.50 m");
    expect(format(-0.0001, "head", "metric")).toBe("0.00 m");
    for (const system of ["us", "metric"] as const) {
      for (const quantity of Object.keys(UNITS) as Quantity[]) {
        expect(format(1, quantity, system)).toContain(SHOWN[system][quantity]);
      }
    }
  });
});

it("a watch reads minutes and seconds, and a jug its ounces, pints and cups", () => {
  for (const [text, seconds] of [
    ["0:43", 43],
    ["1:05", 65],
    ["12:30", 750],
    ["1:02:03", 3723],
  ] as const) {
    expect(parseQuantity(text, "time", "us")).toEqual({ ok: true, value: seconds });
  }
  for (const text of ["0:61", "1:2:3:4", ":30", "0:4x"]) {
    expect(parseQuantity(text, "time", "us").ok).toBe(false);
  }
  // A US gallon is 8 pints of 16 fluid ounces: NIST Handbook 44, appendix C, from memory.
  const volume = (text: string) => {
    const read = parseQuantity(text, "volume", "us");
    return read.ok ? read.value / 3.785411784e-3 : Number.NaN;
  };
  expect(volume("12 fl oz")).toBeCloseTo(12 / 128, 12);
  expect(volume("1 pt")).toBeCloseTo(1 / 8, 12);
  // Half of a word is no unit of anything.
  for (const text of ["25 pa", "25 pace", "12 fl", "3 g l"]) {
    expect([text, parseQuantity(text, "length", "us").ok]).toEqual([text, false]);
  }
});

describe("paces and bricks", () => {
  const own = stepUnits({ ...USUAL_STEPS, pace: 0.75 });
  const read = (text: string) => parseQuantity(text, "length", "us", own);

  it("are lengths of the person's own", () => {
    expect(read("25 paces")).toEqual({ ok: true, value: 18.75 });
    expect(read("6 bricks")).toMatchObject({ ok: true });
    expect(read("2 ft 1 brick")).toEqual({ ok: true, value: 2 * 0.3048 + 0.075 });
    // Three feet, as long as nobody says otherwise.
    expect(parseQuantity("1 pace", "length", "us", stepUnits(USUAL_STEPS))).toEqual({
      ok: true,
      value: 0.9144,
    });
  });

  it("mean nothing in a document, which knows no person", () => {
    expect(parseQuantity("25 paces", "length", "us")).toMatchObject({ ok: false });
  });
});

it("a size stands in its field as the trade says it, and is read back the same", () => {
  const shown = (inches: number) => formatForEntry(inches * 0.0254, "diameter", "us");
  expect([3 / 16, 5 / 32, 1.5, 2, 0.55, 14].map(shown)).toEqual([
    ...["3/16", "5/32", "1 1/2", "2", "0.55", "14"],
  ]);
  for (const inches of [3 / 16, 5 / 32, 1.5, 9 / 16, 11.9375]) {
    expect(si(shown(inches), "diameter", "us")).toBeCloseTo(inches * 0.0254, 12);
  }
});
