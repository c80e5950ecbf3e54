import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { waterAt } from "#core/fluid/water.ts";
import { type LineModel, lineModel, type Solution } from "#core/hydraulics/solveLine.ts";
import { quickDuty, systemCurve } from "#core/hydraulics/systemCurve.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { bracketedRoot } from "#core/numeric/bracketedRoot.ts";
import { keptPressure } from "#core/outlet/outlets.ts";
import { continuedHead, powerAt, publishedValue, pumpCurve } from "#core/pump/curve.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import type { PumpToTank } from "#core/well/pumpToTank.ts";
import type { FieldChange } from "../job/changes.ts";
import type { JobWithWell } from "./season.ts";
import { tankOf } from "./usual.ts";

/** The pump that raises the pressure behind an open tank, where a job has one. */
export const boosterOf = ({ well, pumps }: Pick<JobWithWell, "well" | "pumps">) =>
  pumps.find(({ id }) => id === well?.booster?.pump);

/** A booster as its pressure tank sees it: it draws from an open tank beside it. */
export function boosterToTank(job: JobWithWell, pump: PumpDocument): PumpToTank {
  const { density } = waterAt(job.site.waterTemperature, job.site.specificGravity);
  const curve = pumpCurve(pump);
  return {
    density,
    headAt: (flow) => continuedHead(curve, flow),
    flowAt: (_level, pressure) => {
      const over = (flow: number) => continuedHead(curve, flow) - pressure / (density * GRAVITY);
      if (over(0) <= 0) return 0;
      const last = curve.lastFlow;
      return over(last) >= 0 ? last : bracketedRoot(over, 0, last, over(0), over(last), 1e-9);
    },
    powerAt: (flow) => {
      const power = publishedValue(powerAt(curve, Math.min(flow, curve.lastFlow)));
      return power && power * job.site.specificGravity;
    },
  };
}

/** J for a m³ at the taps at normal water: of the pump in the well, and of a booster at the middle of its switch. */
export interface WorkForWater {
  well?: number;
  booster?: number;
  /** absent while one of them is not known */
  whole?: number;
}

export function workForWater(job: JobWithWell, solution: Solution | undefined): WorkForWater {
  const running = solution?.cases.normal.running;
  const well =
    running?.power && running.state.delivered > 0
      ? running.power / running.state.delivered
      : undefined;
  const pump = boosterOf(job);
  if (!pump) return well === undefined ? {} : { well, whole: well };
  const { cutIn, cutOut } = tankOf(job.pressureTank);
  const { flowAt, powerAt: takes } = boosterToTank(job, pump);
  const flow = flowAt(0, (cutIn + cutOut) / 2);
  const power = takes(flow);
  const booster = power !== undefined && flow > 0 ? power / flow : undefined;
  return {
    ...(well !== undefined && { well }),
    ...(booster !== undefined && { booster }),
    ...(well !== undefined && booster !== undefined && { whole: well + booster }),
  };
}

/** Of its power, what a pump may take that goes in its place with a booster behind it. */
const HALF = 0.65;

const mostPower = ({ points }: PumpDocument) => Math.max(...points.map(({ power = 0 }) => power));

/**
 * A pump of about half the power that only fills an open tank at the top, and a booster that makes the pressure: of what
 * the library has, the small one that lifts most and the booster that takes least. Nothing where no two do it.
 */
export function halfWithBooster(
  job: JobDocument,
  library: readonly PumpDocument[],
): { changes: FieldChange[]; small: PumpDocument; booster: PumpDocument } | undefined {
  const places = everyItem<PathItem>(job.path as PathItem[]);
  const place = places.find((item) => item.kind === "pump");
  const outlet = places.find(
    (item) => item.kind === "outlet" && keptPressure(item.outlet) !== undefined,
  );
  const own = job.pumps.find(({ id }) => place?.kind === "pump" && id === place.pump);
  if (!place || !outlet || !own || job.source.kind !== "well" || job.well?.booster)
    return undefined;
  // What the line asks with an open tank at its end is the same of every pump: each is laid over it.
  const path = withOpenTank(job.path as PathItem[], outlet.id);
  const ready = lineModel({ ...job, path }, job.pumps);
  const small =
    ready.kind === "ready"
      ? strongest(
          ready,
          library.filter(
            (pump) =>
              pump.kind === "well" && pump.submersible && mostPower(pump) <= HALF * mostPower(own),
          ),
        )
      : undefined;
  const { cutIn, cutOut } = tankOf(job.pressureTank);
  const wanted = job.wantedFlow ?? 0.5e-3;
  const booster = bestBy(
    library.filter(
      ({ drive, submersible, kind }) =>
        drive === "electric" && !submersible && (kind === "transfer" || kind === "jet"),
    ),
    (pump) => {
      const { flowAt, powerAt: takes } = boosterToTank(job, pump);
      const power = takes(wanted);
      const does = flowAt(0, (cutIn + cutOut) / 2) >= wanted && flowAt(0, 1.05 * cutOut) > 0;
      return does && power !== undefined ? -power : undefined;
    },
  );
  if (!small || !booster) return undefined;
  return {
    ...{ small, booster },
    changes: [
      { field: "pumps", value: [small, booster] as never },
      { field: `path.${place.id}.pump`, value: small.id },
      { field: `path.${outlet.id}.outlet`, value: { type: "free" } },
      { field: "well.booster", value: { pump: booster.id } },
    ],
  };
}

/** Of pumps in the first place of a line, the one that moves most in the dry season. */
function strongest(ready: LineModel, pumps: readonly PumpDocument[]): PumpDocument | undefined {
  const most = pumps.reduce((flow, { points }) => Math.max(flow, points.at(-1)?.flow ?? 0), 0);
  const system = most > 0 ? systemCurve(ready, 0, most, "low") : undefined;
  if (!system) return undefined;
  return bestBy(pumps, (pump) => {
    const duty = quickDuty(system, pumpCurve(pump));
    return duty.kind === "runs" ? duty.delivered : undefined;
  });
}

function withOpenTank(path: readonly PathItem[], outletId: string): PathItem[] {
  return path.map((item) =>
    item.kind === "outlet" && item.id === outletId ? { ...item, outlet: { type: "free" } } : item,
  );
}

/** The one of most merit; those of none are left out. */
function bestBy<T>(all: readonly T[], merit: (own: T) => number | undefined): T | undefined {
  let best: { own: T; merit: number } | undefined;
  for (const own of all) {
    const found = merit(own);
    if (found !== undefined && (!best || found > best.merit)) best = { own, merit: found };
  }
  return best?.own;
}
