import { describe, expect, it } from "vitest";
import { PROFILE_COLUMNS, PROFILE_ORDER, runsFrom } from "./readProfile.ts";
import { asSaid, readTable } from "./table.ts";

const tableOf = (text: string) => readTable(text, PROFILE_COLUMNS, PROFILE_ORDER);

const runs = (text: string, system: "us" | "metric" = "metric") => {
  const taken = runsFrom(tableOf(text), system);
  if (taken.kind === "refused") throw new Error(JSON.stringify(taken.refused));
  return taken.value;
};
const problems = (text: string) => {
  const taken = runsFrom(tableOf(text), "metric");
  return taken.kind === "refused" ? taken.refused : [];
};

describe("a surveyed profile", () => {
  it.each([
    ["comma", "Chainage (m),Ground level (m)\n0,10\n30,14\n30,16\n90,16"],
    ["semicolon", "distance;height\n0;10\n30;14\n30;16\n90;16"],
    [
      "tab, columns turned round",
      "RL\tNote\tDistance\n10\tpit\t0\n14\t\t30\n16\twall\t30\n16\t\t90",
    ],
    ["no heading", "0 m,10 m\n30 m,14 m\n30 m,16 m\n90 m,16 m"],
  ])("with %s becomes runs measured along the line", (_name, text) => {
    expect(runs(text)).toEqual([
      { length: expect.closeTo(Math.hypot(30, 4), 12), rise: 4 },
      { length: 2, rise: 2 },
      { length: 60, rise: 0 },
    ]);
  });

  it("takes units from the heading, the cell, or the reader's own", () => {
    expect(runs("Distance (ft),Height (ft)\n0,0\n100,0")[0]?.length).toBeCloseTo(30.48, 9);
    expect(runs("Distance,Height\n0,0\n100,0", "us")[0]?.length).toBeCloseTo(30.48, 9);
    expect(runs("Distance (ft),Height\n0,0\n50 m,3 ft")[0]?.rise).toBeCloseTo(0.9144, 9);
  });

  it("says what is wrong in which row, all of it", () => {
    const found = problems("Distance,Height\n0,1\nten,2\n30,3\n20,4");
    expect(found[0]).toMatchObject({ row: 3, column: "Distance" });
    expect(found[1]).toMatchObject({ row: 5, why: /the distance goes back/ });
    expect(problems("Distance,Height\n0,1")[0]).toMatchObject({ why: /two points/ });
    expect(problems("apples,pears\n1,2")).toHaveLength(1);
    expect(problems("")).toHaveLength(1);
  });
});

describe("a list of runs", () => {
  it("is read by length and rise", () => {
    expect(runs("Name,Length,Rise\nriser,3,3\nrun,15,-0.5")).toEqual([
      { length: 3, rise: 3 },
      { length: 15, rise: -0.5 },
    ]);
    expect(problems("Length,Rise\n2,3")[0]).toMatchObject({ why: /rises more than it is long/ });
    expect(problems("Length,Rise\n0,0")[0]).toMatchObject({ row: 2, column: "Length" });
  });

  it("can have its columns mapped by hand", () => {
    const table = tableOf("a,b\n4,1");
    expect(table.columns.map(({ holds }) => holds)).toEqual(["distance", "height"]);
    const mapped = asSaid(table, { 0: { holds: "length" }, 1: { holds: "rise" } });
    expect(runsFrom(mapped, "metric")).toEqual({ kind: "taken", value: [{ length: 4, rise: 1 }] });
  });
});
