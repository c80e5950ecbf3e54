import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import { levelsOf } from "#core/line/path.ts";
import { keptPressure } from "#core/outlet/outlets.ts";
import { type DrawdownFit, fitDrawdown } from "#core/well/drawdown.ts";

/** Whether a job draws from a well, and so has something to say of one. */
export const hasWell = ({ source }: Pick<JobDocument, "source">): boolean => source.kind === "well";

/** m above the job's datum of the casing's top, from which depths are told. */
export const topOf = ({ well }: Pick<JobDocument, "well">): number => well?.top ?? 0;

/** m down to the water before the test. */
export function standingOf(job: Pick<JobDocument, "source" | "well">): number {
  return job.well?.standing ?? topOf(job) - levelsOf(job.source).normal;
}

/** What the steps of the test say of the well. */
export function fitOf(job: Pick<JobDocument, "source" | "well">): DrawdownFit {
  const standing = standingOf(job);
  return fitDrawdown(
    (job.well?.steps ?? []).map(({ flow, level }) => ({ flow, drawdown: level - standing })),
  );
}

/** The most a document takes of either. */
const MOST = { linear: 1e7, quadratic: 1e10 };

/**
 * A job after something of its well or its tank was changed: what rests on it follows. The drawdown is the test's, the
 * line ends at the middle of the switch, and the cable is as long as the way to the pump.
 */
export function settled(job: JobDocument): JobDocument {
  const { source, well, pressureTank, site } = job;
  if (source.kind !== "well") return job;
  const fit = fitOf(job);
  const drawdown =
    fit.kind === "fitted"
      ? {
          linear: Math.min(fit.drawdown.linear, MOST.linear),
          quadratic: Math.min(fit.drawdown.quadratic, MOST.quadratic),
        }
      : source.drawdown;
  const { cutIn, cutOut } = pressureTank ?? {};
  const middle = cutIn !== undefined && cutOut !== undefined ? (cutIn + cutOut) / 2 : undefined;
  const length = cableLength(job);
  return {
    ...job,
    source: { ...source, drawdown },
    ...(middle !== undefined && { path: job.path.map((item) => atPressure(item, middle)) }),
    ...(site.cable &&
      well?.cable &&
      length > 0 && {
        site: { ...site, cable: { ...site.cable, length } },
      }),
  };
}

function atPressure(item: JobPathItem, pressure: number): JobPathItem {
  return item.kind === "outlet" && keptPressure(item.outlet) !== undefined
    ? { ...item, outlet: { ...item.outlet, type: "pressure", pressure } }
    : item;
}

/** m down to the pump's intake. */
export const pumpDepth = (job: Pick<JobDocument, "source" | "well">): number =>
  topOf(job) - job.source.intake;

/** m from the supply to the motor: along the ground to the well's head, and down. */
export const cableLength = (job: Pick<JobDocument, "source" | "well">): number =>
  (job.well?.cable?.run ?? 0) + pumpDepth(job);

/** m: no run of a drop pipe is made shorter. */
const SHORTEST = 0.1;

/**
 * The job with its pump hung at another depth, in m. The runs that climb out of the well, the lowest first, are as much
 * longer or shorter, so that the line ends where it did.
 */
export function withPumpDepth(job: JobDocument, depth: number): JobDocument {
  let left = depth - pumpDepth(job);
  let after = !job.path.some(({ kind }) => kind === "pump");
  const path = job.path.map((item): JobPathItem => {
    if (item.kind === "pump") after = true;
    if (left === 0 || !after || item.kind !== "pipe" || item.rise <= 0) return item;
    const by = Math.max(left, Math.min(SHORTEST - item.rise, 0));
    left -= by;
    const rise = item.rise + by;
    return { ...item, rise, length: Math.max(item.length + by, rise) };
  });
  const source = { ...job.source, intake: topOf(job) - depth };
  return settled({ ...job, source, path } as JobDocument);
}

/** The job with the standing water of one season at another depth, in m down. */
export function withStanding(job: JobDocument, season: WaterLevel, depth: number): JobDocument {
  if (job.source.kind !== "well") return job;
  const at = topOf(job) - depth;
  const level = { ...job.source.level, [season]: at };
  const { assumed } = job;
  if (season !== "normal" || !assumed) {
    return settled({ ...job, source: { ...job.source, level } });
  }
  // A season nobody measured is taken as the water stands now, and goes with it.
  for (const other of ["low", "high"] as const) {
    const unmeasured = assumed.includes(`source.level.${other}`);
    if (unmeasured && level[other] === job.source.level.normal) level[other] = at;
  }
  return settled({
    ...job,
    source: { ...job.source, level },
    assumed: assumed.filter((field) => field !== "source.level.normal"),
  });
}
