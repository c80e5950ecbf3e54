import type { OutletType } from "./outletType.ts";

/** A sprinkler known by what it passes: `flow` in m³/s at `pressure` in Pa, q ∝ √p. */
export interface EmitterOutlet {
  type: "emitter";
  flow: number;
  pressure: number;
}

export const EMITTER: OutletType<EmitterOutlet> = {
  wayOut: ({ flow, pressure }, bore) => ({
    kind: "emitter",
    bore,
    k: 0,
    emitter: { flow, pressure },
  }),
  wets: true,
};
