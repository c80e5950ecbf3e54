import type { PipeFamily, PipeStock } from "../catalogue/pipeTypes.ts";
import { GRAVITY, PSI } from "../quantity/constants.ts";

/** kg/m³ of a pipe's wall, and Pa it may be pulled with all its life. From memory: half the hydrostatic design stress. */
const WALLS: Partial<Record<PipeFamily, { density: number; stress: number }>> = {
  "pvc-sch40": { density: 1400, stress: 1000 * PSI },
  "pvc-sch80": { density: 1400, stress: 1000 * PSI },
  "pvc-u-pn16": { density: 1400, stress: 1000 * PSI },
  "steel-sch40": { density: 7850, stress: 8000 * PSI },
  "steel-sch80": { density: 7850, stress: 8000 * PSI },
  "copper-l": { density: 8940, stress: 3000 * PSI },
  "pe100-sdr11": { density: 955, stress: 4e6 },
  "pe100-sdr17": { density: 955, stress: 4e6 },
  "pe-sidr7": { density: 950, stress: 400 * PSI },
  "pe-sidr15": { density: 950, stress: 400 * PSI },
  "pe4710-sidr7": { density: 955, stress: 500 * PSI },
};

/** kg of one m of submersible cable, three wires and earth, of a size in m² of copper in each. Common practice, no source. */
export const cableMass = (area: number): number => 4 * area * 8940 * 1.6;

/** Times what hangs on it that a rope breaks at. Common practice, no source. */
export const ROPE_FACTOR = 5;

/** kg more than which is for two, or for a winch. Common practice, no source. */
export const FOR_ONE = 25;

export interface Hangs {
  /** kg: dry as it is let down, and full of water as it is pulled */
  dry: number;
  full: number;
  pipe: number;
  water: number;
  cable: number;
  pump: number;
  /** kg a rope must break at to hold it all */
  rope: number;
  /** Pa its full weight pulls the pipe with, and may; absent where the pipe is not one that can be hung on */
  pull?: { stress: number; allowed: number };
}

/**
 * What hangs in a well on pipe and rope: m of pipe, kg of the pump, and of a m of cable. The water in the pipe counts
 * whole, as it does once the pipe is out of the well and its check valve holds.
 */
export function hanging(
  stock: PipeStock,
  length: number,
  pump: number,
  cablePerMetre: number,
  density: number,
): Hangs {
  const { family, bore, outsideDiameter } = stock;
  const wall = WALLS[family];
  const ring = outsideDiameter ? (Math.PI / 4) * (outsideDiameter ** 2 - bore ** 2) : 0;
  const pipe = (wall?.density ?? 1000) * ring * length;
  const water = density * (Math.PI / 4) * bore ** 2 * length;
  const cable = cablePerMetre * length;
  const dry = pipe + cable + pump;
  const full = dry + water;
  return {
    ...{ dry, full, pipe, water, cable, pump, rope: ROPE_FACTOR * full },
    ...(wall && ring > 0 && { pull: { stress: (full * GRAVITY) / ring, allowed: wall.stress } }),
  };
}
