import type { Levels } from "../fluid/levels.ts";
import type { NozzleOutlet } from "./gun.ts";

/** What an outlet's own resistance is, as a segment of the line has it. */
export interface WayOut {
  kind: "exit" | "nozzle" | "emitter";
  /** m, of what the water leaves through */
  bore: number;
  /** K on the velocity in `bore` */
  k: number;
  /** m³/s it passes at a pressure in Pa, q ∝ √p */
  emitter?: { flow: number; pressure: number };
}

/** All that differs between the ways water leaves a line: a new one is an object like this, and a row in the list. */
export interface OutletType<O> {
  /** What the outlet itself takes, at the end of a pipe of a bore in m. */
  wayOut: (outlet: O, bore: number) => WayOut;
  /** m above datum: water the line ends in, whose surface counts instead of the pipe's end, and which may run back */
  receiving?: (outlet: O) => Levels;
  /** Pa (gauge) it is held at, or that stands on the water it ends in */
  pressure?: (outlet: O) => number;
  /** that pressure is what somebody wants to have there */
  keeps?: true;
  /** what leaves there was to go elsewhere, and is not counted as delivered */
  spills?: true;
  /** several that are alike are there to wet alike */
  wets?: true;
  /** a gun, or any other single nozzle, with all that a gun is known by */
  gun?: (outlet: O) => NozzleOutlet;
  /** may empty into a body of water whose level moves */
  fills?: true;
  /** an open end of the pipe: nothing of its own is bought for it */
  bare?: true;
  /** why it cannot be at the end of a pipe of a bore in m */
  refusal?: (outlet: O, bore: number) => OutletRefusal | undefined;
}

export type OutletRefusal = "outlet-levels-out-of-order" | "nozzle-wider-than-pipe";

/** The speed of the water leaving is spent: K = 1 on the velocity in the pipe. */
export const openEnd = (_: unknown, bore: number): WayOut => ({ kind: "exit", bore, k: 1 });
