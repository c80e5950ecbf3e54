import { inOrder, type Levels } from "../fluid/levels.ts";
import { type OutletType, openEnd } from "./outletType.ts";

/** Into water at a level; `gasPressure` in Pa (gauge) stands on the surface of a closed tank, 0 when absent. */
export interface SubmergedOutlet {
  type: "submerged";
  level: Levels;
  gasPressure?: number | undefined;
}

export const SUBMERGED: OutletType<SubmergedOutlet> = {
  wayOut: openEnd,
  receiving: ({ level }) => level,
  pressure: ({ gasPressure = 0 }) => gasPressure,
  fills: true,
  refusal: ({ level }) => (inOrder(level) ? undefined : "outlet-levels-out-of-order"),
};
