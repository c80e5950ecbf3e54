import type { JobDocument } from "#contract/documents/job.ts";
import { GALLON } from "#core/quantity/constants.ts";

/** Until somebody knows better: h a year, money for a kWh and a litre of fuel, years a pump lasts. Common practice, no source. */
export const USUAL = { hours: 500, energyPrice: 0.3, fuelPrice: 1.8, lasts: 10 };

/** Money for a kWh. */
export const priceOf = ({ overTime }: JobDocument) => overTime?.energyPrice ?? USUAL.energyPrice;

/** A cubic metre, or a thousand gallons, as water is paid for. */
export const LOT = {
  us: { volume: 1000 * GALLON, name: "1000 gal" },
  metric: { volume: 1, name: "m³" },
};
