import { describe, expect, it } from "vitest";
import { FOOT, GALLON } from "#core/quantity/constants.ts";
import { LOGGER_COLUMNS } from "./loggerTable.ts";
import { AREA_COLUMNS, AREA_ORDER, readAreas } from "./readAreas.ts";
import { PROFILE_COLUMNS, PROFILE_ORDER } from "./readProfile.ts";
import { readStorm, STORM_COLUMNS, STORM_ORDER } from "./readStorm.ts";
import { asSaid, cellsOf, type Holding, readNumber, readTable, type Table } from "./table.ts";

const held = ({ columns }: Table) => columns.map(({ holds }) => holds);
const profile = (text: string) => readTable(text, PROFILE_COLUMNS, PROFILE_ORDER);
const storm = (text: string) => readTable(text, STORM_COLUMNS, STORM_ORDER);
const areas = (text: string) => readTable(text, AREA_COLUMNS, AREA_ORDER);

describe("what a column holds", () => {
  it("is known by its heading, each of them once", () => {
    expect(held(profile("RL\tNote\tDistance\n1\t\t0"))).toEqual(["height", undefined, "distance"]);
    expect(held(profile("Level,Height\n0,1"))).toEqual(["height", "distance"]);
    expect(profile("Height (ft),Along [m]\n0,1").columns).toEqual([
      { heading: "Height (ft)", holds: "height", units: ["ft"] },
      { heading: "Along [m]", holds: "distance", units: ["m"] },
    ]);
  });

  it("else by a unit that only one could be in", () => {
    expect(held(storm("t (min),Q (gpm)\n0,1"))).toEqual(["time", "inflow"]);
    expect(held(storm("t (min),P (mm)\n0,1"))).toEqual(["time", "rain"]);
    // Both a suction and a discharge gauge are in bar.
    expect(held(readTable("time,P1 (bar)\n0,1", LOGGER_COLUMNS))).toEqual(["time", undefined]);
    expect(held(readTable("time,P1 (kW)\n0,1", LOGGER_COLUMNS))).toEqual(["time", "power"]);
    expect(held(readTable("time,I (A)\n0,1", LOGGER_COLUMNS))).toEqual(["time", "current"]);
  });

  it("else by the order, where there are as many columns as that has", () => {
    expect(held(profile("0,1\n5,2"))).toEqual(["distance", "height"]);
    expect(held(profile("0,1,9\n5,2,9"))).toEqual(["distance", "height", undefined]);
    expect(held(profile("Along,Z1\n0,1"))).toEqual(["distance", "height"]);
    expect(held(profile("Along,Z1,Z2\n0,1,2"))).toEqual(["distance", undefined, undefined]);
    // A list of runs has no height for its second column.
    expect(held(profile("Length,Remark\n4,x"))).toEqual(["length", undefined]);
  });

  it("or as it is said, in the unit that is said", () => {
    const table = profile("a,b\n4,1");
    expect(held(asSaid(table, { 0: { holds: "length" }, 1: { holds: "" } }))).toEqual([
      ...["length", undefined],
    ]);
    const [column] = asSaid(profile("Along (m),b\n4,1"), { 0: { unit: "ft" } }).columns;
    expect(column).toMatchObject({ holds: "distance", units: ["ft"] });
    expect(cellsOf(table, "height")?.text(["4", "1"])).toBe("1");
    expect(cellsOf(table, "height")?.text(["4"])).toBe("");
    expect(cellsOf(table, "rise")).toBeUndefined();
  });
});

describe("rows", () => {
  it("are counted as they stand in the text, with a heading and without one", () => {
    expect(profile("Along,Height\n0,1\n5,2")).toMatchObject({ firstRow: 2, rows: [{}, {}] });
    expect(profile("0 m,1 m\n5 m,2 m")).toMatchObject({ firstRow: 1, rows: [{}, {}] });
    expect(profile("-1.5;2\n-.5;3").firstRow).toBe(1);
    expect(profile("")).toMatchObject({ columns: [], rows: [] });
  });

  it("of uneven length are as wide as the longest", () => {
    expect(profile("0,1\n5,2,3").columns).toHaveLength(3);
  });
});

describe("a number", () => {
  const LENGTH: Holding = { id: "l", name: "l", isCalled: () => true, quantity: "length" };
  const read = (text: string, by: { units?: string[]; own?: Holding; comma?: boolean } = {}) => {
    const { units = [], own = LENGTH, comma = false } = by;
    const parsed = readNumber(text, { units }, own, { decimalComma: comma }, "us");
    return parsed.ok ? parsed.value : parsed.message;
  };

  it("is in its own unit, its heading's, the usual one, the reader's, in this order", () => {
    const usual = { ...LENGTH, usual: { metric: "m", us: "in" } };
    expect(read("2 m", { units: ["ft"], own: usual })).toBe(2);
    expect(read("2", { units: ["m"], own: usual })).toBe(2);
    expect(read("2", { own: usual })).toBeCloseTo(FOOT / 6, 12);
    expect(read("2")).toBeCloseTo(2 * FOOT, 12);
    // A unit of something else is not this column's.
    expect(read("2", { units: ["psi"] })).toBeCloseTo(2 * FOOT, 12);
  });

  it("has a comma for its decimal where semicolons part the columns, and is asked about where it may not", () => {
    expect(storm("time;flow\n0;3,1\n10;4").decimalComma).toBe(true);
    expect(storm("time,flow\n0,3\n10,4").decimalComma).toBe(false);
    expect(read("1,234", { units: ["m"], comma: true })).toBe(1.234);
    expect(read("1,5 m", { comma: true })).toBe(1.5);
    expect(read("1,234", { units: ["m"] })).toMatch(/could be either/);
  });

  it("without a quantity is in its own units, or none", () => {
    const current = LOGGER_COLUMNS.find(({ id }) => id === "current") as Holding;
    expect(read("4.1", { own: current })).toBe(4.1);
    expect(read("4100", { own: current, units: ["mA"] })).toBeCloseTo(4.1, 12);
    expect(read("fast", { own: current })).toBe("“fast” is not a number.");
  });
});

describe("areas and storms", () => {
  it("reads areas with units in the heading or the cells, and says what is wrong by the row", () => {
    expect(readAreas(areas("depth (ft), area (ft²)\n0, 100\n2, 150"), "metric")).toEqual({
      kind: "taken",
      value: [
        { depth: 0, area: expect.closeTo(100 * FOOT ** 2, 9) },
        { depth: 2 * FOOT, area: expect.closeTo(150 * FOOT ** 2, 9) },
      ],
    });
    expect(readAreas(areas("0,1\n1,\n0.5,x\n-1,2"), "metric")).toMatchObject({
      kind: "refused",
      refused: [
        { row: 2, column: "area", why: "nothing is written there." },
        { row: 3, column: "area" },
        { row: 4, column: "depth", why: "it cannot be negative." },
      ],
    });
    expect(readAreas(areas("0,1\n1,2\n1,3"), "metric")).toMatchObject({
      refused: [{ row: 3, column: "depth", why: "it does not come after the row before it." }],
    });
    expect(readAreas(areas("0,1"), "metric")).toMatchObject({ refused: [{ why: /two rows/ }] });
  });

  it("reads a storm as inflow or as rain, and does not bridge a gap", () => {
    const read = (text: string, area: number, system: "us" | "metric" = "metric") => {
      const taken = readStorm(storm(text), area, system);
      return taken.kind === "taken" ? taken.value : taken.refused;
    };
    expect(read("time (min), flow (gpm)\n0, 0\n10, 30\n20, 10", 0, "us")).toMatchObject([
      { from: 0, inflow: 0 },
      { from: 600, inflow: expect.closeTo((30 * GALLON) / 60, 12) },
      { from: 1200 },
      { from: 1800, inflow: 0 },
    ]);
    expect(read("time,rain (mm)\n0,1\n10,2\n20,0", 300)[1]).toMatchObject({
      inflow: expect.closeTo((0.002 * 300) / 600, 12),
    });
    expect(read("0,1\n10,2\n20,2\n50,1\n60,1", 0)).toEqual([
      {
        ...{ row: 4, column: "time" },
        why: "30 min after the row before it, where rows come every 10 min. Rows are missing.",
      },
    ]);
    expect(read("time,rain (mm)\n0,1\n10,2", 0)).toMatchObject([{ why: /something to fall on/ }]);
  });
});
