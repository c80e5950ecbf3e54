import type { BodyOfWater } from "#contract/documents/job.ts";
import { GRAVITY, WATER_DENSITY } from "#core/quantity/constants.ts";
import type { Uplift } from "#core/simulation/answers.ts";
import { storeOf, topArea } from "./bodies.ts";

/**
 * Archimedes on a shell in ground water, friction of the ground left out: on the safe side. Nothing where its weight or
 * the ground water is not known.
 * @param level m above datum, the lowest the water in it stands
 */
export function upliftOf(body: BodyOfWater, bottom: number, level: number): Uplift | undefined {
  const { mass, groundwater } = body.shell ?? {};
  if (mass === undefined || groundwater === undefined) return undefined;
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
