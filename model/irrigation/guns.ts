import type { FieldDocument } from "#contract/documents/job.ts";
import { FUEL_PER_JOULE } from "#core/driving/engine.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import type { LineModel, Running } from "#core/hydraulics/solveLine.ts";
import {
  applicationRate,
  type Calibration,
  calibration,
  wettedArea,
} from "#core/irrigation/gun.ts";
import type { GunAtWork } from "#core/irrigation/gunsOnLine.ts";
import { shaftPower } from "#core/pump/curve.ts";
import type { SolvableJob } from "../job/solveJob.ts";

/** A gun at work with what it wets standing alone; where it throws. */
export interface GunResult extends GunAtWork {
  /** m², and m/s there */
  area?: number;
  rate?: number;
  /** how it throws */
  finding: FindingIn<"gun">;
}

export function gunResult(own: GunAtWork): GunResult {
  const [finding] = findingsIn("gun", own) as [FindingIn<"gun">];
  if (own.thrown.kind !== "throws") return { ...own, finding };
  const area = wettedArea(own.thrown.radius, own.gun.arc);
  return { ...own, finding, area, rate: applicationRate(own.flow, area) };
}

/** What the throws of a job say of its first gun, and how many were taken with another nozzle, or nobody knows which. */
export function calibrationOf(
  { throws = [] }: FieldDocument,
  first: GunAtWork | undefined,
): { calibration: Calibration | undefined; otherNozzle: number } {
  const taken = throws.flatMap(({ radius, ...own }) =>
    radius === undefined ? [] : [{ ...own, radius }],
  );
  const own = taken.filter(({ bore }) => bore !== undefined && sameBore(bore, first?.gun.bore));
  return {
    calibration: first && calibration(first.gun, own),
    otherNozzle: first ? taken.length - own.length : 0,
  };
}

/** Within a tenth of a millimetre. */
const sameBore = (a: number, b = 0) => Math.abs(a - b) < 1e-4;

/** What turns the pump while it waters, and what that takes. */
export interface Drive {
  kind: "engine" | "electric" | "none";
  /** W at the shaft, or taken from the mains */
  power?: number;
  /** m³/s, m³ and s */
  fuelRate?: number;
  tank?: number;
  tankLasts?: number;
}

export function driveOf(
  job: SolvableJob,
  { day = {} }: FieldDocument,
  ready: LineModel | undefined,
  running: Running | undefined,
): Drive {
  const [first] = ready?.pumps ?? [];
  const pump = job.pumps.find(({ id }) => id === first?.pump.id);
  if (!ready || !running || !pump) return { kind: "none" };
  if (pump.drive === "electric") {
    return { kind: "electric", ...(running.power !== undefined && { power: running.power }) };
  }
  const each = ready.pumps.map(({ curve }, i) =>
    shaftPower(curve, running.pumps[i]?.duty.flow ?? 0),
  );
  const power = each.every((own) => own !== undefined)
    ? each.reduce<number>((sum, own) => sum + (own ?? 0), 0) * job.site.specificGravity
    : undefined;
  const burnt = power === undefined ? undefined : power * FUEL_PER_JOULE;
  const fuelRate = day.fuelRate ?? burnt;
  const tank = day.tank ?? pump.engine?.tank;
  return {
    kind: "engine",
    ...(power !== undefined && { power }),
    ...(fuelRate !== undefined && { fuelRate }),
    ...(tank !== undefined && { tank }),
    ...(tank !== undefined && fuelRate && { tankLasts: tank / fuelRate }),
  };
}
