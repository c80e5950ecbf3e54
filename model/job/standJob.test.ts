import { expect, it } from "vitest";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { LIBRARY } from "#library/pumps.ts";
import { solveJob } from "./solveJob.ts";
import { standJob } from "./standJob.ts";

it("every shipped pump can be put on the stand, with its valve before the open end", () => {
  for (const input of LIBRARY) {
    const pump = pumpSchema.parse(input) as PumpDocument;
    const solved = solveJob(standJob(pump));
    expect(solved.kind).toBe("solved");
    if (solved.kind !== "solved") continue;
    expect(solved.solution.pumps[0]?.pump.id).toBe(pump.id);
    expect(solved.solution.line.segments.some(({ fitting }) => fitting?.throttles)).toBe(true);
  }
});
