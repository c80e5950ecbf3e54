import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";

export type Shape = "above" | "under";

/** A first line to change, in place of an empty page: every number in it is there to be typed over. */
export function newJob(name: string, shape: Shape, units: UnitSystem): JobDocument {
  // Round numbers in either system: a metre here is three feet there.
  const m = units === "us" ? 0.9144 : 1;
  return jobSchema.parse({
    format: "upright-gusher/job",
    version: 1,
    name,
    source: { level: { low: -m, normal: -0.5 * m, high: 0 }, intake: -1.5 * m },
    path: [
      ...(shape === "above"
        ? [
            { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
            { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: 5 * m, rise: 2 * m },
          ]
        : []),
      { kind: "pump", id: "pump", pump: null },
      { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
      { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: 3 * m, rise: 3 * m },
      { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
      { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", length: 15 * m, rise: 0 },
      { kind: "outlet", id: "outlet", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    pumps: [],
  });
}
