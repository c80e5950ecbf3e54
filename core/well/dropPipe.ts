import { GRAVITY } from "../quantity/constants.ts";

/** What a pipe that hangs in a well holds against, by how the line stands. */
export const DROP_PIPE_STATES = ["running", "cut-out", "dead-headed"] as const;
export type DropPipeState = (typeof DROP_PIPE_STATES)[number];

/** m above datum. */
export interface HangingPipe {
  /** the lowest point of the run */
  lowest: number;
  /** the lowest the water outside is pumped to: it holds against what is inside */
  lowestWater: number;
  /** total head inside while it runs; absent where nothing runs */
  running?: number | undefined;
  /** the tank, and Pa at which its switch stops the pump; absent without one */
  cutOut?: { tank: number; pressure: number } | undefined;
  /** m of head the pump makes with nothing running; absent where it is not published */
  shutoff?: number | undefined;
}

/**
 * Pa across the wall of a hanging pipe at its lowest point, in each state that is known. At cut-out that is the lift from
 * the lowest pumping level and the cut-out; dead-headed it is the pump's shut-off head, since the pump adds that to
 * whatever water it stands in. Source: hydrostatics.
 */
export function dropPipePressures(
  { lowest, lowestWater, running, cutOut, shutoff }: HangingPipe,
  density: number,
): Partial<Record<DropPipeState, number>> {
  const perMetre = density * GRAVITY;
  // Above the water there is only air outside.
  const outside = Math.max(lowest, lowestWater);
  return {
    ...(running !== undefined && { running: (running - outside) * perMetre }),
    ...(cutOut && { "cut-out": (cutOut.tank - outside) * perMetre + cutOut.pressure }),
    ...(shutoff !== undefined && {
      "dead-headed": (lowestWater + shutoff - outside) * perMetre,
    }),
  };
}
