import { type OutletType, openEnd } from "./outletType.ts";

/** An open gully or catch basin that shares the line: what rises over its rim floods there. */
export interface DrainOutlet {
  type: "drain";
}

export const DRAIN: OutletType<DrainOutlet> = { wayOut: openEnd, spills: true };
