import type { FieldDocument } from "#contract/documents/job.ts";
import { waterAt } from "#core/fluid/water.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import {
  type DripResult,
  type DripZone,
  dripRate,
  filterPassage,
  solveDrip,
} from "#core/irrigation/drip.ts";
import { withOneGun } from "#core/irrigation/gunsOnLine.ts";
import type { PathItem } from "#core/line/path.ts";
import { gunOf } from "#core/outlet/outlets.ts";
import type { SolvableJob } from "../job/solveJob.ts";

/** Smooth polyethylene, as new. From memory. */
const WALL = { roughness: 7e-6, hazenWilliamsC: 150 };

export interface DripZoneResult {
  result: DripResult;
  /** m² it waters, and m/s there */
  area: number;
  rate?: number;
  /** m, the largest grain its filter may let by */
  filter?: number;
  /** m³/s pump and line bring to where the guns stand, at the pressure the zone begins with; nothing without a pump */
  brought?: number;
}

export function dripOf(job: SolvableJob, { drip }: FieldDocument): DripZoneResult | undefined {
  if (!drip) return undefined;
  const { site, method } = job;
  const brought = broughtAt(job, drip.pressure);
  const { laterals, apart, emitters, spacing, emitter, slope = 0, submainSlope = 0 } = drip;
  const zone: DripZone = {
    ...{ laterals, apart, emitters, spacing, emitter, slope, submainSlope },
    lateral: { bore: drip.lateral, ...WALL },
    submain: { bore: drip.submain, ...WALL },
  };
  const water = waterAt(site.waterTemperature, site.specificGravity);
  const result = solveDrip(zone, drip.pressure, water, method.friction);
  return {
    result,
    area: laterals * apart * emitters * spacing,
    ...(result.kind === "solved" && { rate: dripRate(zone, result.flow) }),
    ...(emitter.passage !== undefined && { filter: filterPassage(emitter.passage) }),
    ...(brought !== undefined && { brought }),
  };
}

/** m³/s the line gives with the zone's pressure kept at its end, in the first gun's place. */
function broughtAt(job: SolvableJob, pressure: number): number | undefined {
  const single = withOneGun(job.path as PathItem[]);
  const path = single?.map(
    (item): PathItem =>
      item.kind === "outlet" && gunOf(item.outlet)
        ? { ...item, outlet: { type: "pressure", pressure } }
        : item,
  );
  if (!path) return undefined;
  const solved = solveLine({ ...job, path }, job.pumps);
  return solved.kind === "solved"
    ? (solved.solution.cases.normal.running?.state.delivered ?? 0)
    : undefined;
}
