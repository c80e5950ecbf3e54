import { describe, expect, it } from "vitest";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { LIBRARY } from "#library/pumps.ts";
import { asSaid, readTable } from "../table.ts";
import { PUMP_COLUMNS } from "./columns.ts";
import { PLATE_FIELDS, valueAt, withValue } from "./fields.ts";
import { pumpsFrom, readPumpFile, writePumpTable } from "./readPumps.ts";

const readPumpTable = (text: string) => readTable(text, PUMP_COLUMNS);

const library = LIBRARY.map((pump) => pumpSchema.parse(pump) as PumpDocument);
const ids = (row: number) => `row-${row}`;
const read = (text: string, system: "us" | "metric" = "metric") =>
  pumpsFrom(readPumpTable(text), system, ids);
const reasons = (text: string, system: "us" | "metric" = "metric") =>
  read(text, system).map((own) => (own.kind === "refused" ? own.reasons : []));

describe("a table of pumps", () => {
  it("written out is read in again as it was, for every shipped pump", () => {
    const back = read(writePumpTable(library));
    expect(back.filter(({ kind }) => kind === "refused")).toEqual([]);
    for (const [i, pump] of library.entries()) {
      const own = back[i];
      if (own?.kind !== "pump") throw new Error(pump.id);
      expect(own.pump.id).toBe(pump.id);
      for (const { path, kind } of PLATE_FIELDS) {
        const [was, is] = [valueAt(pump, path), valueAt(own.pump, path)];
        if (kind.is === "quantity" && typeof was === "number") {
          expect(Math.abs((is as number) - was)).toBeLessThanOrEqual(1e-8 * was);
        } else expect([pump.id, path, is]).toEqual([pump.id, path, was]);
      }
      expect(own.pump.points.length).toBe(pump.points.length);
      for (const [n, point] of pump.points.entries()) {
        const { flow, head, power, npshRequired, current } = own.pump.points[n] ?? {};
        expect(flow).toBeCloseTo(point.flow, 9);
        expect(head).toBeCloseTo(point.head, 6);
        expect(power ?? 0).toBeCloseTo(point.power ?? 0, 6);
        expect(npshRequired ?? 0).toBeCloseTo(point.npshRequired ?? 0, 6);
        expect(current ?? 0).toBeCloseTo(point.current ?? 0, 6);
      }
    }
  });

  it("keeps of a pump that is there what the table does not tell", () => {
    const before = pumpSchema.parse({
      ...LIBRARY[0],
      curve: { from: "traced", picture: "a-picture" },
      otherLines: [{ name: "Small", points: LIBRARY[0]?.points }],
      attachments: ["a-photo"],
    }) as PumpDocument;
    const known = new Map([[before.id, before]]);
    const again = (text: string) => pumpsFrom(readPumpTable(text), "metric", ids, known)[0];
    expect(again(writePumpTable([before]))).toMatchObject({
      kind: "pump",
      pump: { curve: before.curve, otherLines: before.otherLines, attachments: ["a-photo"] },
    });
    // A list of prices is a list of prices.
    const priced = again(`id,Price\n${before.id},77`);
    expect(priced).toEqual({ kind: "pump", row: 2, pump: { ...before, price: 77 } });
    // Another curve is not the one that was traced.
    const drawn = again(`id,Max flow (L/s),Max head (m)\n${before.id},4,20`);
    if (drawn?.kind !== "pump") throw new Error("refused");
    expect(drawn.pump.curve).toEqual({ from: "sticker" });
    expect(drawn.pump).not.toHaveProperty("otherLines");
    expect(drawn.pump.attachments).toEqual(["a-photo"]);
  });

  it("takes its units from its headings, from its cells, or from the reader", () => {
    const text = [
      "Maker,Model,Kind,Max head (ft),Max flow (gpm),Weight",
      "A,One,sump,30,50,10 lb",
      "A,Two,sump,9 m,3 L/s,4.5",
    ].join("\n");
    const [one, two] = read(text);
    if (one?.kind !== "pump" || two?.kind !== "pump") throw new Error(JSON.stringify([one, two]));
    expect(one.pump.points[0]?.head).toBeCloseTo(30 * 0.3048, 9);
    expect(one.pump.points.at(-1)?.flow).toBeCloseTo((50 * 3.785411784e-3) / 60, 12);
    expect(one.pump.mass).toBeCloseTo(4.5359237, 6);
    expect(two.pump.points[0]?.head).toBeCloseTo(9, 9);
    expect(two.pump.mass).toBeCloseTo(4.5, 9);
    expect(one.pump.curveDoubt).toBeCloseTo(0.2, 12);
    const [us] = read("Maker;Model;Max head;Max flow\nA;B;30;50", "us");
    expect(us?.kind === "pump" && us.pump.points[0]?.head).toBeCloseTo(9.144, 6);
  });

  it("takes a curve as points in a cell, as three points, or as a sticker", () => {
    const points = read('Maker,Model,"Curve: gpm / ft"\nA,B,0 / 23; 25 / 20; 45 / 15; 61 / 10');
    expect(points[0]?.kind === "pump" && points[0].pump.points.length).toBe(4);
    expect(points[0]?.kind === "pump" && points[0].pump.points[1]?.head).toBeCloseTo(
      20 * 0.3048,
      9,
    );
    const three = read(
      "Maker,Model,Shut-off head,Best flow,Best head,Last flow,Last head\nA,B,30 m,3 L/s,22 m,5 L/s,12 m",
    );
    expect(three[0]?.kind === "pump" && three[0].pump.curve?.from).toBe("three-points");
  });

  it("refuses a row with every reason, and only that row", () => {
    expect(
      reasons("Maker,Model,Curve\nA,B,0 / 20; 1 / 15; 2 / 8\n,C,0 / 20; 1 / 15; 2 / 8"),
    ).toEqual([[], [expect.stringMatching(/^Maker: /)]]);
    expect(reasons("Maker,Model,Weight,Curve\nA,B,heavy,0 / 20; 2 / 15; 1 / 8")[0]).toEqual([
      expect.stringMatching(/^Weight: .*heavy/),
      expect.stringMatching(/^Point 3: Flow must rise/),
    ]);
    expect(reasons("Maker,Model\nA,B")[0]?.[0]).toMatch(/^Curve: give its points/);
    expect(reasons("Maker,Model,Kind,Curve\nA,B,rocket,0 / 20; 1 / 15; 2 / 8")[0]?.[0]).toMatch(
      /^Kind: “rocket” is none of sump/,
    );
    const twice = reasons(
      "id,Maker,Model,Curve\nx,A,B,0 / 20; 1 / 15; 2 / 8\nx,A,C,0 / 20; 1 / 15; 2 / 8",
    );
    expect(twice).toEqual([[], ["It has the same id as row 2."]]);
    expect(
      reasons(
        "Maker,Model,Shut-off head,Best flow,Best head,Last flow,Last head\nA,B,10 m,3 L/s,22 m,5 L/s,12 m",
      )[0]?.[0],
    ).toMatch(/has to fall/);
  });

  it("uses a column once, leaves unknown ones out, and lets a person say what they hold", () => {
    const table = readPumpTable("Brand,Name,Weight,Weight,Colour\nA,B,5,6,red");
    expect(table.columns.map(({ holds }) => holds)).toEqual([
      "maker",
      undefined,
      "mass",
      undefined,
      undefined,
    ]);
    const [own] = pumpsFrom(asSaid(table, { 1: { holds: "model" } }), "metric", ids);
    expect(own?.kind === "refused" && own.name).toBe("A B");
    expect(new Set(PUMP_COLUMNS.map(({ id }) => id)).size).toBe(PUMP_COLUMNS.length);
  });

  it("reads a file of pumps in their own format, one or many, and says which is wrong", () => {
    const [first] = library;
    const read = readPumpFile(JSON.stringify([first, { ...first, points: [] }]));
    expect(read?.map(({ kind }) => kind)).toEqual(["pump", "refused"]);
    expect(readPumpFile("Maker,Model")).toBeUndefined();
    expect(readPumpFile(JSON.stringify(first))?.length).toBe(1);
  });

  it("a field taken out takes its empty group with it", () => {
    const [first] = library;
    if (!first) throw new Error("none");
    const bare = withValue(
      withValue({ electric: { volts: 230 } }, "electric.volts", undefined),
      "x",
      1,
    );
    expect(bare).toEqual({ x: 1 });
    expect(withValue({}, "engine.power", 5)).toEqual({ engine: { power: 5 } });
  });
});
