/**
 * A smooth curve through given points that never overshoots them: it rises only where the points
 * rise and falls only where they fall.
 *
 * Source: F. N. Fritsch, R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer.
 * Anal. 17 (1980) 238–246.
 */
export interface MonotoneCubic {
  x: readonly number[];
  y: readonly number[];
  /** dy/dx at each point */
  slope: readonly number[];
}

/** Curve through two or more points with strictly rising `x`. */
export function monotoneCubic(x: readonly number[], y: readonly number[]): MonotoneCubic {
  const n = x.length;
  const secant: number[] = [];
  for (let i = 0; i + 1 < n; i++) {
    secant.push((at(y, i + 1) - at(y, i)) / (at(x, i + 1) - at(x, i)));
  }
  const slope: number[] = [];
  for (let i = 0; i < n; i++) {
    const before = secant[i - 1];
    const after = secant[i];
    if (before === undefined) slope.push(after ?? 0);
    else if (after === undefined) slope.push(before);
    else slope.push(before * after > 0 ? (before + after) / 2 : 0);
  }
  // Slopes within three times the neighbouring secants keep every piece monotone (section 3 there).
  for (let i = 0; i < secant.length; i++) {
    const most = 3 * Math.abs(at(secant, i));
    slope[i] = Math.max(-most, Math.min(most, at(slope, i)));
    slope[i + 1] = Math.max(-most, Math.min(most, at(slope, i + 1)));
  }
  return { x, y, slope };
}

/** Value at `x`, which the caller keeps between the first and last point. */
export function evaluate(curve: MonotoneCubic, x: number): number {
  const i = intervalOf(curve.x, x);
  const x0 = at(curve.x, i);
  const h = at(curve.x, i + 1) - x0;
  const t = (x - x0) / h;
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    at(curve.y, i) * (2 * t3 - 3 * t2 + 1) +
    at(curve.slope, i) * h * (t3 - 2 * t2 + t) +
    at(curve.y, i + 1) * (3 * t2 - 2 * t3) +
    at(curve.slope, i + 1) * h * (t3 - t2)
  );
}

function intervalOf(xs: readonly number[], x: number): number {
  let low = 0;
  let high = xs.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at(xs, middle) <= x) low = middle;
    else high = middle - 1;
  }
  return low;
}

function at(values: readonly number[], index: number): number {
  return values[index] as number;
}
