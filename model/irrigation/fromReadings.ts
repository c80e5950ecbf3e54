import type { FieldDocument } from "#contract/documents/job.ts";
import { type LineModel, lineModel } from "#core/hydraulics/solveLine.ts";
import { type Calibration, type Gun, inWindow, THROW_UNCERTAINTY } from "#core/irrigation/gun.ts";
import { gunsOf, withGuns, withSecondGun } from "#core/irrigation/gunsOnLine.ts";
import {
  type HeadFactor,
  headFactorFrom,
  headFactorTogether,
  type Inferred,
  nozzleArea,
  pressureFromThrow,
  type Read,
  type TogetherHeadFactor,
} from "#core/irrigation/infer.ts";
import type { PathItem } from "#core/line/path.ts";
import { rectangular } from "#core/measurement/instruments.ts";
import { jetBore } from "#core/outlet/gun.ts";
import type { SolvableJob } from "../job/solveJob.ts";
import type { GunResult } from "./guns.ts";
import { FLOW_UNCERTAINTY, GAUGE_UNCERTAINTY } from "./usual.ts";

/** What readings at the guns say of nozzles, pressure and pump. SI. */
export interface FromReadings {
  /** Cd times area of both nozzles, and as the line has it */
  nozzles?: Inferred<"flow" | "pressure">;
  expectedArea?: number;
  fromThrow: Partial<Record<Stood, Inferred<"throw" | "calibration">>>;
  headFactors: Partial<Record<Stood, HeadFactor>>;
  together?: TogetherHeadFactor;
  /** a throw no pressure inside the gun's window gives: outside it, throw tells nothing of pressure */
  outsideWindow: Stood[];
  /** what was read with so many guns gives no point of the pump's curve */
  offCurve: Stood[];
}

export type Stood = "one" | "two";

export function fromReadings(
  job: SolvableJob,
  { read = {} }: FieldDocument,
  gun: GunResult | undefined,
  measured: Calibration | undefined,
  line: LineModel | undefined,
): FromReadings {
  const told: FromReadings = { fromThrow: {}, headFactors: {}, outsideWindow: [], offCurve: [] };
  const { flow, pressure, flowDoubt = FLOW_UNCERTAINTY, pressureDoubt = GAUGE_UNCERTAINTY } = read;
  const gauge = (value: number): Read => ({
    value,
    standardUncertainty: rectangular(pressureDoubt),
  });
  if (flow && pressure) {
    const density = line?.water.density ?? 1000;
    const found = nozzleArea(
      { value: flow, standardUncertainty: rectangular(flow * flowDoubt) },
      gauge(pressure),
      density,
      line && inletOf(line),
    );
    if (found) told.nozzles = found;
    if (gun) told.expectedArea = areaOf(gun.gun);
  }
  for (const stood of ["one", "two"] as const) {
    const own = read[stood];
    if (!own) continue;
    let at: Read | undefined = own.pressure ? gauge(own.pressure) : undefined;
    if (!at && own.radius && gun) {
      const u = own.radius * THROW_UNCERTAINTY[own.by ?? "tape"];
      const found = pressureFromThrow(
        gun.gun,
        { value: own.radius, standardUncertainty: u },
        measured,
      );
      const window = found && inWindow(gun.gun, found.value);
      if (!found || window === "ring" || window === "mist") told.outsideWindow.push(stood);
      else {
        told.fromThrow[stood] = found;
        at = { value: found.value, standardUncertainty: found.standardUncertainty };
      }
    }
    const standing = at && modelWith(job, stood);
    if (!at || !standing) continue;
    const found = headFactorFrom({ ...standing, pressure: at });
    if (found) told.headFactors[stood] = found;
    else told.offCurve.push(stood);
  }
  const { one, two } = told.headFactors;
  const together = one && two && headFactorTogether(one, two);
  if (together) told.together = together;
  return told;
}

/** The line with one gun open, or with two: the second on a tee and a hose, where the line has but one. */
function modelWith(
  job: SolvableJob,
  stood: Stood,
): { ready: LineModel; gunId: string; guns: number } | undefined {
  const path = job.path as PathItem[];
  const guns = gunsOf(path);
  const wanted = stood === "one" ? 1 : 2;
  const changed =
    guns.length === 1 && stood === "two" ? withSecondGun(path) : withGuns(path, wanted);
  const [first] = gunsOf(changed ?? []);
  if (!changed || !first) return undefined;
  const ready = lineModel({ ...job, path: changed } as never, job.pumps);
  return ready.kind === "ready" ? { ready, gunId: first.id, guns: wanted } : undefined;
}

/** m, bore of the hose that ends at the first gun. */
function inletOf({ line }: LineModel): number | undefined {
  const nozzle = line.segments.find(({ kind }) => kind === "nozzle");
  return nozzle?.stock?.bore;
}

export function areaOf(gun: Gun): number {
  return gun.dischargeCoefficient * (Math.PI / 4) * jetBore({ type: "nozzle", ...gun }) ** 2;
}
