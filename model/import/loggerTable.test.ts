import { describe, expect, it } from "vitest";
import { LOGGER_COLUMNS, loggerSamples } from "./loggerTable.ts";
import { asSaid, readTable } from "./table.ts";

const readLoggerTable = (text: string) => readTable(text, LOGGER_COLUMNS);

const START = new Date("2026-11-20T08:00:00Z");
const samplesOf = (text: string, ahead = 0) => loggerSamples(readLoggerTable(text), START, ahead);

describe("a logger's file", () => {
  it("is read by its headings, in the units they name, its clock put right", () => {
    const { channels, samples, refused } = samplesOf(
      "Time,Discharge pressure (bar),Flow [L/s],Motor current,Battery\n" +
        "2026-11-20T08:00:00Z,1.5,3.1,5.0,12.1\n" +
        "2026-11-20T08:00:01Z,1.52,,5.1,12.1\n",
      2.5,
    );
    expect(channels).toEqual(["discharge", "flow", "current"]);
    expect(refused).toEqual([]);
    expect(samples).toHaveLength(2);
    expect(samples[0]?.at).toBe("2026-11-20T07:59:57.500Z");
    expect(samples[0]?.values[0]).toBeCloseTo(150_000, 6);
    expect(samples[0]?.values[1]).toBeCloseTo(0.0031, 12);
    expect(samples[1]?.values).toEqual([expect.closeTo(152_000, 6), null, 5.1]);
  });

  it("takes seconds from the start, semicolons, decimal commas and days with dots", () => {
    const { samples } = samplesOf("time;flow (L/s)\n0;3,1\n1,5;3,2\n");
    expect(samples.map(({ at }) => at)).toEqual([
      "2026-11-20T08:00:00.000Z",
      "2026-11-20T08:00:01.500Z",
    ]);
    expect(samples[1]?.values[0]).toBeCloseTo(0.0032, 12);
    const dotted = samplesOf("clock,flow\n20.11.2026 08:00:01,3\n").samples[0];
    expect(new Date(dotted?.at ?? "").getSeconds()).toBe(1);
    expect(new Date(dotted?.at ?? "").getDate()).toBe(20);
  });

  it("refuses what it cannot read row by row, and guesses no order of day and month", () => {
    const { samples, refused } = samplesOf(
      "time,flow\n2026-11-20T08:00:00Z,3\n02/03/2026 08:00,3\n2026-11-20T08:00:02Z,fast\n2026-11-20T08:00:03Z,\n",
    );
    expect(samples.map(({ n }) => n)).toEqual([0]);
    expect(refused.map(({ row }) => row)).toEqual([3, 4]);
    expect(refused[0]?.why).toContain("2026-11-20");
  });

  it("takes a column for something else when told so", () => {
    const table = readLoggerTable("time,A,B\n2026-11-20T08:00:00Z,3,120\n");
    expect(table.columns.map(({ holds }) => holds)).toEqual(["time", undefined, undefined]);
    const said = asSaid(table, { 2: { holds: "discharge" } });
    const { channels, samples } = loggerSamples(said, START, 0);
    expect(channels).toEqual(["discharge"]);
    expect(samples[0]?.values[0]).toBeCloseTo(120_000, 6);
  });
});
