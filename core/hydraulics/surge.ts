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
  return korteweg(
    BULK_MODULUS,
    water.density,
    stock.bore,
    youngsModulus,
    (stock.outsideDiameter - stock.bore) / 2,
  );
}

/** a = √((K/ρ) / (1 + K D / E e)) in m/s, from Pa, kg/m³, m, Pa and m. */
export function korteweg(
  bulk: number,
  density: number,
  bore: number,
  youngs: number,
  wall: number,
): number {
  return Math.sqrt(bulk / density / (1 + (bulk * bore) / (youngs * wall)));
}

/**
 * Pressure rise in Pa when flow of `velocity` (m/s) is stopped faster than a wave runs the line and
 * back: Δp = ρ a Δv. Source: Joukowsky, 1898.
 * @example joukowskySurge(998, 300, 1.5) // 449100
 */
export function joukowskySurge(density: number, speed: number, velocity: number): number {
  return density * speed * velocity;
}
