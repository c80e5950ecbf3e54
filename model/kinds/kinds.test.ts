import { expect, it } from "vitest";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import { changeItems } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { LINE_KINDS, newJob } from "./kinds.ts";

/** Strong enough for every first line, and for none too strong. */
const pump: Pump = {
  id: "any",
  points: [0, 0.5, 1, 2, 4, 8, 16].map((q) => ({ flow: q * 1e-3, head: 120 - 0.46 * q * q })),
  ratedSpeedRpm: 2900,
  drive: "electric",
  submersible: false,
  tolerance: "2B",
};

it.each(LINE_KINDS)("the first line of %s can be pumped", (kind) => {
  for (const system of ["us", "metric"] as const) {
    const job = newJob("Tried", kind, system);
    const path = changeItems(job.path, (item) =>
      item.kind === "pump" ? { ...item, pump: pump.id } : item,
    );
    const result = solveLine({ ...job, path }, [pump]);
    if (result.kind === "refused") throw new Error(JSON.stringify(result.diagnostics));
    for (const solved of Object.values(result.solution.cases)) {
      expect(solved.outcome.kind).toBe("runs");
    }
  }
});
