/**
 * Root of `f` between `low` and `high`, where `f(low)` and `f(high)` have opposite signs (an end
 * that is exactly zero is the root). `f` must be continuous; the result is within `tolerance` of a
 * sign change.
 *
 * Regula falsi with the Anderson–Björck correction, and every fourth step a bisection, so that a
 * badly bent function costs at most four times what bisection alone would.
 * Source: N. Anderson, Å. Björck, BIT 13 (1973) 253–264.
 */
export function bracketedRoot(
  f: (x: number) => number,
  low: number,
  high: number,
  fLow: number,
  fHigh: number,
  tolerance: number,
): number {
  if (fLow === 0) return low;
  if (fHigh === 0) return high;
  let a = low;
  let b = high;
  let fa = fLow;
  let fb = fHigh;
  for (let step = 0; step < 250; step++) {
    const left = Math.min(a, b);
    const width = Math.abs(b - a);
    if (width <= tolerance) break;
    const bisect = step % 4 === 3;
    // Kept off the ends by half the tolerance, so that every step moves.
    const inner = Math.min(tolerance / 2, width / 4);
    const aim = bisect ? (a + b) / 2 : b - (fb * (b - a)) / (fb - fa);
    const x = Math.min(Math.max(aim, left + inner), left + width - inner);
    const fx = f(x);
    if (fx === 0) return x;
    if (fx < 0 !== fb < 0) {
      a = b;
      fa = fb;
    } else if (!bisect) {
      const ratio = 1 - fx / fb;
      fa *= ratio > 0 ? ratio : 0.5;
    }
    b = x;
    fb = fx;
  }
  return b;
}
