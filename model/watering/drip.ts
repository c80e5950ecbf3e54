import type { FieldDocument } from "#contract/documents/job.ts";
import { waterAt } from "#core/fluid/water.ts";
import {
  type DripResult,
  type DripZone,
  dripRate,
  filterPassage,
  solveDrip,
} from "#core/watering/drip.ts";
import type { SolvableJob } from "../solveJob.ts";

/** Smooth polyethylene, as new. From memory. */
const WALL = { roughness: 7e-6, hazenWilliamsC: 150 };

export interface ToldDrip {
  result: DripResult;
  /** m² it waters, and m/s there */
  area: number;
  rate?: number;
  /** m, the largest grain its filter may let by */
  filter?: number;
}

export function dripOf(
  { site, method }: SolvableJob,
  { drip }: FieldDocument,
): ToldDrip | undefined {
  if (!drip) return undefined;
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
  };
}
