/**
 * Darcy friction factor of a round pipe running full.
 *
 * Turbulent (Re ≥ 4000): Colebrook–White, 1/√f = −2 log₁₀(ε/3.7D + 2.51/(Re√f)), solved by Newton's
 * method to machine accuracy. Source: C. F. Colebrook, J. Inst. Civ. Eng. 11 (1939) 133–156; the
 * formula itself is good to about ±10 % of measured pipes.
 *
 * Laminar (Re ≤ 2000): 64/Re (Hagen–Poiseuille).
 *
 * Between the two the flow is unsteady and no formula is right. A cubic in the loss f·Re² joins them
 * with matching value and slope at both ends; it always rises with flow, so a duty stays unique.
 */
export function frictionFactor(reynolds: number, relativeRoughness: number): number {
  if (reynolds <= LAMINAR_END) return 64 / reynolds;
  if (reynolds >= TURBULENT_START) return colebrookWhite(reynolds, relativeRoughness);
  return bridgedLoss(reynolds, relativeRoughness) / reynolds ** 2;
}

const LAMINAR_END = 2000;
const TURBULENT_START = 4000;
const PER_LN10 = 1 / Math.LN10;

/** Colebrook–White factor for Re ≥ 4000 and 0 ≤ ε/D ≤ 0.05. Source above. */
export function colebrookWhite(reynolds: number, relativeRoughness: number): number {
  const a = relativeRoughness / 3.7;
  const b = 2.51 / reynolds;
  // Seed: S. E. Haaland, J. Fluids Eng. 105 (1983) 89–90, within about 2 %.
  let x = -1.8 * PER_LN10 * Math.log(a ** 1.11 + 6.9 / reynolds);
  for (let i = 0; i < 8; i++) {
    const inside = a + b * x;
    const residual = x + 2 * PER_LN10 * Math.log(inside);
    const step = residual / (1 + (2 * PER_LN10 * b) / inside);
    x -= step;
    if (Math.abs(step) <= 1e-12 * x) break;
  }
  return 1 / (x * x);
}

/** f·Re² between the laminar and the turbulent end, as a cubic Hermite curve in Re. */
function bridgedLoss(reynolds: number, relativeRoughness: number): number {
  const span = TURBULENT_START - LAMINAR_END;
  const t = (reynolds - LAMINAR_END) / span;
  const startLoss = 64 * LAMINAR_END;
  const startSlope = 64;
  const endFactor = colebrookWhite(TURBULENT_START, relativeRoughness);
  const endLoss = endFactor * TURBULENT_START ** 2;
  // Slope of f·Re² at the turbulent end, from differentiating the Colebrook–White equation.
  const x = 1 / Math.sqrt(endFactor);
  const b = 2.51 / TURBULENT_START;
  const inside = relativeRoughness / 3.7 + b * x;
  const g = (2 * PER_LN10 * b) / inside;
  const dxdRe = (g * x) / TURBULENT_START / (1 + g);
  const endSlope = 2 * endFactor * TURBULENT_START - (2 * TURBULENT_START ** 2 * dxdRe) / x ** 3;
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    startLoss * (2 * t3 - 3 * t2 + 1) +
    startSlope * span * (t3 - 2 * t2 + t) +
    endLoss * (3 * t2 - 2 * t3) +
    endSlope * span * (t3 - t2)
  );
}
