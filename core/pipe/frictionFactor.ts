/**
 * Darcy friction factor of a round pipe running full.
 *
 * Turbulent (Re ≥ 4000): Colebrook–White, 1/√f = −2 log₁₀(ε/3.7D + 2.51/(Re√f)), solved to machine
 * accuracy. Source: C. F. Colebrook, J. Inst. Civ. Eng. 11 (1939) 133–156; the formula itself is good to
 * about ±10 % of measured pipes.
 *
 * Laminar (Re ≤ 2000): 64/Re (Hagen–Poiseuille).
 *
 * Between the two the flow is unsteady and no formula is right. A cubic in the loss f·Re² joins them
 * with matching value and slope at both ends; it always rises with flow, so a duty stays unique.
 * @example frictionFactor(1e5, 1e-4) // 0.01851
 */
export function frictionFactor(reynolds: number, relativeRoughness: number): number {
  if (reynolds <= LAMINAR_END) return 64 / reynolds;
  if (reynolds >= TURBULENT_START) return colebrookWhite(reynolds, relativeRoughness);
  return bridge(reynolds, relativeRoughness).loss / reynolds ** 2;
}

/**
 * How steeply the loss rises with flow: d ln(f·Re²)/d ln Re, at a factor `frictionFactor` gave. 1 where the
 * flow is laminar, towards 2 in a rough pipe. It saves the solver a second evaluation.
 */
export function lossExponent(factor: number, reynolds: number, relativeRoughness: number): number {
  if (reynolds <= LAMINAR_END) return 1;
  if (reynolds >= TURBULENT_START) return turbulentExponent(factor, reynolds, relativeRoughness);
  const { loss, slope } = bridge(reynolds, relativeRoughness);
  return (slope * reynolds) / loss;
}

const LAMINAR_END = 2000;
const TURBULENT_START = 4000;
const PER_LN10 = 1 / Math.LN10;

/**
 * Colebrook–White factor for Re ≥ 4000 and 0 ≤ ε/D ≤ 0.05. Source above.
 * @example colebrookWhite(1e5, 1e-4) // 0.01851
 */
export function colebrookWhite(reynolds: number, relativeRoughness: number): number {
  const a = relativeRoughness / 3.7;
  const b = 2.51 / reynolds;
  const c = 2 * PER_LN10;
  // From the factor of an ordinary pipe, 1/√f = 7, one fixed point, then Halley's third-order steps.
  let x = -c * Math.log(a + 7 * b);
  for (let i = 0; i < 6; i++) {
    const inside = a + b * x;
    const residual = x + c * Math.log(inside);
    const slope = 1 + (c * b) / inside;
    const curvature = -(slope - 1) * (b / inside);
    const step = residual / (slope - (residual * curvature) / (2 * slope));
    x -= step;
    if (Math.abs(step) <= 1e-6 * x) break;
  }
  return 1 / (x * x);
}

/** From differentiating the Colebrook–White equation. */
function turbulentExponent(factor: number, reynolds: number, relativeRoughness: number): number {
  const b = 2.51 / reynolds;
  const g = (2 * PER_LN10 * b) / (relativeRoughness / 3.7 + b / Math.sqrt(factor));
  return 2 / (1 + g);
}

/** f·Re² between the laminar and the turbulent end, as a cubic Hermite curve in Re, and its slope. */
function bridge(reynolds: number, relativeRoughness: number): { loss: number; slope: number } {
  const span = TURBULENT_START - LAMINAR_END;
  const t = (reynolds - LAMINAR_END) / span;
  const startLoss = 64 * LAMINAR_END;
  const startSlope = 64;
  const endFactor = colebrookWhite(TURBULENT_START, relativeRoughness);
  const endLoss = endFactor * TURBULENT_START ** 2;
  const endSlope =
    (turbulentExponent(endFactor, TURBULENT_START, relativeRoughness) * endLoss) / TURBULENT_START;
  const t2 = t * t;
  const t3 = t2 * t;
  return {
    loss:
      startLoss * (2 * t3 - 3 * t2 + 1) +
      startSlope * span * (t3 - 2 * t2 + t) +
      endLoss * (3 * t2 - 2 * t3) +
      endSlope * span * (t3 - t2),
    slope:
      (6 * (t - t2) * (endLoss - startLoss)) / span +
      startSlope * (3 * t2 - 4 * t + 1) +
      endSlope * (3 * t2 - 2 * t),
  };
}
