import type { FittingStock } from "../catalogue/fittings.ts";

/** ε of clean commercial steel in m, on which the L/D tables stand. Source: Moody, 1944. */
const STEEL_ROUGHNESS = 45.7e-6;

/**
 * Friction factor f_T of clean commercial steel in fully turbulent flow, for a bore in m.
 * Source: von Kármán's rough-pipe law, f_T = 0.25 / log₁₀²(ε/3.7D), as Crane TP 410 uses it.
 * @example fullyTurbulentFactor(0.0525) // 0.019
 */
export function fullyTurbulentFactor(bore: number): number {
  return 0.25 / Math.log10(STEEL_ROUGHNESS / (3.7 * bore)) ** 2;
}

/** Loss coefficient K of a fitting of a bore in m: h = K v²/2g. */
export function lossCoefficient(fitting: FittingStock, bore: number): number {
  const { resistance } = fitting;
  switch (resistance.kind) {
    case "coefficient":
      return resistance.k;
    case "diameters":
      return resistance.diameters * fullyTurbulentFactor(bore);
    case "taper":
      return 0;
    case "throat": {
      const beta = resistance.boreRatio;
      const onThroat = boreChangeCoefficient(1, beta) + boreChangeCoefficient(beta, 1);
      return onThroat / beta ** 4;
    }
  }
}

/** Length in m of straight pipe of that bore that the other school counts the fitting as. */
export function equivalentLength(fitting: FittingStock, bore: number): number {
  const { resistance } = fitting;
  const diameters =
    resistance.kind === "diameters"
      ? resistance.diameters
      : lossCoefficient(fitting, bore) / fullyTurbulentFactor(bore);
  return diameters * bore;
}

/**
 * K of a change of bore eased by a cone of a whole angle in degrees up to 45, on the velocity in the
 * *smaller* pipe: 0.8 sin(θ/2) (1 − β²) narrowing, 2.6 sin(θ/2) (1 − β²)² widening; never more than the
 * sudden change. Source: Crane TP 410, from memory.
 * @example taperCoefficient(0.05, 0.08, 15) // 0.126
 */
export function taperCoefficient(from: number, to: number, angle: number): number {
  const betaSquared = (Math.min(from, to) / Math.max(from, to)) ** 2;
  const sine = Math.sin((angle * Math.PI) / 360);
  const eased = to > from ? 2.6 * sine * (1 - betaSquared) ** 2 : 0.8 * sine * (1 - betaSquared);
  return Math.min(eased, boreChangeCoefficient(from, to));
}

/**
 * K of a sudden change of bore, on the velocity in the *smaller* pipe.
 * Widening: (1 − β²)² (Borda–Carnot). Narrowing: 0.5 (1 − β²), the customary fit to Weisbach's
 * measurements. β = smaller bore / larger bore.
 * @example boreChangeCoefficient(0.05, 0.08) // 0.371
 */
export function boreChangeCoefficient(from: number, to: number): number {
  const betaSquared = (Math.min(from, to) / Math.max(from, to)) ** 2;
  return to > from ? (1 - betaSquared) ** 2 : 0.5 * (1 - betaSquared);
}
