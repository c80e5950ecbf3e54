import {
  type JOB_KINDS,
  type JobDocument,
  type JobInput,
  jobSchema,
} from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";

type Beginning = Pick<JobInput, "source" | "path">;

export type JobKindId = (typeof JOB_KINDS)[number];

/** What a kind of job brings. */
export interface JobKind {
  name: string;
  /** a first line to change, in place of an empty page, from a round length in m: all of it is assumed */
  build: (m: number) => Beginning;
}

/** Every kind of job, in the order they are offered. */
export const KINDS: Record<JobKindId, JobKind> = {
  "sump-riser": {
    name: "Sump riser: pump in the pit",
    build: (m) => ({
      source: { kind: "open", level: { low: -m, normal: -0.5 * m, high: 0 }, intake: -1.5 * m },
      path: [
        { kind: "pump", id: "pump", pump: null },
        { kind: "orifice", id: "vent", purpose: "vent-hole", bore: 0.004 },
        { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
        { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: 3 * m, rise: 3 * m },
        { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
        { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", length: 15 * m, rise: 0 },
        { kind: "outlet", id: "outlet", outlet: { type: "free" } },
      ],
    }),
  },
  "tank-to-tank": {
    name: "Tank to tank: pump beside the lower one",
    build: (m) => ({
      source: { kind: "open", level: { low: 0.5 * m, normal: m, high: 2 * m }, intake: 0.25 * m },
      path: [
        { kind: "fitting", id: "entrance", fitting: "entrance-sharp", count: 1 },
        { kind: "pipe", id: "suction", stock: "pvc-sch40-2in", length: 2 * m, rise: 0 },
        { kind: "pump", id: "pump", pump: null },
        { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
        { kind: "fitting", id: "valve", fitting: "ball-valve", count: 1 },
        { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", length: 30 * m, rise: 0 },
        { kind: "fitting", id: "elbows", fitting: "elbow-90", count: 3 },
        { kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in", length: 6 * m, rise: 6 * m },
        { kind: "outlet", id: "outlet", outlet: { type: "free" } },
      ],
    }),
  },
  "pond-to-field": {
    name: "Pond to field: pump on the bank draws it up",
    build: (m) => ({
      source: { kind: "open", level: { low: -m, normal: -0.5 * m, high: 0 }, intake: -1.5 * m },
      path: [
        { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
        { kind: "pipe", id: "suction", stock: "suction-hose-2in", length: 5 * m, rise: 2 * m },
        { kind: "pump", id: "pump", pump: null },
        { kind: "fitting", id: "valve", fitting: "gate-valve", count: 1, stock: "lay-flat-2in" },
        { kind: "pipe", id: "hose", stock: "lay-flat-2in", length: 60 * m, rise: 3 * m },
        {
          kind: "outlet",
          id: "outlet",
          outlet: { type: "nozzle", bore: 0.014, dischargeCoefficient: 0.95 },
        },
      ],
    }),
  },
  "well-to-tank": {
    name: "Well to tank: pump down the hole",
    build: (m) => ({
      source: {
        kind: "well",
        drawdown: { linear: 0, quadratic: 0 },
        level: { low: -40 * m, normal: -30 * m, high: -20 * m },
        intake: -45 * m,
      },
      path: [
        { kind: "pump", id: "pump", pump: null },
        {
          kind: "fitting",
          id: "check",
          fitting: "check-lift",
          count: 1,
          stock: "pe100-sdr11-40mm",
        },
        { kind: "pipe", id: "drop-pipe", stock: "pe100-sdr11-40mm", length: 45 * m, rise: 45 * m },
        { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
        { kind: "pipe", id: "run", stock: "pe100-sdr11-40mm", length: 20 * m, rise: m },
        { kind: "outlet", id: "tank", outlet: { type: "pressure", pressure: 300_000 } },
      ],
    }),
  },
};

export function newJob(name: string, kind: JobKindId, units: UnitSystem): JobDocument {
  // Round numbers in either system: a metre here is three feet there.
  const m = units === "us" ? 0.9144 : 1;
  return jobSchema.parse({
    format: "upright-gusher/job",
    version: 2,
    kind,
    name,
    ...KINDS[kind].build(m),
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    pumps: [],
    assumed: ["source", "path", "site"],
  }) as JobDocument;
}
