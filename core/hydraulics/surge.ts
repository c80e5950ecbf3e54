import type { PipeStock } from "../catalogue/pipes.ts";
import { FAMILIES } from "../catalogue/pipes.ts";
import type { Water } from "../fluid/water.ts";

/** Bulk modulus of water in Pa near 15 °C, from memory. */
export const BULK_MODULUS = 2.15e9;

/**
 * Speed in m/s of a pressure wave in a full pipe, a = √((K/ρ) / (1 + K D / E e)), or undefined where the
 * stock has no wall or modulus (hose, whose give makes it far slower).
 * Source: Korteweg's formula in its thin-wall form, as textbooks give it.
 */
export function waveSpeed(stock: PipeStock, water: Water): number | undefined {
  const { youngsModulus } = FAMILIES[stock.family];
  if (youngsModulus === undefined || stock.outsideDiameter === undefined) return undefined;
  const wall = (stock.outsideDiameter - stock.bore) / 2;
  const give = (BULK_MODULUS * stock.bore) / (youngsModulus * wall);
  return Math.sqrt(BULK_MODULUS / water.density / (1 + give));
}

/**
 * Pressure rise in Pa when flow of `velocity` (m/s) is stopped faster than a wave runs the line and
 * back: Δp = ρ a Δv. Source: Joukowsky, 1898.
 */
export function joukowskySurge(density: number, speed: number, velocity: number): number {
  return density * speed * velocity;
}
