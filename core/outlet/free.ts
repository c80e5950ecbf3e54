import { type OutletType, openEnd } from "./outletType.ts";

/** Into the open. */
export interface FreeOutlet {
  type: "free";
}

export const FREE: OutletType<FreeOutlet> = { wayOut: openEnd, fills: true, bare: true };
