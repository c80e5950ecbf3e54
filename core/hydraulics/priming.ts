import type { Segment } from "../line/compiledLine.ts";
import { pipeVolume, type WetPipe, wetAbove } from "../line/profile.ts";
import { GRAVITY } from "../quantity/constants.ts";

/**
 * Part of its greatest flow that a pump which primes itself moves as air. Common practice, no source: a hundredth to a
 * twentieth.
 */
export const AIR_PART = { usual: 0.02, least: 0.01, most: 0.05 };

/** What a suction line holds above the water, and how often over a pump has to move that before water comes. */
export interface AirToMove {
  /** filled with air */
  pipes: WetPipe[];
  /**
   * volumes at the pump's own pressure for each volume of line: more than 1, since the air thins while the water
   * climbs
   */
  times: number;
}

/**
 * The air of a suction line that rises from a level in m above datum, its segments in the order of the path.
 * `air` is the air's pressure in Pa, `density` the water's. The air keeps its warmth; a line that runs up and down
 * moves its water the same way. Undefined where air pressure cannot hold the water so high.
 *
 * d(pV)/dt = −p q, so that q t = V₀ − ∫ V dp/p while the water climbs and p = p_a − ρ g z.
 */
export function airToMove(
  suction: readonly Segment[],
  level: number,
  air: number,
  density: number,
): AirToMove | undefined {
  const parts = suction.flatMap((segment) =>
    wetAbove(segment, level).map(({ bore, length }) => {
      const { startElevation, endElevation } = segment;
      return {
        bore,
        length,
        from: Math.max(startElevation, level),
        to: Math.max(endElevation, level),
      };
    }),
  );
  const whole = pipeVolume(parts);
  let left = whole;
  let moved = whole;
  for (const part of parts) {
    const own = pipeVolume([part]);
    const pressureAt = (s: number) =>
      air - density * GRAVITY * (part.from + s * (part.to - part.from) - level);
    if (!(Math.min(pressureAt(0), pressureAt(1)) > 0)) return undefined;
    const fall = density * GRAVITY * (part.to - part.from);
    // Simpson's rule, a function as smooth as 1/p.
    for (let i = 0; i < PIECES; i++) {
      const at = (s: number) => ((left - own * s) * fall) / pressureAt(s);
      const [a, b] = [i / PIECES, (i + 1) / PIECES];
      moved += ((b - a) / 6) * (at(a) + 4 * at((a + b) / 2) + at(b));
    }
    left -= own;
  }
  const pipes = parts.map(({ bore, length }) => ({ bore, length }));
  return { pipes, times: whole > 0 ? moved / whole : 1 };
}

const PIECES = 16;
