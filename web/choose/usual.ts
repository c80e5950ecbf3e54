/** Until somebody knows better: h a year, money for a kWh and a litre of fuel, years a pump lasts. Common practice, no source. */
export const USUAL = { hours: 500, energyPrice: 0.3, fuelPrice: 1.8, lasts: 10 };
