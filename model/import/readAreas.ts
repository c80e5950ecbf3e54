import type { UnitSystem } from "#contract/units/units.ts";
import { readPairs } from "./readPairs.ts";

export type ReadAreas =
  | { kind: "rows"; rows: { depth: number; area: number }[] }
  | { kind: "problems"; problems: string[] };

/** Depths from the bottom up, with the area of the water at each. */
export function readAreas(text: string, system: UnitSystem): ReadAreas {
  const us = system === "us";
  const read = readPairs(
    text,
    { name: "depth", as: [{ quantity: "length", unit: us ? "ft" : "m" }] },
    { name: "area", as: [{ quantity: "area", unit: us ? "ft²" : "m²" }] },
    system,
  );
  if (read.kind === "problems") return read;
  return { kind: "rows", rows: read.pairs.map(({ a, b }) => ({ depth: a, area: b })) };
}
