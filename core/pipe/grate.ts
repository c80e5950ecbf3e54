import { GRAVITY } from "../quantity/constants.ts";

/** A grate that lies flat, open to water from all sides. */
export interface Grate {
  /** m */
  length: number;
  width: number;
  /** part of it that is hole, and part of that which leaves and silt have closed */
  open: number;
  blocked: number;
}

/** What is taken where nobody measured. Common practice, no source. */
export const USUAL_GRATE = { open: 0.4, blocked: 0.5, ponded: 0.03 };

const WEIR = 1.66;
const ORIFICE = 0.67;

/**
 * m³/s that a grate takes in under a depth of water in m: over its rim like a weir, q = 1.66 P h^1.5, or through its
 * holes like an orifice, q = 0.67 A √(2 g h), whichever lets less in. Source: Federal Highway Administration, HEC-22,
 * grate inlets in sags, from memory.
 */
export function grateFlow({ length, width, open, blocked }: Grate, depth: number): number {
  if (!(depth > 0)) return 0;
  const free = 1 - blocked;
  const overRim = WEIR * 2 * (length + width) * free * depth ** 1.5;
  const throughHoles = ORIFICE * length * width * open * free * Math.sqrt(2 * GRAVITY * depth);
  return Math.min(overRim, throughHoles);
}
