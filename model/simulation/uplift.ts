import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import { GRAVITY, WATER_DENSITY } from "#core/quantity/constants.ts";
import type { OfUplift, Uplift } from "#core/simulation/answers.ts";
import { storeOf, topArea } from "../demand/bodies.ts";

/** Whether a shell can be lifted out of wet ground, as far as the job tells. */
export type Lifting =
  /** ground water cannot push it: it stands free, or it is no shell */
  { kind: "cannot" } | { kind: "not-known"; lacks: OfUplift[] } | { kind: "known"; uplift: Uplift };

/**
 * What is known of the lift on a body of water that is pumped down. A pond has no shell, and a perforated can in gravel
 * lets the ground water in; any other vessel that is emptied may float until somebody says what stands round it.
 * @param bottom m above datum
 * @param level m above datum, the lowest the water in it stands
 */
export function liftingOf(
  body: BodyOfWater,
  bottom: number,
  level: number,
  isSource: boolean,
): Lifting {
  const { mass, groundwater, inGround } = body.shell ?? {};
  if (inGround === false) return { kind: "cannot" };
  if (mass !== undefined && groundwater !== undefined) {
    return { kind: "known", uplift: upliftOf(body, bottom, level, mass, groundwater) };
  }
  const told = inGround ?? (mass !== undefined || groundwater !== undefined);
  if (!told && (!isSource || NO_SHELL.has(body.shape.kind) || body.surround)) {
    return { kind: "cannot" };
  }
  // Ground water under its bottom does not lift it, whatever it weighs.
  if (groundwater !== undefined && groundwater <= bottom) return { kind: "cannot" };
  return {
    kind: "not-known",
    lacks: [
      ...(told ? [] : (["in-ground"] as const)),
      ...(groundwater === undefined ? (["groundwater"] as const) : []),
      ...(mass === undefined ? (["mass"] as const) : []),
    ],
  };
}

const NO_SHELL: ReadonlySet<BodyOfWater["shape"]["kind"]> = new Set(["trapezoid", "table"]);

/** The same of the water a job draws from, before anything is pumped: at the lowest it is to be brought to. */
export function liftingOfSource(
  job: Pick<JobDocument, "source" | "bodies">,
): { body: BodyOfWater; lifting: Lifting } | undefined {
  const { source, bodies = [] } = job;
  const body = "body" in source ? bodies.find(({ id }) => id === source.body) : undefined;
  if (!body || !("body" in source)) return undefined;
  const bottom = body.bottom ?? source.intake;
  return { body, lifting: liftingOf(body, bottom, bottom, true) };
}

/**
 * Archimedes on a shell in ground water, friction of the ground left out: on the safe side.
 * @param level m above datum, the lowest the water in it stands
 */
export function upliftOf(
  body: BodyOfWater,
  bottom: number,
  level: number,
  mass: number,
  groundwater: number,
): Uplift {
  const store = storeOf({ ...body, surround: undefined, inflowPipes: undefined }, bottom);
  const force = WATER_DENSITY * GRAVITY * Math.max(groundwater - bottom, 0) * topArea(body.shape);
  const holding = GRAVITY * (mass + WATER_DENSITY * store.volumeAt(level));
  const least = force / GRAVITY / WATER_DENSITY - mass / WATER_DENSITY;
  const capacity = store.volumeAt(store.rim);
  return {
    force,
    holding,
    ...(least <= capacity && { keepAbove: store.levelAt(Math.max(least, 0)) }),
  };
}
