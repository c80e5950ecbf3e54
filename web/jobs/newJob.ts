import { type JobDocument, jobSchema } from "#contract/documents/job.ts";

export type Shape = "above" | "under";

/** A first line to change, in place of an empty page: every number in it is there to be typed over. */
export function newJob(name: string, shape: Shape): JobDocument {
  return jobSchema.parse({
    format: "upright-gusher/job",
    version: 1,
    name,
    source: { level: { low: -1, normal: -0.5, high: 0 }, intake: -1.5 },
    path: [
      ...(shape === "above"
        ? [
            { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
            { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: 5, rise: 2 },
          ]
        : []),
      { kind: "pump", id: "pump", pump: null },
      { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
      { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: 3, rise: 3 },
      { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
      { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", length: 15, rise: 0 },
      { kind: "outlet", id: "outlet", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    pumps: [],
  });
}
