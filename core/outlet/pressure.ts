import { type OutletType, openEnd } from "./outletType.ts";

/** A pressure in Pa (gauge) to be kept, as at a tank with a switch. */
export interface PressureOutlet {
  type: "pressure";
  pressure: number;
}

export const PRESSURE: OutletType<PressureOutlet> = {
  wayOut: openEnd,
  pressure: ({ pressure }) => pressure,
  keeps: true,
};
