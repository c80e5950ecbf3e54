import { OPPOSITE, WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import type { Water } from "../fluid/water.ts";
import type { CompiledLine, Hole } from "../line/compiledLine.ts";
import { levelsOf, type Source } from "../line/path.ts";
import { type Outlet, outletPressure, receivingWater } from "../outlet/outlets.ts";
import type { PumpCurve } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";

/**
 * What holds the ends of a line, as total heads in m above datum: the source before anything is drawn from
 * it, and every outlet in the order of the line. With the states of the pumps it is all that the steady
 * solver is given.
 */
export interface Boundary {
  source: number;
  outlets: readonly number[];
  /** by outlet: its mouth hangs over the water it empties into, and takes none of it back; none where absent */
  bare?: readonly boolean[];
}

/** What a pump does. */
export type PumpState =
  | { kind: "running"; curve: PumpCurve }
  /** stands, and passes water either way against `k` in m per (m³/s)², unless a check valve holds it */
  | { kind: "stopped"; k?: number | undefined }
  /** passes just this flow in m³/s whatever head it takes: one that was measured, or the last one published */
  | { kind: "held"; flow: number };

/**
 * The ends of a line at a state of its water. "low" is the hardest: source low and receiving water high;
 * "high" is the easiest.
 */
export function boundaryAt(line: CompiledLine, at: WaterLevel, water: Water): Boundary {
  return {
    source: sourceHead(line.source, at, water),
    outlets: line.outlets.map(({ item, elevation }) =>
      outletHead(item.outlet, elevation, at, water),
    ),
    bare: line.outlets.map(({ item: { outlet }, elevation }) => {
      const level = receivingWater(outlet)?.[OPPOSITE[at]];
      return level !== undefined && level <= elevation;
    }),
  };
}

/** The three states a job is judged at, each a boundary of its own. */
export function boundariesOf(line: CompiledLine, water: Water): Record<WaterLevel, Boundary> {
  const [low, normal, high] = WATER_LEVELS.map((at) => boundaryAt(line, at, water));
  return { low, normal, high } as Record<WaterLevel, Boundary>;
}

/**
 * Height in m the water must be raised before any runs, with pressure at the outlet counted in metres; to
 * the lowest of several outlets.
 */
export function staticHead({ source, outlets }: Boundary): number {
  let least = Number.POSITIVE_INFINITY;
  for (const head of outlets) least = Math.min(least, head);
  return least - source;
}

/** Total head in m above datum of a source with nothing drawn from it. */
export function sourceHead(source: Source, at: WaterLevel, water: Water): number {
  return levelsOf(source)[at] + pressureHead(sourcePressure(source), water);
}

/** Pa (gauge) that stands on a source beside its level. */
export function sourcePressure(source: Source): number {
  if (source.kind === "tank") return source.gasPressure;
  return source.kind === "mains" ? source.pressure : 0;
}

/** Total head in m above datum that an outlet at an elevation asks for at no flow. */
export function outletHead(
  outlet: Outlet,
  elevation: number,
  at: WaterLevel,
  water: Water,
): number {
  return outletLevel(outlet, elevation, at) + pressureHead(outletPressure(outlet), water);
}

/** Total head in m above datum outside a hole: its own height, or the surface of the source's water over it. */
export function headOutside({ elevation, wetFrom }: Hole, { source }: Boundary): number {
  return wetFrom !== undefined && source > wetFrom ? source : elevation;
}

/** m above datum: the surface an outlet empties into, or its mouth where that hangs higher. */
export function outletLevel(outlet: Outlet, elevation: number, at: WaterLevel): number {
  return Math.max(receivingWater(outlet)?.[OPPOSITE[at]] ?? elevation, elevation);
}

/**
 * m of water that a pressure in Pa holds up.
 * @example pressureHead(200_000, { density: 998 }) // 20.44
 */
export function pressureHead(pressure: number, { density }: Pick<Water, "density">): number {
  return pressure / (density * GRAVITY);
}
