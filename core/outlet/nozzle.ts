import { jetBore, type NozzleOutlet } from "./gun.ts";
import type { OutletType } from "./outletType.ts";

export const NOZZLE: OutletType<NozzleOutlet> = {
  // The pressure that drives the jet: K = 1/Cd² on the velocity in its bore.
  wayOut: (outlet) => ({
    kind: "nozzle",
    bore: jetBore(outlet),
    k: 1 / outlet.dischargeCoefficient ** 2,
  }),
  wets: true,
  gun: (outlet) => outlet,
  refusal: (outlet, bore) => (jetBore(outlet) >= bore ? "nozzle-wider-than-pipe" : undefined),
};
