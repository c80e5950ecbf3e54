import type { Levels } from "../fluid/levels.ts";
import { DRAIN, type DrainOutlet } from "./drain.ts";
import { EMITTER, type EmitterOutlet } from "./emitter.ts";
import { FREE, type FreeOutlet } from "./free.ts";
import type { NozzleOutlet } from "./gun.ts";
import { NOZZLE } from "./nozzle.ts";
import type { OutletRefusal, OutletType, WayOut } from "./outletType.ts";
import { PRESSURE, type PressureOutlet } from "./pressure.ts";
import { SUBMERGED, type SubmergedOutlet } from "./submerged.ts";

/** How water leaves a line. Nobody but the type's own object asks which it is. */
export type Outlet =
  | FreeOutlet
  | SubmergedOutlet
  | DrainOutlet
  | PressureOutlet
  | NozzleOutlet
  | EmitterOutlet;

const TYPES: { [T in Outlet["type"]]: OutletType<Extract<Outlet, { type: T }>> } = {
  free: FREE,
  submerged: SUBMERGED,
  drain: DRAIN,
  pressure: PRESSURE,
  nozzle: NOZZLE,
  emitter: EMITTER,
};

const typeOf = ({ type }: Pick<Outlet, "type">) => TYPES[type] as OutletType<Outlet>;

/** What an outlet takes itself, at the end of a pipe of a bore in m. */
export const wayOut = (outlet: Outlet, bore: number): WayOut => typeOf(outlet).wayOut(outlet, bore);

/** Why an outlet cannot be at the end of a pipe of a bore in m; without the pipe, why it cannot be at all. */
export const refusalOf = (
  outlet: Outlet,
  bore = Number.POSITIVE_INFINITY,
): OutletRefusal | undefined => typeOf(outlet).refusal?.(outlet, bore);

/** m above datum: the water an outlet lies in, where its surface counts instead of the pipe's end. */
export const receivingWater = (outlet: Outlet): Levels | undefined =>
  typeOf(outlet).receiving?.(outlet);

/** Pa (gauge) that an outlet is held at, or that stands on the water it lies in. */
export const outletPressure = (outlet: Outlet): number => typeOf(outlet).pressure?.(outlet) ?? 0;

/** Pa (gauge) that is wanted at an outlet; none where none is. */
export const keptPressure = (outlet: Outlet): number | undefined =>
  typeOf(outlet).keeps && outletPressure(outlet);

/** Whether what leaves there is what the line is for. */
export const delivers = (outlet: Pick<Outlet, "type">): boolean => !typeOf(outlet).spills;

/** Whether several that are alike are there to wet alike. */
export const wets = (outlet: Pick<Outlet, "type">): boolean => typeOf(outlet).wets ?? false;

/** The gun an outlet is, or any other single nozzle. */
export const gunOf = (outlet: Outlet): NozzleOutlet | undefined => typeOf(outlet).gun?.(outlet);

/** Whether it may empty into a body of water whose level moves. */
export const mayFill = (outlet: Pick<Outlet, "type">): boolean => typeOf(outlet).fills ?? false;

/** Whether something of its own is bought for it. */
export const isPart = (outlet: Pick<Outlet, "type">): boolean => !typeOf(outlet).bare;

const WAYS_OUT: ReadonlySet<string> = new Set<WayOut["kind"]>(["exit", "nozzle", "emitter"]);

/** Whether a segment of the line is an outlet's own: past it the water's speed is spent. */
export const isWayOut = ({ kind }: { kind: string }): boolean => WAYS_OUT.has(kind);
