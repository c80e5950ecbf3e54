import { describe, expect, it } from "vitest";
import { type Role, readTable, runsFrom } from "./readProfile.ts";

const runs = (text: string, system: "us" | "metric" = "metric") => {
  const reading = runsFrom(readTable(text), system);
  if (reading.kind === "problems") throw new Error(reading.problems.join(" "));
  return reading.runs;
};
const problems = (text: string) => {
  const reading = runsFrom(readTable(text), "metric");
  return reading.kind === "problems" ? reading.problems : [];
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
    expect(found[0]).toMatch(/^Row 3, Distance: /);
    expect(found[1]).toMatch(/^Row 5: the distance goes back/);
    expect(problems("Distance,Height\n0,1")[0]).toMatch(/two points/);
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
    expect(problems("Length,Rise\n2,3")[0]).toMatch(/rises more than it is long/);
    expect(problems("Length,Rise\n0,0")[0]).toMatch(/^Row 2, Length/);
  });

  it("can have its columns mapped by hand", () => {
    const table = readTable("a,b\n4,1");
    expect(table.columns.map(({ role }) => role)).toEqual(["distance", "height"]);
    const mapped = {
      ...table,
      columns: table.columns.map((c, i) => ({
        ...c,
        role: (["length", "rise"] as Role[])[i] as Role,
      })),
    };
    expect(runsFrom(mapped, "metric")).toEqual({ kind: "runs", runs: [{ length: 4, rise: 1 }] });
  });
});
